"""A simple vapour-compression cycle, for comparing refrigerants in one machine: same compressor, same coil temperatures.

Coils are held at their mean temperatures, so that a blend's glide neither helps nor hurts it: evaporator 0.6 of dew and
0.4 of bubble, condenser halves. Liquid is taken as saturated at its temperature; lines and coils lose no pressure.
Real machines differ: this says how two refrigerants differ, not what a unit will do.
"""

from collections.abc import Callable
from functools import lru_cache

from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.properties import saturation, vapor
from yoshi_core.properties.saturation import AnyRefrigerant
from yoshi_core.units.display import Amount

EVAPORATOR_DEW_SHARE, CONDENSER_DEW_SHARE = 0.6, 0.5
ROUNDS, CLOSE_K, WIDEST_K, SMALL = 30, 1e-9, 180.0, 1e-6


@dataclass(frozen=True)
class Conditions:
    """Mean coil temperatures in K, superheat and subcooling in K, and the compressor.

    Of the compressor: isentropic efficiency (0.3 to 1), volumetric efficiency at no lift, and what each step of pressure
    ratio takes of it.
    """

    evaporating_k: float
    condensing_k: float
    superheat_k: float = 10.0
    subcooling_k: float = 5.0
    isentropic: float = 0.68
    volumetric: float = 1.03
    clearance: float = 0.04


@dataclass(frozen=True)
class Corner:
    """A corner of the cycle: absolute pressure in Pa, temperature in K, enthalpy in J/kg."""

    pressure_pa: float
    temperature_k: float
    enthalpy_j_kg: float


@dataclass(frozen=True)
class Cycle:
    """What one cubic metre a second of displacement does: capacity and power in W per m³/s, flow in kg/m³ displaced.

    `suction_kg_m3` is the density drawn, `liquid_kg_m3` that before the valve; glides in K over each coil.
    """

    suction: Corner
    discharge: Corner
    liquid: Corner
    inlet: Corner
    capacity_j_m3: float
    power_j_m3: float
    flow_kg_m3: float
    suction_kg_m3: float
    liquid_kg_m3: float
    evaporator_glide_k: float
    condenser_glide_k: float

    @property
    def performance(self) -> float:
        """Capacity over power."""
        return self.capacity_j_m3 / self.power_j_m3

    @property
    def valve_size(self) -> float:
        """Opening a valve or orifice needs, in relative units: flow over the root of density times pressure drop."""
        drop = self.discharge.pressure_pa - self.suction.pressure_pa
        return float(self.flow_kg_m3 / (self.liquid_kg_m3 * drop) ** 0.5)


def mean_pressure_pa(refrigerant: AnyRefrigerant, mean_k: float, dew_share: float) -> float:
    """Absolute pressure in Pa at which a coil's mean saturation is a temperature in K. Raises `OutOfRange` outside the tables."""
    dew = mean_k
    for _ in range(ROUNDS):
        pressure = saturation.dew_pressure_pa(refrigerant, dew)
        off = mean_k - dew_share * dew - (1.0 - dew_share) * saturation.bubble_temperature_k(refrigerant, pressure)
        dew += off
        if abs(off) < CLOSE_K:
            break
    return saturation.dew_pressure_pa(refrigerant, dew)


