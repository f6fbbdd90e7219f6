"""Words typed or imported, as they may be kept: on one line, no longer than their place, and safe in an address or a table."""

import csv
import io
import unicodedata
from collections.abc import Iterable, Iterator
from itertools import chain, islice
from typing import TypeVar

from yoshi_core.errors import InvalidInput

Row = TypeVar("Row")
RESERVED = frozenset({"import", "export", "export.csv", "new", ".", ".."})
IN_ADDRESS = "/\\?#%"
FORMULA = ("=", "+", "-", "@", "\t", "\r")


def one_line(text: str, most: int, path: str, label: str) -> str:
    """The text without spaces around it. Raises `InvalidInput` for one too long, or with what no line holds."""
    text = text.strip()
    if len(text) > most:
        raise InvalidInput(
            "{label} takes up to {most} characters; this has {count}.", words={"label": label, "most": most, "count": len(text)}, path=path
        )
    if any(unicodedata.category(letter) in {"Cc", "Cs", "Zl", "Zp"} for letter in text):
        raise InvalidInput("{label} stands on one line, without signs that cannot be seen.", words={"label": label}, path=path)
    return text


def code_of(text: str, most: int, path: str, label: str) -> str:
    """A code that can stand in an address. Raises `InvalidInput`."""
    text = one_line(text, most, path, label)
    if not text:
        raise InvalidInput("{label} is empty.", words={"label": label}, path=path)
    if any(sign in text for sign in IN_ADDRESS):
        raise InvalidInput(
            "{label} has none of {known} in it; write a dash.", words={"label": label, "known": " ".join(IN_ADDRESS)}, path=path
        )
    if text.lower() in RESERVED:
        raise InvalidInput("“{text}” is kept for something else; call it otherwise.", words={"text": text}, path=path)
    return text


def alike(text: str) -> str:
    """What the database takes two texts for the same by: case and accents aside, and every sign beyond the basic plane one and the same."""
    plain = (letter for letter in unicodedata.normalize("NFKD", text.casefold()) if not unicodedata.combining(letter))
    return "".join("\ufffd" if ord(letter) > 0xFFFF else letter for letter in plain).rstrip()


def cell(text: str) -> str:
    """A text for a table's cell: what a table would reckon with is marked as text."""
    return f"'{text}" if text.startswith(FORMULA) else text


def table(columns: Iterable[str], rows: Iterable[Iterable[str]]) -> Iterator[str]:
    """A table as CSV, in pieces of some hundred lines; texts a person typed go through `cell` before."""
    for some in chunked(chain([columns], rows), 500):
        out = io.StringIO()
        csv.writer(out, lineterminator="\n").writerows(some)
        yield out.getvalue()


def chunked(rows: Iterable[Row], size: int) -> Iterator[list[Row]]:
    """The rows in lists of so many, the last perhaps shorter."""
    left = iter(rows)
    while some := list(islice(left, size)):
        yield some


def from_cell(text: str) -> str:
    """A cell's text as it was before it was marked."""
    return text[1:] if text.startswith("'") and text[1:].startswith(FORMULA) else text
