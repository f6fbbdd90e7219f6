"""Verify: what the running unit says about the charge, and the next bounded step if it is not right."""

from dataclasses import dataclass

from yoshi_core import targets
from yoshi_core.model import VerifySheet
from yoshi_core.profile import TRADE
from yoshi_core.profile_rules import TITLE_24
from yoshi_core.sheets import value_of
from yoshi_core.steps.contract import Judged, Notes, StepContext, headline
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.verify_circuits import decide
from yoshi_core.steps.verify_conditions import BLOCKING, cautions, conditions
from yoshi_core.steps.verify_hand_over import Running, diagnose, hand_over
from yoshi_core.steps.verify_kinds import judge_kind
from yoshi_core.steps.verify_points import Point, most_subcooling_k, movements, read_points
from yoshi_core.steps.verify_report import Shown, bands, figures, refusal_reason, trim_rows
from yoshi_core.steps.verify_trim import Judging, anchors, left_of, next_step, say_blunt, tape, worth
from yoshi_core.steps.weigh_in import Weighed
from yoshi_core.targets import Judge, Target
from yoshi_core.trim import TrimStep
from yoshi_core.units.display import Amount
from yoshi_core.verdict import Message, Picture, StepResult, Verdict, worst

ID = "verify"
LABEL = "Verify"
READS: tuple[str, ...] = ("identify", "weigh_in")
LIQUID_SLACK_K = 1.5
EDGE = " That is less than the probes can be wrong: the weighed charge stands. Another probe would tell."
DIAGNOSIS = "ranking of causes learned on the practice rig, a model"


@dataclass(frozen=True)
class Verified:
    """What close-out builds on: the charge inside in kg, what proved it, and the fingerprint."""

    inside_kg: float | None
    judged_by: Judge | None
    holds: bool


def judge(context: StepContext) -> Judged:
    """Superheat and subcooling against their targets, the verdict, and the next trim step."""
    notes = Notes()
    run, plate = context.run, context.plate
    sheet: VerifySheet = run.sheet if run else VerifySheet()
    if run:
        ask_about_sheet(notes, sheet, context.path(), run.answers)
    weighed: Weighed = context.carried["weigh_in"]
    method = targets.judged_by(plate.kind or "split", plate.metering or "txv", sheet.mode or "cooling")
    points = read_points(sheet, weighed, notes, context)
    served = conditions(sheet, method, points, notes, context)
    running = diagnose(sheet, points, notes, context)
    judged: list[Judging] = []
    step = None
    if method == "weight":
        _judge_weight(weighed, sheet, notes, context)
    elif points:
        judged = _judged(method, sheet, points, weighed, notes, context)
        if judged:
            step = _judge_point(method, judged, weighed, running, notes, context)
            held = step is None and worst(tuple(notes.reasons)) == "Holds"
            decide(step, held, weighed.plan_kg, points[-1].inside_kg, notes, context)
            step = left_of(step, judged[-1].point, points[-1], context)
    elif not sheet.readings:
        notes.need(context.path("readings", "r1", "suction_pressure"), "suction pressure", None)
    found = worth(method, judged, weighed, context)
    if found is not None and weighed.plan_kg:
        say_blunt(method, found, weighed.plan_kg, notes, context)
    judge_kind(sheet, points, notes, context)
    handed = hand_over(running, points, weighed.plan_kg, notes)
    verdict = _verdict(notes, method)
    shown = Shown(method, points, judged, step, found, at_the_edge(notes))
    result = StepResult(
        step=ID,
        state="open",
        verdict=verdict,
        summary=_summary(verdict, points, method),
        figures=figures(shown, weighed, context),
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=cautions(method, step is not None and step.mass_kg < 0.0),
        movements=movements(context),
        waiting=served.waiting,
        picture=Picture(
            bands=bands(shown, context),
            trims=trim_rows(shown),
            tape=tape(judged, points, weighed, step, found, context),
            scale=anchors(points, step, context),
            causes=handed.causes,
            next_check=handed.next_check,
            notes=handed.notes,
        ),
    )
    inside = points[-1].inside_kg if points else weighed.inside_kg
    return Judged(result, Verified(inside, method, verdict.word == "Holds"))


