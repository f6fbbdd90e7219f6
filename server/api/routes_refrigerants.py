"""The catalogue and saturation look-ups; every number is the core's."""

from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from api.core_types import CoreJobPoints, CorePhChart
from api.shapes import RefrigerantRow, SaturationState
from api.who import person_of
from jobs.queries import one_job
from jobs.store import read
from yoshi_core import refrigerants
from yoshi_core.document import schema
from yoshi_core.properties import pressure_enthalpy
from yoshi_core.views.lookup import catalogue, saturation_page
from yoshi_core.views.ph_points import points_of

router = Router()


class PhState(Schema):
    chart: CorePhChart
    points: list[CoreJobPoints]


@router.get("", response=list[RefrigerantRow])
def list_refrigerants(request: HttpRequest) -> list[dict[str, Any]]:
    """The catalogue."""
    return catalogue()


@router.get("/{name}/chart", response=PhState)
def get_chart(request: HttpRequest, name: str, job: str = "", units: str = "us") -> dict[str, Any]:
    """The pressure–enthalpy picture of a refrigerant, with a job's readings on it where one is named."""
    found = refrigerants.get(name)
    points = points_of(read(one_job(person_of(request), job)), found.name) if job else ()
    return {
        "chart": schema.dump_full(pressure_enthalpy.chart(found.name, "si" if units == "si" else "us")),
        "points": [schema.dump_full(row) for row in points],
    }


@router.get("/{name}/saturation", response=SaturationState)
def get_saturation(
    request: HttpRequest,
    name: str,
    pressure: str = "",
    temperature: str = "",
    altitude: str = "0 m",
    gauge: str = "vented",
    units: str = "us",
) -> dict[str, Any]:
    """Both directions at the site's altitude: bubble and dew at a pressure, pressures at a temperature."""
    return saturation_page(name, pressure, temperature, altitude, gauge, units)
