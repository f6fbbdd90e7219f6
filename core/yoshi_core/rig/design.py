"""A unit from a handful of nameplate facts: everything else is solved backwards from its design point."""

from collections.abc import Callable
from dataclasses import replace
from math import atanh, log

from yoshi_core.charge.tubing import inside_area_m2
from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.rig.balance import (
    ENTHALPY_SCALE,
    OPENING_LEAST,
    OPENING_MOST,
    SHELL_LOSS,
    SUCTION_DROP,
    SUCTION_UA_W_K,
    VALVE_BAND_K,
    Balance,
    isentropic_efficiency,
    volumetric_efficiency,
)
from yoshi_core.rig.coils import CoilNow, condense, evaporate
from yoshi_core.rig.fluid import Fluid, fluid
from yoshi_core.rig.solve import solve
from yoshi_core.rig.unit import Coil, Faults, Metering, Unit, Weather
from yoshi_core.units.quantities import FAHRENHEIT_K, INCH_M, LB_KG, ZERO_FAHRENHEIT_K

TON_W = 3516.8528
CFM_M3_S = 0.3048**3 / 60.0
CONDENSER_RATIOS = (0.6, 5.0, 1.5)
EVAPORATOR_RATIOS = (0.4, 2.5, 1.5)
HEATING_OUTDOOR_K = 47.0 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K
HEATING_WET_BULB_K = 43.0 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K
HEAT_PUMP_INDOOR = 1.8
RECEIVER_SUBCOOLING_K = 0.45
HEATING_SUPERHEAT_K = 10.0 * FAHRENHEIT_K
ROOM_K = 70.0 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K


def fahrenheit(degrees_f: float) -> float:
    """K of a temperature in °F."""
    return degrees_f * FAHRENHEIT_K + ZERO_FAHRENHEIT_K


RATING = Weather(fahrenheit(95.0), fahrenheit(80.0), fahrenheit(67.0))


@dataclass(frozen=True)
class Plate:
    """What is known of a unit. Temperatures in K, differences in K, masses in kg, volumes in m³, lengths in m.

    The design point is 95 °F outdoors and 80/67 °F indoors, as rating tables have it, unless given.
    """

    refrigerant: str = "R-410A"
    capacity_w: float = 3.0 * TON_W
    charge_kg: float = 6.0 * LB_KG
    metering: Metering = "orifice"
    suction_dew_k: float = fahrenheit(44.4)
    condensing_k: float = fahrenheit(111.6)
    superheat_k: float = 13.0 * FAHRENHEIT_K
    subcooling_k: float = 12.0 * FAHRENHEIT_K
    line_m: float = 25.0 * 0.3048
    liquid_od_m: float = 0.375 * INCH_M
    suction_od_m: float = 0.75 * INCH_M
    evaporator_m3_per_w: float = 0.25e-6
    indoor_m3_s_per_w: float = 400.0 * CFM_M3_S / TON_W
    outdoor_m3_s_per_w: float = 1000.0 * CFM_M3_S / TON_W
    oil_kg: float = 1.0
    accumulator_m3: float = 0.0
    receiver_m3: float = 0.0
    heat_pump: bool = False
    high_cut_out_k: float = fahrenheit(149.0)
    low_cut_out_k: float = fahrenheit(-10.0)
    weather: Weather = RATING


def design(plate: Plate) -> Unit:
    """The unit whose design point is exactly the plate's.

    Raises `UnknownRefrigerant`, `OutOfRange` for a design point outside the tables or the air's
    temperatures, `InvalidInput` for a charge that the lines and coils cannot hold so.
    """
    known = fluid(plate.refrigerant)
    _check(plate, known)
    suction = known.saturated(known.dew_pressure_pa(plate.suction_dew_k))
    low = known.saturated(suction.pressure_pa / (1.0 - SUCTION_DROP))
    high = known.saturated(known.bubble_pressure_pa(plate.condensing_k))
    if plate.receiver_m3:
        plate = replace(plate, subcooling_k=RECEIVER_SUBCOOLING_K)
    liquid_j_kg = known.liquid_j_kg(plate.condensing_k - plate.subcooling_k)
    suction_j_kg = known.vapor_enthalpy(suction, plate.superheat_k)
    out_j_kg = suction_j_kg
    flow = plate.capacity_w / (out_j_kg - liquid_j_kg)
    for _ in range(30):
        gain = SUCTION_UA_W_K * (plate.weather.outdoor_k - known.temperature_k(low, out_j_kg))
        out_j_kg = suction_j_kg - gain / flow
        flow = plate.capacity_w / (out_j_kg - liquid_j_kg)
    ratio = high.pressure_pa / suction.pressure_pa
    displacement = flow / (known.density(suction, suction_j_kg) * volumetric_efficiency(ratio))
    work = known.isentropic_j_kg(high, known.vapor_entropy(suction, plate.superheat_k)) - suction_j_kg
    discharge_j_kg = suction_j_kg + (1.0 - SHELL_LOSS) * work / isentropic_efficiency(ratio)
    superheat_out = known.superheat_of(low, out_j_kg)
    middle, half = 0.5 * (OPENING_MOST + OPENING_LEAST), 0.5 * (OPENING_MOST - OPENING_LEAST)
    area = inside_area_m2(plate.liquid_od_m)
    inside_m3 = plate.evaporator_m3_per_w * plate.capacity_w * (HEAT_PUMP_INDOOR if plate.heat_pump else 1.0)
    first = Unit(
        refrigerant=known.name,
        metering=plate.metering,
        charge_kg=plate.charge_kg,
        capacity_w=plate.capacity_w,
        mass_flow_kg_s=flow,
        displacement_m3_s=displacement,
        indoor=Coil(1.0, plate.indoor_m3_s_per_w * plate.capacity_w, inside_m3, *EVAPORATOR_RATIOS),
        outdoor=Coil(1.0, plate.outdoor_m3_s_per_w * plate.capacity_w, 1.0, *CONDENSER_RATIOS),
        valve_area_m2=1.0,
        heating_area_m2=1.0,
        superheat_setting_k=superheat_out - VALVE_BAND_K * atanh((1.0 - middle) / half),
        liquid_line_m3=area * plate.line_m,
        suction_line_m3=inside_area_m2(plate.suction_od_m) * plate.line_m,
        shell_m3=0.4e-6 * plate.capacity_w,
        oil_kg=plate.oil_kg,
        accumulator_m3=plate.accumulator_m3,
        receiver_m3=plate.receiver_m3,
        high_cut_out_pa=known.bubble_pressure_pa(min(plate.high_cut_out_k, known.last_k - 1.0)),
        low_cut_out_pa=known.dew_pressure_pa(max(plate.low_cut_out_k, known.first_k + 5.0)),
        evaporating_pa=low.pressure_pa,
        condensing_pa=high.pressure_pa,
    )
    seen = Balance(first, plate.weather, Faults())
    indoor_ua = _search(
        lambda ua: evaporate(
            known, _scaled(seen.evaporator, ua), low, liquid_j_kg, seen.evaporator_air, flow, 1.0, wet=True
        ).out_j_kg - out_j_kg,
        "evaporator",
    )  # fmt: skip
    air_k = seen.condenser_air.dry_bulb_k
    outdoor_ua = _search(
        lambda ua: liquid_j_kg - condense(known, _scaled(seen.condenser, ua), high, discharge_j_kg, air_k, flow, 1.0).out_j_kg,
        "condenser",
    )
    unit = replace(
        first,
        indoor=replace(first.indoor, air_ua_w_k=indoor_ua),
        outdoor=replace(first.outdoor, air_ua_w_k=outdoor_ua),
        valve_area_m2=flow / seen.valve_flow(high, liquid_j_kg, low.pressure_pa, 1.0),
    )
    unit = _with_condenser_volume(unit, plate.weather, (low.pressure_pa, high.pressure_pa, out_j_kg))
    return replace(unit, heating_area_m2=_heating_area(unit) if plate.heat_pump else unit.valve_area_m2)


