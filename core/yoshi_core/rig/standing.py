"""A unit that is off: one pressure, by its temperatures and by what is left in it."""

from yoshi_core.rig.balance import NON_CONDENSABLE_PA, OIL_SHARE
from yoshi_core.rig.fluid import Fluid, fluid, mixed
from yoshi_core.rig.unit import Faults, State, Unit, Weather


def standing(unit: Unit, weather: Weather, faults: Faults) -> State:
    """The equalized unit. While liquid remains it is saturated at the colder coil, a blend by its quality; without, vapour fills it.

    Non-condensables add their own pressure. `name` is "too_little" when it is all vapour, else "running" is
    never said: the caller gives the name. Raises `OutOfRange` for temperatures outside the tables.
    """
    pressure, liquid_kg = pool(unit, weather, faults)
    pressure += 0.5 * NON_CONDENSABLE_PA * faults.non_condensables
    return State(
        name="too_little",
        reason="all of it is vapour" if liquid_kg <= 0.0 else "standing with liquid",
        suction_pa=pressure,
        suction_k=weather.indoor_k,
        liquid_pa=pressure,
        liquid_k=weather.outdoor_k,
    )


def pool(unit: Unit, weather: Weather, faults: Faults) -> tuple[float, float]:
    """What stands in a unit that is off: absolute pressure in Pa, and how much of its charge lies as liquid at the colder coil, kg."""
    known = fluid(unit.refrigerant)
    if faults.other_refrigerant and faults.other_share:
        known = mixed(unit.refrigerant, faults.other_refrigerant, faults.other_share)
    return _pressure(known, unit, weather, faults.charge_share * unit.charge_kg, min(weather.outdoor_k, weather.indoor_k))


def _pressure(known: Fluid, unit: Unit, weather: Weather, held_kg: float, cold_k: float) -> tuple[float, float]:
    """Absolute pressure in Pa and liquid in kg; vapour at each coil's own temperature."""
    inside, outside = unit.indoor.volume_m3 + unit.suction_line_m3, unit.gas_side_m3 - unit.indoor.volume_m3 - unit.suction_line_m3
    full = known.dew_pressure_pa(cold_k)
    vapor = vapor_kg(known, full, inside, weather.indoor_k, outside, weather.outdoor_k)
    dissolved = unit.oil_kg * OIL_SHARE
    if held_kg > vapor + dissolved:
        liquid = held_kg - vapor - dissolved
        # A blend stands between its dew and bubble pressures, nearer the bubble the more of it is liquid.
        return full + (known.bubble_pressure_pa(cold_k) - full) * liquid / held_kg, liquid
    low, high = 0.0, 1.0
    for _ in range(40):
        middle = 0.5 * (low + high)
        at = middle * full
        held = vapor_kg(known, at, inside, weather.indoor_k, outside, weather.outdoor_k) + middle * dissolved
        low, high = (middle, high) if held < held_kg else (low, middle)
    return max(high * full, 1.0), 0.0


def vapor_kg(known: Fluid, pressure_pa: float, inside_m3: float, inside_k: float, outside_m3: float, outside_k: float) -> float:
    """Vapour in kg in two volumes at two temperatures; under the tables' lowest pressure as an ideal gas."""
    total = 0.0
    for volume, kelvin in ((inside_m3, inside_k), (outside_m3, outside_k)):
        if pressure_pa <= known.lowest_pa:
            total += volume * pressure_pa / (known.gas_constant * kelvin)
            continue
        state = known.saturated(pressure_pa)
        total += volume * known.vapor_density(state, max(kelvin - state.dew_k, 0.0))
    return total
