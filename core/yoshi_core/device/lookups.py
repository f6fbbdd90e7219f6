"""What is looked up and compared without a job, and the picture with a job's readings on it."""

from typing import Any

from yoshi_core import refrigerants
from yoshi_core.device import jobs
from yoshi_core.document import schema
from yoshi_core.document.plate import Plate
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import pressure_enthalpy
from yoshi_core.views import lookup, ph_points, retrofit

Plain = dict[str, Any]


def refrigerants_known(_: Plain) -> list[Plain]:
    """The catalogue."""
    return lookup.catalogue()


def saturation(question: Plain) -> Plain:
    """Both directions at the site's altitude, of `name`."""
    typed = (question[part] for part in ("pressure", "temperature", "altitude", "gauge", "units"))
    return lookup.saturation_page(question["name"], *typed)


def chart(question: Plain) -> Plain:
    """The pressure–enthalpy picture of `name`, with the readings of a job on it where one is given."""
    found = refrigerants.get(question["name"])
    points = ph_points.points_of(jobs.job_of(question), found.name) if question.get("job") else ()
    return {
        "chart": schema.dump_full(pressure_enthalpy.chart(found.name, jobs.system_of(question))),
        "points": schema.dump_full(points),
    }


def compare(question: Plain) -> Any:
    """Every other refrigerant in the system of this `plate`, at the conditions `asked`."""
    plate = schema.load(Plate, question["plate"], "/plate")
    profile = schema.load(Profile, question.get("profile") or {}, "/profile")
    return schema.dump_full(retrofit.table_of(plate, profile, question["asked"], jobs.system_of(question)))
