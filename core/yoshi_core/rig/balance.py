"""The unit's three equations at three unknowns, and everything else that follows from them.

Unknowns: ln evaporating pressure, ln condensing pressure, enthalpy at the evaporator's outlet.
Residuals: flow through the valve against the compressor's; the evaporator's outlet as the coil makes
it; the mass held against the charge.
"""

from dataclasses import dataclass
from math import exp, log, sqrt, tanh

from yoshi_core.rig.air import Air, air, dry_air
from yoshi_core.rig.coils import CoilNow, Passed, condense, evaporate
from yoshi_core.rig.fluid import Fluid, Saturated, fluid, mixed
from yoshi_core.rig.unit import Coil, Faults, Inventory, Unit, Weather
from yoshi_core.units.quantities import FAHRENHEIT_K

SUCTION_DROP = 0.02
SUCTION_UA_W_K = 4.5
SHELL_LOSS = 0.06
CRITICAL_RATIO = 0.65
VALVE_BAND_K = 3.0 * FAHRENHEIT_K
OPENING_LEAST, OPENING_MOST = 0.04, 1.25
FLOODING = 2.5
JUST_STARTED_K = 5.0
OIL_SHARE = 0.10
NON_CONDENSABLE_PA = 400e3
ENTHALPY_SCALE = 1e5
SEPARATION_K = 0.25
LARGEST = 30.0


def volumetric_efficiency(ratio: float) -> float:
    """Of a positive-displacement compressor at a pressure ratio; at least 0.05."""
    return max(1.03 - 0.04 * (ratio - 1.0), 0.05)


def isentropic_efficiency(ratio: float) -> float:
    """Of a hermetic compressor at a pressure ratio, motor included."""
    return 0.68 / (1.0 + 0.02 * (ratio - 2.7) ** 2)


@dataclass(slots=True)
class Point:
    """Every intermediate of one evaluation; pressures in Pa, enthalpies in J/kg, flows in kg/s."""

    low: Saturated
    suction: Saturated
    high: Saturated
    evaporator_out: float
    evaporator_made: float
    suction_in: float
    discharge: float
    liquid: float
    flow: float
    valve_flow: float
    suction_gain_w: float
    shell_loss_w: float
    power_w: float
    opening: float
    valve_in_pa: float
    liquid_pa: float
    inventory: Inventory
    residuals: tuple[float, float, float]
    condensed: Passed
    boiled: Passed


