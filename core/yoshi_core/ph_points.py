"""Where a job's readings stand on the pressure–enthalpy picture of a refrigerant: before, and after every step of charge."""

from dataclasses import dataclass

from yoshi_core import pressure_enthalpy, refrigerants
from yoshi_core.atmosphere import absolute_pa
from yoshi_core.errors import CoreError
from yoshi_core.field_sheets import AsFoundSheet
from yoshi_core.model import Job, Plate, VerifyReading
from yoshi_core.plates import changes_to, repaired_plate
from yoshi_core.pressure_enthalpy import PhPoint
from yoshi_core.sheets import value_of


@dataclass(frozen=True)
class JobPoints:
    """One reading of a job: its name, and the points it gives (suction, liquid, what enters the evaporator)."""

    label: str
    points: tuple[PhPoint, ...]


def points_of(job: Job, refrigerant: str) -> tuple[JobPoints, ...]:
    """Every reading of the job that was taken with this refrigerant inside; what its tables do not reach is left out."""
    name = refrigerants.normalize(refrigerant)
    plate = repaired_plate(job)
    old = refrigerants.normalize(plate.refrigerant or "")
    new = changes_to(job) or old
    found = []
    before = job.steps.get("as_found")
    if before is not None and before.runs and old == name:
        found.append(JobPoints("as found", _read(before.runs[-1].sheet, plate, name)))
    proof = job.steps.get("verify")
    if proof is not None and proof.runs and new == name:
        rows = proof.runs[-1].sheet.readings.values()
        found += [JobPoints(f"reading {number}", _read(row, plate, name)) for number, row in enumerate(rows, 1)]
    return tuple(row for row in found if row.points)


def _read(row: AsFoundSheet | VerifyReading, plate: Plate, name: str) -> tuple[PhPoint, ...]:
    reference, altitude = plate.gauge_reference or "vented", value_of(plate.altitude) or 0.0
    suction, liquid = (
        None if value is None else absolute_pa(value, reference, altitude)
        for value in (value_of(row.suction_pressure), value_of(row.liquid_pressure))
    )
    found = []
    suction_k, liquid_k = value_of(row.suction_line), value_of(row.liquid_line)
    try:
        if suction is not None and suction_k is not None:
            found.append(pressure_enthalpy.vapour(name, suction, suction_k))
        if liquid is not None and liquid_k is not None:
            at = pressure_enthalpy.liquid(name, liquid, liquid_k)
            found.append(at)
            if suction is not None:
                found.append(PhPoint(suction, at.enthalpy_j_kg, liquid_k))
    except CoreError:
        return tuple(found)
    return tuple(found)
