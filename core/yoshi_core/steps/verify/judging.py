"""One reading of the running unit against its target: what cannot be, what is another fault, and the step where it is the charge."""

from yoshi_core.document.sheets import value_of
from yoshi_core.message import Message, joined, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.profile.rules import TITLE_24
from yoshi_core.running.targets import Judge, Target
from yoshi_core.running.trim import TrimStep
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.verify.circuits import between
from yoshi_core.steps.verify.hand_over import Running
from yoshi_core.steps.verify.points import Point, most_subcooling_k
from yoshi_core.steps.verify.trim import Judging, next_step
from yoshi_core.steps.weigh_in.handed import Weighed
from yoshi_core.units.display import Amount

LIQUID_SLACK_K = 1.5
EDGE = Message("That is less than the probes can be wrong: the weighed charge stands. Another probe would tell.")
DIAGNOSIS = "ranking of causes learned on the practice rig, a model"


def judge_point(
    method: Judge, judged: list[Judging], weighed: Weighed, running: Running, notes: Notes, context: StepContext
) -> TrimStep | None:
    """The step of charge the last reading asks for; None where it is right, or another fault or an instrument speaks."""
    last, profile = judged[-1], context.profile
    point, target, value = last.point, last.target, last.value_k
    inside_band = abs(value - target.value_k) <= target.tolerance_k + 1e-9
    if _impossible(point, notes) or _other_fault(point, inside_band, notes, context):
        return None
    if target.assumed:
        notes.say(
            "verify.assumed_subcooling",
            "Holds",
            "The plate gives no subcooling; {value} is assumed.",
            profile.source("verify.assumed_subcooling"),
            value=Amount(target.value_k, "temperature_delta"),
        )
    side = point.state.high if method == "subcooling" else point.state.low
    assert side is not None
    rule = f"verify.{method}_tolerance"
    change = context.handed.plan_change
    close = abs(last.off_k) <= _close_k(last, change is not None, context)
    edge = not inside_band and change is None and _at_the_edge(last, side.uncertainty_k, weighed, context)
    said = Message(
        sentence("{method:cap} {value} is within {tolerance} of its target, {limit}.")
        if inside_band
        else sentence("{method:cap} {value} is more than {tolerance} from its target, {limit}.")
    )
    notes.say(
        rule,
        "Holds" if inside_band else "Open" if edge else "Wait",
        joined(said, EDGE if edge else None),
        profile.source(rule),
        value=Amount(value, "temperature_delta", side.uncertainty_k),
        limit=Amount(target.value_k, "temperature_delta"),
        tolerance=Amount(target.tolerance_k, "temperature_delta"),
        role="edge" if edge else "remark" if inside_band else "outside",
        method=method,
    )
    if method == "subcooling" and not _valve_sane(point.state.superheat_k, value, target, notes, context):
        return None
    if notes.speaks("condition", "Wait") or notes.speaks("clock", "Wait"):
        return None
    if _other_cause(running, inside_band or edge, notes, context) or close or edge:
        return None
    if inside_band:
        return _closer(method, judged, weighed, notes, context)
    return next_step(method, judged, weighed, notes, context)


def _close_k(last: Judging, changed: bool, context: StepContext) -> float:
    """How near its target a reading ends trimming: inside its band; of another refrigerant, whose charge is only expected, nearer."""
    return last.target.tolerance_k * (context.profile.value("retrofit.close") if changed else 1.0) + 1e-9


def _closer(method: Judge, judged: list[Judging], weighed: Weighed, notes: Notes, context: StepContext) -> TrimStep | None:
    """A further step inside the band, where there is one worth weighing; none is no fault."""
    apart = Notes()
    step = next_step(method, judged, weighed, apart, context)
    least = context.profile.value("scale.limit")
    if step is not None and (step.reason == "trim.cap" or (step.limited and abs(step.mass_kg) < least)):
        text = (
            sentence(
                "{value} are in, the most that trimming may add to the plan, and superheat is inside its band, not on its target: look at another orifice, not at the charge."
            )
            if method == "superheat"
            else sentence(
                "{value} are in, the most that trimming may add to the plan, and subcooling is inside its band, not on its target: look at the valve and both coils' air, not at the charge."
            )
        )
        notes.say("retrofit.cap", "Open", text, TRADE, value=Amount(judged[-1].charge_kg, "mass"))
    if step is None or step.stop or abs(step.mass_kg) < least:
        return None
    notes.reasons.extend(apart.reasons)
    return step


def at_the_edge(notes: Notes) -> bool:
    """Whether the weight was left to stand although a reading is a little outside its band."""
    return notes.speaks("edge")


def _at_the_edge(last: Judging, uncertainty_k: float, weighed: Weighed, context: StepContext) -> bool:
    """Whether a weighed charge nobody has trimmed yet is out by less than the probes can be wrong: then the weight stands."""
    by_weight = context.profile.choice("charge.set_by") == "weight"
    charged = context.claims.get("charged")
    held = weighed.weighed and charged is not None and charged.standing == "shown"
    told_apart = between(context.plate) is None
    return (
        by_weight and held and told_apart and last.point.net_kg == 0.0 and abs(last.off_k) <= last.target.tolerance_k + 2.0 * uncertainty_k
    )