@lru_cache(maxsize=512)
def run(refrigerant: AnyRefrigerant, conditions: Conditions) -> Cycle:
    """The cycle of a refrigerant at these conditions.

    Raises `OutOfRange` where its tables do not reach them, where condensing is not above evaporating, or for an
    efficiency outside 0.3 to 1; `UnknownRefrigerant` without tables.
    """
    _check(conditions)
    low = mean_pressure_pa(refrigerant, conditions.evaporating_k, EVAPORATOR_DEW_SHARE)
    high = mean_pressure_pa(refrigerant, conditions.condensing_k, CONDENSER_DEW_SHARE)
    low_dew, high_dew = saturation.dew_temperature_k(refrigerant, low), saturation.dew_temperature_k(refrigerant, high)
    low_bubble, high_bubble = saturation.bubble_temperature_k(refrigerant, low), saturation.bubble_temperature_k(refrigerant, high)
    suction_k, liquid_k = low_dew + conditions.superheat_k, high_bubble - conditions.subcooling_k
    drawn = vapor.density_kg_m3(refrigerant, low, suction_k)
    suction = Corner(low, suction_k, vapor.enthalpy_j_kg(refrigerant, low, suction_k))
    ideal_k = _at_entropy(refrigerant, high, vapor.entropy_j_kg_k(refrigerant, low, suction_k), high_dew)
    ideal = vapor.enthalpy_j_kg(refrigerant, high, ideal_k) - suction.enthalpy_j_kg
    leaving = suction.enthalpy_j_kg + ideal / conditions.isentropic
    discharge = Corner(high, _at_enthalpy(refrigerant, high, leaving, high_dew), leaving)
    liquid = Corner(high, liquid_k, saturation.liquid_enthalpy_j_kg(refrigerant, liquid_k))
    volumetric = conditions.volumetric - conditions.clearance * (high / low - 1.0)
    if volumetric <= 0.0:
        raise OutOfRange(
            "A pressure ratio of {high} leaves such a compressor nothing to draw.", words={"high": f"{high / low:.1f}"}, value=high / low
        )
    flow = drawn * volumetric
    return Cycle(
        suction,
        discharge,
        liquid,
        Corner(low, low_bubble, liquid.enthalpy_j_kg),
        flow * (suction.enthalpy_j_kg - liquid.enthalpy_j_kg),
        flow * ideal / conditions.isentropic,
        flow,
        drawn,
        saturation.liquid_density_kg_m3(refrigerant, liquid_k),
        low_dew - low_bubble,
        high_dew - high_bubble,
    )


def _check(conditions: Conditions) -> None:
    if not conditions.condensing_k > conditions.evaporating_k:
        raise OutOfRange("Condensing must be warmer than evaporating.", value=conditions.condensing_k, low=conditions.evaporating_k)
    if not 0.3 <= conditions.isentropic <= 1.0:
        raise OutOfRange("A compressor's efficiency is from 0.3 to 1.", value=conditions.isentropic, low=0.3, high=1.0)
    if conditions.superheat_k < 0.0 or conditions.subcooling_k < 0.0:
        least = min(conditions.superheat_k, conditions.subcooling_k)
        raise OutOfRange("Superheat and subcooling of a cycle are not below zero.", value=least, low=0.0)


def _at_entropy(refrigerant: AnyRefrigerant, pressure_pa: float, entropy: float, dew_k: float) -> float:
    """Temperature in K of vapour at a pressure with an entropy in J/(kg K), by the secant from the dew line."""
    return _solve(lambda kelvin: vapor.entropy_j_kg_k(refrigerant, pressure_pa, kelvin) - entropy, dew_k)


def _at_enthalpy(refrigerant: AnyRefrigerant, pressure_pa: float, enthalpy: float, dew_k: float) -> float:
    return _solve(lambda kelvin: (vapor.enthalpy_j_kg(refrigerant, pressure_pa, kelvin) - enthalpy) / 1000.0, dew_k)


def _solve(off: Callable[[float], float], dew_k: float) -> float:
    """Where a rising function of a vapour's temperature is zero, from the dew line upwards, by false position whose resting end is halved each time."""
    low, high = dew_k, dew_k + WIDEST_K
    at_low, at_high = off(low), off(high)
    if at_low > 0.0:
        raise OutOfRange("The vapour would leave below its dew line: there is no dry compression in these conditions.", value=low)
    if at_high < 0.0:
        raise OutOfRange(
            "The gas would leave more than {widest} over its dew line, past the tables.",
            words={"widest": Amount(WIDEST_K, "temperature_delta")},
            value=high,
        )
    for _ in range(ROUNDS * 2):
        middle = high - at_high * (high - low) / (at_high - at_low)
        found = off(middle)
        if abs(found) < SMALL or high - low < CLOSE_K:
            return middle
        if found < 0.0:
            low, at_low, at_high = middle, found, at_high / 2.0
        else:
            high, at_high, at_low = middle, found, at_low / 2.0
    return middle
