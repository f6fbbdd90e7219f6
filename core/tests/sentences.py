"""Every sentence of the core as whoever translates it would collect it: the first text of a marked call, written out there."""

import ast
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import yoshi_core

ROOT = Path(yoshi_core.__file__).parent
SERVER = Path(__file__).resolve().parents[2] / "server"
WHERE_THEY_ARE_MADE = ROOT / "message.py"

# Which arguments of a call are texts, from nought; all of them literals, where the call is not handed a sentence already written.
MARKED = {
    "Message": (0,), "headline": (0,), "sentence": (0,), "plural": (1, 2), "say": (2,), "tell": (2,), "refuse": (2,), "need": (1,), "lacks": (1,),
    "Missing": (1,), "Term": (2,), "Figure": (1,), "problem": (2,), "Refused": (2,), "UnitError": (1,),
}  # fmt: skip
ALREADY_WRITTEN = (ast.Name, ast.Attribute, ast.Subscript, ast.Call)


@cache
def _errors() -> frozenset[str]:
    """Names of the core's errors and of all that are made of them; the first thing each says is its sentence."""
    classes = [node for path in _files() for node in ast.walk(ast.parse(path.read_text())) if isinstance(node, ast.ClassDef)]
    found = {"CoreError"}
    for _ in range(4):
        found |= {node.name for node in classes if any(isinstance(base, ast.Name) and base.id in found for base in node.bases)}
    return frozenset(found)


def _files() -> Iterator[Path]:
    for path in sorted((*ROOT.rglob("*.py"), *SERVER.rglob("*.py"))):
        if path != WHERE_THEY_ARE_MADE and "tests" not in path.parts:
            yield path


def _called(node: ast.Call) -> str:
    return node.func.id if isinstance(node.func, ast.Name) else node.func.attr if isinstance(node.func, ast.Attribute) else ""


def _calls() -> Iterator[tuple[Path, ast.Call, ast.expr]]:
    for path in _files():
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call):
                name = _called(node)
                for place in MARKED.get(name, (0,) if name in _errors() else ()):
                    if len(node.args) > place and not isinstance(node.args[place], ast.Starred):
                        yield path, node, node.args[place]


def _choices(text: ast.expr) -> Iterator[ast.expr]:
    """Each sentence a choice may come to."""
    if isinstance(text, ast.IfExp):
        yield from _choices(text.body)
        yield from _choices(text.orelse)
    elif isinstance(text, ast.BoolOp):
        for value in text.values:
            yield from _choices(value)
    else:
        yield text


@cache
def collected() -> frozenset[str]:
    """All texts a person may be shown, as templates."""
    return frozenset(
        one.value for _, _, text in _calls() for one in _choices(text) if isinstance(one, ast.Constant) and isinstance(one.value, str)
    )


def glued() -> Iterator[str]:
    """Calls whose text is put together there: formatted, added, replaced or joined."""
    for path, node, text in _calls():
        for one in _choices(text):
            whole = isinstance(one, ast.Constant) and isinstance(one.value, str)
            made = (
                isinstance(one, ast.Call)
                and isinstance(one.func, ast.Attribute)
                and one.func.attr in {"join", "format", "replace", "capitalize", "lower", "upper"}
            )
            if made or not (whole or isinstance(one, ALREADY_WRITTEN)):
                yield f"{path.name}:{node.lineno}: {ast.unparse(one)[:120]}"
