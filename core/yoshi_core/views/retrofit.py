"""The comparison of refrigerants for one system, as screens and paper show it: from its plate, with open assumptions."""

from yoshi_core import refrigerants
from yoshi_core.books.circuit import TONNES, check_days
from yoshi_core.document.plate import Plate
from yoshi_core.errors import UnknownRefrigerant
from yoshi_core.frozen import dataclass
from yoshi_core.job.evaluate import full_charge_kg
from yoshi_core.message import Message, headline
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import cycle, pressure_enthalpy
from yoshi_core.properties.cycle import Cycle
from yoshi_core.properties.pressure_enthalpy import PhPoint
from yoshi_core.retrofit import candidates as retrofit
from yoshi_core.retrofit.candidates import Candidate, Present
from yoshi_core.steps.plan_change.case import ASKED, by_weight, present_of, read, usual
from yoshi_core.units.display import Amount, System

SLIGHT_K = 0.05
SAME = 0.0005
CHECKED = {
    365: Message("leak checks every year"),
    182: Message("leak checks every half-year"),
    91: Message("leak checks every quarter"),
}


@dataclass(frozen=True)
class Assumption:
    """A figure the comparison hangs on, open to change: its id, words and value; None where it may be left open."""

    id: str
    label: str
    amount: Amount | None


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
    cycle: tuple[PhPoint, ...] = ()


@dataclass(frozen=True)
class RetrofitTable:
    """The whole comparison; `lacks` names what the plate does not say and would sharpen it, `cycle` is what runs in it now; `by_weight`: all of it is weighed in."""

    refrigerant: str
    full: Amount | None
    assumptions: tuple[Assumption, ...]
    lacks: tuple[str, ...]
    rows: tuple[RetrofitRow, ...]
    cycle: tuple[PhPoint, ...]
    by_weight: bool = False


def table_of(plate: Plate, profile: Profile, asked: dict[str, str], system: System = "us") -> RetrofitTable:
    """Compare every catalogued refrigerant in the system of this plate.

    `asked` are assumptions as typed, by their id; what is not asked is usual for the kind. Raises `InvalidInput` naming
    the one that cannot be read, `UnknownRefrigerant` without tables for what is in it now, `OutOfRange` as the cycle does.
    """
    name = plate.refrigerant or ""
    if not refrigerants.is_known(name):
        raise UnknownRefrigerant(
            "There are no tables for {name}: nothing can be compared with it.", words={"name": name or "this refrigerant"}, designation=name
        )
    typed = {key: item.value for key, item in read(asked, system).items()}
    duty = typed.pop("duty", None)
    given = usual(plate.kind) | typed
    full = full_charge_kg(plate, profile)
    present = present_of(plate, full, given)
    base = cycle.run(name, present.conditions)
    rows = tuple(_row(row, base, duty, present) for row in retrofit.compare(present, profile))
    lacks = tuple(
        label
        for label, value in (
            ("the full charge", full),
            ("the high side's design pressure", plate.design_high),
            ("the oil", plate.oil),
        )
        if value is None
    )
    held = {**given, "duty": duty}
    assumptions = tuple(
        Assumption(key, label, None if (value := held[key]) is None else Amount(value, quantity))
        for key, (quantity, label) in ASKED.items()
    )
    full_amount = None if full is None else Amount(full, "mass")
    return RetrofitTable(name, full_amount, assumptions, lacks, rows, pressure_enthalpy.corners(name, base), by_weight(plate))


def _row(row: Candidate, base: Cycle, duty: float | None, present: Present) -> RetrofitRow:
    amount = row.charge
    return RetrofitRow(
        row.name,
        row.safety_class,
        tuple(stop.message for stop in row.stops),
        (*_by_cycle(row, base, duty, present), *_by_charge(row, present)),
        row.changes,
        None if amount is None else amount.ratio,
        None if amount is None else Amount(amount.start_kg, "mass"),
        None if amount is None else Amount(amount.final_kg, "mass"),
        () if row.cycle is None else pressure_enthalpy.corners(row.name, row.cycle),
    )


