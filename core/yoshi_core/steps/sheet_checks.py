"""Questions every sheet is asked: each figure outside its usual range, once."""

import dataclasses
from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from yoshi_core.document.schema import facts_of
from yoshi_core.document.sheets import Entry, Facts
from yoshi_core.message import sentence
from yoshi_core.profile.fixed import fixed
from yoshi_core.steps.contract import Notes, ask_unusual
from yoshi_core.units.display import Amount

WET_OVER_DRY_K = fixed("air.wet_over_dry")


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
    _wet_over_dry(notes, sheet, path)
    for name in records:
        for key, item in getattr(sheet, name).items():
            ask_about_sheet(notes, item, f"{path}/{name}/{key}", answers)


def _wet_over_dry(notes: Notes, sheet: Any, path: str) -> None:
    """A wet bulb stands at most where its dry bulb does; over it by more than two thermometers differ, one of the two is wrong."""
    wet, dry = getattr(sheet, "return_wet_bulb", None), getattr(sheet, "return_air", None)
    if isinstance(wet, Entry) and isinstance(dry, Entry) and wet.value > dry.value + WET_OVER_DRY_K:
        text = sentence("A wet bulb is never over its dry bulb: {wet} against {dry}. Read both again; the two may be swapped.")
        amounts = {"wet": Amount(wet.value, "temperature"), "dry": Amount(dry.value, "temperature")}
        notes.refuse(f"{path}/return_wet_bulb", "wet_over_dry", text, **amounts)
