"""Verify: what the running unit says about the charge, and the next bounded step if it is not right."""

from dataclasses import dataclass

from yoshi_core import targets, trim
from yoshi_core.errors import CoreError
from yoshi_core.model import VerifySheet
from yoshi_core.profile_rules import TITLE_24
from yoshi_core.sheets import value_of
from yoshi_core.steps.contract import Judged, Notes, StepContext, headline
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.verify_circuits import decide
from yoshi_core.steps.verify_kinds import judge_kind
from yoshi_core.steps.verify_points import Point, cautions, conditions, movements, read_points
from yoshi_core.steps.verify_report import bands, figures, refusal_reason, trim_rows
from yoshi_core.steps.weigh_in import Weighed
from yoshi_core.targets import Judge, Target
from yoshi_core.units.display import Amount
from yoshi_core.verdict import Message, Picture, StepResult, Verdict, worst

ID = "verify"
LABEL = "Verify"
READS: tuple[str, ...] = ("identify", "weigh_in")


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
    conditions(sheet, method, notes, context)
    target = None
    step = None
    if method == "weight":
        _judge_weight(weighed, sheet, notes, context)
    elif points:
        target = _target(method, sheet, points[-1], notes, context)
        if target is not None:
            step = _judge_point(method, target, points, weighed, notes, context)
            held = step is None and worst(tuple(notes.reasons)) == "Holds"
            decide(step, held, weighed.plan_kg, points[-1].inside_kg, notes, context)
    elif not sheet.readings:
        notes.need(context.path("readings", "r1", "suction_pressure"), "suction pressure", None)
    judge_kind(sheet, points, notes, context)
    inside = points[-1].inside_kg if points else weighed.inside_kg
    verdict = _verdict(notes, points, method, step, sheet)
    result = StepResult(
        step=ID,
        state="open",
        verdict=verdict,
        summary=_summary(verdict, points, method),
        figures=figures(method, target, points, step, context),
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=cautions(method),
        movements=movements(context),
        picture=Picture(bands=bands(method, target, points, context.profile), trims=trim_rows(points), notes=()),
    )
    return Judged(result, Verified(inside, method, verdict.word == "Holds"))


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
    method: Judge, target: Target, points: list[Point], weighed: Weighed, notes: Notes, context: StepContext
) -> trim.TrimStep | None:
    point, profile = points[-1], context.profile
    superheat, subcooling = point.state.superheat_k, point.state.subcooling_k
    value = subcooling if method == "subcooling" else superheat
    if value is None:
        return None
    if subcooling is not None and point.state.high and subcooling < -2 * point.state.high.uncertainty_k:
        notes.say(
            "verify.subcooling_negative",
            "Stop",
            "Subcooling {value} is below zero by more than the probes' error: a clamp is off the pipe, or this is not the refrigerant on the plate.",
            "common practice, no source",
            value=Amount(subcooling, "temperature_delta", point.state.high.uncertainty_k),
        )
        return None
    if target.assumed:
        context_source = profile.source("verify.assumed_subcooling")
        notes.say(
            "verify.assumed_subcooling",
            "Holds",
            "The plate gives no subcooling; {value} is assumed.",
            context_source,
            value=Amount(target.value_k, "temperature_delta"),
        )
    inside_band = abs(value - target.value_k) <= target.tolerance_k + 1e-9
    side = point.state.high if method == "subcooling" else point.state.low
    assert side is not None
    rule = f"verify.{method}_tolerance"
    word = "inside" if inside_band else "outside"
    notes.say(
        rule,
        "Holds" if inside_band else "Wait",
        f"{method.capitalize()} {{value}} is {word} {{limit}}, tolerance {{tolerance}}.",
        profile.source(rule),
        value=Amount(value, "temperature_delta", side.uncertainty_k),
        limit=Amount(target.value_k, "temperature_delta"),
        tolerance=Amount(target.tolerance_k, "temperature_delta"),
    )
    if method == "subcooling" and not _valve_sane(superheat, value, target, notes, context):
        return None
    if inside_band:
        return None
    return _trim(method, target, points, weighed, notes, context)


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


