"""An exercise in its open JSON format: the unit, what is hidden in it, what is in the van, what counts and what it may take.

Figures are written as people write them ("6 lb", "95 °F"). Every key is checked as in a rig's scenario: one that is not known, or a
figure out of range, is an `InvalidInput` that names its place. Nothing in a file is run.
"""

import json
import pkgutil
import random
from collections.abc import Mapping
from dataclasses import field, replace
from typing import Any, Literal

from yoshi_core.diagnosis.causes import CAUSES
from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.practice.empty import Tightness
from yoshi_core.practice.questions import MOST, Question, question
from yoshi_core.rig.cylinder import Cylinder
from yoshi_core.rig.design import Plate, design
from yoshi_core.rig.instruments import Fault
from yoshi_core.rig.scenario_reader import Reader, read_cylinder, read_faults, read_instruments, read_plate, read_weather
from yoshi_core.rig.unit import Faults, Weather

FORMAT, VERSION = "yoshi-exercise", 1
LARGEST_TEXT = 200_000
LONGEST_S = 8 * 3600.0
LEVELS = (1, 2, 3)
MOST_EITHER = 8
SHIPPED = (
    "both-gauges", "bubble-or-dew", "ounces-pounds-kilos", "heel-and-cans", "room-for-it", "a-blend-by-weight", "all-of-it-by-weight",
    "orifice-by-superheat", "valve-by-subcooling", "too-much-in-it", "no-charge-to-spare", "low-air", "dirty-outdoor-coil", "a-plugged-drier",
    "air-in-it", "hold-while-it-cools", "leak-or-moisture", "pump-down", "in-winter", "a-cold-morning", "high-up", "another-refrigerant",
    "tired-compressor", "valve-floods", "wrong-orifice",
)  # fmt: skip
Start = Literal["running", "off", "empty", "open"]


@dataclass(frozen=True)
class Marks:
    """What counts: the charge's share of error allowed, minutes of settling before a reading, what may be lost, and what is to be named.

    `cause` is a cause of the diagnosis that is to be found and left as it is. Where answers are all that is asked, `charge_counts` is not set,
    and the charge is to be left as it is. `leave` says whether it is to be left full, empty, or
    pumped down into its condenser.
    """

    charge_within: float
    settle_s: float
    lost_kg: float
    cause: str = ""
    charge_counts: bool = True
    leave: str = "full"


@dataclass(frozen=True)
class Van:
    """What is in the van: cylinders by name, step of the scale's display in kg, and what is wrong with which instrument."""

    cylinders: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)
    scale_step_kg: float = 0.0
    instruments: Mapping[str, Fault] = field(default_factory=dict)


@dataclass(frozen=True)
class Exercise:
    """A checked exercise. `plain` is what was read, to be kept and handed on; times in s, masses in kg.

    `start`: the unit runs, or stands charged, or is recovered, held and evacuated, or open: recovered, mended, and air in it. `faults` hold what is hidden, drawn by `level` and
    `seed` where the file does not say it. `subcooling_target` and lines stand on the plate a technician reads.
    """

    name: str
    group: str
    number: int
    aim: str
    about: str
    unit: Plate
    weather: Weather
    altitude: str
    faults: Faults
    level: int
    start: Start
    van: Van
    marks: Marks
    time_s: float
    refrigerant_kg: float
    seed: int
    plain: Mapping[str, Any]
    tight: Tightness = Tightness()
    asks: tuple[Question, ...] = ()

    def cylinders(self) -> dict[str, Cylinder]:
        """The van's cylinders as they are at the start."""
        return {
            name: read_cylinder(Reader(plain, f"/van/cylinders/{name}"), self.unit.refrigerant)
            for name, plain in self.van.cylinders.items()
        }


