"""The next step of charge at Verify, what it is worth, and the tape it is drawn on."""

from collections.abc import Sequence
from dataclasses import replace

from yoshi_core.charge.total import LIMIT_TO_STANDARD
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.pictures import Mark, ScaleAnchors, TrimTape
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, joined, sentence, told
from yoshi_core.profile.profile import TRADE
from yoshi_core.running import targets, trim
from yoshi_core.running.targets import Judge, Target
from yoshi_core.running.trim import TrimStep
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.verify.points import Point
from yoshi_core.steps.weigh_in.handed import Weighed
from yoshi_core.units.display import Amount

MORE_THAN = 1.1  # a tenth more than asked for is a hand on a valve, not another step
LI_BRAUN = "Li & Braun, Purdue (from memory)"


@dataclass(frozen=True)
class Judging:
    """What judges the charge at each point that speaks: its value, its target then, and the charge it was read at, kg."""

    point: Point
    value_k: float
    target: Target
    charge_kg: float

    @property
    def off_k(self) -> float:
        """How far from its target, K."""
        return self.value_k - self.target.value_k


@dataclass(frozen=True)
class Worth:
    """What a degree is worth today: `slope_k_per_kg`, the tolerance and the probes' ± in kg; `own` says the unit itself answered."""

    slope_k_per_kg: float
    own: bool
    tolerance_kg: float
    probes_kg: float


def worth(method: Judge, judged: Sequence[Judging], weighed: Weighed, context: StepContext) -> Worth | None:
    """None where there is no plan, no rated subcooling, or an answer that makes no sense."""
    if not judged or weighed.plan_kg is None or weighed.plan_kg <= 0.0:
        return None
    last = judged[-1]
    rising = method == "subcooling"
    rated = targets.subcooling_target(value_of(context.plate.subcooling_target), context.profile).value_k
    own = trim.own_slope_k_per_kg(answers(judged))
    slope = own
    if own is None or own == 0.0 or (own > 0) != rising:
        try:
            slope = trim.first_slope_k_per_kg(rising, (last.value_k + last.target.value_k) / 2.0, rated, weighed.plan_kg)
        except CoreError:
            return None
    side = last.point.state.high if rising else last.point.state.low
    if slope is None or side is None:
        return None
    return Worth(slope, slope == own, last.target.tolerance_k / abs(slope), 2.0 * side.uncertainty_k / abs(slope))


def answers(judged: Sequence[Judging]) -> list[trim.Answered]:
    """How far it was off at each charge: the weather that moved the target is taken out with it."""
    return [trim.Answered(row.charge_kg, row.off_k) for row in judged]


def next_step(method: Judge, judged: Sequence[Judging], weighed: Weighed, notes: Notes, context: StepContext) -> TrimStep | None:
    """The bounded step where readings are outside their band; says why there is none."""
    last, profile = judged[-1], context.profile
    if weighed.plan_kg is None:
        notes.say("trim.no_plan", "Wait", "No total is planned, so no step can be bounded. See Identify.", TRADE, role="no_step")
        return None
    rated = targets.subcooling_target(value_of(context.plate.subcooling_target), profile).value_k
    superheat_gap = _superheat_gap(method, last, context)
    subcooling = last.point.state.subcooling_k
    subcooling_gap = 0.0 if subcooling is None else subcooling - rated
    if method == "superheat" and subcooling is not None:
        if superheat_gap > 0 and subcooling_gap > profile.value("verify.subcooling_tolerance"):
            notes.say(
                "trim.opposed",
                "Stop",
                "Superheat says short, subcooling {value} says full: a restriction or too little air, not the charge.",
                TRADE,
                value=Amount(subcooling, "temperature_delta"),
                role="not_the_charge",
            )
            return None
        subcooling_gap = min(0.0, subcooling_gap) if superheat_gap > 0 else max(0.0, subcooling_gap)
    gaps = trim.Gaps(subcooling_gap, superheat_gap, rated)
    if not weighed.weighed and _too_far(gaps, notes, context):
        return None
    try:
        step = trim.next_step(gaps, answers(judged), 0.0, method == "subcooling", weighed.plan_kg, last.charge_kg, profile)
    except CoreError as error:
        notes.say("trim.no_formula", "Wait", joined(told(error), Message("Use the maker's chart.")), LI_BRAUN, role="no_step")
        return None
    _say_step(step, last, weighed, notes, context)
    return step


