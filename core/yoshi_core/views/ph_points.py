"""Where a job's readings stand on the pressure–enthalpy picture of a refrigerant: before, and after every step of charge."""

from dataclasses import replace

from yoshi_core import refrigerants
from yoshi_core.document.model import Job
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.frozen import dataclass
from yoshi_core.properties import cycle, pressure_enthalpy, saturation
from yoshi_core.properties.cycle import CONDENSER_DEW_SHARE, EVAPORATOR_DEW_SHARE, Conditions
from yoshi_core.properties.pressure_enthalpy import PhPoint
from yoshi_core.running.readings import Readings, Site, cooling_state
from yoshi_core.steps.as_found.sheet import AsFoundSheet
from yoshi_core.steps.plates import changes_to, repaired_plate
from yoshi_core.steps.verify.sheet import VerifyReading


@dataclass(frozen=True)
class JobPoints:
    """One reading of a job: its name, and what it gives; None where it was not read or the tables do not reach.

    `discharge` is reckoned by the simple cycle, never read; `vapour_share` is of what leaves the valve, 0 to 1. Superheat hangs
    from dew at the suction's pressure, subcooling from bubble at the liquid's.
    """

    label: str
    suction: PhPoint | None = None
    liquid: PhPoint | None = None
    discharge: PhPoint | None = None
    inlet: PhPoint | None = None
    vapour_share: float | None = None
    dew_k: float | None = None
    superheat_k: float | None = None
    bubble_k: float | None = None
    subcooling_k: float | None = None


def points_of(job: Job, refrigerant: str) -> tuple[JobPoints, ...]:
    """Every reading of the job that was taken with this refrigerant inside; what its tables do not reach is left out."""
    name = refrigerants.normalize(refrigerant)
    plate = repaired_plate(job)
    old = refrigerants.normalize(plate.refrigerant or "")
    new = changes_to(job) or old
    found = []
    before = job.steps.get("as_found")
    if before is not None and before.runs and old == name:
        found.append(_read("as found", before.runs[-1].sheet, plate, name))
    proof = job.steps.get("verify")
    if proof is not None and proof.runs and new == name:
        rows = proof.runs[-1].sheet.readings.values()
        found += [_read(f"reading {number}", row, plate, name) for number, row in enumerate(rows, 1)]
    return tuple(row for row in found if row.suction is not None or row.liquid is not None)


def _read(label: str, row: AsFoundSheet | VerifyReading, plate: Plate, name: str) -> JobPoints:
    site = Site(value_of(plate.altitude) or 0.0, plate.gauge_reference or "vented")
    given = Readings(
        suction_gauge_pa=value_of(row.suction_pressure),
        suction_line_k=value_of(row.suction_line),
        liquid_gauge_pa=value_of(row.liquid_pressure),
        liquid_line_k=value_of(row.liquid_line),
    )
    try:
        state = cooling_state(name, given, site)
        low, high = state.low, state.high
        found = JobPoints(
            label,
            dew_k=None if low is None else low.saturation_k,
            superheat_k=None if low is None else low.difference_k,
            bubble_k=None if high is None else high.saturation_k,
            subcooling_k=None if high is None else high.difference_k,
        )
        suction = None if low is None else pressure_enthalpy.vapour(name, low.pressure_pa, low.line_k)
        liquid = None if high is None else pressure_enthalpy.liquid(name, high.pressure_pa, high.line_k)
        if low is None or high is None or liquid is None:
            return replace(found, suction=suction, liquid=liquid)
        ran = cycle.run(
            name,
            Conditions(
                saturation.mean_temperature_k(name, low.pressure_pa, EVAPORATOR_DEW_SHARE),
                saturation.mean_temperature_k(name, high.pressure_pa, CONDENSER_DEW_SHARE),
                max(low.difference_k, 0.0),
                max(high.difference_k, 0.0),
            ),
        )
        _, discharge, _, _ = pressure_enthalpy.corners(name, ran)
        boiling = pressure_enthalpy.liquid(name, low.pressure_pa, low.across_k).enthalpy_j_kg
        dry = pressure_enthalpy.vapour(name, low.pressure_pa, low.saturation_k).enthalpy_j_kg
    except CoreError:
        return JobPoints(label)
    inlet = PhPoint(low.pressure_pa, liquid.enthalpy_j_kg, low.across_k)
    share = (liquid.enthalpy_j_kg - boiling) / (dry - boiling)
    return replace(found, suction=suction, liquid=liquid, discharge=discharge, inlet=inlet, vapour_share=share)
