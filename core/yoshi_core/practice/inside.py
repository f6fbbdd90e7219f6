"""A look inside: where the refrigerant of a bench is now, how warm it is there, and its way over pressure and enthalpy.

Drawn from the rig's own solution for the charge that has mixed in, part after part in the order refrigerant passes them. What a
technician reads runs after it: the instruments and the pipe's metal lag.
"""

from collections.abc import Sequence
from math import fsum

from yoshi_core.errors import CoreError
from yoshi_core.frozen import dataclass
from yoshi_core.practice.bench import Bench
from yoshi_core.practice.pump_down import PumpDown
from yoshi_core.properties.pressure_enthalpy import PhPoint, shift_j_kg
from yoshi_core.rig.balance import Balance, Point
from yoshi_core.rig.coils import Passed
from yoshi_core.rig.fluid import Saturated, fluid
from yoshi_core.rig.standing import pool
from yoshi_core.rig.unit import State, Unit

STEPS = 12


@dataclass(frozen=True)
class Zone:
    """A stretch of a part: gas, two_phase or liquid, and which share of the part it is."""

    what: str
    share: float


@dataclass(frozen=True)
class CutPart:
    """A part of the circuit: what is in it, kg, its room in m³, its zones, and how high liquid stands along it, from 0 to 1, at equal steps."""

    id: str
    mass_kg: float
    volume_m3: float
    zones: tuple[Zone, ...]
    heights: tuple[float, ...]


@dataclass(frozen=True)
class Spot:
    """A temperature, K, at a share of a part's length."""

    part: str
    share: float
    kelvin: float


@dataclass(frozen=True)
class Vessel:
    """The cylinder on the hose: what is in it, what of that is gas, kg; how high liquid stands; K; absolute Pa."""

    code: str
    mass_kg: float
    gas_kg: float
    height: float
    kelvin: float
    pressure_pa: float
    upside_down: bool


@dataclass(frozen=True)
class LookInside:
    """All that a look inside shows. `flow_kg_s` goes round; `oil_kg` of the mass is dissolved in the compressor's oil.

    `cycle` are suction, discharge, liquid and after the valve; `gas_share` of what leaves the valve is gas by mass. Superheat hangs from
    dew, subcooling from bubble. Pressures absolute. `airs` are the airs at condenser and evaporator, K.
    """

    running: bool
    mass_kg: float
    oil_kg: float
    flow_kg_s: float
    low_pa: float
    high_pa: float
    parts: tuple[CutPart, ...]
    spots: tuple[Spot, ...]
    airs: tuple[float, float]
    cycle: tuple[PhPoint, ...] = ()
    gas_share: float = 0.0
    superheat_k: float = 0.0
    subcooling_k: float = 0.0
    vessel: Vessel | None = None


def inside(bench: Bench) -> LookInside:
    """What is inside the bench at this moment."""
    if bench.pumped is not None:
        return _shut_off(bench, bench.pumped)
    state = bench.live.heading
    if state is not None and state.running and state.unknowns is not None:
        return _running(bench, state, state.unknowns)
    return _standing(bench)


def _running(bench: Bench, state: State, unknowns: tuple[float, float, float]) -> LookInside:
    balance = Balance(bench.unit, bench.live.weather, bench.live.faults_now)
    point = balance.point(unknowns)
    held, unit, known = point.inventory, bench.unit, balance.fluid
    cooling = bench.weather.mode == "cooling"
    hot, cold = (unit.outdoor, unit.indoor) if cooling else (unit.indoor, unit.outdoor)
    gas = (Zone("gas", 1.0),)
    quality = max((point.liquid - point.high.liquid_j_kg) / point.high.latent_j_kg, 0.0)
    line = 1.0 - _void(point.high, quality) if quality > 0.0 else 1.0
    parts = [
        CutPart("condenser", held.condenser, hot.volume_m3, _zones(point.condensed, ("gas", "two_phase", "liquid")), _condenser(point)),
        CutPart(
            "receiver", held.receiver, unit.receiver_m3, (Zone("liquid", 1.0),), (_level(held.receiver, unit.receiver_m3, point.high),) * 2
        ),
        CutPart("liquid_line", held.liquid_line, unit.liquid_line_m3, (Zone("two_phase" if quality else "liquid", 1.0),), (line, line)),
        CutPart("evaporator", held.evaporator, cold.volume_m3, _zones(point.boiled, ("two_phase", "gas")), _evaporator(point)),
        CutPart("suction_line", held.suction_line, unit.suction_line_m3, gas, (0.0, 0.0)),
        CutPart("accumulator", held.accumulator, unit.accumulator_m3, gas, (_level(held.accumulator, unit.accumulator_m3, point.low),) * 2),
        CutPart("shell", held.shell, unit.shell_m3, gas, (0.0, 0.0)),
    ]
    boiling_j_kg, dry_j_kg = point.low.liquid_j_kg, point.low.vapor_j_kg
    return LookInside(
        True,
        held.total_kg,
        held.oil,
        point.flow,
        point.suction.pressure_pa,
        point.liquid_pa,
        tuple(part for part in parts if part.volume_m3 > 0.0),
        _spots(state, point, known.temperature_k(point.low, min(point.liquid, dry_j_kg))),
        (balance.condenser_air.dry_bulb_k, balance.evaporator_air.dry_bulb_k),
        _cycle(unit, state, point),
        max((point.liquid - boiling_j_kg) / (dry_j_kg - boiling_j_kg), 0.0),
        state.superheat_k,
        state.subcooling_k,
        _vessel(bench),
    )


