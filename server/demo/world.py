"""The demo world, read from `data/`, where its README says how it is written. Nothing in it is real."""

import tomllib
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any, NamedTuple

DATA = Path(__file__).parent / "data"
PASSWORD = "quillon-ridge"


@dataclass(frozen=True)
class Ago:
    """So many minutes before the demo is loaded."""

    minutes: float

    def at(self, now: datetime) -> str:
        return (now - timedelta(minutes=self.minutes)).isoformat()


class Row(NamedTuple):
    """One value entered in a step."""

    step: str
    field: str
    value: Any


class Close(NamedTuple):
    """A step closed, with a reason if its verdict is open."""

    step: str
    reason: str


class LeaveOut(NamedTuple):
    """A step left out, with the reason."""

    step: str
    reason: str


Rows = tuple[Row, ...]
Stage = Rows | Close | LeaveOut


def _read(path: Path) -> dict[str, Any]:
    return tomllib.loads(path.read_text(encoding="utf-8"))


def _rows(step: str, fields: dict[str, Any], under: str = "") -> Rows:
    found: list[Row] = []
    for name, value in fields.items():
        if not isinstance(value, dict):
            found.append(Row(step, under + name, value))
        elif set(value) == {"minutes_ago"}:
            found.append(Row(step, under + name, Ago(value["minutes_ago"])))
        else:
            found.extend(_rows(step, value, f"{under}{name}/"))
    return tuple(found)


_SHARED = _read(DATA / "stages.toml")


def stages(words: list[str], own: dict[str, Any] | None = None) -> tuple[Stage, ...]:
    """The stages of these names, groups opened; a unit's own come before those all share."""
    named = {**_SHARED["stages"], **(own or {})}
    found: list[Stage] = []
    for word in words:
        verb, _, reason = word.partition(": ")
        if word.startswith("close "):
            found.append(Close(verb.removeprefix("close "), reason))
        elif word.startswith("leave out "):
            found.append(LeaveOut(verb.removeprefix("leave out "), reason))
        elif word in _SHARED["groups"]:
            found.extend(stages(_SHARED["groups"][word], own))
        else:
            found.append(tuple(row for step, fields in named[word].items() for row in _rows(step, fields)))
    return tuple(found)


def _jobs(unit: dict[str, Any], table: str) -> list[dict[str, Any]]:
    return [{**job, "stages": stages(job["stages"], unit.get("stages"))} for job in unit.get(table, [])]


def _in_order(rows: list[dict[str, Any]]) -> tuple[dict[str, Any], ...]:
    return tuple(sorted(rows, key=lambda row: row["number"]))


_UNITS = [_read(path) for path in sorted((DATA / "units").glob("*.toml"))]
_SHOP = _read(DATA / "shop.toml")
SHOP: str = _SHOP["name"]
PEOPLE: list[dict[str, str]] = _SHOP["people"]
CUSTOMER: dict[str, str] = _SHOP["customer"]
SITE: str = _SHOP["site"]
SITE_FACTS: dict[str, str] = _SHOP["site_facts"]
CYLINDERS: list[dict[str, Any]] = _read(DATA / "cylinders.toml")["cylinders"]
CIRCUITS = _in_order([{**circuit, "system": unit["system"]} for unit in _UNITS for circuit in unit["circuits"]])
JOBS = _in_order([job for unit in _UNITS for job in _jobs(unit, "jobs")])
LIVE = tuple(job for unit in _UNITS for job in _jobs(unit, "live"))
