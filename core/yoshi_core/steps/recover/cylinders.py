"""The cylinders of a recovery: room, limits, retest, and what went into each."""

from yoshi_core import refrigerants
from yoshi_core.books import cylinder as cylinder_book
from yoshi_core.charge import recovery
from yoshi_core.charge.recovery import Room
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import CylinderRow
from yoshi_core.frozen import dataclass
from yoshi_core.message import headline, sentence, told
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.recover.lines import taken_kg
from yoshi_core.steps.recover.sheet import RecoverSheet, RecoveryCylinder
from yoshi_core.units.display import Amount

FILL = "AHRI Guideline K (from memory)"
EMPTY_KG = 0.25


@dataclass(frozen=True)
class Taken:
    """A cylinder as it stands: room before, what went in, what is free now; kg, None while unknown."""

    key: str
    row: RecoveryCylinder
    room: Room | None
    mass_kg: float | None
    free_kg: float | None
    liquid_full_k: float | None

    @property
    def name(self) -> str:
        """What the cylinder is called: its number, else its row."""
        return self.row.cylinder or self.key


ONE_WAY = "49 CFR 178.65, marking of cylinders that are not refillable (from memory); local law prevails"
LIMITS = frozenset({"contents", "tare", "water_capacity"})  # without them nobody knows whether it is overfilled or mixed


def read_cylinders(sheet: RecoverSheet, notes: Notes, context: StepContext) -> tuple[Taken, ...]:
    """Every cylinder read and held against its own limits."""
    if not sheet.cylinders:
        notes.need(context.path("cylinders", "c1", "gross_start"), "a cylinder on the scale", None)
    return tuple(_read(key, row, sheet, notes, context) for key, row in sheet.cylinders.items())


def _read(key: str, row: RecoveryCylinder, sheet: RecoverSheet, notes: Notes, context: StepContext) -> Taken:
    path = context.path("cylinders", key)
    for field, label in (
        ("contents", "what is in the cylinder"),
        ("tare", "the cylinder's tare"),
        ("water_capacity", "its water capacity; without it no limit can be worked out"),
        ("gross_start", "what the scale reads before"),
    ):
        notes.need(f"{path}/{field}", label, getattr(row, field), hard=field in LIMITS)
    _refuse(row, path, notes, context)
    mass = _mass(row, path, notes)
    name = context.plate.refrigerant
    start, tare, water = value_of(row.gross_start), value_of(row.tare), value_of(row.water_capacity)
    if name is None or not refrigerants.is_known(name) or start is None or tare is None or water is None:
        return Taken(key, row, None, mass, None, None)
    rule = "recover.oily_fill" if sheet.oily else "cylinder.fill"
    try:
        within = 2.0 * context.profile.value("scale.limit")  # lighter than its tare by no more than two weighings are wrong: empty
        held = 0.0 if -within <= start - tare < 0.0 else start - tare
        room = recovery.room(name, water, tare, held, context.profile.value(rule))
        now = value_of(row.gross_now)
        gross = start if now is None else now
        hot = recovery.liquid_full_k(name, water, max(gross - tare, 1e-6)) if gross > tare else None
    except CoreError as error:
        notes.refuse(f"{path}/gross_start", error.code, told(error))
        return Taken(key, row, None, mass, None, None)
    return Taken(key, row, room, mass, room.stop_gross_kg - gross, hot)


def _refuse(row: RecoveryCylinder, path: str, notes: Notes, context: StepContext) -> None:
    name = row.cylinder or "The cylinder"
    if row.contents == "other":
        notes.say(
            "cylinder.mixed",
            "Stop",
            "{name}: something else is in it. Two refrigerants in one cylinder can only be destroyed or reclaimed; take another.",
            TRADE,
            role="hard",
            name=name,
        )
    if row.contents == "one_way":
        text = sentence("{name} is one-way and never refilled: it can burst, and the law forbids it on the road. Take a recovery cylinder.")
        notes.say("cylinder.one_way", "Stop", text, ONE_WAY, role="hard", name=name)
    if row.retest is not None:
        try:
            cylinder_book.read_retest(row.retest)
        except CoreError as error:
            notes.refuse(f"{path}/retest", "not_a_month", told(error))
        if cylinder_book.retest_due(row.retest, context.today):
            notes.say(
                "cylinder.retest",
                "Stop",
                "{name}: its retest was due {retest}. It must not be filled; empty it and send it for retest.",
                "transport rules; local law prevails",
                role="hard",
                name=name,
                retest=row.retest,
            )
    start, tare = value_of(row.gross_start), value_of(row.tare)
    if row.contents == "evacuated" and start is not None and tare is not None and start - tare > EMPTY_KG:
        text = sentence("It is called evacuated, yet the scale reads {value} over its tare. Weigh it again, or say what is in it.")
        notes.refuse(f"{path}/gross_start", "not_empty", text, value=Amount(start - tare, "mass"))


