"""A circuit with no refrigerant in it: air, nitrogen under pressure, or a vacuum, with what leaks, what is wet and how warm the metal is."""

from math import exp

from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.rig.nitrogen import NitrogenHold
from yoshi_core.rig.vacuum import VacuumSystem
from yoshi_core.units.display import Amount

MOST_GAUGE_PA = 4.2e6
WARMED_K = 6.0  # gas that is filled in fast is warmer than the metal; common practice, no source
DEEP_PA = 30.0
GAUGE_MOST_PA = 3_333.0  # 25,000 micron: above it such a gauge shows no figure; common practice, no source
STILL_OPEN_PA = 2_000.0
DRY_KG = 1e-4


@dataclass(frozen=True)
class Tightness:
    """What nobody sees of an open circuit: its leak in Pa·m³/s at test pressure, water inside in kg, how warm its metal is.

    The metal begins at `metal_k` (the air's where None) and is near the air's temperature after `metal_s`.
    """

    leak_pa_m3_s: float = 0.0
    water_kg: float = 0.0
    metal_k: float | None = None
    metal_s: float = 1800.0

    def __post_init__(self) -> None:
        if not (0.0 <= self.leak_pa_m3_s <= 100.0 and 0.0 <= self.water_kg <= 1.0 and self.metal_s > 0.0):
            raise OutOfRange("A leak is up to 100 Pa·m³/s and the water inside up to 1 kg.", path="/tight")


class EmptyCircuit:
    """Followed second by second; `pressure_pa` is what a gauge feels, `vacuum_pa` what a vacuum gauge on it does."""

    def __init__(self, volume_m3: float, tight: Tightness, ambient_k: float, site_pa: float, *, evacuated: bool = False) -> None:
        self.volume_m3, self.tight, self.ambient_k, self.site_pa = volume_m3, tight, ambient_k, site_pa
        self.metal_k = ambient_k if tight.metal_k is None else tight.metal_k
        self.nitrogen: NitrogenHold | None = None
        self.vacuum = self._at_rest()
        if evacuated:
            self.vacuum.air_pa = self.vacuum.gauge_pa = DEEP_PA

    def _at_rest(self) -> VacuumSystem:
        """Air of the place in it, and its water."""
        leak = self.tight.leak_pa_m3_s * 0.1  # under vacuum one atmosphere drives it, not a test's twenty
        return VacuumSystem(
            self.volume_m3, self.metal_k, leak, self.tight.water_kg, oil_refrigerant_kg=0.0, site_pa=self.site_pa, sorbed_kg=DRY_KG
        )

    @property
    def pressure_pa(self) -> float:
        """Absolute pressure of what is inside."""
        return self.vacuum.pressure_pa if self.nitrogen is None else self.nitrogen.pressure_pa

    @property
    def vacuum_pa(self) -> float | None:
        """What the vacuum gauge says; nothing while there is pressure, where its valve is shut, or more than it reads."""
        return None if self.nitrogen is not None or self.vacuum.gauge_pa > GAUGE_MOST_PA else self.vacuum.gauge_pa

    @property
    def pumping(self) -> bool:
        """Whether the pump is on it."""
        return self.vacuum.pumping

    @property
    def air_pa(self) -> float:
        """Gas inside that does not condense, as absolute pressure, Pa."""
        return self.vacuum.air_pa if self.nitrogen is None else self.nitrogen.pressure_pa

    def fill(self, gauge_pa: float) -> None:
        """Nitrogen through its regulator up to a gauge pressure. Raises `OutOfRange` above what any regulator is set to here, or while pumping."""
        if self.pumping:
            raise InvalidInput("The pump is on it. Shut it off first.", path="/what")
        if not 0.0 < gauge_pa <= MOST_GAUGE_PA:
            raise OutOfRange(
                "Nitrogen goes in from 0 to {most} here.",
                words={"most": Amount(MOST_GAUGE_PA, "gauge_pressure")},
                path="/to",
                value=gauge_pa,
            )
        if gauge_pa + self.site_pa <= self.pressure_pa:
            raise InvalidInput("There is more pressure in it already. Let it down first.", path="/to")
        warm = self.metal_k + WARMED_K
        self.nitrogen = NitrogenHold(self.volume_m3, gauge_pa + self.site_pa, self.metal_k, self.tight.leak_pa_m3_s, self.site_pa, warm)

    def let_down(self) -> None:
        """The nitrogen goes to the air; the circuit is at the place's pressure again. Some of the water went with it."""
        self.nitrogen = None
        water = self.vacuum.water_kg
        self.vacuum = self._at_rest()
        self.vacuum.water_kg = water

    def pump(self, *, on: bool) -> None:
        """The pump on it, or valved off. Raises `InvalidInput` against pressure."""
        if on and self.nitrogen is not None and self.pressure_pa > 1.05 * self.site_pa:
            raise InvalidInput("There is nitrogen under pressure in it. Let it down first.", path="/what")
        if on and self.nitrogen is not None:
            self.let_down()
        self.vacuum.pumping = on

    def step(self, seconds: float) -> None:
        """Let time pass; the metal goes towards the air's temperature."""
        self.metal_k += (self.ambient_k - self.metal_k) * (1.0 - exp(-seconds / self.tight.metal_s))
        if self.nitrogen is not None:
            self.nitrogen.step(seconds, self.metal_k)
        else:
            self.vacuum.surface_k = self.metal_k
            self.vacuum.step(seconds)
