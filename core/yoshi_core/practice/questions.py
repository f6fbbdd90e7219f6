"""What an exercise may ask somebody who stands at the unit: the truth from the rig, and what a careful technician makes of the displays.

A question is a word with what it is about: "superheat", "net 14", "room R3", "shut 14 42 oz". An answer is judged when it is given, by
what was true then; how near it must be leaves room for the instruments' own limits.
"""

from collections.abc import Mapping
from typing import TYPE_CHECKING, Literal

from yoshi_core.charge.cylinders import fill_limit_kg
from yoshi_core.diagnosis.causes import CAUSES
from yoshi_core.errors import CoreError, InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message
from yoshi_core.properties.saturation import bubble_temperature_k, dew_temperature_k
from yoshi_core.rig.solve import as_read
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import FAHRENHEIT_K, LB_KG, OZ_KG, ZERO_FAHRENHEIT_K
from yoshi_core.units.text import parse

if TYPE_CHECKING:
    from yoshi_core.practice.bench import Bench
    from yoshi_core.practice.shown import Shown

Ask = Literal["cause", "tight", "vacuum", "boils", "condenses", "superheat", "subcooling", "net", "room", "shut", "grams"]
MOST = 12
CHOICES: Mapping[str, Mapping[str, str]] = {
    "cause": {name: cause.label for name, cause in CAUSES.items()},
    "tight": {"tight": "tight", "leaking": "leaking", "not_yet": "cannot be said yet"},
    "vacuum": {"dry": "dry and tight", "moist": "moist", "leaking": "leaking"},
}
QUANTITY = {"boils": "temperature", "condenses": "temperature", "superheat": "temperature_delta", "subcooling": "temperature_delta"}
WITHIN = {"temperature": 2.5 * FAHRENHEIT_K, "temperature_delta": 3.0 * FAHRENHEIT_K, "mass": 1.0 * OZ_KG}
ROOM_WITHIN_KG = 0.3 * LB_KG
TITLES: Mapping[str, str] = {
    "cause": "What is wrong with it?",
    "tight": "Does it hold?",
    "vacuum": "What does the rise say?",
    "boils": "At what temperature has all of it boiled off, by the low side gauge?",
    "condenses": "At what temperature is all of it liquid, by the high side gauge?",
    "superheat": "Superheat at the suction port",
    "subcooling": "Subcooling at the liquid port",
    "net": "What is in cylinder {cylinder}, on the scale, less its tare?",
    "room": "How much more may go into cylinder {cylinder}?",
    "shut": "{mass} are to leave cylinder {cylinder}. What does the scale read then?",
    "grams": "What is in cylinder {cylinder}, in grams?",
}


@dataclass(frozen=True)
class Question:
    """One question: its kind, the cylinder and mass it is about, and how its answer is given: one of `choices`, or a `quantity`."""

    id: str
    ask: Ask
    title: Message
    cylinder: str = ""
    mass_kg: float = 0.0
    quantity: str = ""
    choices: Mapping[str, str] | None = None


@dataclass(frozen=True)
class Answer:
    """An answer as given, in the second it was given, and whether it was right then; `truth` in SI or the right choice."""

    question: str
    text: str
    time_s: float
    right: bool
    truth: str | float


def question(text: str) -> Question:
    """A question from its word and what it is about. Raises `InvalidInput`."""
    word, _, rest = text.partition(" ")
    if word not in TITLES:
        raise InvalidInput("{word} is no question. There are: {known}.", words={"word": word, "known": tuple(TITLES)}, path="/questions")
    cylinder, _, mass = rest.partition(" ")
    if (word in {"net", "room", "shut", "grams"}) != bool(cylinder) or (word == "shut") != bool(mass):
        raise InvalidInput("The question {text} lacks the cylinder or the mass it is about.", words={"text": text}, path="/questions")
    mass_kg = parse("mass", mass).value if mass else 0.0
    amounts = {"mass": Amount(mass_kg, "mass")} if mass else {}
    title = Message(TITLES[word], amounts, {"cylinder": cylinder} if cylinder else {})
    choices = CHOICES.get(word)
    return Question(text, word, title, cylinder, mass_kg, "" if choices else QUANTITY.get(word, "mass"), choices)  # type: ignore[arg-type]