def _mass(row: RecoveryCylinder, path: str, notes: Notes) -> float | None:
    if row.gross_start is None or row.gross_now is None:
        return None
    mass = taken_kg(row)
    if mass is not None and mass < 0.0:
        text = sentence("A recovered weight cannot be below zero: the scale reads {now} after {before}. The two readings may be swapped.")
        notes.refuse(
            f"{path}/gross_now",
            "negative_recovered",
            text,
            now=Amount(row.gross_now.value, "mass"),
            before=Amount(row.gross_start.value, "mass"),
        )
        return None
    return mass


def judge_cylinders(
    sheet: RecoverSheet, taken: tuple[Taken, ...], expected: tuple[float, float] | None, notes: Notes, context: StepContext
) -> None:
    """Room enough before the first is opened, none over its limit, and when to change."""
    rooms = [item.room for item in taken]
    started = any(item.row.gross_now is not None for item in taken)
    known = [room for room in rooms if room is not None]
    if expected is not None and known and len(known) == len(rooms) and not started:
        total = sum(room.room_kg for room in known)
        amounts = {"expected": Amount(expected[1], "mass"), "room": Amount(total, "mass")}
        if recovery.cylinders_needed(expected[1], tuple(room.room_kg for room in known)) is None:
            text = sentence(
                "Up to {expected} may come out and there is room for {room}. Have another cylinder at hand before the first is opened."
            )
            notes.tell("cylinder.fill", "Stop", text, context.profile.source("cylinder.fill"), amounts)
        else:
            notes.tell(
                "cylinder.fill",
                "Holds",
                "Up to {expected} may come out; there is room for {room}.",
                context.profile.source("cylinder.fill"),
                amounts,
            )
    for item in taken:
        _judge_one(item, sheet, notes, context)


def _judge_one(item: Taken, sheet: RecoverSheet, notes: Notes, context: StepContext) -> None:
    if item.room is None or item.free_kg is None:
        return
    stop = Amount(item.room.stop_gross_kg, "mass")
    if item.free_kg < -1e-9:
        text = headline(
            "{name} is {over} over its limit of {stop} on the scale. Take that much out into another cylinder; liquid that fills it in the heat bursts it.",
            name=item.name,
        )
        notes.say("cylinder.over", "Stop", text, FILL, role="hard", over=Amount(-item.free_kg, "mass"), stop=stop)
    elif (
        not sheet.finished
        and item.row.gross_now is not None
        and item.free_kg < context.profile.value("recover.nearly_full") * item.room.most_net_kg
    ):
        text = headline("{name}: room for {free} more, stop at {stop}. Change the cylinder now.", name=item.name)
        notes.say(
            "cylinder.change", "Wait", text, context.profile.source("recover.nearly_full"), free=Amount(item.free_kg, "mass"), stop=stop
        )
    hot = context.profile.value("cylinder.hot")
    if item.liquid_full_k is not None and item.liquid_full_k < hot:
        text = headline("{name} is full of liquid at {value}: keep it out of a hot van.", name=item.name)
        notes.say("cylinder.hot", "Wait", text, context.profile.source("cylinder.hot"), value=Amount(item.liquid_full_k, "temperature"))


def rows(taken: tuple[Taken, ...]) -> tuple[CylinderRow, ...]:
    """What the picture of the cylinders is drawn from."""

    def mass(value: float | None) -> Amount | None:
        return None if value is None else Amount(value, "mass")

    return tuple(
        CylinderRow(
            item.key,
            item.name,
            mass(item.room.stop_gross_kg if item.room else None),
            mass(item.free_kg),
            mass(item.mass_kg),
            None if item.liquid_full_k is None else Amount(item.liquid_full_k, "temperature"),
        )
        for item in taken
    )
