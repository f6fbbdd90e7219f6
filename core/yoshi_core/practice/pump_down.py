"""Pumping down: the liquid valve is shut, the compressor takes what is on the low side, and it stays in the condenser.

Lumped as the rest of the rig: while liquid boils on the low side its pressure hardly falls; then it falls with the gas that is left. The
high side stands at what its air condenses it at, higher the more is still coming. Signs and order are right; the minutes are common practice.
"""

from math import exp

from yoshi_core.errors import InvalidInput
from yoshi_core.rig.balance import volumetric_efficiency
from yoshi_core.rig.fluid import fluid
from yoshi_core.rig.unit import Inventory, Unit, Weather

LAG_S, BACK_S = 8.0, 240.0
FULL = 0.92  # a condenser fuller of liquid than this has no room to condense in
STOPPED_K = 1.0
RUNS_K = 9.0
LEAST_PA = 2_000.0


class PumpDown:
    """What is shut off on each side, kg; `suction_open` tells whether the compressor is still open to the low side."""

    def __init__(self, unit: Unit, weather: Weather, held: Inventory, charge_kg: float, suction_pa: float, liquid_pa: float) -> None:
        self.unit, self.weather, self.known = unit, weather, fluid(unit.refrigerant)
        self.high_kg = charge_kg * (held.condenser + held.receiver) / held.total_kg
        self.low_kg = charge_kg - self.high_kg
        self.suction_pa, self.liquid_pa = suction_pa, liquid_pa
        self.boiling_pa = suction_pa
        self.suction_open = True
        cold = unit.indoor if weather.mode == "cooling" else unit.outdoor
        self.low_m3 = cold.volume_m3 + unit.liquid_line_m3 + unit.suction_line_m3 + unit.shell_m3 + unit.accumulator_m3
        self.high_m3 = unit.gas_side_m3 - self.low_m3
        self.vacuum_s = 0.0

    @property
    def passes_cut_out(self) -> bool:
        """Whether the condenser is full, or its pressure past the high cut-out."""
        return self.liquid_pa >= self.unit.high_cut_out_pa

    def step(self, seconds: float, *, running: bool) -> None:
        """Let time pass, the compressor running or not."""
        state = self.known.saturated(max(self.boiling_pa, self.known.lowest_pa))
        gas_kg = self.low_m3 * state.vapor_kg_m3
        low_pa = self.boiling_pa if self.low_kg >= gas_kg else max(self.boiling_pa * self.low_kg / gas_kg, LEAST_PA)
        flow = 0.0
        if running and self.suction_open:
            dense = state.vapor_kg_m3 * low_pa / self.boiling_pa
            flow = self.unit.displacement_m3_s * volumetric_efficiency(self.liquid_pa / low_pa) * dense
            moved = min(flow * seconds, self.low_kg)
            self.low_kg -= moved
            self.high_kg += moved
            if low_pa < self.weather.site_pa:
                self.vacuum_s += seconds
        elif self.suction_open and self.low_kg < gas_kg:
            moved = (gas_kg - self.low_kg) * (1.0 - exp(-seconds / BACK_S))  # back through the compressor's valves
            self.low_kg += moved
            self.high_kg -= moved
        air_k = self.weather.outdoor_k if self.weather.mode == "cooling" else self.weather.indoor_k
        lift = STOPPED_K + RUNS_K * min(flow / self.unit.mass_flow_kg_s, 1.5)
        full = self.high_kg / (self.high_m3 * self.known.liquid_kg_m3(air_k))
        high_pa = self.known.bubble_pressure_pa(air_k + lift) if full < FULL else 1.1 * self.unit.high_cut_out_pa
        self.suction_pa += (low_pa - self.suction_pa) * (1.0 - exp(-seconds / LAG_S))
        self.liquid_pa += (high_pa - self.liquid_pa) * (1.0 - exp(-seconds / (2.0 * LAG_S)))

    def turn(self, what: str, to: str) -> None:
        """Shut or open the suction valve. Raises `InvalidInput` for what is neither."""
        if what != "suction" or to not in {"shut", "open"}:
            raise InvalidInput("The suction valve is shut or open.", path="/to")
        self.suction_open = to == "open"
