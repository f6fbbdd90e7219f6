"""Right before it is judged: what must be clean and open, how long it has run, whether it has settled and stands still."""

from datetime import datetime

from yoshi_core.findings.result import Waiting
from yoshi_core.findings.verdict import Caution
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.running.targets import Judge
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.sections import stands_shut_in
from yoshi_core.steps.verify.lines import change_kg
from yoshi_core.steps.verify.moments import is_read, read_at
from yoshi_core.steps.verify.points import Point
from yoshi_core.steps.verify.sheet import VerifyReading, VerifySheet
from yoshi_core.steps.waits import waiting
from yoshi_core.units.display import Amount

PREPARED = (
    ("filter_ok", "air filter", sentence("The air filter is not clean: change it and let the unit run before judging the charge.")),
    ("coils_ok", "coils and fans", sentence("Coils or fans are not right: mend that first. Charge must not hide another fault.")),
    ("doors_ok", "doors and vents", sentence("Doors or vents are not right: set them as in use and let it run again.")),
    ("load_ok", "its load", sentence("It does not run at its usual load: what it shows now is not what it does at work.")),
)
DOORS = frozenset({"reach_in", "receiver", "vehicle"})
LOADS = frozenset({"reach_in", "receiver"})
LABELS = {
    "suction_pressure": "suction pressure",
    "suction_line": "suction line temperature",
    "liquid_pressure": "liquid pressure",
    "liquid_line": "liquid line temperature",
    "return_wet_bulb": "return wet bulb",
    "outdoor": "outdoor air",
}


@dataclass(frozen=True)
class Served:
    """What still runs: the wait for run-in or for a step to settle; None when nothing is waited for."""

    waiting: Waiting | None = None


def conditions(sheet: VerifySheet, method: Judge, points: list[Point], notes: Notes, context: StepContext) -> Served:
    """Says what is not right yet, and what is missing; the readings speak only after that."""
    notes.need(context.path("mode"), "running in", sheet.mode)
    kind = context.plate.kind
    for name, label, bad in PREPARED:
        value = getattr(sheet, name)
        asked = name in {"filter_ok", "coils_ok"} or (name == "doors_ok" and kind in DOORS) or (name == "load_ok" and kind in LOADS)
        if (not asked or notes.need(context.path(name), label, value)) and value is False:
            notes.say(f"verify.{name}", "Wait", bad, TRADE, role="condition")
    running = _run_in(sheet, notes, context)
    settling = _settled(sheet, notes, context)
    _steady(method, points, notes, context)
    if method != "weight":
        _plan_left(notes, context)
        _wanted(sheet, method, notes, context)
    return Served(settling or running)


def _plan_left(notes: Notes, context: StepContext) -> None:
    """What the plan still lacks goes in first: until then a reading far from its target is no fault, and nothing is trimmed."""
    weighed, inside = context.handed.weigh_in, context.account.balance.mass_kg
    mine = context.account.moved_kg(context.ids())
    if weighed.goal_kg is None or not inside or mine < 0.0 or weighed.goal_kg - inside <= weighed.tolerance_kg:
        return
    text = sentence("{value} of the plan are still to go in. Weigh them in first: readings judge the charge after that.")
    amounts = {"value": Amount(weighed.goal_kg - inside, "mass"), "limit": Amount(weighed.tolerance_kg, "mass")}
    notes.tell("verify.plan_left", "Wait", text, "total less what is inside", amounts, role="condition")


def _run_in(sheet: VerifySheet, notes: Notes, context: StepContext) -> Waiting | None:
    """How long it had run at its last reading, else runs now."""
    limit = context.profile.value("verify.run_in")
    read = [at for row in sheet.readings.values() if (at := read_at(row)) is not None]
    if sheet.started_at is not None:
        seconds = ((read[-1] if read else context.now) - sheet.started_at).total_seconds()
        if seconds < 0.0:
            notes.refuse(context.path("started_at"), "starts_later", "It starts after its reading: correct one of the two times.")
            return None
    elif notes.need(context.path("run_in"), "running for", sheet.run_in) and sheet.run_in:
        seconds = sheet.run_in.value
    else:
        return None
    amounts = {"value": Amount(seconds, "duration"), "limit": Amount(limit, "duration")}
    source = context.profile.source("verify.run_in")
    if seconds >= limit:
        notes.tell("verify.run_in", "Holds", "It has run {value}; readings count after {limit}.", source, amounts, role="run_in_served")
        return None
    notes.tell("verify.run_in", "Wait", "It has run {value}; readings count after {limit}.", source, amounts, role="clock")
    return _until(sheet.started_at, limit, "readings count", context)