def left_of(step: TrimStep | None, read: Point, now: Point, context: StepContext) -> TrimStep | None:
    """What is left of a step once part of it went in since the reading that asked for it; None when that was all, or more."""
    done = now.net_kg - read.net_kg
    if step is None or step.stop or done == 0.0:
        return step
    rest = step.mass_kg - done
    open_scale = now.reading.gross_before is not None and now.reading.gross_after is None
    if not open_scale or rest * step.mass_kg <= 0.0 or abs(rest) < context.profile.value("scale.limit"):
        return None
    return replace(step, mass_kg=rest)


def _superheat_gap(method: Judge, last: Judging, context: StepContext) -> float:
    if method == "superheat":
        return last.off_k
    superheat, high = last.point.state.superheat_k, context.profile.value("verify.superheat_high")
    return max(superheat - high, 0.0) if superheat is not None else 0.0


def _too_far(gaps: trim.Gaps, notes: Notes, context: StepContext) -> bool:
    """A charge nobody weighed is trimmed only where it looks nearer than the cap."""
    cap = context.profile.value("trim.cap_share")
    try:
        share = trim.short_share(gaps)
    except CoreError:
        share = cap
    amounts = {"share": Amount(abs(share), "fraction"), "limit": Amount(cap, "fraction")}
    if abs(share) < cap:
        text = sentence(
            "The charge was not weighed in. It looks {share} off, inside the {limit} trimming may move it; its weight stays unknown."
        )
        notes.tell("trim.unknown_charge", "Wait", text, TRADE, amounts, role="no_step")
        return False
    text = sentence(
        "The charge was not weighed in and looks about {share} off, more than the {limit} trimming may move it. Recover it and weigh it in."
    )
    notes.tell("trim.unknown_charge", "Wait", text, TRADE, amounts, role="no_step")
    return True


def _say_step(step: TrimStep, last: Judging, weighed: Weighed, notes: Notes, context: StepContext) -> None:
    profile, plan = context.profile, weighed.plan_kg or 0.0
    if step.reason == "trim.cap":
        notes.say(
            "trim.cap",
            "Stop",
            "Trimming has moved the charge {value} from the plan, the most allowed is {limit}. The charge is not the fault: stop and diagnose.",
            profile.source("trim.cap_share"),
            value=Amount(last.charge_kg - plan, "mass"),
            limit=Amount(profile.value("trim.cap_share") * plan, "mass"),
            role="not_the_charge",
        )
    elif step.reason == "trim.no_answer":
        text = sentence("The unit did not answer the last step as charge would: stop and diagnose.")
        notes.say("trim.no_answer", "Stop", text, TRADE, role="not_the_charge")
    else:
        text = (
            sentence("Add {value}, then let it settle and read again.")
            if step.mass_kg > 0
            else sentence("Take out {value}, then let it settle and read again.")
        )
        by = (
            sentence("The unit's own answer sets the step.")
            if step.slope_k_per_kg is not None
            else sentence("The estimate is {share} short.")
            if (step.short_share or 0) > 0
            else sentence("The estimate is {share} over.")
        )
        bound = Message("That is the most for one step.") if step.limited else None
        notes.say(
            "trim.step",
            "Wait",
            joined(Message(text), Message(by), bound),
            f"{LI_BRAUN}; step and cap: " + profile.source("trim.step_share"),
            value=Amount(abs(step.mass_kg), "mass"),
            limit=Amount(profile.value("trim.step_share") * plan, "mass"),
            share=Amount(abs(step.short_share or 0.0), "fraction"),
            role="step",
        )


