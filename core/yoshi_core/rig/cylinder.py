"""A refrigerant cylinder on its scale: what leaves it cools it, what comes in warms it."""

from dataclasses import dataclass
from math import sqrt

from yoshi_core.charge.cylinders import volume_m3
from yoshi_core.errors import InvalidInput
from yoshi_core.rig.fluid import Fluid, fluid

SHELL_J_K = 4500.0
AIR_UA_W_K = 2.5
WATER_UA_W_K = 60.0
WATER_K = 313.0
LIQUID_HEAT_J_KG_K = 1500.0
HOSE_LIQUID_M2 = 0.7e-6
HOSE_VAPOR_M2 = 6.0e-6
NEARLY_EMPTY_KG = 0.01


@dataclass
class Cylinder:
    """A cylinder at a moment: net refrigerant and tare in kg, water capacity in kg, temperature in K.

    `in_water` stands it in warm water. Changes as it is drawn from or filled.
    """

    refrigerant: str
    net_kg: float
    tare_kg: float
    water_capacity_kg: float
    temperature_k: float
    ambient_k: float
    in_water: bool = False

    def __post_init__(self) -> None:
        if self.net_kg < 0.0 or self.tare_kg <= 0.0:
            raise InvalidInput("A cylinder holds no less than nothing and weighs something itself.")
        self.volume_m3 = volume_m3(self.water_capacity_kg)
        self.known: Fluid = fluid(self.refrigerant)

    @property
    def gross_kg(self) -> float:
        """What the scale reads with it on, kg."""
        return self.net_kg + self.tare_kg

    @property
    def vapor_kg(self) -> float:
        """What is vapour when the rest is liquid."""
        state = self.known.saturated(self.known.dew_pressure_pa(self.temperature_k))
        room = max(self.volume_m3 - self.net_kg / self.known.liquid_kg_m3(self.temperature_k), 0.0)
        return min(room * state.vapor_kg_m3, self.net_kg)

    @property
    def has_liquid(self) -> bool:
        """Whether it holds more than vapour alone."""
        return self.net_kg > self.volume_m3 * self.known.saturated(self.known.dew_pressure_pa(self.temperature_k)).vapor_kg_m3

    @property
    def pressure_pa(self) -> float:
        """Absolute pressure: saturation at its temperature, less when only vapour is left."""
        full = self.known.dew_pressure_pa(self.temperature_k)
        dense = self.volume_m3 * self.known.saturated(full).vapor_kg_m3
        return full if self.net_kg >= dense else max(full * self.net_kg / dense, 1.0)

    def flow_kg_s(self, back_pa: float, phase: str, opening: float) -> float:
        """What a hose passes against a pressure, liquid or vapour; zero where the cylinder's pressure does not beat it."""
        pressure = self.pressure_pa
        head = pressure - back_pa
        if head <= 0.0 or opening <= 0.0 or self.net_kg <= NEARLY_EMPTY_KG:
            return 0.0
        if phase == "liquid" and self.has_liquid:
            return opening * HOSE_LIQUID_M2 * sqrt(2.0 * self.known.liquid_kg_m3(self.temperature_k) * head)
        dense = self.known.saturated(max(pressure, self.known.lowest_pa)).vapor_kg_m3
        return opening * HOSE_VAPOR_M2 * sqrt(2.0 * dense * min(head, 0.5 * pressure))

    def step(self, seconds: float, out_kg_s: float = 0.0, phase: str = "liquid", in_kg_s: float = 0.0, in_k: float | None = None) -> None:
        """Let time pass: mass out as liquid or vapour, mass in at a temperature, heat from what it stands in."""
        state = self.known.saturated(self.known.dew_pressure_pa(self.temperature_k))
        as_vapor = phase == "vapor" or not self.has_liquid
        boiled = out_kg_s if as_vapor else out_kg_s * state.vapor_kg_m3 / state.liquid_kg_m3
        ua, around = (WATER_UA_W_K, WATER_K) if self.in_water else (AIR_UA_W_K, self.ambient_k)
        heat = ua * (around - self.temperature_k) - boiled * state.latent_j_kg
        if in_kg_s and in_k is not None:
            heat += in_kg_s * LIQUID_HEAT_J_KG_K * (in_k - self.temperature_k)
        holds = SHELL_J_K + max(self.net_kg, 0.05) * LIQUID_HEAT_J_KG_K
        floor = self.known.first_k + 2.0
        self.temperature_k = max(self.temperature_k + heat / holds * seconds, floor)
        self.net_kg = max(self.net_kg + (in_kg_s - out_kg_s) * seconds, 0.0)