def _check(plate: Plate, known: Fluid) -> None:
    weather = plate.weather
    for text, good in (
        ("The capacity must be above zero.", plate.capacity_w > 0.0),
        ("The charge must be above zero.", plate.charge_kg > 0.0),
        ("Condensing must be above the outdoor air, by the subcooling and more.", plate.condensing_k - plate.subcooling_k > weather.outdoor_k),
        ("Suction saturation with its superheat must stay below the return air.", plate.suction_dew_k + plate.superheat_k < weather.indoor_k),
        ("Superheat and subcooling must be above zero at the design point.", plate.superheat_k > 0.0 and plate.subcooling_k > 0.0),
        (f"Condensing is too near the critical point of {known.name}.", plate.condensing_k < known.last_k - 4.0),
        (f"Suction saturation is below the table of {known.name}.", plate.suction_dew_k > known.first_k + 10.0),
    ):  # fmt: skip
        if not good:
            raise OutOfRange(text)


def _scaled(coil: CoilNow, ua: float) -> CoilNow:
    return replace(
        coil,
        air_ua_w_k=ua,
        vapor_ua_w_k=ua * coil.vapor_ua_w_k,
        two_phase_ua_w_k=ua * coil.two_phase_ua_w_k,
        liquid_ua_w_k=ua * coil.liquid_ua_w_k,
    )


def _search(gap: Callable[[float], float], what: str) -> float:
    """The UA in W/K at which a rising gap crosses zero."""
    low, high = 10.0, 20.0
    while gap(high) < 0.0:
        low, high = high, 2.0 * high
        if high > 1e8:
            raise OutOfRange("No {what} is large enough for this design point: its air is too little or too close.", words={"what": what})
    for _ in range(80):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if gap(middle) < 0.0 else (low, middle)
    return 0.5 * (low + high)


def _with_condenser_volume(unit: Unit, weather: Weather, at: tuple[float, float, float]) -> Unit:
    x = (log(at[0]), log(at[1]), at[2] / ENTHALPY_SCALE)
    held = Balance(unit, weather, Faults()).point(x).inventory
    rest = held.total_kg - held.condenser
    volume = (unit.charge_kg - rest) / held.condenser
    if volume <= 0.0:
        raise InvalidInput(
            "A charge of {charge} kg leaves nothing for the condenser: lines, evaporator and oil alone hold {rest} kg.",
            words={"charge": f"{unit.charge_kg:.3f}", "rest": f"{rest:.3f}"},
        )
    return replace(unit, outdoor=replace(unit.outdoor, volume_m3=volume))


def _heating_area(unit: Unit) -> float:
    """The heating device's bore in m²: at 47/43 °F outdoors and a 70 °F room it keeps the design's superheat (orifice) or stands at 1 (valve)."""
    weather = Weather(HEATING_OUTDOOR_K, ROOM_K, ROOM_K, HEATING_WET_BULB_K, mode="heating")
    low, high = 0.15 * unit.valve_area_m2, 2.5 * unit.valve_area_m2
    for _ in range(24):
        middle = 0.5 * (low + high)
        state = solve(replace(unit, heating_area_m2=middle), weather)
        if not state.running:
            low, high = (middle, high) if state.name == "tripped_low" else (low, middle)
            continue
        starved = state.valve_opening > 1.0 if unit.metering == "txv" else state.superheat_k > HEATING_SUPERHEAT_K
        low, high = (middle, high) if starved else (low, middle)
    return 0.5 * (low + high)