def _zones(passed: Passed, order: Sequence[str]) -> tuple[Zone, ...]:
    return tuple(Zone(what, getattr(passed, what)) for what in order if getattr(passed, what) > 1e-4)


def _void(state: Saturated, quality: float) -> float:
    """Share of the room that is gas at a quality, as the rig's own inventory has it (Zivi)."""
    gamma = (state.vapor_kg_m3 / state.liquid_kg_m3) ** (2.0 / 3.0)
    return quality / (quality + gamma * (1.0 - quality)) if quality > 0.0 else 0.0


def _condenser(point: Point) -> tuple[float, ...]:
    one = point.condensed
    return _along(point.high, one.gas, one.gas + one.two_phase, one.first, one.last, 0.0, 1.0)


def _evaporator(point: Point) -> tuple[float, ...]:
    one = point.boiled
    return _along(point.low, 0.0, one.two_phase, one.first, one.last, 1.0, 0.0)


def _along(state: Saturated, begins: float, ends: float, first: float, last: float, before: float, after: float) -> tuple[float, ...]:
    """How high liquid stands at equal steps: quality runs evenly through the two-phase zone, which begins and ends at shares of the part."""
    found = []
    for n in range(STEPS * 2 + 1):
        share = n / (STEPS * 2)
        if share < begins:
            found.append(before)
        elif share > ends + 1e-9:
            found.append(after)
        else:
            within = (share - begins) / max(ends - begins, 1e-9)
            found.append(1.0 - _void(state, first + (last - first) * within))
    return tuple(found)


def _level(mass_kg: float, volume_m3: float, state: Saturated) -> float:
    """How full of liquid a vessel is that holds so much, from 0 to 1."""
    if volume_m3 <= 0.0:
        return 0.0
    dense = mass_kg / volume_m3
    return min(max((dense - state.vapor_kg_m3) / (state.liquid_kg_m3 - state.vapor_kg_m3), 0.0), 1.0)


def _spots(state: State, point: Point, after_valve_k: float) -> tuple[Spot, ...]:
    hot, cold = point.condensed, point.boiled
    found = [
        Spot("condenser", 0.0, state.discharge_k),
        Spot("condenser", hot.gas, point.high.dew_k),
        Spot("condenser", hot.gas + hot.two_phase, point.high.bubble_k - (point.high.bubble_k - point.high.dew_k) * hot.last),
        Spot("condenser", 1.0, state.liquid_k),
        Spot("liquid_line", 0.0, state.liquid_k),
        Spot("liquid_line", 1.0, state.after_restriction_k),
        Spot("evaporator", 0.0, after_valve_k),
        Spot("evaporator", cold.two_phase, point.low.dew_k if cold.last >= 1.0 else state.evaporator_out_k),
        Spot("evaporator", 1.0, state.evaporator_out_k),
        Spot("suction_line", 0.0, state.evaporator_out_k),
        Spot("suction_line", 1.0, state.suction_k),
        Spot("shell", 1.0, state.discharge_k),
    ]
    return tuple(found)


def _cycle(unit: Unit, state: State, point: Point) -> tuple[PhPoint, ...]:
    """The way round, on the picture of the plate's refrigerant; nothing where its tables do not reach."""
    try:
        shift = shift_j_kg(unit.refrigerant)
    except CoreError:
        return ()
    low, high = point.suction.pressure_pa, point.liquid_pa
    return (
        PhPoint(low, point.suction_in + shift, state.suction_k),
        PhPoint(high, point.discharge + shift, state.discharge_k),
        PhPoint(high, point.liquid + shift, state.liquid_k),
        PhPoint(low, point.liquid + shift, point.low.bubble_k),
    )


