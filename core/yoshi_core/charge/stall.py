"""Where liquid stops running into an evacuated system by itself, the unit off.

While any part of the system is colder than the cylinder, vapour condenses there and liquid keeps coming. Where the
whole system is as warm as the cylinder or warmer it stops as soon as the system's pressure is the cylinder's: then
the system is full of vapour at that pressure and its own temperature. What its oil takes up comes on top, within the band.
"""

from yoshi_core.charge.volume import Volume
from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.properties import saturation, vapor
from yoshi_core.properties.saturation import AnyRefrigerant

NEAR_K = 0.05
UNSURE_K = 3.0


@dataclass(frozen=True)
class Stall:
    """What is in the system in kg when the flow stops, and the band of it by what is not known of volume and temperatures."""

    kg: float
    low_kg: float
    high_kg: float


def stall_kg(refrigerant: AnyRefrigerant, system_m3: float, system_k: float, cylinder_k: float) -> float | None:
    """Mass in kg at which liquid stops, `V·ρ_v(p_sat(T_cylinder), T_system)`; None where the system is colder and it does not stop.

    `system_k` is the coldest part of the system. Raises `OutOfRange` for a volume of nothing or temperatures outside the tables.
    """
    if not system_m3 > 0.0:
        raise OutOfRange("A system has a volume above zero.", value=system_m3)
    if system_k < cylinder_k - NEAR_K:
        return None
    pressure = saturation.dew_pressure_pa(refrigerant, cylinder_k)
    return system_m3 * vapor.density_kg_m3(refrigerant, pressure, max(system_k, cylinder_k))


def estimate(refrigerant: AnyRefrigerant, volume: Volume, system_k: float, cylinder_k: float) -> Stall | None:
    """The stall with its band: the volume's own, and a few kelvin on either temperature. None where it does not stop."""
    middle = stall_kg(refrigerant, volume.m3, system_k, cylinder_k)
    if middle is None:
        return None
    colder = max(cylinder_k - UNSURE_K, 200.0)
    low = stall_kg(refrigerant, volume.m3 / volume.band, system_k, colder)
    high = stall_kg(refrigerant, volume.m3 * volume.band, max(system_k, cylinder_k + UNSURE_K), cylinder_k + UNSURE_K)
    return Stall(middle, min(low if low is not None else middle, middle), max(high if high is not None else middle, middle))
