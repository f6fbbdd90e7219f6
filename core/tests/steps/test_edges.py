"""Thresholds of the practice profile: what is read lies a hair over, on, and a hair under each, and what is said follows.

The document stays and the threshold is moved to what it reads, so the same figures are judged from both sides. A threshold
that is only inclusive by the word of its rule ("from", "up to", "at least") is held to that word by the middle case.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import pytest

from tests.make import NOW, PLATE, RUNNING, WEIGHED, findings, job, kelvin, reading_with
from tests.make_changed import OLD, SHEETS
from tests.make_closed import HELD, RECOVERED, REPAIRED, UNIT, hold_sheet, rules, vacuum_sheet
from tests.steps.weigh_in.test_kinds import BASE
from yoshi_core import refrigerants
from yoshi_core.findings.result import StepResult
from yoshi_core.job.evaluate import evaluate, full_charge_kg
from yoshi_core.profile.profile import RULES, Profile
from yoshi_core.units.quantities import FAHRENHEIT_K, MICRON_PA, PSI_PA

Says = Callable[[Profile], StepResult]
MIN = 60.0
SIX_POUNDS = {
    "refrigerant": "R-410A", "factory_charge": "6 lb", "kind": "packaged", "altitude": "0 m", "gauge_reference": "vented",
}  # fmt: skip
SIX_IN = {"system_state": "empty", "draws": {"d1": {"cylinder": "21", "gross_start": "20 lb", "tare": "9 lb", "gross_end": "14 lb"}}}


UNHELD = "?"  # on the edge itself the reading is only printed to so many decimals


@dataclass(frozen=True)
class Edge:
    """`on` is what the document reads, in SI; `told` the reason's word with the threshold a hair under it, on it, a hair over it."""

    says: Says
    on: float
    reason: str
    told: tuple[str | None, str | None, str | None]
    hair: float = 0.0


def running(metering: str = "txv", **readings: Any) -> Says:
    rows = readings.pop("rows", None) or {"r1": {**reading_with(11.0, 10.0), **readings}}
    plate = {**SIX_POUNDS, "metering": metering}
    return lambda profile: findings(plate, SIX_IN, {**RUNNING, "readings": rows}, profile=profile).step("verify")


def orifice(**more: str) -> Says:
    return running("orifice", rows={"r1": reading_with(27.0, None, **{"return_wet_bulb": "67 °F", "outdoor": "95 °F", **more})})


def service(step: str, plate: dict[str, Any] = UNIT, **sheets: Any) -> Says:
    return lambda profile: findings(plate, kind="service", sheets=sheets, profile=profile).step(step)


def kind_of(kind: str, reading: dict[str, str], refrigerant: str = "R-134a", plate: dict[str, Any] | None = None, **verify: Any) -> Says:
    unit = {**BASE, "kind": kind, "refrigerant": refrigerant, "factory_charge": "19 oz", "tolerance": "0.9 oz", **(plate or {})}
    weigh = {
        "system_state": "empty",
        "scale_step": "1 g",
        "draws": {"d1": {"gross_start": "9 lb", "tare": "5 lb", "gross_end": "7 lb 13 oz"}},
    }
    return lambda profile: findings(unit, weigh, {**RUNNING, "readings": {"r1": reading}, **verify}, profile=profile).step("verify")


def hold(readings: Any = ((15, 554.0, 70.0), (35, 550.5, 67.0)), plate: dict[str, Any] = UNIT, **more: Any) -> Says:
    return service("pressure_hold", plate, recover=RECOVERED, repair=REPAIRED, pressure_hold=hold_sheet(list(readings), **more))


def vacuum(readings: Any, **more: Any) -> Says:
    sheet = vacuum_sheet([(0, "pump"), (30, "isolated")], [(30 + minutes, micron) for minutes, micron in readings], **more)
    return service("evacuate", UNIT, recover=RECOVERED, repair=REPAIRED, pressure_hold=HELD, evacuate=sheet)


def weighed(end: str) -> Says:
    draw = {"cylinder": "21", "gross_start": "20 lb", "tare": "9 lb", "gross_end": end}
    return lambda profile: findings(
        {**SIX_POUNDS, "metering": "txv"}, {"system_state": "empty", "draws": {"d1": draw}}, profile=profile
    ).step("weigh_in")


