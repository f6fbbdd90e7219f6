"""What Verify reads: points from gauges and clamps, and the conditions under which they speak."""

from yoshi_core import refrigerants
from yoshi_core.document.sheets import Entry, limit_of, value_of
from yoshi_core.errors import CoreError
from yoshi_core.frozen import dataclass
from yoshi_core.message import headline, sentence, told
from yoshi_core.profile.profile import TRADE
from yoshi_core.running import readings
from yoshi_core.running.readings import CoolingState, Side
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.verify.lines import change_kg
from yoshi_core.steps.verify.sheet import VerifyReading, VerifySheet
from yoshi_core.steps.weigh_in.handed import Weighed


@dataclass(frozen=True)
class Point:
    """A reading turned into superheat and subcooling, with the charge inside at that moment (None: unknown).

    `added_kg` is the change before it, `net_kg` all changes up to it.
    """

    id: str
    reading: VerifyReading
    state: CoolingState
    added_kg: float
    net_kg: float
    inside_kg: float | None

    @property
    def speaks(self) -> bool:
        """Whether it says superheat or subcooling."""
        return self.state.low is not None or self.state.high is not None


def read_points(sheet: VerifySheet, weighed: Weighed, notes: Notes, context: StepContext) -> list[Point]:
    """Every reading with the charge that was inside at it, in the order of the sheet."""
    points: list[Point] = []
    name = context.plate.refrigerant
    known = name is not None and refrigerants.is_known(name)
    run = context.last_run
    inside = None if weighed.inside_kg is None else _inside_before(run, context)
    done: list[str] = []
    for key, reading in sheet.readings.items():
        change = _change(reading, key, notes, context)
        here = [line_id for line_id in context.ids(number=run) if line_id.rpartition("/")[0].endswith(f"/{run}/{key}")]
        done += here
        booked = context.account.after_last(here)
        inside = inside if booked is None or inside is None else booked.mass_kg
        if not known or name is None:
            continue
        heating = sheet.mode == "heating"
        state = CoolingState(None, None) if heating else state_of(name, reading, key, notes, context)
        points.append(Point(key, reading, state, change, context.account.moved_kg(done), inside))
    if sheet.readings and not known:
        notes.say(
            "verify.no_tables",
            "Wait",
            "Yoshi has no tables for {name}: superheat and subcooling cannot be worked out. Prove it by weight, or with the maker's own chart.",
            "catalogue",
            name=name or "this refrigerant",
        )
    return points


def _inside_before(run: int, context: StepContext) -> float | None:
    """What was inside before the first step of charge of this run, in kg: what was weighed in, and trimmed in runs before it."""
    mine = context.ids(number=run)
    if mine:
        return context.account.before_first(mine).mass_kg
    earlier = [*context.ids("weigh_in"), *(line_id for number in range(run) for line_id in context.ids(number=number))]
    balance = context.account.after_last(earlier)
    return None if balance is None else balance.mass_kg


def _change(reading: VerifyReading, key: str, notes: Notes, context: StepContext) -> float:
    """The change of charge before a reading; said in two ways that differ, or out of nowhere, it is refused by name."""
    typed = reading.added is not None or reading.removed is not None
    weighed = reading.gross_before is not None and reading.gross_after is not None
    if reading.added is not None and reading.removed is not None:
        text = sentence("Added and taken out stand both before one reading. Give them a reading each.")
        notes.refuse(context.path("readings", key, "removed"), "added_and_removed", text)
    if typed and weighed:
        text = sentence("The scale before and after already says what went in. Clear this, or the scale's two readings.")
        notes.refuse(context.path("readings", key, "added" if reading.added else "removed"), "change_said_twice", text)
    change = change_kg(reading)
    _same_refrigerant(reading, notes, context)
    if change < 0.0:
        notes.need(context.path("readings", key, "cylinder"), "the cylinder it was taken into", reading.cylinder)
    return change


def _same_refrigerant(reading: VerifyReading, notes: Notes, context: StepContext) -> None:
    """Nothing is trimmed from, or taken out into, a cylinder that holds another refrigerant."""
    here = context.plate.refrigerant
    if not reading.holds or not here or refrigerants.normalize(reading.holds) == refrigerants.normalize(here):
        return
    name = reading.cylinder or "That cylinder"
    text = headline(
        "{name} holds {holds} by the book, and {here} is in here. The two never meet: take another cylinder.",
        name=name,
        holds=reading.holds,
        here=here,
    )
    notes.say("verify.other", "Stop", text, TRADE, role="hard")


def state_of(name: str, reading: VerifyReading, key: str, notes: Notes, context: StepContext) -> CoolingState:
    """Superheat and subcooling of one reading; what cannot be is refused by name."""
    site = readings.Site(value_of(context.plate.altitude) or 0.0, context.plate.gauge_reference or "vented")
    suction, liquid = value_of(reading.suction_pressure), value_of(reading.liquid_pressure)
    suction_line, liquid_line = value_of(reading.suction_line), value_of(reading.liquid_line)
    low: Side | None = None
    high: Side | None = None
    if suction is not None and liquid is not None and suction > liquid:
        text = sentence(
            "Suction pressure is above liquid pressure. On a running unit that cannot be: the hoses or the two entries are swapped."
        )
        notes.refuse(context.path("readings", key, "suction_pressure"), "suction_above_liquid", text)
        return CoolingState(None, None)
    if suction is not None and suction_line is not None:
        try:
            low = readings.low_side(name, suction, suction_line, _errors(reading.suction_pressure, reading.suction_line, context), site)
        except CoreError as error:
            notes.refuse(context.path("readings", key, "suction_pressure"), error.code, told(error))
    if liquid is not None and liquid_line is not None:
        try:
            high = readings.high_side(name, liquid, liquid_line, _errors(reading.liquid_pressure, reading.liquid_line, context), site)
        except CoreError as error:
            notes.refuse(context.path("readings", key, "liquid_pressure"), error.code, told(error))
    if low and high and readings.clamps_swapped(low, high):
        text = sentence(
            "The liquid line reads colder than suction saturation allows and the suction line hotter than the liquid: the two clamps look swapped."
        )
        notes.refuse(context.path("readings", key, "suction_line"), "clamps_swapped", text)
        return CoolingState(None, None)
    return CoolingState(low, high)


def _errors(gauge: Entry | None, clamp: Entry | None, context: StepContext) -> readings.Readings:
    """What this gauge and this clamp can be wrong: their own ± where an instrument said it, else the profile's."""
    return readings.Readings(
        pressure_limit_pa=limit_of(gauge, context.profile.value("probe.pressure_limit")),
        temperature_limit_k=limit_of(clamp, context.profile.value("probe.temperature_limit")),
    )


def most_subcooling_k(point: Point) -> float | None:
    """What subcooling can be at most in K: liquid leaves no colder than the air over the condenser. None where either is unread."""
    outdoor = value_of(point.reading.outdoor)
    return None if outdoor is None or point.state.high is None else point.state.high.saturation_k - outdoor