def _by_cycle(row: Candidate, base: Cycle, duty: float | None, present: Present) -> list[RetrofitProperty]:
    """What the simple cycle says; nothing where the tables do not reach."""
    ran = row.cycle
    if ran is None or row.capacity_ratio is None or row.power_ratio is None or row.flow_ratio is None:
        return []
    site = present.site_pa
    hot, was_hot = ran.discharge.temperature_k, base.discharge.temperature_k
    amounts = {"at": Amount(hot, "temperature"), "by": Amount(abs(hot - was_hot), "temperature_delta")}
    hotter = Message("{at}, {by} hotter" if hot >= was_hot else "{at}, {by} cooler", amounts)
    found = [
        RetrofitProperty("capacity", _than(row.capacity_ratio), row.capacity_ratio, 1.0),
        RetrofitProperty("power", _than(row.power_ratio), row.power_ratio, 1.0),
        _for_the_duty(row.power_ratio / row.capacity_ratio, ran, duty),
        RetrofitProperty("discharge", hotter, hot, was_hot),
    ]
    for key, now, was in (("low", ran.suction, base.suction), ("high", ran.discharge, base.discharge)):
        gauge = now.pressure_pa - site
        found.append(RetrofitProperty(key, Message("{at}", {"at": Amount(gauge, "gauge_pressure")}), gauge, was.pressure_pa - site))
    flow = row.flow_ratio / row.capacity_ratio
    found.append(RetrofitProperty("flow", _than(flow), flow, 1.0))
    found.append(RetrofitProperty("valve", _than(row.valve_ratio or 1.0), row.valve_ratio or 1.0, 1.0))
    return found


def _for_the_duty(share: float, ran: Cycle, duty: float | None) -> RetrofitProperty:
    """Power for the same cooling: the share over the present one, in watts too where the duty is known."""
    said = _than(share)
    if duty is not None:
        said = headline("{watts}, {than}", watts=Amount(duty / ran.performance, "power"), than=said)
    return RetrofitProperty("duty", said, share, 1.0)


def _than(ratio: float) -> Message:
    if abs(ratio - 1.0) < SAME:
        return Message("the same")
    return headline("{by} more" if ratio >= 1.0 else "{by} less", by=Amount(abs(ratio - 1.0), "fraction"))


def _by_charge(row: Candidate, present: Present) -> list[RetrofitProperty]:
    """Pressure on the worst day, glide with what it does to readings, and what the charge weighs in CO₂."""
    found = []
    if row.worst_pa is not None:
        over = present.design_high_pa is not None and row.worst_pa > present.design_high_pa
        said = Message("{at}", {"at": Amount(row.worst_pa, "gauge_pressure")})
        found.append(RetrofitProperty("pressure", said, row.worst_pa, present.design_high_pa or row.worst_pa, over))
    if row.cycle is not None:
        low, high = row.cycle.evaporator_glide_k, row.cycle.condenser_glide_k
        amounts = {"low": Amount(low, "temperature_delta"), "high": Amount(high, "temperature_delta")}
        said = Message("{low}, condenser {high}", amounts) if low > SLIGHT_K else Message("next to none")
        found.append(RetrofitProperty("glide", said, low, 0.0))
    gwp, old = row.gwp, refrigerants.get(present.refrigerant).gwp_ar4
    found.append(RetrofitProperty("gwp", headline("{gwp}", gwp=Amount(gwp, "count")), gwp, old))
    if row.co2e_kg is not None and present.full_kg is not None:
        days = check_days(row.co2e_kg)
        check = Message("no fixed leak checks") if days is None else CHECKED[days]
        said = headline("{co2e} t, {check}", co2e=f"{row.co2e_kg / TONNES:.1f}", check=check)
        found.append(RetrofitProperty("co2e", said, row.co2e_kg, present.full_kg * old))
    return found
