"""Questions every sheet is asked: each figure outside its usual range, once."""

import dataclasses
from collections.abc import Mapping
from typing import Any

from yoshi_core.schema import facts_of
from yoshi_core.sheets import Entry
from yoshi_core.steps.contract import Notes, ask_unusual


def ask_about_sheet(notes: Notes, sheet: Any, path: str, answers: Mapping[str, str]) -> None:
    """Ask about unusual figures in a sheet and in its records."""
    for name, (facts, row) in facts_of(type(sheet)).items():
        value = getattr(sheet, name)
        if isinstance(value, Entry):
            ask_unusual(notes, facts, f"{path}/{name}", value.value, answers)
        elif row is not None and dataclasses.is_dataclass(row):
            for key, item in value.items():
                ask_about_sheet(notes, item, f"{path}/{name}/{key}", answers)