def shipped(name: str) -> str:
    """The text of an exercise that comes with Yoshi. Raises `InvalidInput` with the names there are."""
    if name not in SHIPPED:
        raise InvalidInput("There is no exercise {name}. There are: {known}.", words={"name": name, "known": SHIPPED})
    return (pkgutil.get_data("yoshi_core.practice", f"exercises/{name}.json") or b"").decode()


def json_schema() -> str:
    """What an exercise's file may hold, as JSON Schema (draft 2020-12). A file it takes may still be refused: figures in words are read."""
    return (pkgutil.get_data("yoshi_core.practice", "exercise.schema.json") or b"").decode()


def loads(text: str, seed: int | None = None) -> Exercise:
    """An exercise from its JSON text; another `seed` draws another hidden fault and other instruments. Raises `InvalidInput`."""
    if len(text) > LARGEST_TEXT:
        raise InvalidInput("An exercise is at most {most} characters long.", words={"most": f"{LARGEST_TEXT:,}"})
    try:
        plain = json.loads(text)
    except ValueError as error:
        raise InvalidInput("This is not JSON: {error}. It may have been cut off.", words={"error": error}) from None
    except RecursionError:
        raise InvalidInput("This JSON is nested too deep for an exercise.") from None
    top = Reader(plain, "")
    if top.raw("format") != FORMAT:
        said = f"{plain.get('format')!r}"
        raise InvalidInput("This is not a {format} file: its format says {said}.", words={"format": FORMAT, "said": said}, path="/format")
    if top.raw("version") != VERSION:
        said = f"{plain.get('version')!r}"
        text = "This exercise is of version {said}; this Yoshi reads version {version}."
        raise InvalidInput(text, words={"said": said, "version": VERSION}, path="/version")
    return _read(top, seed)


def _read(top: Reader, seed: int | None) -> Exercise:
    drawn = int(top.number("seed", 1, 0, 1e6)) if seed is None else seed
    top.raw("seed")
    unit, weather = read_plate(top.part("unit")), read_weather(top.part("weather"))
    level = int(top.number("level", 0, 0, max(LEVELS)))
    faults = read_faults(_drawn(top.part("hidden"), drawn))
    limits = top.part("limits")
    made = Exercise(
        _text(top, "name"),
        _text(top, "group"),
        int(top.number("number", 0, 0, 999)),
        _text(top, "aim"),
        _text(top, "about", 2000),
        unit,
        weather,
        str(top.part("weather").raw("altitude", "0 m")),
        hidden(level, drawn, faults) if level else faults,
        level,
        top.choice("start", ("running", "off", "empty", "open"), "running"),
        _van(top.part("van"), unit.refrigerant),
        _marks(top.part("marks")),
        limits.figure("time", "duration"),
        limits.figure("refrigerant", "mass"),
        drawn,
        top.plain,
        _tight(top.part("tight"), drawn),
        _asks(top),
    )
    limits.done()
    top.done()
    design(unit)  # so that a file nobody can stand in front of is refused here, and not at the start
    if not 0.0 < made.time_s <= LONGEST_S:
        raise InvalidInput("An exercise takes up to 8 h.", path="/limits/time")
    if level and faults != Faults():
        raise InvalidInput("What is hidden is drawn by level or said, not both.", path="/hidden")
    return made


def _asks(top: Reader) -> tuple[Question, ...]:
    """What is asked at the unit; the cause always where one is to be named."""
    given = top.raw("questions", [])
    if not isinstance(given, list) or len(given) > MOST or not all(isinstance(one, str) for one in given):
        raise InvalidInput("questions is a list of at most {most} questions.", words={"most": MOST}, path="/questions")
    asked = [question(one) for one in given]
    if len({one.id for one in asked}) < len(asked):
        raise InvalidInput("A question is asked twice.", path="/questions")
    vessels = top.part("van").part("cylinders").plain
    for one in asked:
        if one.cylinder and one.cylinder not in vessels:
            raise InvalidInput("There is no cylinder {name} in the van.", words={"name": one.cylinder}, path="/questions")
    named = top.part("marks").raw("cause", "")
    return (*asked, *([question("cause")] if named and all(one.ask != "cause" for one in asked) else []))