def answered(bench: "Bench", asked: Question, text: str) -> Answer:
    """An answer with whether it is right. Raises `InvalidInput` for one that is none."""
    truth = true_answer(bench, asked)
    if asked.choices is not None:
        if text not in asked.choices:
            raise InvalidInput("Answer with one of {known}.", words={"known": tuple(asked.choices)}, path="/to")
        return Answer(asked.id, text, bench.time_s, text == truth, truth)
    unit = {"grams": "g", "temperature": "°F", "temperature_delta": "°F"}.get(asked.ask if asked.ask == "grams" else asked.quantity, "lb")
    try:
        value = parse(asked.quantity, text, default_unit=unit).value
    except CoreError as error:
        raise InvalidInput("{message}", words={"message": error.message}, path="/to") from None
    within = ROOM_WITHIN_KG if asked.ask == "room" else WITHIN[asked.quantity]
    return Answer(asked.id, text, bench.time_s, abs(value - float(truth)) <= within, truth)


def true_answer(bench: "Bench", asked: Question) -> str | float:
    """What is so, by the rig and not by its displays. Raises `InvalidInput` for a cylinder that is not there."""
    if asked.ask == "cause":
        return bench.exercise.marks.cause
    if asked.ask in {"tight", "vacuum"}:
        tight = bench.exercise.tight
        if tight.leak_pa_m3_s > 0.0:
            return "leaking"
        return "tight" if asked.ask == "tight" else "moist" if tight.water_kg > 0.0 else "dry"
    if asked.cylinder:
        return _of_cylinder(bench, asked)
    name, now = bench.unit.refrigerant, bench.now
    superheat, subcooling = as_read(name, now.suction_pa, now.suction_k, now.liquid_pa, now.liquid_k)
    return {
        "boils": dew_temperature_k(name, now.suction_pa),
        "condenses": bubble_temperature_k(name, now.liquid_pa),
        "superheat": superheat,
        "subcooling": subcooling,
    }[asked.ask]


def _of_cylinder(bench: "Bench", asked: Question) -> float:
    one = bench.cylinders.get(asked.cylinder)
    if one is None:
        raise InvalidInput("There is no cylinder {name} in the van.", words={"name": asked.cylinder}, path="/questions")
    if asked.ask == "room":
        return fill_limit_kg(one.refrigerant, one.water_capacity_kg) - one.net_kg
    return one.gross_kg - asked.mass_kg if asked.ask == "shut" else one.net_kg


def from_displays(bench: "Bench", asked: Question, shown: "Shown") -> str | None:
    """What the displays say to a question that figures answer; None where they do not say it."""
    if asked.cylinder:
        one = bench.cylinders[asked.cylinder]
        if shown.scale_kg is None or bench.hooked != asked.cylinder:
            return None
        net = shown.scale_kg - one.tare_kg  # stamped on its collar
        most = fill_limit_kg(one.refrigerant, one.water_capacity_kg)
        value = {"room": most - net, "shut": shown.scale_kg - asked.mass_kg}.get(asked.ask, net)
        return f"{value:.6f} kg"
    name, site_pa = bench.unit.refrigerant, bench.weather.site_pa
    low = None if shown.suction_pa is None else shown.suction_pa + site_pa
    high = None if shown.liquid_pa is None else shown.liquid_pa + site_pa
    dew = None if low is None else dew_temperature_k(name, low)
    bubble = None if high is None else bubble_temperature_k(name, high)
    value_k = {
        "boils": dew,
        "condenses": bubble,
        "superheat": None if dew is None or shown.suction_line_k is None else shown.suction_line_k - dew,
        "subcooling": None if bubble is None or shown.liquid_line_k is None else bubble - shown.liquid_line_k,
    }.get(asked.ask)
    if value_k is None:
        return None
    return f"{(value_k - (ZERO_FAHRENHEIT_K if asked.quantity == 'temperature' else 0.0)) / FAHRENHEIT_K:.2f} °F"