def _standing(bench: Bench) -> LookInside:
    """A unit that does not run: liquid lies in the colder coil, gas fills the rest."""
    unit, weather, live = bench.unit, bench.live.weather, bench.live
    empty = bench.empty is not None or live.charge_kg <= 1e-6
    pressure_pa, liquid_kg = (live.suction_pa, 0.0) if empty else pool(unit, weather, live.faults_now)
    cooling = weather.mode == "cooling"
    hot, cold = (unit.outdoor, unit.indoor) if cooling else (unit.indoor, unit.outdoor)
    hot_k, cold_k = (weather.outdoor_k, weather.indoor_k) if cooling else (weather.indoor_k, weather.outdoor_k)
    liquid_m3 = liquid_kg / fluid(unit.refrigerant).liquid_kg_m3(min(hot_k, cold_k))
    rooms = {
        "condenser": hot.volume_m3, "receiver": unit.receiver_m3, "liquid_line": unit.liquid_line_m3, "evaporator": cold.volume_m3,
        "suction_line": unit.suction_line_m3, "accumulator": unit.accumulator_m3, "shell": unit.shell_m3,
    }  # fmt: skip
    where = "condenser" if hot_k <= cold_k else "evaporator"
    levels = dict.fromkeys(rooms, 0.0)
    for part in (where, "liquid_line", "condenser", "evaporator"):
        put = min(liquid_m3, rooms[part] * (1.0 - levels[part]))
        levels[part] += put / rooms[part]
        liquid_m3 -= put
    gas_kg = 0.0 if empty else max(live.charge_kg - liquid_kg - unit.oil_kg * 0.1, 0.0)
    free = fsum(rooms[part] * (1.0 - levels[part]) for part in rooms)
    dense = fluid(unit.refrigerant).liquid_kg_m3(min(hot_k, cold_k))
    parts = tuple(
        CutPart(
            part,
            rooms[part] * levels[part] * dense + gas_kg * rooms[part] * (1.0 - levels[part]) / free,
            rooms[part],
            (Zone("liquid" if levels[part] > 0.0 else "gas", 1.0),),
            (levels[part],) * 2,
        )
        for part in rooms
        if rooms[part] > 0.0
    )
    kelvin = {"condenser": hot_k, "liquid_line": hot_k, "evaporator": cold_k, "suction_line": cold_k, "shell": weather.outdoor_k}
    spots = tuple(Spot(part, share, value) for part, value in kelvin.items() for share in (0.0, 1.0))
    shown_pa = bench.empty.pressure_pa if bench.empty is not None else pressure_pa
    oil = 0.0 if empty else min(unit.oil_kg * 0.1, live.charge_kg)
    return LookInside(False, live.charge_kg, oil, 0.0, shown_pa, shown_pa, parts, spots, (hot_k, cold_k), vessel=_vessel(bench))


def _shut_off(bench: Bench, pumped: PumpDown) -> LookInside:
    """Pumped down, or on the way: what is shut in the condenser, and what is left before the compressor, by room."""
    unit, weather = bench.unit, bench.live.weather
    known, cooling = fluid(unit.refrigerant), weather.mode == "cooling"
    hot, cold = (unit.outdoor, unit.indoor) if cooling else (unit.indoor, unit.outdoor)
    hot_k, cold_k = (weather.outdoor_k, weather.indoor_k) if cooling else (weather.indoor_k, weather.outdoor_k)
    level = min(pumped.high_kg / (pumped.high_m3 * known.liquid_kg_m3(hot_k)), 1.0)
    rooms = (
        ("liquid_line", unit.liquid_line_m3),
        ("evaporator", cold.volume_m3),
        ("suction_line", unit.suction_line_m3),
        ("shell", unit.shell_m3),
    )
    parts = [CutPart("condenser", pumped.high_kg, hot.volume_m3, (Zone("liquid", 1.0),), (level,) * 2)]
    parts += [CutPart(name, pumped.low_kg * room / pumped.low_m3, room, (Zone("gas", 1.0),), (0.0, 0.0)) for name, room in rooms]
    kelvin = {"condenser": hot_k, "liquid_line": hot_k, "evaporator": cold_k, "suction_line": cold_k, "shell": weather.outdoor_k}
    spots = tuple(Spot(part, share, value) for part, value in kelvin.items() for share in (0.0, 1.0))
    total = pumped.high_kg + pumped.low_kg
    return LookInside(
        False, total, 0.0, 0.0, pumped.suction_pa, pumped.liquid_pa, tuple(parts), spots, (hot_k, cold_k), vessel=_vessel(bench)
    )


def _vessel(bench: Bench) -> Vessel | None:
    one = bench.cylinders.get(bench.hooked)
    if one is None:
        return None
    gas_kg = one.vapor_kg if one.has_liquid else one.net_kg
    height = (one.net_kg - gas_kg) / one.known.liquid_kg_m3(one.temperature_k) / one.volume_m3
    return Vessel(bench.hooked, one.net_kg, gas_kg, min(max(height, 0.0), 1.0), one.temperature_k, one.pressure_pa, bench.upside_down)
