"""Humid air through a coil: enthalpy, and what leaves it.

Properties come from PsychroLib (ASHRAE Handbook of Fundamentals); saturated enthalpy is kept in a
table every half kelvin for each pressure, for a solver asks for it thousands of times.
"""

from functools import lru_cache
from math import exp

import psychrolib

from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.units.quantities import ZERO_CELSIUS_K

psychrolib.SetUnitSystem(psychrolib.SI)
HEAT_J_KG_K = 1006.0
_FIRST_C, _LAST_C, _STEP_C = -60.0, 90.0, 0.5


@dataclass(frozen=True)
class Air:
    """Air on its way into a coil: dry bulb in K, enthalpy in J/kg, humidity ratio in kg/kg, density in kg/m³, pressure in Pa."""

    dry_bulb_k: float
    enthalpy_j_kg: float
    humidity: float
    density_kg_m3: float
    pressure_pa: float


@lru_cache(maxsize=4096)
def air(dry_bulb_k: float, wet_bulb_k: float, pressure_pa: float) -> Air:
    """Air of a dry and a wet bulb in K at a pressure in Pa. Raises `OutOfRange` for a wet bulb above the dry bulb."""
    if wet_bulb_k > dry_bulb_k + 1e-9:
        raise OutOfRange("A wet bulb cannot be above the dry bulb.", value=wet_bulb_k, high=dry_bulb_k)
    dry, wet = dry_bulb_k - ZERO_CELSIUS_K, min(wet_bulb_k, dry_bulb_k) - ZERO_CELSIUS_K
    humidity = psychrolib.GetHumRatioFromTWetBulb(dry, wet, pressure_pa)
    return Air(
        dry_bulb_k,
        psychrolib.GetMoistAirEnthalpy(dry, humidity),
        humidity,
        psychrolib.GetMoistAirDensity(dry, humidity, pressure_pa),
        pressure_pa,
    )


@lru_cache(maxsize=256)
def dry_air(dry_bulb_k: float, pressure_pa: float) -> Air:
    """Air at half its saturation humidity, for a coil that stays dry."""
    dry = dry_bulb_k - ZERO_CELSIUS_K
    humidity = psychrolib.GetHumRatioFromRelHum(dry, 0.5, pressure_pa)
    density = psychrolib.GetMoistAirDensity(dry, humidity, pressure_pa)
    return Air(dry_bulb_k, psychrolib.GetMoistAirEnthalpy(dry, humidity), humidity, density, pressure_pa)


@lru_cache(maxsize=16)
def _saturated_table(pressure_pa: float) -> list[float]:
    count = int((_LAST_C - _FIRST_C) / _STEP_C) + 1
    return [psychrolib.GetSatAirEnthalpy(_FIRST_C + n * _STEP_C, pressure_pa) for n in range(count)]


def saturated_enthalpy(temperature_k: float, pressure_pa: float) -> float:
    """Enthalpy in J/kg of saturated air from −60 to 90 °C. Raises `OutOfRange` outside."""
    table = _saturated_table(pressure_pa)
    place = (temperature_k - ZERO_CELSIUS_K - _FIRST_C) / _STEP_C
    if not 0.0 <= place <= len(table) - 1:
        raise OutOfRange("Saturated air is known from −60 to 90 °C.", value=temperature_k)
    index = min(int(place), len(table) - 2)
    return table[index] + (place - index) * (table[index + 1] - table[index])


def saturated_temperature_k(enthalpy_j_kg: float, pressure_pa: float) -> float:
    """Temperature in K at which saturated air has an enthalpy in J/kg."""
    table = _saturated_table(pressure_pa)
    low, high = 0, len(table) - 1
    while high - low > 1:
        middle = (low + high) // 2
        if table[middle] <= enthalpy_j_kg:
            low = middle
        else:
            high = middle
    share = (enthalpy_j_kg - table[low]) / (table[low + 1] - table[low])
    return ZERO_CELSIUS_K + _FIRST_C + _STEP_C * (low + share)


def leaving(inlet: Air, heat_w: float, flow_kg_s: float, air_ua_w_k: float) -> tuple[float, float]:
    """Dry bulb in K of air that gave `heat_w` to a coil, and the sensible share of that heat.

    The coil is one wet surface at the temperature that gives this total; air leaves towards it. Where
    that would be more sensible than total, the coil is dry and all of it is sensible.
    """
    if heat_w <= 0.0 or flow_kg_s <= 0.0:
        return inlet.dry_bulb_k, 1.0
    reach = 1.0 - exp(-air_ua_w_k / (flow_kg_s * HEAT_J_KG_K))
    surface = saturated_temperature_k(inlet.enthalpy_j_kg - heat_w / (flow_kg_s * reach), inlet.pressure_pa)
    drop = reach * (inlet.dry_bulb_k - surface)
    most = heat_w / (flow_kg_s * HEAT_J_KG_K)
    drop = min(max(drop, 0.0), most)
    return inlet.dry_bulb_k - drop, drop / most
