"""The comparison of refrigerants for one system, as screens and paper show it: from its plate, with open assumptions."""

from dataclasses import dataclass

from yoshi_core import cycle, refrigerants, retrofit
from yoshi_core.cycle import Conditions
from yoshi_core.errors import InvalidInput, UnknownRefrigerant
from yoshi_core.job import full_charge_kg
from yoshi_core.model import Plate
from yoshi_core.profile import Profile
from yoshi_core.retrofit import Candidate, Present
from yoshi_core.sheets import value_of
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import FAHRENHEIT_K, ZERO_FAHRENHEIT_K
from yoshi_core.units.text import parse
from yoshi_core.verdict import Message

USUAL = {"reach_in": (14.0, 105.0), "receiver": (20.0, 105.0), "chiller": (40.0, 100.0)}
COOLING = (42.0, 108.0)
ASKED = {
    "evaporating": ("temperature", "°F", "evaporating, mean"),
    "condensing": ("temperature", "°F", "condensing, mean"),
    "superheat": ("temperature_delta", "°F", "superheat at the compressor"),
    "subcooling": ("temperature_delta", "°F", "subcooling"),
    "efficiency": ("fraction", "%", "compressor's efficiency"),
    "outdoor": ("temperature", "°F", "air on the worst day"),
}


@dataclass(frozen=True)
class Assumption:
    """A figure the comparison hangs on, open to change: its id, words, value and what was typed."""

    id: str
    label: str
    amount: Amount


@dataclass(frozen=True)
class RetrofitProperty:
    """One property of a candidate: how it is said, its value, and the mark it is held against, in one SI unit; `bad` where it breaks it."""

    id: str
    said: Message
    value: float
    mark: float
    bad: bool = False


@dataclass(frozen=True)
class RetrofitRow:
    """A candidate: what stops it, its properties against the present refrigerant or the plate, what it changes, its charge."""

    name: str
    safety_class: str
    stops: tuple[Message, ...]
    properties: tuple[RetrofitProperty, ...]
    changes: tuple[Message, ...]
    ratio: float | None
    start: Amount | None
    final: Amount | None


@dataclass(frozen=True)
class RetrofitTable:
    """The whole comparison; `lacks` names what the plate does not say and would sharpen it."""

    refrigerant: str
    full: Amount | None
    assumptions: tuple[Assumption, ...]
    lacks: tuple[str, ...]
    rows: tuple[RetrofitRow, ...]


def table_of(plate: Plate, profile: Profile, asked: dict[str, str]) -> RetrofitTable:
    """Compare every catalogued refrigerant in the system of this plate.

    `asked` are assumptions as typed, by their id; what is not asked is usual for the kind. Raises `InvalidInput` naming
    the one that cannot be read, `UnknownRefrigerant` without tables for what is in it now, `OutOfRange` as the cycle does.
    """
    name = plate.refrigerant or ""
    if not refrigerants.is_known(name):
        raise UnknownRefrigerant(
            f"There are no tables for {name or 'this refrigerant'}: nothing can be compared with it.", designation=name
        )
    given = _assumed(plate, asked)
    full = full_charge_kg(plate, profile)
    present = Present(
        name,
        Conditions(*(given[key] for key in ("evaporating", "condensing", "superheat", "subcooling", "efficiency"))),
        plate.metering or "txv",
        plate.oil,
        full,
        value_of(plate.design_high),
        given["outdoor"],
        value_of(plate.altitude) or 0.0,
        plate.gauge_reference or "vented",
        refrigerants.get(name).safety_class if plate.listed and refrigerants.get(name).is_flammable else None,
        value_of(plate.room_area),
        value_of(plate.room_volume),
        plate.mounting,
    )
    base = cycle.run(name, present.conditions)
    rows = tuple(
        _row(row, base.discharge.temperature_k, refrigerants.get(name).gwp_ar4, present) for row in retrofit.compare(present, profile)
    )
    lacks = tuple(
        label
        for label, value in (
            ("the full charge", full),
            ("the high side's design pressure", plate.design_high),
            ("the oil", plate.oil),
        )
        if value is None
    )
    assumptions = tuple(Assumption(key, ASKED[key][2], Amount(given[key], ASKED[key][0])) for key in ASKED)
    return RetrofitTable(name, None if full is None else Amount(full, "mass"), assumptions, lacks, rows)