def step_of(job_of: Any, step: str) -> Says:
    return lambda profile: evaluate(job_of, profile, NOW).step(step)


FOUND = {
    "running": "settled", "run_time": "15 min", "mode": "cooling", "suction_pressure": "142.6 psig", "suction_line": "52.2 °F",
    "liquid_pressure": "540 psig", "liquid_line": "81.6 °F",
}  # fmt: skip
TRIMMED = {
    "r1": {**reading_with(11.0, 1.0), "at": "2026-06-18T14:41:00+00:00"},
    "r2": {"added": "3 oz", "changed_at": "2026-06-18T15:09:00+00:00"},
}
STANDING = {"r1": reading_with(11.0, 1.0), "r2": reading_with(11.0, 5.0), "r3": reading_with(11.0, 5.5)}
FLAT = ((2, 300.0), (6, 301.0), (10, 302.0))
VRF = {**PLATE, "kind": "vrf", "indoor_units": "2", "indoor_allowance": "0.3 kg", "room_volume": "10 m³"}
VRF_KG = full_charge_kg(job(VRF).steps["identify"].runs[0].sheet, Profile())
assert VRF_KG is not None
PROPANE = refrigerants.get("R-290")
assert PROPANE.lfl_kg_m3 is not None
REACH_IN = {"refrigerant": "R-290", "factory_charge": "140 g", "kind": "reach_in", "metering": "capillary", "tolerance": "5 g"}

ONE_CHANGE = {"oil_system": "1 L", "oil_grade": "POE 32", "oil_changes": {"o1": {"drained": "0.75 L", "filled": "0.75 L", "mixed": True}}}

