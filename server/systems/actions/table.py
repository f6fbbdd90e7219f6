"""A table from elsewhere, taken in as a task: nothing is written while one of its rows is wrong."""

import csv
import io
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import partial
from typing import Any, Generic, TypeVar

from accounts.models import Person, Shop
from accounts.once import lock_shop, once
from accounts.queries import shop_of
from accounts.texts import alike, from_cell
from tasks import queue
from tasks.queue import Step, packed, unpacked
from yoshi_core.errors import CoreError, InvalidInput

MOST_ROWS, MOST_TOLD, KEEP_EVERY = 2000, 200, 100
PART = 200  # rows written at once
Item = TypeVar("Item")
CHECKING = 0.5  # the share of the work that is checking


def read_rows(text: str, columns: tuple[str, ...]) -> list[dict[str, str]]:
    """The rows of a CSV with these columns, in any order. Raises `InvalidInput` for a file that is none."""
    try:
        reader = csv.DictReader(io.StringIO(text.lstrip("\ufeff")), strict=True)
        names = [str(name).strip().lower() for name in reader.fieldnames or []]
        unknown = [name for name in names if name not in columns]
        if unknown or not names:
            raise InvalidInput(
                "The first line names the columns. Known are {columns}; {unknown} is not.",
                words={"columns": tuple(columns), "unknown": ", ".join(unknown) or "none"},
                path="/text",
            )
        reader.fieldnames = names
        rows = [{k: from_cell((v or "").strip()) for k, v in row.items() if k} for row in reader]
    except csv.Error as error:
        raise InvalidInput("This is not a whole CSV file: {error}.", words={"error": error}, path="/text") from None
    if not rows:
        raise InvalidInput("There is no row under the first line.", path="/text")
    if len(rows) > MOST_ROWS:
        raise InvalidInput(
            "At most {most_rows} rows at once; this file has {count}.", words={"most_rows": MOST_ROWS, "count": len(rows)}, path="/text"
        )
    return rows


def begin(person: Person, key: str, kind: str, columns: tuple[str, ...], text: str) -> int:
    """Put the taking in of a table into the queue; the task's number. Raises `InvalidInput` at once for a file that is none."""
    shop = shop_of(person)
    read_rows(text, columns)

    def act(_: Shop) -> dict[str, Any]:
        given = {"text": packed(text), "by": person.shown_name}
        return {"task": queue.add(kind, given, shop_id=shop.pk, person_id=person.pk).pk}

    return int(once(shop, key, {kind: text}, lambda: lock_shop(shop), act)["task"])


@dataclass(frozen=True)
class Table(Generic[Item]):
    """What a table holds: its columns, of which `code` is each row's own, and what a row is called.

    `ready` makes of a row what is to be written, or raises a `CoreError`; `taken` tells which codes the shop has; `write` adds
    what is ready, in few statements, for the shop is locked meanwhile.
    """

    columns: tuple[str, ...]
    code: str
    what: str
    ready: Callable[[Shop, dict[str, str]], Item]
    taken: Callable[[Shop, Iterable[str]], Iterable[str]]
    write: Callable[[Shop, list[Item], str], None]


def take_in(step: Step, table: Table[Any]) -> dict[str, Any]:
    """The work of such a task: how many rows were written, and what is wrong with those that stood against it.

    All rows are checked before the first is written, without a lock. Then they are written in parts, each with the shop for
    itself for a moment and once by its key: after a kill it goes on behind the last. A code that somebody used meanwhile is told.
    """
    shop = Shop.objects.get(pk=step.shop_id or 0)
    rows = read_rows(unpacked(step.given["text"]), table.columns)
    codes = [row.get(table.code, "") for row in rows]
    items, problems = _checked(step, table, shop, rows, codes)
    if not step.done.get("checked"):
        _name_taken(table, shop, codes, problems)
        if any(problems):
            return _report(codes, problems, 0)
        step.keep(CHECKING, checked=True, written=0)

    def written(first: int, _: Shop) -> dict[str, Any]:
        here = codes[first : first + PART]
        said = problems[first : first + PART]
        _name_taken(table, shop, here, said)
        table.write(shop, [item for item, wrong in zip(items[first : first + PART], said, strict=True) if not wrong], step.given["by"])
        return {"problems": said}

    count = 0
    for first in range(0, len(rows), PART):
        key = f"task/{step.id}/{first}"
        answer = once(shop, key, {"task": step.id}, lambda: lock_shop(shop), partial(written, first))
        problems[first : first + PART] = answer["problems"]
        count += answer["problems"].count("")
        step.keep(CHECKING + (1.0 - CHECKING) * (first + PART) / len(rows), written=count)
    return _report(codes, problems, count)


def _checked(step: Step, table: Table[Any], shop: Shop, rows: list[dict[str, str]], codes: list[str]) -> tuple[list[Any], list[str]]:
    """What each row is to write, and what is wrong with it; nothing where it is fine."""
    items: list[Any] = [None] * len(rows)
    problems, seen = [""] * len(rows), set[str]()
    for n, row in enumerate(rows):
        if n % KEEP_EVERY == 0:
            step.keep(max(CHECKING * n / len(rows), step.progress))
        try:
            items[n] = table.ready(shop, row)
        except CoreError as error:
            problems[n] = f"{column}: {error.message}" if (column := error.path.rpartition("/")[2]) else error.message
            continue
        if alike(codes[n]) in seen:
            problems[n] = f"The {table.what} {_label(codes[n])} stands twice in the file; each has its own in a shop."
        seen.add(alike(codes[n]))
    return items, problems


def _name_taken(table: Table[Any], shop: Shop, codes: list[str], problems: list[str]) -> None:
    here = {alike(found) for found in table.taken(shop, [code for code in codes if code])}
    for n, code in enumerate(codes):
        if not problems[n] and alike(code) in here:
            problems[n] = f"There is a {table.what} {_label(code)} already."


def _label(code: str) -> str:
    return code[:60] or "?"


def _report(codes: list[str], problems: list[str], count: int) -> dict[str, Any]:
    wrong = [{"row": n + 1, "label": _label(codes[n]), "problem": said} for n, said in enumerate(problems) if said]
    return {"written": count, "wrong": len(wrong), "rows": wrong[:MOST_TOLD]}
