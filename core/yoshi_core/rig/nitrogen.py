"""A closed system under dry nitrogen: real-gas pressure, metal that warms and cools, and leaks."""

from dataclasses import dataclass
from math import exp

from yoshi_core.errors import OutOfRange
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA
from yoshi_core.properties.vapor import GAS_CONSTANT

GAS_S = 120.0
LARGEST_PA = 6e6


def second_virial_m3_mol(temperature_k: float) -> float:
    """Of nitrogen. Source: Kaye & Laby, `B = 185.4 − 141.8·e^(88.7/T)` cm³/mol (from memory)."""
    return (185.4 - 141.8 * exp(88.7 / temperature_k)) * 1e-6


THIRD_VIRIAL_M6_MOL2 = 1.45e-9


def pressure_pa(moles: float, volume_m3: float, temperature_k: float) -> float:
    """Absolute pressure in Pa of nitrogen by its virial equation to the third coefficient."""
    density = moles / volume_m3
    return (
        GAS_CONSTANT * temperature_k * density * (1.0 + second_virial_m3_mol(temperature_k) * density + THIRD_VIRIAL_M6_MOL2 * density**2)
    )


def moles(pressure: float, volume_m3: float, temperature_k: float) -> float:
    """Amount in mol that gives an absolute pressure in Pa, up to 6 MPa. Raises `OutOfRange`."""
    if not 0.0 <= pressure <= LARGEST_PA:
        raise OutOfRange("Nitrogen is known here up to 6 MPa absolute.", value=pressure, high=LARGEST_PA)
    low, high = 0.0, 2.0 * pressure * volume_m3 / (GAS_CONSTANT * temperature_k) + 1e-12
    for _ in range(60):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if pressure_pa(middle, volume_m3, temperature_k) < pressure else (low, middle)
    return 0.5 * (low + high)


@dataclass
class NitrogenHold:
    """A volume in m³ filled to an absolute pressure in Pa at a metal temperature in K.

    `leak_pa_m3_s` is the gas that leaves, in Pa·m³/s, at the pressure it was filled to; it falls with
    the difference of squares, as laminar flow does. `gas_k` starts apart where filling warmed it.
    """

    volume_m3: float
    filled_pa: float
    metal_k: float
    leak_pa_m3_s: float = 0.0
    site_pa: float = SEA_LEVEL_PA
    gas_k: float | None = None

    def __post_init__(self) -> None:
        if self.volume_m3 <= 0.0 or self.leak_pa_m3_s < 0.0:
            raise OutOfRange("The volume must be above zero and a leak not below it.")
        self.at_k = self.metal_k if self.gas_k is None else self.gas_k
        self.moles = moles(self.filled_pa, self.volume_m3, self.at_k)
        self.time_s = 0.0

    @property
    def pressure_pa(self) -> float:
        """Absolute pressure now, Pa."""
        return pressure_pa(self.moles, self.volume_m3, self.at_k)

    def step(self, seconds: float, metal_k: float | None = None) -> float:
        """Let time pass, the metal at a temperature in K; the absolute pressure in Pa after it."""
        self.time_s += seconds
        if metal_k is not None:
            self.metal_k = metal_k
        self.at_k += (self.metal_k - self.at_k) * (1.0 - exp(-seconds / GAS_S))
        driving, at_first = (max(p * p - self.site_pa**2, 0.0) for p in (self.pressure_pa, self.filled_pa))
        squares = driving / at_first if at_first > 1e6 else 0.0
        lost = self.leak_pa_m3_s * squares / (GAS_CONSTANT * self.at_k) * seconds
        self.moles = max(self.moles - lost, 0.0)
        return self.pressure_pa
