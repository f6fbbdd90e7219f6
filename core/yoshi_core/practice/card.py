"""What stands on an exercise's card: the unit, the weather, the van and what counts; nothing of what is hidden."""

from yoshi_core.charge.cylinders import fill_limit_kg
from yoshi_core.errors import CoreError
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message
from yoshi_core.practice.exercise import Exercise
from yoshi_core.rig.design import TON_W
from yoshi_core.rig.instruments import MAKES


@dataclass(frozen=True)
class CardCylinder:
    """A cylinder of the van: gross as its scale reads and net in it, kg; for recovery, how much more it takes."""

    code: str
    refrigerant: str
    recovery: bool
    gross_kg: float
    net_kg: float
    room_kg: float | None


@dataclass(frozen=True)
class Card:
    """An exercise as it is chosen by. Masses kg, temperatures K, lengths m, seconds, capacity W; limits are ± of the van's instruments.

    `charge_within_kg` is None where the charge is not asked. `wrong` says that an instrument may read wrong, never which.
    """

    name: str
    group: str
    number: int
    aim: str
    about: str
    refrigerant: str
    capacity_w: float
    tons: float
    charge_kg: float
    metering: str
    heat_pump: bool
    line_m: float
    liquid_od_m: float
    suction_od_m: float
    outdoor_k: float
    indoor_k: float
    wet_bulb_k: float
    altitude: str
    mode: str
    level: int
    start: str
    scale_step_kg: float
    scale_limit_kg: float
    gauge_limit_pa: float
    clamp_limit_k: float
    wrong: bool
    cylinders: tuple[CardCylinder, ...]
    time_s: float
    refrigerant_kg: float
    charge_within_kg: float | None
    settle_s: float
    lost_kg: float
    asks: tuple[Message, ...]


def card_of(exercise: Exercise) -> Card:
    """The card of an exercise."""
    unit, weather, marks, van = exercise.unit, exercise.weather, exercise.marks, exercise.van
    step = van.scale_step_kg
    counted = not marks.cause and marks.charge_counts
    return Card(
        exercise.name,
        exercise.group,
        exercise.number,
        exercise.aim,
        exercise.about,
        unit.refrigerant,
        unit.capacity_w,
        round(unit.capacity_w / TON_W, 2),
        unit.charge_kg,
        unit.metering,
        unit.heat_pump,
        unit.line_m,
        unit.liquid_od_m,
        unit.suction_od_m,
        weather.outdoor_k,
        weather.indoor_k,
        weather.indoor_wet_bulb_k,
        exercise.altitude,
        weather.mode,
        exercise.level,
        exercise.start,
        step or MAKES["scale"].resolution,
        step or MAKES["scale"].limit,
        MAKES["gauge"].limit,
        MAKES["clamp"].limit,
        bool(van.instruments),
        tuple(_cylinder(name, exercise) for name in van.cylinders),
        exercise.time_s,
        exercise.refrigerant_kg,
        marks.charge_within * unit.charge_kg if counted else None,
        marks.settle_s,
        marks.lost_kg,
        tuple(one.title for one in exercise.asks),
    )


def _cylinder(name: str, exercise: Exercise) -> CardCylinder:
    one = exercise.cylinders()[name]
    recovery = name.startswith("R")
    try:
        room = fill_limit_kg(one.refrigerant, one.water_capacity_kg) - one.net_kg if recovery else None
    except CoreError:
        room = None
    return CardCylinder(name, one.refrigerant, recovery, one.gross_kg, one.net_kg, room)