def _assumed(plate: Plate, asked: dict[str, str]) -> dict[str, float]:
    evaporating, condensing = USUAL.get(plate.kind or "", COOLING)
    usual = {
        "evaporating": evaporating * FAHRENHEIT_K + ZERO_FAHRENHEIT_K,
        "condensing": condensing * FAHRENHEIT_K + ZERO_FAHRENHEIT_K,
        "superheat": 18.0 * FAHRENHEIT_K,
        "subcooling": 9.0 * FAHRENHEIT_K,
        "efficiency": 0.68,
        "outdoor": 95.0 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K,
    }
    for key, text in asked.items():
        if key not in ASKED:
            raise InvalidInput(f"There is no assumption {key!r}. Use one of: {', '.join(ASKED)}.", path=f"/{key}")
        quantity, unit, label = ASKED[key]
        if text.strip():
            try:
                usual[key] = parse(quantity, text, default_unit=unit).value
            except InvalidInput as error:
                raise InvalidInput(f"{label}: {error.message}", path=f"/{key}") from None
    return usual


def _row(row: Candidate, discharge_k: float, gwp: float, present: Present) -> RetrofitRow:
    amount = row.charge
    return RetrofitRow(
        row.name,
        row.safety_class,
        tuple(stop.message for stop in row.stops),
        tuple(_properties(row, discharge_k, gwp, present)),
        row.changes,
        None if amount is None else amount.ratio,
        None if amount is None else Amount(amount.start_kg, "mass"),
        None if amount is None else Amount(amount.final_kg, "mass"),
    )


def _properties(row: Candidate, discharge_k: float, gwp: float, present: Present) -> list[RetrofitProperty]:
    found = []
    if row.capacity_ratio is not None and row.power_ratio is not None:
        for key, ratio in (("capacity", row.capacity_ratio), ("power", row.power_ratio)):
            word = "more" if ratio >= 1.0 else "less"
            said = Message(f"{{by}} {word}", {"by": Amount(abs(ratio - 1.0), "fraction")})
            found.append(RetrofitProperty(key, said, ratio, 1.0))
    if row.discharge_more_k is not None and row.cycle is not None:
        hot = row.cycle.discharge.temperature_k
        word = "hotter" if row.discharge_more_k >= 0.0 else "cooler"
        amounts = {"at": Amount(hot, "temperature"), "by": Amount(abs(row.discharge_more_k), "temperature_delta")}
        said = Message(f"{{at}}, {{by}} {word}", amounts)
        found.append(RetrofitProperty("discharge", said, hot, discharge_k))
    if row.worst_pa is not None:
        over = present.design_high_pa is not None and row.worst_pa > present.design_high_pa
        said = Message("{at}", {"at": Amount(row.worst_pa, "gauge_pressure")})
        found.append(RetrofitProperty("pressure", said, row.worst_pa, present.design_high_pa or row.worst_pa, over))
    if row.cycle is not None:
        glide = row.cycle.evaporator_glide_k
        said = Message("{glide}", {"glide": Amount(glide, "temperature_delta")}) if glide > 0.05 else Message("none")
        found.append(RetrofitProperty("glide", said, glide, 0.0))
    all_of_it = "" if row.co2e_kg is None else f", {row.co2e_kg / 1000.0:.1f} t of CO₂ in all"
    found.append(RetrofitProperty("gwp", Message(f"{row.gwp:.0f}{all_of_it}"), row.gwp, gwp))
    return found