class Balance:
    """One unit in one weather with its faults, ready to be evaluated."""

    def __init__(self, unit: Unit, weather: Weather, faults: Faults) -> None:
        self.unit, self.weather, self.faults = unit, weather, faults
        self.fluid: Fluid = fluid(unit.refrigerant)
        if faults.other_refrigerant and faults.other_share:
            self.fluid = mixed(unit.refrigerant, faults.other_refrigerant, faults.other_share)
        self.charge_kg = faults.charge_share * unit.charge_kg
        cooling = weather.mode == "cooling"
        self.wet = cooling
        self.evaporator_air: Air
        if cooling:
            warmer = max(faults.high_load_k, JUST_STARTED_K if faults.just_started else 0.0)
            self.evaporator_air = air(weather.indoor_k + warmer, weather.indoor_wet_bulb_k + 0.8 * warmer, weather.site_pa)
            self.condenser_air = dry_air(weather.outdoor_k + faults.recirculation_k, weather.site_pa)
            evaporator, condenser, self.area_m2 = unit.indoor, unit.outdoor, unit.valve_area_m2
            blown = (1.0 - faults.low_airflow, 1.0 - max(faults.dirty_condenser * 0.6, 0.93 * faults.condenser_fan_off))
        else:
            wet = weather.outdoor_wet_bulb_k
            self.evaporator_air = air(weather.outdoor_k, wet, weather.site_pa) if wet else dry_air(weather.outdoor_k, weather.site_pa)
            self.condenser_air = dry_air(weather.indoor_k + faults.high_load_k, weather.site_pa)
            evaporator, condenser, self.area_m2 = unit.outdoor, unit.indoor, unit.heating_area_m2
            blown = (1.0 - 0.93 * faults.condenser_fan_off, 1.0 - faults.low_airflow)
            self.wet = bool(wet)
        iced = 1.0 - faults.iced_coil
        self.evaporator = _coil_now(evaporator, blown[0] * iced, iced, self.evaporator_air)
        self.condenser = _coil_now(condenser, blown[1], 1.0 - faults.dirty_condenser, self.condenser_air)
        if unit.metering != "txv":
            self.area_m2 *= faults.orifice_scale
        drop = unit.condensing_pa - unit.evaporating_pa
        blocked = faults.liquid_restriction
        self.restriction = blocked / (1.0 - blocked) * 0.25 * drop / unit.mass_flow_kg_s**2
        self.gas_pa = NON_CONDENSABLE_PA * faults.non_condensables
        self.suction_ambient_k = weather.outdoor_k
        self.evaluations = 0

    def opening(self, superheat_k: float) -> float:
        """How far the metering device is open, 1 at the design point."""
        if self.unit.metering != "txv":
            return 1.0
        middle, half = 0.5 * (OPENING_MOST + OPENING_LEAST), 0.5 * (OPENING_MOST - OPENING_LEAST)
        at = (superheat_k - self.unit.superheat_setting_k) / VALVE_BAND_K
        position = middle + half * tanh(at)
        faults = self.faults
        if faults.valve_starving:
            position = min(position, OPENING_MOST) * (1.0 - faults.valve_starving)
        if faults.valve_flooding:
            position += faults.valve_flooding * (FLOODING - position)
        return position

    def valve_flow(self, state_in: Saturated, in_j_kg: float, low_pa: float, opening: float) -> float:
        """Flow in kg/s through the metering device from an inlet state to a pressure below it."""
        known = self.fluid
        inlet_k = known.temperature_k(state_in, min(in_j_kg, state_in.vapor_j_kg))
        flashing = CRITICAL_RATIO * known.bubble_pressure_pa(min(inlet_k, state_in.bubble_k))
        back = 0.5 * low_pa + 0.5 * max(low_pa, flashing)
        head = state_in.pressure_pa - back
        if head <= 0.0:
            return 1e-9
        density = known.density(state_in, in_j_kg)
        return opening * self.area_m2 * sqrt(2.0 * density * head)

    def point(self, x: tuple[float, float, float]) -> Point:
        """Everything at the unknowns. Raises `OutOfRange` where they leave the tables."""
        self.evaluations += 1
        unit, known, faults = self.unit, self.fluid, self.faults
        low = known.saturated(exp(x[0]))
        high = known.saturated(exp(x[1]))
        out_j_kg = x[2] * ENTHALPY_SCALE
        suction = known.saturated((1.0 - SUCTION_DROP) * low.pressure_pa)
        discharge_pa = high.pressure_pa + self.gas_pa
        ratio = discharge_pa / suction.pressure_pa
        swept = unit.displacement_m3_s * volumetric_efficiency(ratio) * (1.0 - faults.compressor_leak)
        out_k = known.temperature_k(low, out_j_kg)
        gain_w = SUCTION_UA_W_K * (self.suction_ambient_k - out_k)
        through = 1.0 - faults.reversing_leak
        end = known.saturated(min(discharge_pa, known.highest_pa)) if self.gas_pa else high
        back = faults.reversing_leak / through * (1.0 - SHELL_LOSS)
        inlet_j_kg, work = out_j_kg, 0.0
        for _ in range(12 if back else 3):
            flow = swept * known.density(suction, inlet_j_kg) * through
            if back:
                work = self._work(suction, inlet_j_kg, end, ratio)
            inlet_j_kg = out_j_kg + gain_w / flow + back * work
        work = self._work(suction, inlet_j_kg, end, ratio)
        pumped = flow / through
        discharge_j_kg = inlet_j_kg + (1.0 - SHELL_LOSS) * work
        share = flow / unit.mass_flow_kg_s
        made = condense(known, self.condenser, high, discharge_j_kg, self.condenser_air.dry_bulb_k, flow, share)
        valve_in_pa = max(high.pressure_pa + self.gas_pa - self.restriction * flow * flow, 1.02 * low.pressure_pa)
        before = high if not (self.restriction or self.gas_pa) else known.saturated(min(valve_in_pa, known.highest_pa))
        superheat = known.superheat_of(low, out_j_kg)
        opening = self.opening(superheat)
        through_valve = self.valve_flow(before, made.out_j_kg, low.pressure_pa, opening)
        boiled = evaporate(
            known, self.evaporator, low, min(made.out_j_kg, 0.98 * low.vapor_j_kg), self.evaporator_air, flow, share, wet=self.wet
        )
        held = self._inventory(made.charge_kg, boiled.charge_kg, high, suction, made.out_j_kg, inlet_j_kg)
        residuals = (
            log(through_valve / flow),
            (boiled.out_j_kg - out_j_kg) / ENTHALPY_SCALE,
            log(held.total_kg / self.charge_kg),
        )
        return Point(
            low, suction, high, out_j_kg, boiled.out_j_kg, inlet_j_kg, discharge_j_kg, made.out_j_kg, flow, through_valve,
            gain_w, SHELL_LOSS * work * pumped, work * pumped, opening, valve_in_pa, high.pressure_pa + self.gas_pa, held, residuals,
            made, boiled,
        )  # fmt: skip

    def _work(self, suction: Saturated, inlet_j_kg: float, end: Saturated, ratio: float) -> float:
        """Shaft work in J/kg; a wet inlet costs what saturated vapour would."""
        known = self.fluid
        superheat = max(known.superheat_of(suction, inlet_j_kg), 0.0)
        start = inlet_j_kg if superheat > 0.0 else suction.vapor_j_kg
        raised = known.isentropic_j_kg(end, known.vapor_entropy(suction, superheat)) - start
        return max(raised, 1.0) / (isentropic_efficiency(ratio) * (1.0 - self.faults.compressor_leak))

    def _inventory(
        self, condenser: float, evaporator: float, high: Saturated, suction: Saturated, liquid_j_kg: float, inlet_j_kg: float
    ) -> Inventory:
        unit, known = self.unit, self.fluid
        gas = known.density(suction, inlet_j_kg)
        accumulator = receiver = 0.0
        if unit.accumulator_m3:
            wet_k = -known.superheat_of(suction, inlet_j_kg)
            full = _logistic((wet_k - 2.0 * SEPARATION_K) / SEPARATION_K)
            accumulator = unit.accumulator_m3 * (full * 0.7 * known.liquid_kg_m3(suction.dew_k) + (1.0 - 0.7 * full) * gas)
        if unit.receiver_m3:
            slope = (high.liquid_j_kg - known.liquid_j_kg(high.bubble_k - 2.0)) / 2.0
            below_k = (high.liquid_j_kg - liquid_j_kg) / slope
            full = _logistic((below_k - 2.0 * SEPARATION_K) / SEPARATION_K)
            receiver = unit.receiver_m3 * (full * high.liquid_kg_m3 + (1.0 - full) * high.vapor_kg_m3)
        return Inventory(
            condenser,
            evaporator,
            unit.liquid_line_m3 * known.density(high, liquid_j_kg),
            unit.suction_line_m3 * gas,
            unit.shell_m3 * gas,
            unit.oil_kg * OIL_SHARE * suction.pressure_pa / unit.evaporating_pa,
            accumulator,
            receiver,
        )


def _coil_now(coil: Coil, blown: float, clean: float, inlet: Air) -> CoilNow:
    ua = coil.air_ua_w_k
    return CoilNow(
        ua * blown**0.6 * clean,
        coil.flow_m3_s * blown * inlet.density_kg_m3,
        ua * coil.vapor_ratio,
        ua * coil.two_phase_ratio,
        ua * coil.liquid_ratio,
        coil.volume_m3,
    )


def _logistic(x: float) -> float:
    if x > LARGEST:
        return 1.0
    return 1.0 / (1.0 + exp(-x)) if x > -LARGEST else 0.0
