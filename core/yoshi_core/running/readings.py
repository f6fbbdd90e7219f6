"""What the gauges and clamps say: superheat on dew, subcooling on bubble, each with its uncertainty."""

from math import sqrt

from yoshi_core.charge.total import LIMIT_TO_STANDARD
from yoshi_core.frozen import dataclass
from yoshi_core.properties import saturation
from yoshi_core.properties.atmosphere import GaugeReference, absolute_pa
from yoshi_core.properties.saturation import AnyRefrigerant

_STEP_PA = 1000.0
SWAP_K = 2.0


@dataclass(frozen=True)
class Site:
    """Altitude in m and what the gauge counts from."""

    altitude_m: float = 0.0
    gauge_reference: GaugeReference = "vented"


@dataclass(frozen=True)
class Readings:
    """Gauge pressures in Pa and line temperatures in K, each optional; limits of the instruments."""

    suction_gauge_pa: float | None = None
    suction_line_k: float | None = None
    liquid_gauge_pa: float | None = None
    liquid_line_k: float | None = None
    pressure_limit_pa: float = 0.0
    temperature_limit_k: float = 0.0


@dataclass(frozen=True)
class Side:
    """One side: absolute pressure in Pa, saturation and line temperature in K, difference in K ± standard uncertainty.

    `across_k` is the other end of the glide at this pressure: bubble on the low side, dew on the high side.
    """

    pressure_pa: float
    saturation_k: float
    line_k: float
    difference_k: float
    uncertainty_k: float
    slope_k_per_pa: float
    across_k: float


@dataclass(frozen=True)
class CoolingState:
    """Superheat and subcooling in K (standard uncertainties beside them), None where readings are missing."""

    low: Side | None = None
    high: Side | None = None

    @property
    def superheat_k(self) -> float | None:
        """Superheat in K; None without the low side."""
        return self.low.difference_k if self.low else None

    @property
    def subcooling_k(self) -> float | None:
        """Subcooling in K; None without the high side."""
        return self.high.difference_k if self.high else None


def low_side(refrigerant: AnyRefrigerant, gauge_pa: float, line_k: float, readings: Readings, site: Site) -> Side:
    """Superheat: line above dew. Raises `OutOfRange` outside the table."""
    pressure = absolute_pa(gauge_pa, site.gauge_reference, site.altitude_m)
    dew = saturation.dew_temperature_k(refrigerant, pressure)
    slope = (saturation.dew_temperature_k(refrigerant, pressure + _STEP_PA) - dew) / _STEP_PA
    across = saturation.bubble_temperature_k(refrigerant, pressure)
    return Side(pressure, dew, line_k, line_k - dew, _spread(readings, slope), slope, across)


def high_side(refrigerant: AnyRefrigerant, gauge_pa: float, line_k: float, readings: Readings, site: Site) -> Side:
    """Subcooling: bubble above line. Raises `OutOfRange` outside the table."""
    pressure = absolute_pa(gauge_pa, site.gauge_reference, site.altitude_m)
    bubble = saturation.bubble_temperature_k(refrigerant, pressure)
    slope = (bubble - saturation.bubble_temperature_k(refrigerant, pressure - _STEP_PA)) / _STEP_PA
    across = saturation.dew_temperature_k(refrigerant, pressure)
    return Side(pressure, bubble, line_k, bubble - line_k, _spread(readings, slope), slope, across)


def cooling_state(refrigerant: AnyRefrigerant, readings: Readings, site: Site) -> CoolingState:
    """Both sides of a unit in cooling, each where its pressure and its temperature are given."""
    low = high = None
    if readings.suction_gauge_pa is not None and readings.suction_line_k is not None:
        low = low_side(refrigerant, readings.suction_gauge_pa, readings.suction_line_k, readings, site)
    if readings.liquid_gauge_pa is not None and readings.liquid_line_k is not None:
        high = high_side(refrigerant, readings.liquid_gauge_pa, readings.liquid_line_k, readings, site)
    return CoolingState(low, high)


def clamps_swapped(low: Side, high: Side) -> bool:
    """Whether the suction clamp is hotter than the liquid clamp and exchanging them would make both sides sane."""
    exchanged_superheat = high.line_k - low.saturation_k
    exchanged_subcooling = high.saturation_k - low.line_k
    return low.line_k > high.line_k + SWAP_K and exchanged_superheat > 0 and exchanged_subcooling > 0


def _spread(readings: Readings, slope_k_per_pa: float) -> float:
    u_t = readings.temperature_limit_k * LIMIT_TO_STANDARD
    u_p = readings.pressure_limit_pa * LIMIT_TO_STANDARD
    return sqrt(u_t**2 + (slope_k_per_pa * u_p) ** 2)
