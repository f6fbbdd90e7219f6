"""What a pressure–enthalpy picture is drawn from: the dome of a refrigerant, its isotherms, and points of a cycle or a job.

Enthalpies in J/kg, shifted so that saturated liquid at 0 °C stands at 200 kJ/kg, whatever the table's own zero: then two
refrigerants lie over each other. Pressures absolute, Pa.
"""

from collections.abc import Sequence

from yoshi_core.errors import CoreError
from yoshi_core.frozen import dataclass
from yoshi_core.properties import saturation, vapor
from yoshi_core.properties.cycle import Corner, Cycle
from yoshi_core.units.display import System
from yoshi_core.units.quantities import FAHRENHEIT_K, ZERO_CELSIUS_K, ZERO_FAHRENHEIT_K

ZERO_K, AT_ZERO_J_KG = 273.15, 200e3
POINTS = 48
EDGE_K = 0.5
WIDEST_K = 80.0
ISOTHERMS: dict[System, tuple[float, float]] = {"si": (ZERO_CELSIUS_K, 20.0), "us": (ZERO_FAHRENHEIT_K, 40.0 * FAHRENHEIT_K)}


@dataclass(frozen=True)
class PhPoint:
    """A point of the picture: absolute pressure in Pa, enthalpy in J/kg, temperature in K."""

    pressure_pa: float
    enthalpy_j_kg: float
    temperature_k: float


@dataclass(frozen=True)
class PhLine:
    """A line of one temperature, in K, from its liquid to its vapour."""

    temperature_k: float
    points: tuple[PhPoint, ...]


@dataclass(frozen=True)
class PhChart:
    """A refrigerant's dome: the bubble and dew lines from cold to hot, and isotherms."""

    refrigerant: str
    bubble: tuple[PhPoint, ...]
    dew: tuple[PhPoint, ...]
    isotherms: tuple[PhLine, ...]


def shift_j_kg(refrigerant: str) -> float:
    """What is added to a table's enthalpy so that saturated liquid at 0 °C stands at 200 kJ/kg. Raises `OutOfRange` where it does not reach."""
    return AT_ZERO_J_KG - saturation.liquid_enthalpy_j_kg(refrigerant, ZERO_K)


def liquid(refrigerant: str, pressure_pa: float, temperature_k: float) -> PhPoint:
    """Liquid at its temperature. Raises `OutOfRange` outside the tables."""
    enthalpy = saturation.liquid_enthalpy_j_kg(refrigerant, temperature_k) + shift_j_kg(refrigerant)
    return PhPoint(pressure_pa, enthalpy, temperature_k)


def vapour(refrigerant: str, pressure_pa: float, temperature_k: float) -> PhPoint:
    """Vapour at or over its dew line. Raises `OutOfRange` outside the tables."""
    return PhPoint(pressure_pa, vapor.enthalpy_j_kg(refrigerant, pressure_pa, temperature_k) + shift_j_kg(refrigerant), temperature_k)


def corners(refrigerant: str, ran: Cycle) -> tuple[PhPoint, ...]:
    """A cycle's way round: suction, discharge, liquid, evaporator's inlet."""
    shift = shift_j_kg(refrigerant)
    return tuple(_at(corner, shift) for corner in (ran.suction, ran.discharge, ran.liquid, ran.inlet))


def chart(refrigerant: str, system: System = "si") -> PhChart:
    """The dome over the refrigerant's whole table, and an isotherm every 20 °C or 40 °F. Raises `UnknownRefrigerant`, `OutOfRange`."""
    low, high = _range_k(refrigerant)
    spread = _spread(low + EDGE_K, high - EDGE_K, POINTS)
    bubble = tuple(liquid(refrigerant, saturation.bubble_pressure_pa(refrigerant, kelvin), kelvin) for kelvin in spread)
    dew = tuple(vapour(refrigerant, saturation.dew_pressure_pa(refrigerant, kelvin), kelvin) for kelvin in spread)
    zero, step = ISOTHERMS[system]
    first = step * ((low - zero) // step + 1) + zero
    count = int((high + WIDEST_K - first) // step)
    lines = tuple(line for n in range(count) if len((line := _isotherm(refrigerant, first + n * step, low, high)).points) > 1)
    return PhChart(refrigerant, bubble, dew, lines)


def _range_k(refrigerant: str) -> tuple[float, float]:
    """Temperatures in K that both the saturation and the vapour table reach."""
    saturated, dew = saturation.temperature_range_k(refrigerant), vapor.dew_range_k(refrigerant)
    return max(saturated[0], dew[0]), min(saturated[1], dew[1])


def _isotherm(refrigerant: str, kelvin: float, low_k: float, high_k: float) -> PhLine:
    """Straight through the dome, then vapour down to the table's lowest pressure."""
    points: list[PhPoint] = []
    lowest, top = saturation.dew_pressure_pa(refrigerant, low_k + EDGE_K), saturation.dew_pressure_pa(refrigerant, high_k - EDGE_K)
    if kelvin < high_k - EDGE_K:
        points.append(liquid(refrigerant, saturation.bubble_pressure_pa(refrigerant, kelvin), kelvin))
        top = saturation.dew_pressure_pa(refrigerant, kelvin)
    for share in _spread(0.0, 1.0, 12):
        pressure = top * (lowest / top) ** share
        try:
            points.append(vapour(refrigerant, pressure, kelvin))
        except CoreError:
            continue
    return PhLine(kelvin, tuple(points))


def _at(corner: Corner, shift: float) -> PhPoint:
    return PhPoint(corner.pressure_pa, corner.enthalpy_j_kg + shift, corner.temperature_k)


def _spread(low: float, high: float, count: int) -> Sequence[float]:
    return [low + (high - low) * n / (count - 1) for n in range(count)]
