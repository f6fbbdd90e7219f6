"""Every sentence a person reads, from the core's code and the interface's: short, in the trade's words, one name for one thing."""

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
CORE, WEB = ROOT / "core" / "yoshi_core", ROOT / "web" / "src"
ROOMS = (
    "account",
    "books",
    "charge",
    "day",
    "diagnosis",
    "document",
    "findings",
    "instruments",
    "job",
    "leaks",
    "record",
    "retrofit",
    "running",
    "steps",
    "views",
)
MOST_WORDS = 25
NOT_SAID = {  # words nobody says aloud on a roof, and what is said instead
    r"\breckon": "work out",
    r"\banew\b": "again",
    r"\bhangs? on\b": "depends on",
    r"\bauthori[sz]e": "allow",
    r"\bbinds\b": "decides",
    r"\breadings speak\b": "count",
    r"\bspeaks? (for|against)\b": "points to, points away from",
    r"\bstands? in for\b": "replaces",
    r"\bnone to speak of\b": "next to none",
    r"\bgrind on\b": "keep trying",
    r"\bwhence\b|\bherein\b|\bthereof\b|\bhitherto\b": "plain words",
    r"[:.] pull on\b": "keep pulling",
    r"\bshort turns\b": "short cycling",
    r"\bnot proven the best\b": "perhaps not the very best",
    r"\b[Oo]ther schools\b": "other practice",
    r"\b(is|are) asked for\b": "the target is, the limit is",
}
ONE_NAME = {  # what else it is called elsewhere: what it is called here
    r"\bdryers?\b": "drier",
    r"\bmicrons\b": "micron",
    r"\bvapor\b": "vapour",
    r"\b(refrigerant|recovery|gas) (tank|bottle)": "cylinder; a bottle holds nitrogen",
    r"\bfreon\b": "refrigerant",
    r"\b[Ss]till open: ": "Still needed: ",
    r"\bsniffer\b": "detector",
    r"\bsuper heat\b|\bsub-?cool(?!ing)": "superheat, subcooling",
    r"\bnameplate\b": "data plate",
}
PLAIN = re.compile(r"""(?:sub|hint|done|title|label|aria-label)="([^"]{12,})"|>\s*([A-Z][^<>{}]{18,}?)\s*<""")


def sentences_of_the_core() -> Iterator[tuple[str, str]]:
    for room in ROOMS:
        for path in sorted((CORE / room).rglob("*.py")):
            for text in texts(ast.parse(path.read_text(encoding="utf-8"))):
                yield str(path.relative_to(ROOT)), text


def texts(tree: ast.AST) -> Iterator[str]:
    """String constants and f-strings as a reader gets them, without docstrings."""
    docs, inside = set(), set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            docs.add(id(node.value))
        if isinstance(node, ast.JoinedStr):
            inside |= {id(part) for part in ast.walk(node) if part is not node}
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr) and id(node) not in inside:
            yield "".join(str(part.value) if isinstance(part, ast.Constant) else "{x}" for part in node.values)
        elif isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in docs | inside:
            yield node.value


def sentences_of_the_interface() -> Iterator[tuple[str, str]]:
    for path in sorted(WEB.rglob("*.tsx")):
        if path.name.endswith(".test.tsx") or path.name.startswith("test-"):
            continue
        for match in PLAIN.finditer(path.read_text(encoding="utf-8")):
            yield str(path.relative_to(ROOT)), " ".join((match[1] or match[2]).split())


def every_sentence() -> list[tuple[str, str]]:
    found = [*sentences_of_the_core(), *sentences_of_the_interface()]
    return [(place, text) for place, text in found if " " in text.strip()]


SENTENCES = every_sentence()


def test_there_are_sentences_to_read() -> None:
    assert len(SENTENCES) > 1500
    assert any(place.startswith("web") for place, _ in SENTENCES)
    assert list(texts(ast.parse('"""doc"""\nsay(f"It is {x} long.", "two words")'))) == ["It is {x} long.", "two words"]


def test_no_sentence_is_longer_than_can_be_said_in_a_breath() -> None:
    long = [(place, part) for place, text in SENTENCES for part in re.split(r"(?<=[.;:?!])\s+", text) if len(part.split()) > MOST_WORDS]
    assert long == []


@pytest.mark.parametrize(("pattern", "instead"), {**NOT_SAID, **ONE_NAME}.items())
def test_what_nobody_says_is_not_written(pattern: str, instead: str) -> None:
    met = [f"{place}: {text} (say: {instead})" for place, text in SENTENCES if re.search(pattern, text, re.IGNORECASE)]
    assert met == []