def _judged(method: Judge, sheet: VerifySheet, points: list[Point], weighed: Weighed, notes: Notes, context: StepContext) -> list[Judging]:
    """Every point that speaks against its own target; what stands in the way is said of the last one only."""
    found = []
    speaking = [point for point in points if point.speaks]
    for point in speaking:
        target = _target(method, sheet, point, notes if point is speaking[-1] else Notes(), context)
        value = point.state.subcooling_k if method == "subcooling" else point.state.superheat_k
        if target is None or value is None:
            if point is speaking[-1]:
                return []
            continue
        charge = point.inside_kg if weighed.weighed and point.inside_kg is not None else (weighed.plan_kg or 0.0) + point.net_kg
        found.append(Judging(point, value, target, charge))
    return found


def _target(method: Judge, sheet: VerifySheet, point: Point, notes: Notes, context: StepContext) -> Target | None:
    profile = context.profile
    if method == "subcooling":
        outdoor = value_of(point.reading.outdoor)
        if outdoor is not None and outdoor < profile.value("verify.outdoor_low"):
            notes.say(
                "verify.outdoor_low",
                "Wait",
                "Outdoor air {value} is under {limit}: subcooling is not judged that cold. Prove the charge by weight and come back on a warmer day.",
                profile.source("verify.outdoor_low"),
                value=Amount(outdoor, "temperature"),
                limit=Amount(profile.value("verify.outdoor_low"), "temperature"),
            )
            return None
        return targets.subcooling_target(value_of(context.plate.subcooling_target), profile)
    tolerance = profile.value("verify.superheat_tolerance")
    if sheet.chart_superheat is not None:
        return Target(sheet.chart_superheat.value, tolerance, "the unit's own chart", False)
    wet, dry = value_of(point.reading.return_wet_bulb), value_of(point.reading.outdoor)
    if wet is None or dry is None:
        return None
    if wet > dry + 30:
        notes.refuse(context.path("readings", point.id, "return_wet_bulb"), "wet_bulb", "Return wet bulb and outdoor air look swapped.")
        return None
    broken = targets.refusals(wet, dry, profile)
    for refusal in broken:
        notes.reasons.append(refusal_reason(refusal, profile.source(refusal.rule_id)))
    if broken:
        return None
    return Target(
        targets.formula_superheat_k(wet, dry), tolerance, "(3·wet bulb − 80 − outdoor)/2 in °F, common practice, no source", False
    )


def _judge_weight(weighed: Weighed, sheet: VerifySheet, notes: Notes, context: StepContext) -> None:
    why = "in heating" if sheet.mode == "heating" else "for this kind of system"
    if weighed.inside_kg is None:
        notes.need("/steps/weigh_in/runs/0/sheet/draws/d1/gross_end", "the weighed charge", None)
        return
    earlier = context.earlier["weigh_in"].verdict.word
    if earlier == "Holds":
        notes.say(
            "verify.by_weight",
            "Holds",
            f"Weight is the proof {why}; {{value}} were weighed in.",
            "common practice, no source",
            value=Amount(weighed.inside_kg, "mass"),
        )
    else:
        notes.say("verify.by_weight", "Wait", f"Weight is the proof {why}, and Weigh in does not hold yet.", "common practice, no source")


def _judge_point(
    method: Judge, judged: list[Judging], weighed: Weighed, running: Running, notes: Notes, context: StepContext
) -> TrimStep | None:
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
    edge = not inside_band and _at_the_edge(last, side.uncertainty_k, weighed, context)
    word = "inside" if inside_band else "outside"
    notes.say(
        rule,
        "Holds" if inside_band else "Open" if edge else "Wait",
        f"{method.capitalize()} {{value}} is {word} {{limit}}, tolerance {{tolerance}}.{EDGE if edge else ''}",
        profile.source(rule),
        value=Amount(value, "temperature_delta", side.uncertainty_k),
        limit=Amount(target.value_k, "temperature_delta"),
        tolerance=Amount(target.tolerance_k, "temperature_delta"),
    )
    if method == "subcooling" and not _valve_sane(point.state.superheat_k, value, target, notes, context):
        return None
    if any(reason.rule_id in BLOCKING and reason.word == "Wait" for reason in notes.reasons):
        return None
    if _other_cause(running, inside_band or edge, notes, context) or inside_band or edge:
        return None
    return next_step(method, judged, weighed, notes, context)


