"""A closed system under dry nitrogen: the pressure the metal's temperature asks for, and the leak a drop means."""

from dataclasses import dataclass
from math import sqrt

from yoshi_core.errors import OutOfRange

BAR_PA = 1e5
AT_K = 295.0
REAL_GAS = 8.1e-6
LOW_K, HIGH_K = 240.0, 340.0
HIGHEST_PA = 60e5


@dataclass(frozen=True)
class Drop:
    """What was lost beyond the metal's temperature: `drop_pa` with its expanded uncertainty, and the leak in Pa·m³/s.

    `least_pa_m3_s` is the smallest leak this hold could have seen.
    """

    expected_pa: float
    drop_pa: float
    uncertainty_pa: float
    leak_pa_m3_s: float
    least_pa_m3_s: float

    @property
    def seen(self) -> bool:
        """Whether the drop is beyond its uncertainty."""
        return self.drop_pa > self.uncertainty_pa + 1e-6


def expected_pa(start_pa: float, start_k: float, end_k: float) -> float:
    """Absolute pressure in Pa of tight nitrogen when its metal goes from one temperature in K to another.

    Real isochore, `p·T₂/T₁·[1 + 8.1e-6·p·ΔT·(295/T₁)^2.4·(295/T₂)^1.2]`, p in bar: within 0.1 psi of the reference
    equation over 20 to 600 psig and 0 to 120 °F. Raises `OutOfRange` outside 240 to 340 K or 60 bar.
    """
    for kelvin in (start_k, end_k):
        if not LOW_K <= kelvin <= HIGH_K:
            raise OutOfRange("Nitrogen's rule is true for metal from −28 to 152 °F.", value=kelvin, low=LOW_K, high=HIGH_K)
    if not 0.0 < start_pa <= HIGHEST_PA:
        raise OutOfRange("Nitrogen's rule is true up to 60 bar absolute.", value=start_pa, high=HIGHEST_PA)
    real = REAL_GAS * start_pa / BAR_PA * (end_k - start_k) * (AT_K / start_k) ** 2.4 * (AT_K / end_k) ** 1.2
    return start_pa * end_k / start_k * (1.0 + float(real))


def drop(
    start_pa: float, start_k: float, end_pa: float, end_k: float, lasted_s: float, volume_m3: float, step_pa: float, metal_u_k: float
) -> Drop:
    """The drop between two readings at absolute pressures in Pa, and what leak it means in this volume in m³.

    `step_pa` is the gauge's display step, `metal_u_k` the standard uncertainty of the metal's temperature.
    `U = 2·√(r²/6 + 2·(p·u_T/T)²)`, at least one step. Raises `OutOfRange`.
    """
    if not (lasted_s > 0.0 and volume_m3 > 0.0):
        raise OutOfRange("A leak needs a time and a volume above zero.", value=min(lasted_s, volume_m3))
    expected = expected_pa(start_pa, start_k, end_k)
    spread = max(2.0 * sqrt(step_pa**2 / 6.0 + 2.0 * (start_pa * metal_u_k / start_k) ** 2), step_pa)
    lost = expected - end_pa
    return Drop(expected, lost, spread, max(lost, 0.0) * volume_m3 / lasted_s, spread * volume_m3 / lasted_s)
