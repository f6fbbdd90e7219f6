"""Saturated states: dew and bubble temperatures and pressures, liquid and vapour at saturation.

Looked up in tables made from CoolProp (see `core/tools/build_tables.py`), every 0.5 K; ln p is
interpolated linearly between rows, which is within 0.001 K of the library. Pressures are absolute.
Every function raises `OutOfRange` outside the table and `UnknownRefrigerant` without one.
"""

import math
from bisect import bisect_right
from math import log

from yoshi_core.errors import OutOfRange
from yoshi_core.refrigerants import Refrigerant
from yoshi_core.refrigerants.tables import TABLES, Table, table
from yoshi_core.units.display import Amount

AnyRefrigerant = Refrigerant | str


def dew_temperature_k(refrigerant: AnyRefrigerant, pressure_pa: float) -> float:
    """Temperature in K at which the last liquid boils off at an absolute pressure in Pa; superheat counts from it."""
    found = TABLES[refrigerant] if type(refrigerant) is str else table(refrigerant)
    return _temperature(found, found.ln_dew, pressure_pa)


def bubble_temperature_k(refrigerant: AnyRefrigerant, pressure_pa: float) -> float:
    """Temperature in K at which the first bubble forms at an absolute pressure in Pa; subcooling counts from it."""
    found = TABLES[refrigerant] if type(refrigerant) is str else table(refrigerant)
    return _temperature(found, found.ln_bubble, pressure_pa)


def mean_temperature_k(refrigerant: AnyRefrigerant, pressure_pa: float, dew_share: float) -> float:
    """A coil's mean saturation in K at an absolute pressure in Pa, `dew_share` of it dew and the rest bubble.

    Half for a condenser; 0.6 for an evaporator, which starts two-phase. Raises `OutOfRange` outside the tables.
    """
    return dew_share * dew_temperature_k(refrigerant, pressure_pa) + (1.0 - dew_share) * bubble_temperature_k(refrigerant, pressure_pa)


def dew_pressure_pa(refrigerant: AnyRefrigerant, temperature_k: float) -> float:
    """Absolute dew pressure in Pa at a temperature in K."""
    found = table(refrigerant)
    return math.exp(_at(found, found.ln_dew, temperature_k))


def bubble_pressure_pa(refrigerant: AnyRefrigerant, temperature_k: float) -> float:
    """Absolute bubble pressure in Pa at a temperature in K."""
    found = table(refrigerant)
    return math.exp(_at(found, found.ln_bubble, temperature_k))


def glide_k(refrigerant: AnyRefrigerant, pressure_pa: float) -> float:
    """Dew less bubble temperature in K at one absolute pressure in Pa."""
    return dew_temperature_k(refrigerant, pressure_pa) - bubble_temperature_k(refrigerant, pressure_pa)


def liquid_density_kg_m3(refrigerant: AnyRefrigerant, temperature_k: float) -> float:
    """Density in kg/m³ of saturated liquid (on the bubble line) at a temperature in K."""
    found = table(refrigerant)
    return _at(found, found.liquid_kg_m3, temperature_k)


def vapor_density_kg_m3(refrigerant: AnyRefrigerant, temperature_k: float) -> float:
    """Density in kg/m³ of saturated vapour (on the dew line) at a temperature in K."""
    found = table(refrigerant)
    return _at(found, found.vapor_kg_m3, temperature_k)


def liquid_enthalpy_j_kg(refrigerant: AnyRefrigerant, temperature_k: float) -> float:
    """Enthalpy in J/kg of saturated liquid; 200 kJ/kg at 0 °C."""
    found = table(refrigerant)
    return _at(found, found.liquid_j_kg, temperature_k)


def temperature_range_k(refrigerant: AnyRefrigerant) -> tuple[float, float]:
    """First and last temperature of the table in K."""
    found = table(refrigerant)
    return found.first_k, found.last_k


def _temperature(found: Table, ln_pressures: list[float], pressure_pa: float) -> float:
    if not pressure_pa > 0.0:
        raise OutOfRange(
            "An absolute pressure of {pressure} is not above zero; check the gauge and the altitude.",
            words={"pressure": Amount(pressure_pa, "gauge_pressure_delta")},
            value=pressure_pa,
        )
    wanted = log(pressure_pa)
    if not ln_pressures[0] <= wanted <= ln_pressures[-1]:
        low, high = math.exp(ln_pressures[0]), math.exp(ln_pressures[-1])
        raise OutOfRange(
            "{pressure} absolute is outside the {name} table, {low} to {high} absolute; check the reading and the refrigerant.",
            words={
                "pressure": Amount(pressure_pa, "gauge_pressure_delta"),
                "name": found.name,
                "low": Amount(low, "gauge_pressure_delta"),
                "high": Amount(high, "gauge_pressure_delta"),
            },
            value=pressure_pa,
            low=low,
            high=high,
        )
    upper = bisect_right(ln_pressures, wanted, 1, len(ln_pressures) - 1)
    below = ln_pressures[upper - 1]
    return found.first_k + found.step_k * (upper - 1 + (wanted - below) / (ln_pressures[upper] - below))


def _at(found: Table, column: list[float], temperature_k: float) -> float:
    place = (temperature_k - found.first_k) / found.step_k
    if not 0.0 <= place <= len(column) - 1:
        raise OutOfRange(
            "{temperature} is outside the {name} table, {first} to {last}.",
            words={
                "temperature": Amount(temperature_k, "temperature"),
                "name": found.name,
                "first": Amount(found.first_k, "temperature"),
                "last": Amount(found.last_k, "temperature"),
            },
            value=temperature_k,
            low=found.first_k,
            high=found.last_k,
        )
    index = min(int(place), len(column) - 2)
    share = place - index
    return column[index] + share * (column[index + 1] - column[index])
