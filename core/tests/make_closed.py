"""Sheets of the middle of a job for tests: minutes after an event, figures as a person would type them."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any

from tests.make import NOW, findings
from yoshi_core.findings.result import StepResult
from yoshi_core.profile.profile import Profile

UNIT = {
    "refrigerant": "R-410A",
    "factory_charge": "6 lb",
    "kind": "packaged",
    "metering": "txv",
    "altitude": "0 m",
    "gauge_reference": "vented",
    "design_high": "600 psig",
    "design_low": "575 psig",
    "pairing_proven": True,
    "pairing_by": "switched",
}
RECOVERED = {
    "way": "cylinder", "fan_on": True, "valves_open": True, "finished": True, "end_pressure": "0 psig", "waited": "6 min",
    "risen_to": "0.5 psig", "burnout": False, "same_owner": True, "acid": "clean", "use": "reuse",
    "cylinders": {"c1": {"cylinder": "R4", "contents": "evacuated", "tare": "27 lb", "water_capacity": "47.7 lb", "gross_start": "27 lb", "gross_now": "33 lb"}},
}  # fmt: skip
REPAIRED = {
    "opened_for": "10 min", "joining": "flared", "drier": "new", "drier_way": True, "drier_size": True, "cores": True, "bulb": "placed",
}  # fmt: skip
HOLD = {
    "gas": "nitrogen", "regulator": True, "fed": "both", "test_pressure": "560 psig", "metal_by": "clamp", "bubbles": "clean", "volume": "6 L",
}  # fmt: skip
PULL = {
    "method": "single", "energized": True, "cores_out": True, "valves_open": True, "place": "far", "oil_fresh": True,
    "volume": {"text": "10 L", "source": "measured"},
}  # fmt: skip


def moment(minutes: float, start: datetime) -> str:
    return (start + timedelta(minutes=minutes)).isoformat()


def hold_sheet(readings: Sequence[tuple[float, float, float | None]], start: datetime | None = None, **more: Any) -> dict[str, Any]:
    """Readings as minutes after filling, psig and °F of the metal."""
    begun = start or NOW - timedelta(minutes=readings[-1][0])
    rows = {}
    for n, (minutes, psig, metal) in enumerate(readings, 1):
        rows[f"r{n}"] = {"at": moment(minutes, begun), "pressure": f"{psig} psig"} | ({} if metal is None else {"metal": f"{metal} °F"})
    return {**HOLD, "filled_at": begun.isoformat(), "readings": rows, **more}


def hold(
    readings: Sequence[tuple[float, float, float | None]],
    *,
    plate: dict[str, Any] | None = None,
    profile: Profile | None = None,
    **more: Any,
) -> StepResult:
    sheets = {"recover": RECOVERED, "repair": REPAIRED, "pressure_hold": hold_sheet(readings, **more)}
    return findings(plate or UNIT, kind="service", sheets=sheets, profile=profile).step("pressure_hold")


HELD = hold_sheet([(15, 554.0, 70), (35, 550.5, 67)])


def vacuum_sheet(events: Sequence[tuple[float, str]], readings: Sequence[tuple[float, ...]], **more: Any) -> dict[str, Any]:
    """Events and microns by minutes after the first event, a second gauge's beside them; the last of either is now."""
    begun = NOW - timedelta(minutes=max(events[-1][0], readings[-1][0] if readings else 0.0))
    return {
        **PULL,
        "events": {f"e{n}": {"do": what, "at": moment(minutes, begun)} for n, (minutes, what) in enumerate(events, 1)},
        "readings": {f"r{n}": _reading(begun, *row) for n, row in enumerate(readings, 1)},
        **more,
    }


def _reading(begun: datetime, minutes: float, micron: float, second: float | None = None) -> dict[str, Any]:
    row = {"at": moment(minutes, begun), "vacuum": f"{micron} micron"}
    return row if second is None else {**row, "second": f"{second} micron"}


def vacuum(
    events: Sequence[tuple[float, str]],
    readings: Sequence[tuple[float, ...]],
    *,
    plate: dict[str, Any] | None = None,
    profile: Profile | None = None,
    before: dict[str, Any] | None = None,
    **more: Any,
) -> StepResult:
    sheets = {
        "recover": RECOVERED,
        "repair": REPAIRED,
        "pressure_hold": HELD,
        **(before or {}),
        "evacuate": vacuum_sheet(events, readings, **more),
    }
    return findings(plate or UNIT, kind="service", sheets=sheets, profile=profile).step("evacuate")


def isolated(readings: Sequence[tuple[float, ...]], pulled_min: float = 30.0, **more: Any) -> StepResult:
    """Readings by minutes after isolation, half an hour after the pump was started."""
    return vacuum([(0, "pump"), (pulled_min, "isolated")], [(pulled_min + minutes, micron) for minutes, micron in readings], **more)


def rules(result: StepResult) -> dict[str, str]:
    return {reason.rule_id: reason.word for reason in result.verdict.reasons}


def said(result: StepResult, rule_id: str) -> str:
    return next(r.message.show() for r in result.verdict.reasons if r.rule_id == rule_id)


DRY = vacuum_sheet([(0, "pump"), (30, "isolated")], [(30, 440), (35, 440), (40, 440)])
