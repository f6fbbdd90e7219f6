"""Pressure controls under another refrigerant: the same coil temperature at another pressure.

A coil's temperature is its mean (evaporator 0.6 dew and 0.4 bubble, condenser halves): a control that holds a box or a
condenser by pressure then holds it where it did. Common practice, no source.
"""

from yoshi_core.properties import saturation
from yoshi_core.properties.atmosphere import GaugeReference, absolute_pa
from yoshi_core.properties.cycle import CONDENSER_DEW_SHARE, EVAPORATOR_DEW_SHARE, mean_pressure_pa

LOW_SIDE = frozenset({"low_cut_out", "low_cut_in", "evaporator"})


def coil_k(refrigerant: str, gauge_pa: float, low_side: bool, altitude_m: float, reference: GaugeReference) -> float:
    """Mean coil temperature in K at a gauge pressure in Pa. Raises `OutOfRange` outside the tables."""
    share = EVAPORATOR_DEW_SHARE if low_side else CONDENSER_DEW_SHARE
    return saturation.mean_temperature_k(refrigerant, absolute_pa(gauge_pa, reference, altitude_m), share)


def gauge_pa(refrigerant: str, mean_k: float, low_side: bool, altitude_m: float, reference: GaugeReference) -> float:
    """Gauge pressure in Pa at which a coil of this refrigerant has that mean temperature in K. Raises `OutOfRange` outside the tables."""
    share = EVAPORATOR_DEW_SHARE if low_side else CONDENSER_DEW_SHARE
    return mean_pressure_pa(refrigerant, mean_k, share) - absolute_pa(0.0, reference, altitude_m)


def changed_pa(old: str, new: str, was_pa: float, low_side: bool, altitude_m: float, reference: GaugeReference) -> tuple[float, float]:
    """What a control set at a gauge pressure for the old refrigerant is set to for the new: pressure in Pa, and the coil's mean in K.

    Raises `OutOfRange` outside either table, `UnknownRefrigerant` without one.
    """
    mean_k = coil_k(old, was_pa, low_side, altitude_m, reference)
    return gauge_pa(new, mean_k, low_side, altitude_m, reference), mean_k
