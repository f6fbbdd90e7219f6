"""Superheated vapour: density, enthalpy and entropy at a pressure and a temperature.

Interpolated on dew temperature and superheat in tables made from CoolProp: density through the
compressibility factor, so that the ideal-gas part is exact. True from the dew line to 180 K of
superheat; raises `OutOfRange` outside. Enthalpy is 200 kJ/kg and entropy 1 kJ/(kg K) for
saturated liquid at 0 °C.
"""

from bisect import bisect_right

from yoshi_core.errors import OutOfRange
from yoshi_core.properties.saturation import AnyRefrigerant, dew_pressure_pa, dew_temperature_k
from yoshi_core.refrigerants.tables import Table, table
from yoshi_core.units.display import Amount

GAS_CONSTANT = 8.314462618
DENSITY, ENTHALPY, ENTROPY = 0, 1, 2
ROUNDING_K = 1e-6


def density_kg_m3(refrigerant: AnyRefrigerant, pressure_pa: float, temperature_k: float) -> float:
    """Density in kg/m³ of superheated vapour at an absolute pressure in Pa and a temperature in K."""
    return _look_up(refrigerant, DENSITY, pressure_pa, temperature_k)


def enthalpy_j_kg(refrigerant: AnyRefrigerant, pressure_pa: float, temperature_k: float) -> float:
    """Enthalpy in J/kg of superheated vapour."""
    return _look_up(refrigerant, ENTHALPY, pressure_pa, temperature_k)


def entropy_j_kg_k(refrigerant: AnyRefrigerant, pressure_pa: float, temperature_k: float) -> float:
    """Entropy in J/(kg K) of superheated vapour."""
    return _look_up(refrigerant, ENTROPY, pressure_pa, temperature_k)


def dew_range_k(refrigerant: AnyRefrigerant) -> tuple[float, float]:
    """Coldest and hottest dew temperature in K of the vapour table."""
    found = table(refrigerant)
    return found.first_k, found.first_k + (len(found.superheated) - 1) * found.superheated_every * found.step_k


def _look_up(refrigerant: AnyRefrigerant, which: int, pressure_pa: float, temperature_k: float) -> float:
    found = table(refrigerant)
    dew_k = dew_temperature_k(refrigerant, pressure_pa)
    superheat_k = temperature_k - dew_k
    if -ROUNDING_K <= superheat_k < 0.0:
        superheat_k = 0.0
    row_span = found.superheated_every * found.step_k
    last_k = found.first_k + (len(found.superheated) - 1) * row_span
    if not (0.0 <= superheat_k <= found.superheats_k[-1] and dew_k <= last_k):
        raise OutOfRange(
            "{temperature} at {pressure} absolute is {superheat} above dew; the vapour table of {name} covers up to {most}, and dew up to {last}.",
            words={
                "temperature": Amount(temperature_k, "temperature"),
                "pressure": Amount(pressure_pa, "gauge_pressure_delta"),
                "superheat": Amount(superheat_k, "temperature_delta"),
                "name": found.name,
                "most": Amount(found.superheats_k[-1], "temperature_delta"),
                "last": Amount(last_k, "temperature"),
            },
            value=superheat_k,
            low=0.0,
            high=found.superheats_k[-1],
        )
    place = (dew_k - found.first_k) / row_span
    row = min(int(place), len(found.superheated) - 2)
    column = min(bisect_right(found.superheats_k, superheat_k), len(found.superheats_k) - 1) - 1
    across = (superheat_k - found.superheats_k[column]) / (found.superheats_k[column + 1] - found.superheats_k[column])
    down = place - row
    low = _mix(_value(found, refrigerant, which, row, column), _value(found, refrigerant, which, row, column + 1), across)
    high = _mix(_value(found, refrigerant, which, row + 1, column), _value(found, refrigerant, which, row + 1, column + 1), across)
    mixed = _mix(low, high, down)
    if which != DENSITY:
        return mixed
    return pressure_pa * found.molar_mass_kg_mol / (mixed * GAS_CONSTANT * temperature_k)


def _mix(first: float, second: float, share: float) -> float:
    return first + share * (second - first)


def _value(found: Table, refrigerant: AnyRefrigerant, which: int, row: int, column: int) -> float:
    """A node's enthalpy or entropy, or for density its compressibility factor."""
    value = found.superheated[row][column][which]
    if which != DENSITY:
        return value
    dew_k = found.first_k + row * found.superheated_every * found.step_k
    temperature_k = dew_k + found.superheats_k[column]
    pressure_pa = dew_pressure_pa(refrigerant, dew_k)
    return pressure_pa * found.molar_mass_kg_mol / (value * GAS_CONSTANT * temperature_k)