def _other_cause(running: Running, inside_band: bool, notes: Notes, context: StepContext) -> bool:
    """Whether the readings fit another fault than the charge: then nothing is trimmed; a proven charge is told so all the same."""
    limit = context.profile.value("trim.other_cause")
    if running.others < limit:
        return False
    amounts = {"value": Amount(running.others, "fraction"), "limit": Amount(limit, "fraction")}
    words = {"leader": running.leader}
    if inside_band:
        text = sentence("The charge is judged right, and yet the readings look like another fault: {leader}. Look at it before leaving.")
        notes.tell("verify.other_cause", "Open", text, DIAGNOSIS, amounts, words)
    else:
        text = sentence("The readings fit another fault better than the charge: {leader}. Look there first: charge must not hide it.")
        notes.tell("trim.other_cause", "Stop", text, DIAGNOSIS, amounts, words, role="not_the_charge")
    return not inside_band


def _impossible(point: Point, notes: Notes) -> bool:
    """Subcooling under zero, or over what the air that cools the liquid allows: an instrument or the refrigerant is wrong."""
    subcooling, side = point.state.subcooling_k, point.state.high
    if subcooling is None or side is None:
        return False
    if subcooling < -2 * side.uncertainty_k:
        notes.say(
            "verify.subcooling_negative",
            "Stop",
            "Subcooling {value} is below zero by more than the probes' error: a clamp is off the pipe, or this is not the refrigerant on the plate.",
            TRADE,
            value=Amount(subcooling, "temperature_delta", side.uncertainty_k),
        )
        return True
    most = most_subcooling_k(point)
    if most is not None and subcooling > most + 2 * side.uncertainty_k + LIQUID_SLACK_K:
        notes.say(
            "verify.subcooling_most",
            "Stop",
            "Subcooling {value} cannot be over {limit}: the liquid would be colder than the outdoor air that cools it. An instrument is wrong, or the refrigerant.",
            TRADE,
            value=Amount(subcooling, "temperature_delta", side.uncertainty_k),
            limit=Amount(most, "temperature_delta"),
        )
        return True
    return False


def _other_fault(point: Point, inside_band: bool, notes: Notes, context: StepContext) -> bool:
    """Condensing far over the air that cools it is no matter of charge; the rule's slack counts only where nothing would be trimmed."""
    outdoor = value_of(point.reading.outdoor)
    if outdoor is None or point.state.high is None:
        return False
    side = point.state.high
    over = (side.saturation_k + side.across_k) / 2.0 - outdoor
    limit = context.profile.value("coil.cooling_over_high") + (context.profile.value("coil.slack") if inside_band else 0.0)
    if over <= limit + 1e-9:
        return False
    notes.say(
        "verify.over_air",
        "Stop",
        "Condensing is {value} over the air, more than {limit}: a dirty coil, its own hot air, a fan, or air in the system. Not the charge: do not trim.",
        TRADE,
        value=Amount(over, "temperature_delta"),
        limit=Amount(limit, "temperature_delta"),
        role="not_the_charge",
    )
    return True


def _valve_sane(superheat: float | None, subcooling: float, target: Target, notes: Notes, context: StepContext) -> bool:
    """Whether superheat lets subcooling speak; says so when the valve, not the charge, is in question."""
    profile = context.profile
    if superheat is None:
        return True
    low, high = profile.value("verify.superheat_low"), profile.value("verify.superheat_high")
    amount = Amount(superheat, "temperature_delta")
    if low <= superheat <= high:
        notes.say(
            "verify.superheat_sane",
            "Holds",
            "Superheat {value} is usual for a valve, {low} to {high}: the valve controls it.",
            TITLE_24,
            value=amount,
            low=Amount(low, "temperature_delta"),
            high=Amount(high, "temperature_delta"),
        )
        return True
    if superheat < low:
        notes.say(
            "verify.superheat_low",
            "Stop",
            "Superheat {value} is under {limit}: liquid may reach the compressor. The valve floods or the bulb is loose; not the charge.",
            TITLE_24,
            value=amount,
            limit=Amount(low, "temperature_delta"),
            role="not_the_charge",
        )
        return False
    if subcooling >= target.value_k - target.tolerance_k:
        notes.say(
            "verify.superheat_high",
            "Stop",
            "Superheat {value} is over {limit} while subcooling is not short: the valve starves, or something before it is blocked. Not the charge.",
            TITLE_24,
            value=amount,
            limit=Amount(high, "temperature_delta"),
            role="not_the_charge",
        )
        return False
    notes.say(
        "verify.superheat_high",
        "Wait",
        "Superheat {value} is over {limit} and subcooling is short: the charge is low enough to starve the valve.",
        TITLE_24,
        value=amount,
        limit=Amount(high, "temperature_delta"),
    )
    return True
