"""A refrigerant's page: catalogue facts, and saturation both ways at a site."""

from typing import Any

from yoshi_core import refrigerants
from yoshi_core.document import schema
from yoshi_core.errors import CoreError, InvalidInput
from yoshi_core.findings.verdict import Problem
from yoshi_core.message import plural, sentence, told
from yoshi_core.profile.profile import RULES
from yoshi_core.properties import saturation
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA, absolute_pa, site_pressure_pa
from yoshi_core.refrigerants.tables import table
from yoshi_core.units.quantities import FAHRENHEIT_K, ZERO_CELSIUS_K, ZERO_FAHRENHEIT_K
from yoshi_core.units.text import parse

GLIDE_AT_PA = 4 * SEA_LEVEL_PA
_TABLE_F = range(-40, 151, 10)
_TABLE_C = range(-40, 66, 5)


def catalogue() -> list[dict[str, Any]]:
    """Every refrigerant with its class, GWP, composition, glide near 4 bar absolute and table range."""
    rows = []
    for name in refrigerants.names():
        found = refrigerants.get(name)
        first_k, last_k = saturation.temperature_range_k(name)
        glide = saturation.glide_k(name, GLIDE_AT_PA)
        rows.append(
            {
                "name": name,
                "safety_class": found.safety_class,
                "gwp_ar4": found.gwp_ar4,
                "oils": list(found.oils),
                "parts": [{"name": part.name, "mass_share": part.mass_share} for part in found.parts],
                "glide_k": glide,
                "liquid_only": glide > RULES["glide.zeotrope"].default or found.is_blend,
                "first_k": first_k,
                "last_k": last_k,
                "stands_on": stands_on(found.charted),
            }
        )
    return rows


def stands_on(charted: int) -> str:
    """What a refrigerant's tables were held against, in words."""
    if charted == 0:
        return sentence("no published service pressure; its boiling point alone, from memory")
    said = plural(
        charted,
        "published pressure charts, one value from memory, and its boiling point",
        "published pressure charts, {n} values from memory, and its boiling point",
    )
    return said.show()


def saturation_page(name: str, pressure: str, temperature: str, altitude: str, gauge: str, units: str = "us") -> dict[str, Any]:
    """Saturation of one refrigerant at a typed pressure and a typed temperature; a bad entry becomes a problem beside the rest.

    Raises `UnknownRefrigerant`, or `InvalidInput` for an unknown gauge.
    """
    if gauge not in {"vented", "sealed"}:
        raise InvalidInput("A gauge is vented or sealed.", path="/gauge")
    found = refrigerants.get(name)
    problems: list[Problem] = []
    altitude_m = _read("altitude", altitude, "m", "/altitude", problems) or 0.0
    try:
        site = site_pressure_pa(altitude_m)
    except CoreError as error:
        problems.append(Problem("/altitude", error.code, told(error)))
        altitude_m, site = 0.0, SEA_LEVEL_PA
    zero = SEA_LEVEL_PA if gauge == "sealed" else absolute_pa(0.0, "vented", altitude_m)
    page: dict[str, Any] = {
        "refrigerant": found.name,
        "site_pressure_pa": site,
        "gauge_zero_pa": zero,
        "critical_k": table(found.name).critical_temperature_k,
        "table": _rows(found.name, zero, units),
    }
    page |= _at_pressure(found.name, pressure, zero, site, units, problems)
    page |= _at_temperature(found.name, temperature, zero, units, problems)
    page["problems"] = schema.dump_full(tuple(problems))
    return page


def _read(quantity: str, text: str, unit: str, path: str, problems: list[Problem]) -> float | None:
    if not text.strip():
        return None
    try:
        return parse(quantity, text, default_unit=unit).value
    except CoreError as error:
        problems.append(Problem(path, error.code, told(error)))
        return None


def _at_pressure(name: str, text: str, zero: float, site: float, units: str, problems: list[Problem]) -> dict[str, float | None]:
    empty: dict[str, float | None] = {"bubble_k": None, "dew_k": None, "glide_k": None, "sealed_dew_k": None, "gauge_pa": None}
    gauge = _read("gauge_pressure", text, "psig" if units == "us" else "bar", "/pressure", problems)
    if gauge is None:
        return empty
    try:
        bubble, dew = saturation.bubble_temperature_k(name, gauge + zero), saturation.dew_temperature_k(name, gauge + zero)
        other = site if zero == SEA_LEVEL_PA else SEA_LEVEL_PA
        sealed = saturation.dew_temperature_k(name, gauge + other)
    except CoreError as error:
        problems.append(Problem("/pressure", error.code, told(error)))
        return empty
    return {"bubble_k": bubble, "dew_k": dew, "glide_k": dew - bubble, "sealed_dew_k": sealed, "gauge_pa": gauge}


def _at_temperature(name: str, text: str, zero: float, units: str, problems: list[Problem]) -> dict[str, float | None]:
    empty: dict[str, float | None] = dict.fromkeys(("temperature_k", "bubble_gauge_pa", "dew_gauge_pa", "liquid_kg_m3", "vapor_kg_m3"))
    kelvin = _read("temperature", text, "°F" if units == "us" else "°C", "/temperature", problems)
    if kelvin is None:
        return empty
    try:
        return {
            "temperature_k": kelvin,
            "bubble_gauge_pa": saturation.bubble_pressure_pa(name, kelvin) - zero,
            "dew_gauge_pa": saturation.dew_pressure_pa(name, kelvin) - zero,
            "liquid_kg_m3": saturation.liquid_density_kg_m3(name, kelvin),
            "vapor_kg_m3": saturation.vapor_density_kg_m3(name, kelvin),
        }
    except CoreError as error:
        problems.append(Problem("/temperature", error.code, told(error)))
        return empty


def _rows(name: str, zero: float, units: str) -> list[dict[str, float]]:
    first_k, last_k = saturation.temperature_range_k(name)
    if units == "si":
        nodes = [float(c) + ZERO_CELSIUS_K for c in _TABLE_C]
    else:
        nodes = [f * FAHRENHEIT_K + ZERO_FAHRENHEIT_K for f in _TABLE_F]
    return [
        {
            "temperature_k": kelvin,
            "bubble_gauge_pa": saturation.bubble_pressure_pa(name, kelvin) - zero,
            "dew_gauge_pa": saturation.dew_pressure_pa(name, kelvin) - zero,
        }
        for kelvin in nodes
        if first_k <= kelvin <= last_k
    ]
