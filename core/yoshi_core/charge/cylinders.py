"""What a cylinder may hold, and what stays in it."""

from yoshi_core.errors import OutOfRange
from yoshi_core.properties import saturation
from yoshi_core.properties.saturation import AnyRefrigerant
from yoshi_core.units.quantities import ZERO_CELSIUS_K

WATER_KG_M3 = 999.02
FILL_SHARE = 0.80
HOT_K = 55.0 + ZERO_CELSIUS_K
FILL_K = 25.0 + ZERO_CELSIUS_K
HOT_SHARE = 0.99


def volume_m3(water_capacity_kg: float) -> float:
    """Inside volume in m³ from the stamped water capacity in kg. Raises `OutOfRange` unless above zero."""
    if not water_capacity_kg > 0:
        raise OutOfRange("The water capacity must be above zero.", value=water_capacity_kg)
    return water_capacity_kg / WATER_KG_M3


def fill_limit_kg(refrigerant: AnyRefrigerant, water_capacity_kg: float, share: float = FILL_SHARE) -> float:
    """Most net refrigerant in kg: 80 % liquid at 25 °C, and not liquid-full below 55 °C.

    Source: AHRI Guideline K (from memory). Raises `OutOfRange`.
    """
    volume = volume_m3(water_capacity_kg)
    by_fill = share * volume * saturation.liquid_density_kg_m3(refrigerant, FILL_K)
    by_heat = HOT_SHARE * volume * saturation.liquid_density_kg_m3(refrigerant, HOT_K)
    return min(by_fill, by_heat)


def heel_kg(refrigerant: AnyRefrigerant, water_capacity_kg: float, temperature_k: float) -> float:
    """Vapour in kg that cannot leave as liquid: the cylinder full of saturated vapour at a temperature in K."""
    return volume_m3(water_capacity_kg) * saturation.vapor_density_kg_m3(refrigerant, temperature_k)
