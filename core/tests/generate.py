"""Documents nobody typed: every field of every sheet filled, or not, with what its facts allow. Same seed, same document."""

import copy
import dataclasses
from collections.abc import Iterator
from datetime import timedelta
from random import Random
from typing import Any

from tests.make import NOW
from yoshi_core import refrigerants
from yoshi_core.document.schema import facts_of
from yoshi_core.document.sheets import Facts
from yoshi_core.steps import registry
from yoshi_core.steps.registry import STEPS
from yoshi_core.units.quantities import QUANTITIES

ROWS = ("r1", "r2", "r3")
NAMES = {"refrigerant": refrigerants.names(), "holds": refrigerants.names(), "orifice": ("0.059 in", "57", ".059")}
MOMENT_SPREAD_MIN = 600


def sheet(kind: type, dice: Random, filled: float) -> dict[str, Any]:
    """A sheet of a kind, each field there with the chance `filled`."""
    return {
        name: value
        for name, (facts, row) in facts_of(kind).items()
        if dice.random() < filled and (value := entry(name, facts, row, dice, filled)) is not None
    }


def entry(name: str, facts: Facts, row: type | None, dice: Random, filled: float = 0.8) -> Any:
    """A value for one field: usual mostly, at times anywhere in what is not refused."""
    if row is not None:
        return {key: sheet(row, dice, filled) for key in ROWS[: dice.randint(1, len(ROWS))]} if dataclasses.is_dataclass(row) else None
    if facts.quantity == "choice":
        return dice.choice(list(facts.options or {}))
    if facts.quantity == "yesno":
        return dice.random() < 0.7
    if facts.quantity == "moment":
        return (NOW - timedelta(minutes=dice.randint(0, MOMENT_SPREAD_MIN))).isoformat()
    if facts.quantity == "text":
        return dice.choice(NAMES.get(name, ("one", "another")))
    if facts.quantity not in QUANTITIES:
        return None
    low, high = facts.usual if facts.usual and dice.random() < 0.8 else facts.hard or (0.0, 1.0)
    return {"value": dice.uniform(low, high)}


def document(seed: int, filled: float = 0.7) -> dict[str, Any]:
    """A job document of any kind, all its steps filled in part, some of them left out."""
    dice = Random(seed)
    kind = dice.choice(registry.KINDS)
    records: dict[str, Any] = {}
    for step in registry.order(kind):
        runs = [{"sheet": sheet(STEPS[step].sheet, dice, filled)}]
        if step == "identify" and dice.random() < 0.9:
            runs[0]["sheet"]["refrigerant"] = dice.choice(("R-410A", "R-22", "R-32", "R-290", "R-134a"))
        events = []
        if step not in {"identify", "close_out", "plan_change", "change_over"} and dice.random() < 0.15:
            events = [{"kind": "not_applicable", "at": NOW.isoformat(), "by": "orrin", "reason": "not today"}]
        records[step] = {"runs": runs, **({"events": events} if events else {})}
    return {"id": f"made-{seed}", "kind": kind, "steps": records}


def with_one_more(plain: dict[str, Any], dice: Random) -> dict[str, Any]:
    """The document with one entry added where none was."""
    more = copy.deepcopy(plain)
    places = list(_empty_places(more))
    if places:
        parent, name, facts, row = dice.choice(places)
        value = entry(name, facts, row, dice)
        if value is not None:
            parent[name] = value
    return more


def _empty_places(plain: dict[str, Any]) -> Iterator[tuple[dict[str, Any], str, Facts, type | None]]:
    for step, record in plain["steps"].items():
        yield from _empty_in(record["runs"][-1]["sheet"], STEPS[step].sheet)


def _empty_in(parent: dict[str, Any], kind: type) -> Iterator[tuple[dict[str, Any], str, Facts, type | None]]:
    for name, (facts, row) in facts_of(kind).items():
        if name not in parent:
            yield parent, name, facts, row
        elif row is not None and dataclasses.is_dataclass(row):
            for item in parent[name].values():
                yield from _empty_in(item, row)