def say_exceeded(points: Sequence[Point], weighed: Weighed, notes: Notes, context: StepContext) -> None:
    """A step larger than a step may be, and trimming beyond its cap, are said to have been done; up to the plan neither is trimming."""
    last = points[-1] if points else None
    if last is None or not weighed.plan_kg or last.inside_kg is None or weighed.goal_kg is None:
        return
    before, plan = last.inside_kg - last.added_kg, weighed.plan_kg
    planned = before < weighed.goal_kg - weighed.tolerance_kg or between_two(context)
    limit = context.profile.value("trim.step_share") * plan
    if not planned and abs(last.added_kg) > limit * MORE_THAN:
        text = sentence("{value} were moved at once, more than the {limit} of one step: what it shows now may still be on its way.")
        amounts = {"value": Amount(abs(last.added_kg), "mass"), "limit": Amount(limit, "mass")}
        notes.tell("trim.over_step", "Open", text, context.profile.source("trim.step_share"), amounts)
    cap, moved = context.profile.value("trim.cap_share") * plan, abs(last.inside_kg - plan)
    if last.net_kg and moved > cap * MORE_THAN and not planned and not any(r.rule_id == "trim.cap" for r in notes.reasons):
        text = sentence(
            "The charge was trimmed {value} away from the plan, and {limit} is the most. Doubt the plan, or look for another fault."
        )
        amounts = {"value": Amount(moved, "mass"), "limit": Amount(cap, "mass")}
        notes.tell("trim.over_cap", "Open", text, context.profile.source("trim.cap_share"), amounts)


def between_two(context: StepContext) -> bool:
    """Whether two circuits are not told apart: then the larger plate is a plan too."""
    return context.plate.circuit_known is False and context.plate.other_charge is not None


def say_blunt(method: Judge, found: Worth, plan_kg: float, notes: Notes, context: StepContext) -> None:
    """Where today's tolerance is worth much charge the method is blunt, and weight is the sharper proof."""
    share, limit = found.tolerance_kg / plan_kg, context.profile.value("verify.blunt")
    if share > limit:
        notes.say(
            "verify.blunt",
            "Holds",
            "{method:cap} is blunt today: its tolerance is worth {value}, {share} of the charge. The weight is the sharper proof.",
            context.profile.source("verify.blunt"),
            value=Amount(found.tolerance_kg, "mass"),
            limit=Amount(limit, "fraction"),
            share=Amount(share, "fraction"),
            method=method,
        )


def tape(
    judged: Sequence[Judging], points: Sequence[Point], weighed: Weighed, step: TrimStep | None, found: Worth | None, context: StepContext
) -> TrimTape | None:
    """The charge on its tape; None while what is inside was not weighed."""
    if not points or weighed.plan_kg is None or points[-1].inside_kg is None:
        return None
    plan, now = weighed.plan_kg, points[-1]
    assert now.inside_kg is not None
    cap = context.profile.value("trim.cap_share") * plan
    low = high = None
    if found is not None and judged:
        middle = judged[-1].charge_kg - judged[-1].off_k / found.slope_k_per_kg
        low, high = middle - found.tolerance_kg, middle + found.tolerance_kg
    moving = None if step is None or step.stop else step.mass_kg
    gross = now.reading.gross_before if now.reading.gross_after is None else None
    return TrimTape(
        now.inside_kg,
        inside_limit_kg(context),
        plan,
        plan - cap,
        plan + cap,
        low,
        high,
        None if moving is None else now.inside_kg + moving,
        None if moving is None or gross is None else gross.value - moving,
    )


def inside_limit_kg(context: StepContext) -> float:
    """± of what is in as a limit, by the account: readings that follow on one cylinder are one weighing."""
    balance = context.account.after_last((*context.ids("weigh_in"), *context.ids()))
    return 0.0 if balance is None else balance.u_kg / LIMIT_TO_STANDARD


def anchors(points: Sequence[Point], step: TrimStep | None, context: StepContext) -> ScaleAnchors | None:
    """What a live scale is followed against while a step is added; None until the cylinder's first reading stands."""
    last = points[-1] if points else None
    if last is None or last.inside_kg is None or step is None or step.stop or step.mass_kg <= 0.0:
        return None
    start = last.reading.gross_before
    if start is None or last.reading.gross_after is not None:
        return None
    stop = start.value - step.mass_kg
    marks = (Mark("start", "start", start.value, 0.0), Mark("close", "close the valve", stop, -step.mass_kg))
    reaction = context.profile.value("weigh_in.reaction")
    return ScaleAnchors(last.id, start.value, 0.0, last.inside_kg, last.inside_kg + step.mass_kg, 0.0, reaction, False, marks)
