"""Water in air and on cold surfaces. Properties come from PsychroLib (ASHRAE Handbook of Fundamentals)."""

import psychrolib

from yoshi_core.errors import OutOfRange
from yoshi_core.units.quantities import ZERO_CELSIUS_K

psychrolib.SetUnitSystem(psychrolib.SI)
LOW_K, HIGH_K = 173.15, 473.15


def water_vapor_pa(temperature_k: float) -> float:
    """Pressure in Pa of water vapour over water, or over ice below freezing. Raises `OutOfRange` outside 173 to 473 K."""
    if not LOW_K <= temperature_k <= HIGH_K:
        raise OutOfRange("Water vapour is known from −148 to 392 °F.", value=temperature_k, low=LOW_K, high=HIGH_K)
    return float(psychrolib.GetSatVapPres(temperature_k - ZERO_CELSIUS_K))
