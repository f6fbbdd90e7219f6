"""What Verify reads: points from gauges and clamps, and the conditions under which they speak."""

from dataclasses import dataclass
from math import fsum

from yoshi_core import readings, refrigerants
from yoshi_core.errors import CoreError
from yoshi_core.model import StepRecord, VerifyReading, VerifySheet
from yoshi_core.readings import CoolingState, Side
from yoshi_core.sheets import value_of
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.weigh_in import Weighed
from yoshi_core.targets import Judge
from yoshi_core.units.display import Amount
from yoshi_core.verdict import Caution, Message, Movement

ID = "verify"


@dataclass(frozen=True)
class Point:
    """A reading turned into superheat and subcooling, with the charge inside at that moment (None: unknown)."""

    id: str
    reading: VerifyReading
    state: CoolingState
    added_kg: float
    inside_kg: float | None


def read_points(sheet: VerifySheet, weighed: Weighed, notes: Notes, context: StepContext) -> list[Point]:
    points: list[Point] = []
    name = context.plate.refrigerant
    known = name is not None and refrigerants.is_known(name)
    added = 0.0
    for key, reading in sheet.readings.items():
        change = (value_of(reading.added) or 0.0) - (value_of(reading.removed) or 0.0)
        added = fsum((added, change))
        if not known or name is None:
            continue
        state = state_of(name, reading, key, notes, context)
        inside = None if weighed.inside_kg is None else weighed.inside_kg + added
        points.append(Point(key, reading, state, change, inside))
    if sheet.readings and not known:
        notes.say(
            "verify.no_tables",
            "Wait",
            f"Yoshi has no tables for {name or 'this refrigerant'}: superheat and subcooling cannot be reckoned. "
            "Prove it by weight, or with the maker's own chart.",
            "catalogue",
        )
    return points


def state_of(name: str, reading: VerifyReading, key: str, notes: Notes, context: StepContext) -> CoolingState:
    site = readings.Site(value_of(context.plate.altitude) or 0.0, context.plate.gauge_reference or "vented")
    given = readings.Readings(
        value_of(reading.suction_pressure),
        value_of(reading.suction_line),
        value_of(reading.liquid_pressure),
        value_of(reading.liquid_line),
        context.profile.value("probe.pressure_limit"),
        context.profile.value("probe.temperature_limit"),
    )
    low: Side | None = None
    high: Side | None = None
    if given.suction_gauge_pa is not None and given.liquid_gauge_pa is not None and given.suction_gauge_pa > given.liquid_gauge_pa:
        text = "Suction pressure is above liquid pressure. On a running unit that cannot be: the hoses or the two entries are swapped."
        notes.refuse(context.path("readings", key, "suction_pressure"), "suction_above_liquid", text)
        return CoolingState(None, None)
    if given.suction_gauge_pa is not None and given.suction_line_k is not None:
        try:
            low = readings.low_side(name, given.suction_gauge_pa, given.suction_line_k, given, site)
        except CoreError as error:
            notes.refuse(context.path("readings", key, "suction_pressure"), error.code, error.message)
    if given.liquid_gauge_pa is not None and given.liquid_line_k is not None:
        try:
            high = readings.high_side(name, given.liquid_gauge_pa, given.liquid_line_k, given, site)
        except CoreError as error:
            notes.refuse(context.path("readings", key, "liquid_pressure"), error.code, error.message)
    if low and high and readings.clamps_swapped(low, high):
        text = "The liquid line reads colder than suction saturation allows and the suction line hotter than the liquid: the two clamps look swapped."
        notes.refuse(context.path("readings", key, "suction_line"), "clamps_swapped", text)
        return CoolingState(None, None)
    return CoolingState(low, high)


def conditions(sheet: VerifySheet, method: Judge, notes: Notes, context: StepContext) -> None:
    notes.need(context.path("mode"), "cooling or heating", sheet.mode)
    if notes.need(context.path("run_in"), "how long it has run", sheet.run_in) and sheet.run_in:
        limit = context.profile.value("verify.run_in")
        if sheet.run_in.value < limit:
            notes.say(
                "verify.run_in",
                "Wait",
                "It has run {value}; readings speak after {limit}.",
                context.profile.source("verify.run_in"),
                value=Amount(sheet.run_in.value, "duration"),
                limit=Amount(limit, "duration"),
            )
    for field_name, label, bad in (
        ("filter_ok", "air filter", "The air filter is not clean: change it and let the unit run before judging the charge."),
        ("coils_ok", "coils and fans", "Coils or fans are not right: mend that first. Charge must not hide another fault."),
    ):
        value = getattr(sheet, field_name)
        if notes.need(context.path(field_name), label, value) and value is False:
            notes.say(f"verify.{field_name}", "Wait", bad, "common practice, no source")
    if method == "weight":
        return
    last = list(sheet.readings.values())[-1] if sheet.readings else None
    key = list(sheet.readings)[-1] if sheet.readings else "r1"
    wanted = ["suction_pressure", "suction_line"]
    wanted += ["liquid_pressure", "liquid_line"] if method == "subcooling" else []
    if method == "superheat" and sheet.chart_superheat is None:
        wanted += ["return_wet_bulb", "outdoor"]
    labels = {
        "suction_pressure": "suction pressure",
        "suction_line": "suction line temperature",
        "liquid_pressure": "liquid pressure",
        "liquid_line": "liquid line temperature",
        "return_wet_bulb": "return wet bulb",
        "outdoor": "outdoor air",
    }
    if last is not None:
        for field_name in wanted:
            notes.need(context.path("readings", key, field_name), labels[field_name], getattr(last, field_name))


def cautions(method: Judge) -> tuple[Caution, ...]:
    found = [Caution("running", Message("Moving fans, hot discharge lines, live terminals. Lock out before a hand goes in."))]
    if method == "superheat":
        found.append(Caution("slugging", Message("Add in small steps, throttled: liquid can break a compressor.")))
    return tuple(found)


def _last_cylinder(context: StepContext) -> str:
    """The cylinder trimming draws from: the last one on the scale at Weigh in."""
    names = [draw.cylinder for run in context.job.steps.get("weigh_in", StepRecord()).runs for draw in run.sheet.draws.values()]
    return next((name for name in reversed(names) if name), "trim")


def movements(context: StepContext) -> tuple[Movement, ...]:
    """Trim additions and removals, over all runs."""
    place = f"circuit:{context.job.circuit.id or context.job.id}"
    cylinder = f"cylinder:{_last_cylinder(context)}"
    found = []
    for number, run in enumerate(context.record.runs):
        for key, reading in run.sheet.readings.items():
            stem = f"{context.job.id}/{ID}/{number}/{key}"
            if mass := value_of(reading.added):
                found.append(Movement(f"{stem}/1", "charge", cylinder, place, context.plate.refrigerant or "", mass, "weighed"))
            if mass := value_of(reading.removed):
                found.append(Movement(f"{stem}/2", "recover", place, cylinder, context.plate.refrigerant or "", mass, "weighed"))
    return tuple(found)