EDGES: dict[str, Edge] = {
    "verify.run_in": Edge(step_of(job(PLATE, WEIGHED, RUNNING), "verify"), 15 * MIN, "verify.run_in", ("Holds", "Holds", "Wait")),
    "verify.settle": Edge(running(rows=TRIMMED), 2 * MIN, "verify.settle", (None, None, "Wait")),
    "verify.steady": Edge(running(rows=STANDING), 0.5 * FAHRENHEIT_K, "verify.steady", ("Wait", None, None), 2e-6),
    "verify.outdoor_low": Edge(running(outdoor="60 °F"), kelvin(60), "verify.outdoor_low", (None, None, "Wait")),
    "verify.superheat_low": Edge(running(), 11 * FAHRENHEIT_K, "verify.superheat_low", (None, UNHELD, "Stop"), 1e-5),
    "verify.superheat_high": Edge(running(), 11 * FAHRENHEIT_K, "verify.superheat_high", ("Stop", UNHELD, None), 1e-5),
    "target.wet_bulb_low": Edge(orifice(), kelvin(67), "target.wet_bulb_low", (None, None, "Wait")),
    "target.wet_bulb_high": Edge(orifice(), kelvin(67), "target.wet_bulb_high", ("Wait", None, None)),
    "target.outdoor_low": Edge(orifice(outdoor="75 °F"), kelvin(75), "target.outdoor_low", (None, None, "Wait")),
    "target.outdoor_high": Edge(orifice(), kelvin(95), "target.outdoor_high", ("Wait", None, None)),
    "as_found.run_in": Edge(service("as_found", PLATE, as_found=FOUND), 15 * MIN, "as_found.run_in", (None, None, "Wait")),
    "weigh_in.tolerance": Edge(weighed("14 lb 2 oz"), 2 / 96, "weigh_in.tolerance", ("Wait", UNHELD, "Holds"), 1e-4),
    "recover.wait": Edge(service("recover", recover=RECOVERED), 6 * MIN, "recover.rise", ("Holds", "Holds", None)),
    "recover.right_low": Edge(
        service("recover", {**UNIT, "factory_charge": "8 lb"}, recover=RECOVERED), 0.75, "recover.share", ("Holds", "Holds", "Open")
    ),
    "recover.right_high": Edge(service("recover", {**UNIT, "factory_charge": "5 lb"}, recover=RECOVERED), 1.2, "recover.share", ("Open", UNHELD, "Holds")),
    "hold.settle": Edge(hold(((15, 554.0, 70.0), (35, 550.5, 67.0))), 15 * MIN, "hold.settle", (None, None, "Wait"), 2e-3),
    "hold.least": Edge(hold(), 20 * MIN, "hold.least", (None, None, "Wait")),
    "hold.volume": Edge(hold(), 0.0045, "hold.least", ("Wait", UNHELD, None)),
    "vacuum.hold_volume": Edge(vacuum(FLAT), 0.010, "vacuum.decay", ("Wait", UNHELD, "Holds")),
    "coil.reach_in_over_high": Edge(
        kind_of("reach_in", {"box": "38 °F", "outdoor": "75 °F", "liquid_pressure": "134.957 psig", "suction_pressure": "14.1 psig"}),
        25 * FAHRENHEIT_K, "verify.over_air", ("Wait", UNHELD, "Holds"), 1e-3,
    ),
    "hold.chiller": Edge(hold(plate={**UNIT, "kind": "chiller"}), 20 * MIN, "hold.least", (None, None, "Wait")),
    "hold.low_pressure": Edge(
        hold(plate={**UNIT, "refrigerant": "R-123", "kind": "chiller"}, test_pressure="10.1 psig"), 10.1 * PSI_PA, "hold.low_pressure",
        ("Stop", None, None),
    ),
    "repair.open_limit": Edge(service("repair", recover=RECOVERED, repair=REPAIRED), 10 * MIN, "repair.open", ("Open", None, None)),
    "room.R-410A": Edge(
        lambda profile: findings(VRF, profile=profile).step("identify"), VRF_KG / 10.0, "room.breathing", ("Stop", "Holds", "Holds"), 1e-4
    ),
    "room.free": Edge(
        lambda profile: findings(REACH_IN, profile=profile).step("identify"), 0.140 / PROPANE.lfl_kg_m3, "room.free", ("Wait", "Holds", "Holds")
    ),
    "receiver.level": Edge(
        kind_of("receiver", {}, "R-404A", {"floods": False}, receiver_level="92 %", sight_glass="clear"), 0.92, "verify.receiver",
        ("Stop", "Holds", "Holds"),
    ),
    "vehicle.vent": Edge(
        kind_of("vehicle", {"outdoor": "90 °F", "supply": "55 °F"}), kelvin(45), "verify.vent", ("Wait", "Holds", "Holds"), 1e-5
    ),
    "vehicle.vent_slope": Edge(
        kind_of("vehicle", {"outdoor": "90 °F", "supply": "55 °F"}), 0.25, "verify.vent", ("Wait", "Holds", "Holds"), 1e-5
    ),
    "vacuum.battery": Edge(vacuum(FLAT, gauge_battery="80 %"), 0.8, "vacuum.battery", (None, None, "Open")),
    "vacuum.target": Edge(
        vacuum(((2, 576.0), (6, 583.0), (10, 590.0))), 590 * MICRON_PA, "vacuum.decay", ("Wait", "Holds", "Holds"),
    ),
    "vacuum.hold": Edge(vacuum(FLAT), 10 * MIN, "vacuum.decay", ("Holds", "Holds", "Wait")),
    "retrofit.residual_oil": Edge(
        lambda profile: findings(OLD, kind="retrofit", sheets={**SHEETS, "change_over": ONE_CHANGE}, profile=profile).step("change_over"),
        0.25, "retrofit.residual_oil", ("Wait", "Holds", "Holds"),
    ),
}  # fmt: skip


@pytest.mark.parametrize("rule", sorted(EDGES))
def test_a_hair_decides(rule: str) -> None:
    edge = EDGES[rule]
    hair = edge.hair or 1e-6
    at = [edge.on * (1.0 - hair), edge.on, edge.on * (1.0 + hair)]
    assert RULES[rule].low <= at[0]
    assert at[2] <= RULES[rule].high
    found = tuple(rules(edge.says(Profile(overrides={rule: value}))).get(edge.reason) for value in at)
    assert found == tuple(word if held == UNHELD else held for word, held in zip(found, edge.told, strict=True))