def _trim(method: Judge, target: Target, points: list[Point], weighed: Weighed, notes: Notes, context: StepContext) -> trim.TrimStep | None:
    point, profile = points[-1], context.profile
    if weighed.plan_kg is None or point.inside_kg is None or not weighed.weighed:
        notes.say(
            "trim.unknown_charge",
            "Wait",
            "The charge inside was not weighed in, so no step can be bounded. Recover it and weigh it in.",
            "common practice, no source",
        )
        return None
    superheat, subcooling = point.state.superheat_k, point.state.subcooling_k
    rated = targets.subcooling_target(value_of(context.plate.subcooling_target), profile).value_k
    superheat_gap = 0.0
    if method == "superheat" and superheat is not None:
        superheat_gap = superheat - target.value_k
    elif superheat is not None and superheat > profile.value("verify.superheat_high"):
        superheat_gap = superheat - profile.value("verify.superheat_high")
    subcooling_gap = 0.0 if subcooling is None else subcooling - rated
    if method == "superheat" and subcooling is not None:
        if superheat_gap > 0 and subcooling_gap > profile.value("verify.subcooling_tolerance"):
            notes.say(
                "trim.opposed",
                "Stop",
                "Superheat says short, subcooling {value} says full: a restriction or too little air, not the charge.",
                "common practice, no source",
                value=Amount(subcooling, "temperature_delta"),
            )
            return None
        subcooling_gap = min(0.0, subcooling_gap) if superheat_gap > 0 else max(0.0, subcooling_gap)
    history = [
        trim.Answered(p.inside_kg, v)
        for p in points
        if p.inside_kg is not None and (v := p.state.subcooling_k if method == "subcooling" else p.state.superheat_k) is not None
    ]
    try:
        step = trim.next_step(
            trim.Gaps(subcooling_gap, superheat_gap, rated),
            history,
            target.value_k,
            method == "subcooling",
            weighed.plan_kg,
            point.inside_kg,
            profile,
        )
    except CoreError as error:
        notes.say("trim.no_formula", "Wait", error.message + " Use the maker's chart.", "Li & Braun, Purdue (from memory)")
        return None
    _say_step(step, point, weighed, notes, context)
    return step


def _say_step(step: trim.TrimStep, point: Point, weighed: Weighed, notes: Notes, context: StepContext) -> None:
    profile = context.profile
    if step.reason == "trim.cap":
        net = (point.inside_kg or 0.0) - (weighed.plan_kg or 0.0)
        notes.say(
            "trim.cap",
            "Stop",
            "Trimming has moved the charge {value} from the plan, the most allowed is {limit}. The charge is not the fault: stop and diagnose.",
            profile.source("trim.cap_share"),
            value=Amount(net, "mass"),
            limit=Amount(profile.value("trim.cap_share") * (weighed.plan_kg or 0.0), "mass"),
        )
    elif step.reason == "trim.no_answer":
        notes.say(
            "trim.no_answer",
            "Stop",
            "The unit did not answer the last step as charge would: stop and diagnose.",
            "common practice, no source",
        )
    else:
        verb = "Add" if step.mass_kg > 0 else "Take out"
        bound = " The step limit binds." if step.limited else ""
        share = (
            f" The estimate is {{share}} {'short' if (step.short_share or 0) > 0 else 'over'}."
            if step.slope_k_per_kg is None
            else " The unit's own answer sets the step."
        )
        notes.say(
            "trim.step",
            "Wait",
            f"{verb} {{value}}, then let it settle and read again.{share}{bound}",
            "Li & Braun, Purdue (from memory); step and cap: " + profile.source("trim.step_share"),
            value=Amount(abs(step.mass_kg), "mass"),
            limit=Amount(profile.value("trim.step_share") * (weighed.plan_kg or 0.0), "mass"),
            share=Amount(abs(step.short_share or 0.0), "fraction"),
        )


def _verdict(notes: Notes, points: list[Point], method: Judge, step: trim.TrimStep | None, sheet: VerifySheet) -> Verdict:
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
    if notes.missing:
        needed = ", ".join(m.label for m in notes.missing[:3])
        more = f" and {len(notes.missing) - 3} more" if len(notes.missing) > 3 else ""
        return Verdict("Open", Message(f"Still needed: {needed}{more}."), reasons)
    if word == "Wait":
        waits = [r for r in reasons if r.word == "Wait"]
        blocking = next((r for r in waits if r.rule_id in {"verify.run_in", "verify.filter_ok", "verify.coils_ok"}), None)
        speaking = blocking or next((r for r in waits if r.rule_id.startswith("trim.")), waits[0])
        return Verdict("Wait", speaking.message, reasons)
    if notes.questions:
        return Verdict("Wait", notes.questions[0].message, reasons)
    if method == "weight":
        return Verdict("Holds", Message("Proven by weight."), reasons)
    return Verdict("Holds", headline(f"{method.capitalize()} proves the charge."), reasons)


def _summary(verdict: Verdict, points: list[Point], method: Judge) -> Message:
    if method == "weight":
        return Message("by weight")
    if not points:
        return Message("after the run-in")
    state = points[-1].state
    value = state.subcooling_k if method == "subcooling" else state.superheat_k
    if value is None:
        return Message("readings wanted")
    return headline(f"{verdict.word} · {method} {{value}}", value=Amount(value, "temperature_delta"))
