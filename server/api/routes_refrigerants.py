"""The catalogue and saturation look-ups; every number is the core's."""

from typing import Any

from django.http import HttpRequest
from ninja import Router

from api.shapes import RefrigerantRow, SaturationState
from yoshi_core.lookup import catalogue, saturation_page

router = Router()


@router.get("", response=list[RefrigerantRow])
def list_refrigerants(request: HttpRequest) -> list[dict[str, Any]]:
    """The catalogue."""
    return catalogue()


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
