"""Jobs at the edge of a threshold: what reads it, the figure it is held against, and what is said to either side."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import timedelta
from typing import Any

from tests.make import NOW, PLATE, RUNNING, findings, job, kelvin, reading_with
from tests.make_changed import OLD, OVER, SHEETS
from tests.make_closed import HELD, HOLD, RECOVERED, REPAIRED, UNIT, hold_sheet, vacuum_sheet
from tests.steps.recover.test_recover import BIG, PACKAGED, READY
from tests.steps.verify.test_verify_kinds import TestHeatPumpsOtherMode, psig
from tests.steps.weigh_in.test_kinds import BASE, TestReachIn
from yoshi_core.findings.result import StepResult
from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate, full_charge_kg
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import saturation
from yoshi_core.units.quantities import PSI_PA

Says = Callable[[Profile], StepResult]

MIN = 60.0
SIX_POUNDS = {
    "refrigerant": "R-410A", "factory_charge": "6 lb", "kind": "packaged", "altitude": "0 m", "gauge_reference": "vented",
}  # fmt: skip
SIX_IN = {"system_state": "empty", "draws": {"d1": {"cylinder": "21", "gross_start": "20 lb", "tare": "9 lb", "gross_end": "14 lb"}}}


VRF = {**PLATE, "kind": "vrf", "indoor_units": "2", "indoor_allowance": "0.3 kg", "room_volume": "10 m³"}
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


def under(kind: str, box_f: float, suction_psig: float, outdoor_f: float, high_psig: float) -> Says:
    """R-134a in a box: so many degrees under it, so many over the air."""
    reading = {
        "box": f"{box_f} °F",
        "outdoor": f"{outdoor_f} °F",
        "liquid_pressure": f"{high_psig} psig",
        "suction_pressure": f"{suction_psig} psig",
    }
    more = {"receiver_level": "50 %", "sight_glass": "clear"} if kind == "receiver" else {}
    return kind_of(kind, reading, "R-134a", {"floods": False} if kind == "receiver" else None, **more)


def under_k(box_f: float, suction_psig: float) -> float:
    return kelvin(box_f) - saturation.dew_temperature_k("R-134a", suction_psig * PSI_PA + 101_325)


def heated(over_f: float, outdoor_f: float = 47.0) -> Says:
    row = {"suction_pressure": psig("R-410A", 70 + over_f, 0.5), "return_air": "70 °F", "outdoor": f"{outdoor_f} °F"}
    return kind_of("heat_pump", {}, "R-410A", TestHeatPumpsOtherMode.PLATE, other_mode={"o1": row})


def one_cylinder(refrigerant: str = "R-410A", **more: Any) -> Says:
    """R4 holds 38 lb, of the 40.44 lb that four fifths of its 47.7 lb of water are."""
    plate = {**PACKAGED, "refrigerant": refrigerant, "factory_charge": "60 lb"}
    return service("recover", plate, recover={**READY, **more, "cylinders": {"c1": {**BIG, "gross_now": "65 lb"}}})


def over(**sheet: Any) -> Says:
    return lambda profile: findings(OLD, kind="retrofit", sheets={**SHEETS, "change_over": {**OVER, **sheet}}, profile=profile).step(
        "change_over"
    )


def pulled(events: Any, readings: Any, plate: dict[str, Any] = UNIT, **more: Any) -> Says:
    sheet = vacuum_sheet(events, readings, **more)
    return service("evacuate", plate, recover=RECOVERED, repair=REPAIRED, pressure_hold=HELD, evacuate=sheet)


def nineteen(step: str) -> Says:
    """A reach-in of 19 oz without a stated ±, on a scale of this step."""
    plate = {**BASE, **TestReachIn.NINETEEN, "tolerance": None}
    draw = {"cylinder": "21", "gross_start": "20 lb", "tare": "9 lb"}
    weigh = {"system_state": "empty", "scale_step": step, "draws": {"d1": draw}}
    return lambda profile: findings(plate, weigh, profile=profile).step("weigh_in")


def traced(mass: str) -> Says:
    """A tracer of this mass, not in yet, in a unit of six pounds."""
    planned = documents.load_job(
        {**documents.dump_job(job({**SIX_POUNDS, "metering": "txv"}, kind="service")), "acts": {"a1": {"kind": "tracer", "mass": mass}}}
    )
    return lambda profile: evaluate(planned, profile, NOW).step("leak_search")


def scaled(step: str, **plate: str) -> Says:
    """A packaged unit, on a scale of this step."""
    draw = {"cylinder": "21", "gross_start": "20 lb", "tare": "9 lb"}
    weigh = {"system_state": "empty", "scale_step": step, "draws": {"d1": draw}}
    return lambda profile: findings({**BASE, "kind": "packaged", **plate}, weigh, profile=profile).step("weigh_in")


def coarse(step: str) -> Says:
    weigh = {"system_state": "empty", "scale_step": step, "draws": {"d1": {"gross_start": "9 lb", "tare": "5 lb"}}}
    return lambda profile: findings({**BASE, **TestReachIn.NINETEEN}, weigh, profile=profile).step("weigh_in")


def in_a_room(refrigerant: str) -> Edge:
    plate = {**VRF, "refrigerant": refrigerant}
    inside = full_charge_kg(job(plate).steps["identify"].runs[0].sheet, Profile())
    assert inside is not None
    says: Says = lambda profile: findings(plate, profile=profile).step("identify")  # noqa: E731 -- one line of a table
    return Edge(says, inside / 10.0, "room.breathing", ("Stop", "Holds", "Holds"), 1e-4)


def by_school(says: Says, **choices: str) -> Says:
    return lambda profile: says(replace(profile, choices={name.replace("_", "."): school for name, school in choices.items()}))


def logged_by(calibrated_days_ago: int) -> Says:
    """A hold read off a log whose gauge was calibrated so many days ago."""
    start = NOW - timedelta(minutes=40)
    seconds = [60.0 * minute for minute in range(41)]
    day = (NOW - timedelta(days=calibrated_days_ago)).date().isoformat()
    own = {"starts_at": start.isoformat(), "seconds": seconds, "rows": len(seconds), "sha256": "ab", "calibrated_on": day}
    gauge = {**own, "values": [300.0 * PSI_PA] * len(seconds), "step": 0.1 * PSI_PA, "limit": 6900.0}
    sheet = {**HOLD, "filled_at": start.isoformat(), "pressure_trace": gauge}
    return service("pressure_hold", recover=RECOVERED, repair=REPAIRED, pressure_hold=sheet)
