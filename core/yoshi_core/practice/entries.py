"""A practice job's entries as a technician types them: the plate that is read, and what the displays say."""

from collections.abc import Mapping
from datetime import UTC, datetime, timedelta
from typing import Any

from yoshi_core.document.model import Circuit, Job, JobKind
from yoshi_core.errors import InvalidInput
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.job.new_job import new_job
from yoshi_core.job.patches import Change, save
from yoshi_core.practice.exercise import Exercise
from yoshi_core.practice.shown import Shown
from yoshi_core.profile.profile import Profile
from yoshi_core.units.quantities import FAHRENHEIT_K, FOOT_M, INCH_M, OZ_KG, PSI_PA, ZERO_FAHRENHEIT_K

BEGAN = datetime(2026, 6, 18, 8, 0, tzinfo=UTC)


def at(time_s: float) -> datetime:
    """The moment by the practice clock."""
    return BEGAN + timedelta(seconds=time_s)


def psig(pa: float) -> str:
    """A gauge pressure as its display says it."""
    return f"{pa / PSI_PA:.1f} psig"


def degrees(kelvin: float) -> str:
    """A temperature as a clamp says it."""
    return f"{(kelvin - ZERO_FAHRENHEIT_K) / FAHRENHEIT_K:.1f} °F"


def ounces(kg: float) -> str:
    """A mass in ounces, as fine as any scale."""
    return f"{kg / OZ_KG:.3f} oz"


def plate_of(exercise: Exercise) -> dict[str, Any]:
    """What stands on the unit, by field of Identify: the charge with its lines, so nothing is added for them."""
    unit = exercise.unit
    plate: dict[str, Any] = {
        "refrigerant": unit.refrigerant,
        "factory_charge": ounces(unit.charge_kg),
        "kind": "heat_pump" if unit.heat_pump else "split",
        "metering": unit.metering,
        "altitude": exercise.altitude,
        "gauge_reference": "vented",
        "pairing_proven": True,
        "pairing_by": "only",
        "included_length": f"{unit.line_m / FOOT_M:.1f} ft",
        "lines/l1/length": f"{unit.line_m / FOOT_M:.1f} ft",
        "lines/l1/liquid_od": f"{unit.liquid_od_m / INCH_M:.3f} in",
        "lines/l1/suction_od": f"{unit.suction_od_m / INCH_M:.3f} in",
    }
    if unit.metering == "txv":
        plate["subcooling_target"] = f"{unit.subcooling_k / FAHRENHEIT_K:.1f} °F"
    return plate


def kind_of(exercise: Exercise) -> JobKind:
    """The kind of job an exercise is: one that looks for what is wrong, or begins before the charge, is a service."""
    return "service" if exercise.marks.cause or exercise.start == "open" or exercise.marks.leave != "full" else "charge"


def known_of(exercise: Exercise) -> dict[str, dict[str, Any]]:
    """What is known of the unit when one comes, by step: its plate, and of an open circuit what was done before, and its stamps."""
    found: dict[str, dict[str, Any]] = {"identify": plate_of(exercise)}
    if exercise.start == "open":
        found["recover"] = {
            "way": "handed",
            "firm": "a colleague, before you",
            "finished": True,
            "end_pressure": "0 psig",
            "waited": "10 min",
            "risen_to": "0.5 psig",
            "burnout": False,
        }
        found["repair"] = {
            "opened_for": "20 min",
            "joining": "flared",
            "drier": "new",
            "drier_way": True,
            "drier_size": True,
            "cores": True,
        }
        # What is stamped on the unit, and what the van's gauges are: read off, as the plate is.
        found["pressure_hold"] = {
            "stamps/s1/label": "outdoor unit",
            "stamps/s1/pressure": "450 psig",
            "metal_by": "clamp",
            "gauge_step": "0.1 psi",
        }
        found["evacuate"] = {"place": "far", "path_proven": True, "gauge_floor": "1 micron", "gauge_battery": "90 %", "oil_fresh": True}
    return found


def read_off(shown: Shown) -> dict[str, str]:
    """The displays as fields of a reading; nothing for a display that says nothing."""
    said = {
        "suction_pressure": (shown.suction_pa, psig),
        "liquid_pressure": (shown.liquid_pa, psig),
        "suction_line": (shown.suction_line_k, degrees),
        "liquid_line": (shown.liquid_line_k, degrees),
        "return_air": (shown.return_k, degrees),
        "return_wet_bulb": (shown.wet_bulb_k, degrees),
        "supply": (shown.supply_k, degrees),
        "outdoor": (shown.outdoor_k, degrees),
    }
    return {name: write(value) for name, (value, write) in said.items() if value is not None}


class Desk:
    """A practice job on paper: what is entered goes through the same door as anybody's, and what it says is the core's."""

    def __init__(self, exercise: Exercise, kind: JobKind, by: str, profile: Profile | None = None) -> None:
        self.profile, self.by = profile or Profile(), by
        self.job: Job = new_job("practice", kind, exercise.name, Circuit(), self.profile, by, BEGAN)
        for step, fields in known_of(exercise).items():
            self.enter(step, fields, 0.0)

    def enter(self, step: str, fields: Mapping[str, Any], time_s: float) -> None:
        """Enter fields of a step. Raises `InvalidInput` where one is not taken: a careful technician types what can be."""
        moment = at(time_s)
        changes = [Change(f"/steps/{step}/runs/0/sheet/{name}", None, value, force=True, typed_at=moment) for name, value in fields.items()]
        saved = save(self.job, changes, self.by, moment)
        for problem in saved.problems:
            raise InvalidInput(problem.message.show(), path=problem.path)
        self.job = saved.job

    def says(self, time_s: float) -> Findings:
        """What the job says at this moment."""
        return evaluate(self.job, self.profile, at(time_s))
