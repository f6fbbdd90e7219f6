"""A real job's last readings, as the rig is asked about them."""

from datetime import datetime
from typing import Any

from yoshi_core.diagnosis.observed import Observed
from yoshi_core.document.model import Job
from yoshi_core.document.plate import Plate
from yoshi_core.document.sheets import Entry, value_of
from yoshi_core.errors import InvalidInput
from yoshi_core.job.evaluate import evaluate
from yoshi_core.practice.fits import Asked
from yoshi_core.profile.profile import Profile
from yoshi_core.properties.atmosphere import absolute_pa, site_pressure_pa
from yoshi_core.steps.as_found.ranking import LEARNED_KINDS
from yoshi_core.steps.as_found.sheet import AsFoundSheet
from yoshi_core.steps.plates import current_plate
from yoshi_core.steps.verify.sheet import VerifyReading, VerifySheet

FIXED = frozenset({"orifice", "capillary"})


def asked_of(job: Job, profile: Profile, now: datetime) -> Asked:
    """What the rig is asked: the plate's charge and the last reading of the running unit, else what was read as found.

    Raises `InvalidInput` where no charge is planned, nothing was read, the unit heats, or it is of a kind the rig is none of.
    """
    plate = current_plate(job)
    if plate.kind not in LEARNED_KINDS:
        raise InvalidInput(
            "The rig is a split or packaged air conditioner; it has no opinion of other kinds of unit.", path="/steps/identify"
        )
    total = evaluate(job, profile, now).step("identify").figure("total")
    if total is None or not plate.refrigerant:
        raise InvalidInput("The charge that belongs in it is needed first. See Identify.", path="/steps/identify")
    reading = _last(job)
    if reading is None:
        raise InvalidInput("Nothing was read of the running unit yet.", path="/steps/verify")
    return Asked(_observed(reading, plate), total.amount.value, site_pressure_pa(value_of(plate.altitude) or 0.0))


def _last(job: Job) -> VerifyReading | AsFoundSheet | None:
    verify, found = _sheet(job, "verify"), _sheet(job, "as_found")
    if isinstance(verify, VerifySheet):
        rows = [row for row in verify.readings.values() if not row.set_aside and row.suction_pressure is not None]
        if rows:
            if verify.mode == "heating":
                raise InvalidInput("The rig's fits are of cooling.", path="/steps/verify")
            return rows[-1]
    if isinstance(found, AsFoundSheet) and found.suction_pressure is not None:
        if found.mode == "heating":
            raise InvalidInput("The rig's fits are of cooling.", path="/steps/as_found")
        return found
    return None


def _sheet(job: Job, step: str) -> Any:
    record = job.steps.get(step)
    return record.runs[-1].sheet if record and record.runs else None


def _observed(reading: VerifyReading | AsFoundSheet, plate: Plate) -> Observed:
    altitude_m, reference = value_of(plate.altitude) or 0.0, plate.gauge_reference or "vented"

    def pressure(entry: Entry | None) -> float | None:
        return None if entry is None else absolute_pa(entry.value, reference, altitude_m)

    return Observed(
        plate.refrigerant or "",
        "fixed" if plate.metering in FIXED else "valve",
        pressure(reading.suction_pressure),
        value_of(reading.suction_line),
        pressure(reading.liquid_pressure),
        value_of(reading.liquid_line),
        value_of(reading.outdoor),
        value_of(reading.return_air),
        value_of(reading.return_wet_bulb),
        value_of(reading.supply),
        None,
        value_of(plate.subcooling_target),
    )
