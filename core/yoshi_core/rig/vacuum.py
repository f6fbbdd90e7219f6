"""A system under vacuum: pump and hose against leaks, water on the surfaces, refrigerant in the oil.

Partial pressures of air, water and refrigerant are followed apart and each step is solved exactly for
its own linear part, so a step may be as long as a reading.
"""

from dataclasses import dataclass, field
from math import exp

from yoshi_core.errors import OutOfRange
from yoshi_core.properties.atmosphere import SEA_LEVEL_PA
from yoshi_core.properties.humid_air import water_vapor_pa
from yoshi_core.properties.vapor import GAS_CONSTANT
from yoshi_core.tight_and_dry.pull_down import hose_m3_s

WATER_KG_MOL = 0.018015
WATER_RATE_M3_S = 4.0e-3
SORBED_PA_PER_KG = 0.8e6
DRY_KG = 0.05e-3
SORBED_RATE_M3_S = 6e-5
OIL_RATE_M3_S = 2.0e-4
PORT_S = 240.0
PUMP_ENDS_PA = 2.0
WET_OIL_PA = 60.0


@dataclass
class Pump:
    """A vacuum pump: speed in m³/s; without ballast or with wet oil it ends higher, in Pa."""

    speed_m3_s: float = 2.4e-3
    ends_pa: float = PUMP_ENDS_PA
    wet_oil: bool = False
    ballast: bool = False

    @property
    def ultimate_pa(self) -> float:
        """The lowest it reaches blanked off, Pa: higher with its ballast open or wet oil."""
        return WET_OIL_PA if self.wet_oil else self.ends_pa * (8.0 if self.ballast else 1.0)


@dataclass
class VacuumSystem:
    """A volume in m³ at a surface temperature in K, with what keeps it from being empty.

    `leak_pa_m3_s` is at one atmosphere outside; `water_kg` liquid or ice inside; `sorbed_kg`
    water held by surfaces and oil, of which a dry system still has a trace; `oil_refrigerant_kg` dissolved in oil, in equilibrium at `oil_pa` per kg.
    `plugged` puts the gauge behind a nearly closed port.
    """

    volume_m3: float
    surface_k: float
    leak_pa_m3_s: float = 0.0
    water_kg: float = 0.0
    sorbed_kg: float = DRY_KG
    oil_refrigerant_kg: float = 0.0
    oil_pa_per_kg: float = 60_000.0
    plugged: bool = False
    bore_m: float = 0.0095
    hose_m: float = 1.2
    site_pa: float = SEA_LEVEL_PA
    pump: Pump = field(default_factory=Pump)

    def __post_init__(self) -> None:
        if self.volume_m3 <= 0.0 or min(self.leak_pa_m3_s, self.water_kg, self.sorbed_kg, self.oil_refrigerant_kg) < 0.0:
            raise OutOfRange("The volume must be above zero; leak, water and refrigerant not below it.")
        self.air_pa, self.water_pa, self.refrigerant_pa = self.site_pa, 0.0, 0.0
        self.gauge_pa = self.site_pa
        self.pumping = False
        self.time_s = 0.0

    @property
    def pressure_pa(self) -> float:
        """Absolute pressure in the system."""
        return self.air_pa + self.water_pa + self.refrigerant_pa

    @property
    def speed_m3_s(self) -> float:
        """Pump and hose together at the pressure there is."""
        if not self.pumping:
            return 0.0
        pump = self.pump.speed_m3_s
        through = hose_m3_s(self.bore_m, self.hose_m, 0.5 * self.pressure_pa)
        return pump * through / (pump + through)

    def break_with_nitrogen(self, to_pa: float) -> None:
        """Fill with dry nitrogen to an absolute pressure in Pa; it takes up part of the water as it warms."""
        self.pumping = False
        self.air_pa = max(to_pa - self.water_pa - self.refrigerant_pa, 0.0)

    def step(self, seconds: float) -> float:
        """Let time pass; what the gauge shows in Pa absolute, before its own faults."""
        left = seconds
        while left > 1e-9:
            part = min(left, 1.0)
            self._advance(part)
            left -= part
        return self.gauge_pa

    def _advance(self, seconds: float) -> None:
        self.time_s += seconds
        speed, volume = self.speed_m3_s, self.volume_m3
        ends = self.pump.ultimate_pa if self.pumping else 0.0
        leak = self.leak_pa_m3_s * max(1.0 - (self.pressure_pa / self.site_pa) ** 2, 0.0)
        self.air_pa = _toward(self.air_pa, speed, volume, leak + speed * ends, seconds)
        per_kg = GAS_CONSTANT * self.surface_k / WATER_KG_MOL
        self.water_pa, self.water_kg = self._from_store(
            self.water_pa, self.water_kg, WATER_RATE_M3_S, water_vapor_pa(self.surface_k), per_kg, speed, seconds
        )
        held = min(SORBED_PA_PER_KG * self.sorbed_kg, water_vapor_pa(self.surface_k))
        self.water_pa, self.sorbed_kg = self._from_store(self.water_pa, self.sorbed_kg, SORBED_RATE_M3_S, held, per_kg, 0.0, seconds)
        over = self.oil_pa_per_kg * self.oil_refrigerant_kg
        self.refrigerant_pa, self.oil_refrigerant_kg = self._from_store(
            self.refrigerant_pa, self.oil_refrigerant_kg, OIL_RATE_M3_S, over, GAS_CONSTANT * self.surface_k / 0.08, speed, seconds
        )
        lag = PORT_S if self.plugged else 0.5
        self.gauge_pa += (self.pressure_pa - self.gauge_pa) * (1.0 - exp(-seconds / lag))

    def _from_store(
        self, pressure: float, store_kg: float, rate_m3_s: float, full_pa: float, per_kg: float, speed: float, seconds: float
    ) -> tuple[float, float]:
        """A partial pressure fed by what a store gives off towards `full_pa`, and what is left in the store."""
        rate = rate_m3_s if store_kg > 0.0 or pressure > full_pa else 0.0
        after = _toward(pressure, speed + rate, self.volume_m3, rate * full_pa, seconds)
        given = rate * (full_pa - 0.5 * (pressure + after)) * seconds / per_kg
        if given > store_kg:
            after = _toward(pressure + store_kg * per_kg / self.volume_m3, speed, self.volume_m3, 0.0, seconds)
            given = store_kg
        return after, store_kg - given


def _toward(pressure: float, speed: float, volume: float, feed: float, seconds: float) -> float:
    """`V·dp/dt = feed − speed·p` solved over a step."""
    if speed <= 0.0:
        return pressure + feed / volume * seconds
    end = feed / speed
    return end + (pressure - end) * exp(-speed / volume * seconds)