def _settled(sheet: VerifySheet, notes: Notes, context: StepContext) -> Waiting | None:
    """Whether the last step of charge had its time before the reading after it."""
    rows = list(sheet.readings.values())
    place = max((n for n, row in enumerate(rows) if change_kg(row) != 0.0), default=None)
    last = None if place is None else rows[place]
    if last is None or last.changed_at is None:
        return None
    after = [row for row in rows[place:] if is_read(row)]
    limit = context.profile.value("verify.settle")
    until = (read_at(after[-1]) if after else None) or context.now
    seconds = (until - last.changed_at).total_seconds()
    amounts = {"value": Amount(max(seconds, 0.0), "duration"), "limit": Amount(limit, "duration")}
    source = context.profile.source("verify.settle")
    if seconds >= limit:
        return None
    text = (
        sentence("It was read {value} after the step; it settles for {limit}. Read again.")
        if after
        else sentence("It settles for {limit} after the step.")
    )
    notes.tell("verify.settle", "Wait", text, source, amounts, role="clock")
    return _until(last.changed_at, limit, "the next reading", context)


def _until(since: datetime | None, limit_s: float, decides: str, context: StepContext) -> Waiting | None:
    wait = None if since is None else waiting(since, limit_s, decides)
    return wait if wait is not None and not context.is_past(wait.until) else None


def _steady(method: Judge, points: list[Point], notes: Notes, context: StepContext) -> None:
    """Two readings in a row with nothing changed between them must agree."""
    rows = [point for point in points if point.speaks]
    if len(rows) < 2 or rows[-1].net_kg != rows[-2].net_kg:
        return
    before, now = rows[-2].state, rows[-1].state
    first, second = (before.superheat_k, now.superheat_k) if method == "superheat" else (before.subcooling_k, now.subcooling_k)
    if first is None or second is None:
        return
    limit = context.profile.value("verify.steady")
    if abs(second - first) > limit + 1e-9:
        what = "superheat" if method == "superheat" else "subcooling"
        notes.say(
            "verify.steady",
            "Wait",
            "It still moves: {what} went from {first} to {value} with no change of charge. {limit} is steady. Read again.",
            context.profile.source("verify.steady"),
            first=Amount(first, "temperature_delta"),
            value=Amount(second, "temperature_delta"),
            limit=Amount(limit, "temperature_delta"),
            role="condition",
            what=what,
        )


def judge_valves(sheet: VerifySheet, notes: Notes, context: StepContext) -> None:
    """A compressor is never started against shut valves; once it was read, that they were opened is asked for."""
    if "evacuate" not in context.earlier or not stands_shut_in(context):
        return
    if any(is_read(row) for row in sheet.readings.values()):
        notes.need(f"/acts/a{len(context.job.acts) + 1}/kind", "the valves opened again", None)
        return
    text = sentence(
        "The charge is still shut in. Never start the compressor against shut valves: open the liquid valve, then the suction valve."
    )
    notes.say("verify.shut_valves", "Stop", text, TRADE, role="hard")


def _wanted(sheet: VerifySheet, method: Judge, notes: Notes, context: StepContext) -> None:
    key, last = list(sheet.readings.items())[-1] if sheet.readings else ("r1", VerifyReading())
    if last.gross_before is not None and last.gross_after is None and not is_read(last):
        notes.need(context.path("readings", key, "gross_after"), "what the scale reads after the step", None)
        return
    wanted = ["suction_pressure", "suction_line"]
    wanted += ["liquid_pressure", "liquid_line"] if method == "subcooling" else []
    if method == "superheat" and sheet.chart_superheat is None:
        wanted += ["return_wet_bulb", "outdoor"]
    for name in wanted if sheet.readings else ():
        notes.need(context.path("readings", key, name), LABELS[name], getattr(last, name))


def cautions(method: Judge, taking_out: bool) -> tuple[Caution, ...]:
    """What to mind at a running unit."""
    found = [Caution("running", Message("Moving fans, hot discharge lines, live terminals. Lock out before a hand goes in."))]
    if method == "superheat":
        found.append(Caution("slugging", Message("Add in small steps, throttled: liquid can break a compressor.")))
    if taking_out:
        text = sentence(
            "Taking charge out needs a recovery cylinder with room, on the scale, before the valve is opened. Nothing is vented."
        )
        found.append(Caution("cylinder.ready", Message(text)))
    return tuple(found)