def _tight(part: Reader, seed: int) -> Tightness:
    """How tight and how dry: one of several by the seed where the file gives `either`, a figure between two where it gives two."""
    several = part.raw("either")
    if several is not None:
        if not isinstance(several, list) or not 1 <= len(several) <= MOST_EITHER:
            raise InvalidInput("either is a list of up to {most} cases.", words={"most": MOST_EITHER}, path=f"{part.path}/either")
        part.done()
        n = random.Random(seed).randrange(len(several))  # noqa: S311 - a draw for practice
        part = Reader(several[n], f"{part.path}/either/{n}")
    part = _drawn(part, seed)
    metal = part.figure("metal", "temperature", 0.0)
    found = Tightness(
        part.number("leak_pa_m3_s", 0.0, 0.0, 100.0),
        part.number("water_g", 0.0, 0.0, 1000.0) / 1e3,
        metal or None,
        part.figure("metal_over", "duration", 1800.0),
    )
    part.done()
    return found


def _drawn(part: Reader, seed: int) -> Reader:
    """What is hidden, with a figure drawn by the seed where the file gives two to lie between."""
    dice = random.Random(seed)  # noqa: S311 - a draw for practice

    def one(name: str, value: Any) -> Any:
        if not isinstance(value, list):
            return value
        if len(value) != 2 or not all(isinstance(end, int | float) and not isinstance(end, bool) for end in value) or value[0] > value[1]:
            raise InvalidInput("{place} is one figure, or the least and the most.", words={"place": name}, path=f"{part.path}/{name}")
        return dice.uniform(*value)

    return Reader({name: one(name, value) for name, value in part.plain.items()}, part.path)


def _text(top: Reader, key: str, most: int = 120) -> str:
    value = top.raw(key, "")
    if not isinstance(value, str) or len(value) > most:
        raise InvalidInput("{key} is text of at most {most} characters.", words={"key": key, "most": most}, path=f"/{key}")
    return value


def _van(part: Reader, refrigerant: str) -> Van:
    cylinders = part.part("cylinders")
    if len(cylinders.plain) > 12:
        raise InvalidInput("A van carries at most twelve cylinders.", path=cylinders.path)
    for name in cylinders.plain:
        read_cylinder(cylinders.part(name), refrigerant)
    made = Van(dict(cylinders.plain), part.figure("scale_step", "mass", 0.0), read_instruments(part.part("instruments")))
    part.done()
    return made


def _marks(part: Reader) -> Marks:
    made = Marks(
        part.number("charge_within", 0.02, 0.001, 0.5),
        part.figure("settle", "duration", 600.0),
        part.figure("lost", "mass", 0.06),
        part.choice("cause", ("", *CAUSES), ""),
        part.raw("charge_counts", True) is True,
        part.choice("leave", ("full", "empty", "pumped_down"), "full"),
    )
    part.done()
    return made


def hidden(level: int, seed: int, well: Faults = Faults()) -> Faults:  # noqa: B008 - a frozen one
    """What is wrong at a level, drawn by a seed: 1 charge 10 to 25 % off, 2 charge 5 to 12 % off, 3 that with one thing more.

    Invented for practice: how often what is wrong in the field is not known here.
    """
    dice = random.Random(seed)  # noqa: S311 - a draw for practice
    least, most = {1: (0.10, 0.25), 2: (0.05, 0.12), 3: (0.05, 0.15)}[level]
    off = dice.uniform(least, most) * dice.choice((-1.0, 1.0))
    made = replace(well, charge_share=1.0 + off)
    if level < max(LEVELS):
        return made
    beside = dice.choice(("low_airflow", "dirty_condenser", "liquid_restriction"))
    grave: dict[str, Any] = {beside: dice.uniform(0.4, 0.7)}
    return replace(made, **grave)