def at_the_edge(notes: Notes) -> bool:
    """Whether the weight was left to stand although a reading is a little outside its band."""
    return any(reason.word == "Open" and reason.rule_id.endswith("_tolerance") for reason in notes.reasons)


def _at_the_edge(last: Judging, uncertainty_k: float, weighed: Weighed, context: StepContext) -> bool:
    """Whether a weighed charge nobody has trimmed yet is out by less than the probes can be wrong: then the weight stands."""
    by_weight = context.profile.choice("charge.set_by") == "weight"
    held = weighed.weighed and context.earlier["weigh_in"].verdict.word == "Holds"
    return by_weight and held and last.point.net_kg == 0.0 and abs(last.off_k) <= last.target.tolerance_k + 2.0 * uncertainty_k


def _other_cause(running: Running, inside_band: bool, notes: Notes, context: StepContext) -> bool:
    """Whether the readings fit another fault than the charge: then nothing is trimmed; a proven charge is told so all the same."""
    limit = context.profile.value("trim.other_cause")
    if running.others < limit:
        return False
    amounts = {"value": Amount(running.others, "fraction"), "limit": Amount(limit, "fraction")}
    if inside_band:
        text = f"The charge is judged right, and yet the readings look like another fault: {running.leader}. Look at it before leaving."
        notes.tell("verify.other_cause", "Open", text, DIAGNOSIS, amounts)
    else:
        text = f"The readings fit another fault better than the charge: {running.leader}. Look there first: charge must not hide it."
        notes.tell("trim.other_cause", "Stop", text, DIAGNOSIS, amounts)
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
            "Superheat {value} is sane, from {low} to {high}: the valve controls it.",
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


def _verdict(notes: Notes, method: Judge) -> Verdict:
    reasons = tuple(notes.reasons)
    word = worst(reasons)
    if notes.problems and word != "Stop":
        return Verdict("Open", notes.problems[0].message, reasons)
    if word == "Stop":
        return Verdict("Stop", next(r for r in reasons if r.word == "Stop").message, reasons)
    refused = [r for r in reasons if r.rule_id.startswith("target.")]
    if refused:
        what = "Superheat cannot judge the charge today. Weigh it in, use the unit's own chart, or come back in other weather."
        return Verdict("Wait", Message(what), reasons)
    first = {"verify.run_in", "verify.settle", "trim.step"}
    at_hand = next((r for r in reasons if r.word == "Wait" and r.rule_id in first), None)
    if at_hand is not None:
        return Verdict("Wait", at_hand.message, reasons)
    if notes.missing:
        needed = ", ".join(m.label for m in notes.missing[:3])
        more = f" and {len(notes.missing) - 3} more" if len(notes.missing) > 3 else ""
        return Verdict("Open", Message(f"Still needed: {needed}{more}."), reasons)
    if word == "Wait":
        waits = [r for r in reasons if r.word == "Wait"]
        blocking = next((r for r in waits if r.rule_id in BLOCKING), None)
        speaking = blocking or next((r for r in waits if r.rule_id.startswith("trim.")), waits[0])
        return Verdict("Wait", speaking.message, reasons)
    if notes.questions:
        return Verdict("Wait", notes.questions[0].message, reasons)
    if method == "weight":
        return Verdict("Holds", Message("Proven by weight."), reasons)
    if at_the_edge(notes):
        return Verdict("Holds", headline(f"The weighed charge stands; {method} is at its edge."), reasons)
    return Verdict("Holds", headline(f"{method.capitalize()} proves the charge."), reasons)


def _summary(verdict: Verdict, points: list[Point], method: Judge) -> Message:
    if method == "weight":
        return Message("by weight")
    if not points:
        return Message("after the run-in")
    speaking = [point for point in points if point.speaks]
    state = speaking[-1].state if speaking else None
    value = None if state is None else state.subcooling_k if method == "subcooling" else state.superheat_k
    if value is None:
        return Message("readings wanted")
    return headline(f"{verdict.word} · {method} {{value}}", value=Amount(value, "temperature_delta"))
