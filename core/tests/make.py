"""Jobs for tests, written as a person would type them."""

from datetime import UTC, datetime
from typing import Any

from tests.well_said import faults
from yoshi_core.document.model import Job
from yoshi_core.job import documents
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import saturation
from yoshi_core.units.quantities import FAHRENHEIT_K, OZ_KG, PSI_PA, ZERO_FAHRENHEIT_K

NOW = datetime(2026, 6, 18, 15, 11, tzinfo=UTC)
PLATE = {
    "refrigerant": "R-410A",
    "factory_charge": "9 lb 4 oz",
    "included_length": "25 ft",
    "kind": "split",
    "metering": "txv",
    "subcooling_target": "10 °F",
    "altitude": "2100 m",
    "gauge_reference": "vented",
    "lines": {"l1": {"length": "55 ft", "liquid_od": "3/8 in", "suction_od": "7/8 in", "allowance": "0.6 oz/ft"}},
    "parts": {"p1": {"label": "filter drier", "charge": "1.5 oz"}},
}
DRAW = {"cylinder": "14", "gross_start": "31 lb 6.5 oz", "tare": "9 lb", "hose_loss": "0.6 oz", "gross_end": "20 lb 14.4 oz"}
WEIGHED = {"system_state": "empty", "draws": {"d1": DRAW}}
READING = {"suction_pressure": "128 psig", "suction_line": "54 °F", "liquid_pressure": "372 psig", "liquid_line": "102 °F"}
RUNNING = {
    "mode": "cooling",
    "run_in": "15 min",
    "filter_ok": True,
    "coils_ok": True,
    "doors_ok": True,
    "load_ok": True,
    "readings": {"r1": READING},
}


def job(plate: dict[str, Any] | None = None, weigh: dict[str, Any] | None = None, verify: dict[str, Any] | None = None, **more: Any) -> Job:
    """A job whose steps hold one run each of the given sheets."""
    sheets = {"identify": plate, "weigh_in": weigh, "verify": verify, **more.pop("sheets", {})}
    steps = {step: {"runs": [{"sheet": sheet}]} for step, sheet in sheets.items() if sheet is not None}
    return documents.load_job({"id": "test-job", "steps": steps, **more})


def findings(*args: Any, profile: Profile | None = None, **more: Any) -> Findings:
    """What a job says, and that it is fit to be shown: whatever a test asks about, nothing beside it may be broken."""
    found = evaluate(job(*args, **more), profile or Profile(), NOW)
    wrong = list(faults(found, Findings))
    assert not wrong, wrong
    return found


def six_pounds(metering: str, readings: dict[str, Any], **plate: Any) -> Findings:
    """A unit of 6 lb 0 oz at sea level, weighed in to the ounce, then run."""
    sheet = {
        "refrigerant": "R-410A",
        "factory_charge": "6 lb 0 oz",
        "kind": "packaged",
        "metering": metering,
        "altitude": "0 m",
        "gauge_reference": "vented",
        **plate,
    }
    draw = {"cylinder": "21", "gross_start": "20 lb", "tare": "9 lb", "gross_end": "14 lb"}
    return findings(sheet, {"system_state": "empty", "draws": {"d1": draw}}, {**RUNNING, "readings": readings})


def oz(kg: float) -> float:
    return kg / OZ_KG


def delta_f(kelvin: float) -> float:
    return kelvin / FAHRENHEIT_K


def in_f(kelvin: float) -> float:
    return (kelvin - ZERO_FAHRENHEIT_K) / FAHRENHEIT_K


def kelvin(fahrenheit: float) -> float:
    return fahrenheit * FAHRENHEIT_K + ZERO_FAHRENHEIT_K


def reading_with(superheat_f: float | None, subcooling_f: float | None, **more: str) -> dict[str, Any]:
    """Gauges and clamps that give these differences for R-410A at sea level: 118 psig is dew 40.0 °F, 317.6 psig bubble 100."""
    reading: dict[str, Any] = dict(more)
    if superheat_f is not None:
        dew = in_f(saturation.dew_temperature_k("R-410A", 118 * PSI_PA + 101_325))
        reading |= {"suction_pressure": "118 psig", "suction_line": f"{dew + superheat_f:.6f} °F"}
    if subcooling_f is not None:
        bubble = in_f(saturation.bubble_temperature_k("R-410A", 317.6 * PSI_PA + 101_325))
        reading |= {"liquid_pressure": "317.6 psig", "liquid_line": f"{bubble - subcooling_f:.6f} °F"}
    return reading
