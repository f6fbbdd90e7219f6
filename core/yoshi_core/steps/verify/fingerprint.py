"""What a unit looked like when it was proven, and how today compares at like conditions."""

from collections.abc import Mapping
from typing import Any

from yoshi_core import refrigerants
from yoshi_core.document.model import Fact, Job, StepRecord
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import Compared
from yoshi_core.running import readings
from yoshi_core.steps.plates import current_plate
from yoshi_core.steps.verify.moments import is_read
from yoshi_core.steps.verify.sheet import VerifyReading
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import FAHRENHEIT_K

KIND = "fingerprint"
LIKE_OUTDOOR_K = 10.0 * FAHRENHEIT_K
FIGURES: tuple[tuple[str, str, str], ...] = (
    ("suction_gauge_pa", "suction", "gauge_pressure"),
    ("liquid_gauge_pa", "liquid", "gauge_pressure"),
    ("superheat_k", "superheat", "temperature_delta"),
    ("subcooling_k", "subcooling", "temperature_delta"),
    ("split_k", "split", "temperature_delta"),
    ("amps_share", "amps over rated", "fraction"),
    ("outdoor_k", "outdoor air", "temperature"),
)


def take(job: Job) -> dict[str, float] | None:
    """The figures of the job's last reading at Verify, SI; None where nothing was read."""
    runs = job.steps.get("verify", StepRecord()).runs
    rows = [row for row in runs[-1].sheet.readings.values() if is_read(row)] if runs else []
    if not rows:
        return None
    found = _figures(job, rows[-1])
    return found or None


def _figures(job: Job, row: VerifyReading) -> dict[str, float]:
    plate = current_plate(job)
    plain = {
        "suction_gauge_pa": value_of(row.suction_pressure),
        "liquid_gauge_pa": value_of(row.liquid_pressure),
        "outdoor_k": value_of(row.outdoor),
    }
    name = plate.refrigerant
    if name is not None and refrigerants.is_known(name):
        given = readings.Readings(
            value_of(row.suction_pressure), value_of(row.suction_line), value_of(row.liquid_pressure), value_of(row.liquid_line)
        )
        try:
            state = readings.cooling_state(name, given, readings.Site(value_of(plate.altitude) or 0.0, plate.gauge_reference or "vented"))
            plain |= {"superheat_k": state.superheat_k, "subcooling_k": state.subcooling_k}
        except CoreError:
            pass
    return {key: value for key, value in plain.items() if value is not None}


def of(job: Job) -> Fact | None:
    """The last fingerprint the job was given as a fact, None where the circuit has none."""
    found = [fact for fact in job.facts if fact.kind == KIND]
    return found[-1] if found else None


def alike(then: Mapping[str, Any], outdoor_k: float | None) -> bool:
    """Whether the conditions are near enough to compare: outdoor air within 10 °F, both read."""
    before = then.get("outdoor_k")
    return before is not None and outdoor_k is not None and abs(before - outdoor_k) <= LIKE_OUTDOOR_K + 1e-9


def compare(then: Mapping[str, Any], now: Mapping[str, float | None]) -> tuple[Compared, ...]:
    """Figure by figure, then and now, where both were read."""
    rows = []
    for key, label, quantity in FIGURES:
        before, today = then.get(key), now.get(key)
        if before is not None and today is not None:
            rows.append(Compared(label, Amount(float(before), quantity), Amount(today, quantity)))
    return tuple(rows)
