"""Questions every sheet is asked: each figure outside its usual range, once."""

import dataclasses
from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from yoshi_core.document.schema import facts_of
from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.steps.contract import Notes, ask_unusual


@lru_cache(maxsize=64)
def _asked(kind: type) -> tuple[tuple[tuple[str, Facts], ...], tuple[str, ...]]:
    """Fields of a sheet with a usual range, and its records of rows, worked out once."""
    known = facts_of(kind)
    figures = tuple((name, facts) for name, (facts, row) in known.items() if row is None and facts.usual is not None)
    records = tuple(name for name, (_, row) in known.items() if row is not None and dataclasses.is_dataclass(row))
    return figures, records


def ask_about_sheet(notes: Notes, sheet: Any, path: str, answers: Mapping[str, str]) -> None:
    """Ask about unusual figures in a sheet and in its records."""
    figures, records = _asked(sheet.__class__)
    for name, facts in figures:
        value = getattr(sheet, name)
        if isinstance(value, Entry):
            ask_unusual(notes, facts, f"{path}/{name}", value.value, answers)
    for name in records:
        for key, item in getattr(sheet, name).items():
            ask_about_sheet(notes, item, f"{path}/{name}/{key}", answers)
