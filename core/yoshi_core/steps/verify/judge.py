"""Verify: what the running unit says about the charge, and the next bounded step if it is not right."""

from dataclasses import replace

from yoshi_core.document.plate import ONLY_COOL
from yoshi_core.document.sheets import value_of
from yoshi_core.findings.pictures import VerifyPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Verdict, worst
from yoshi_core.message import Message, headline, sentence
from yoshi_core.profile.fixed import fixed
from yoshi_core.profile.profile import TRADE
from yoshi_core.running import targets
from yoshi_core.running.targets import Judge, Target
from yoshi_core.steps import set_aside
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.steps.verify.changed import before_after, before_notes, changed_target, to_the_glass
from yoshi_core.steps.verify.circuits import decide
from yoshi_core.steps.verify.conditions import cautions, conditions, judge_valves
from yoshi_core.steps.verify.hand_over import diagnose, hand_over
from yoshi_core.steps.verify.handed import Verified
from yoshi_core.steps.verify.judging import at_the_edge, judge_point
from yoshi_core.steps.verify.kinds import judge_kind
from yoshi_core.steps.verify.points import Point, read_points
from yoshi_core.steps.verify.report import Shown, bands, figures, refusal_reason, trim_rows
from yoshi_core.steps.verify.seen import verified
from yoshi_core.steps.verify.sheet import VerifySheet
from yoshi_core.steps.verify.trim import Judging, anchors, left_of, say_blunt, say_exceeded, tape, worth
from yoshi_core.steps.weigh_in.handed import Weighed
from yoshi_core.units.display import Amount


def judge(context: StepContext) -> Judged:
    """Superheat and subcooling against their targets, the verdict, and the next trim step."""
    notes = context.notes
    run, plate = context.run, context.plate
    sheet: VerifySheet = run.sheet if run else VerifySheet()
    if run:
        ask_about_sheet(notes, sheet, context.path(), run.answers)
    set_aside.tell({**sheet.other_mode, **sheet.readings}, context.path("readings"), notes)
    sheet = set_aside.without(sheet, "readings", "other_mode")
    if plate.kind in ONLY_COOL and sheet.mode is None:
        sheet = replace(sheet, mode="cooling")
    weighed = context.handed.weigh_in
    method = targets.judged_by(plate.kind or "split", plate.metering or "txv", sheet.mode or "cooling")
    points = read_points(sheet, weighed, notes, context)
    judge_valves(sheet, notes, context)
    served = conditions(sheet, method, points, notes, context)
    running = diagnose(sheet, points, notes, context)
    judged: list[Judging] = []
    step = None
    change = context.handed.plan_change
    to_glass = change is not None and context.plate.kind == "receiver"
    if to_glass:
        step = to_the_glass(sheet, points, weighed, notes, context)
    elif method == "weight":
        _judge_weight(weighed, sheet, notes, context)
    elif points:
        judged = _judged(method, sheet, points, weighed, notes, context)
        if judged:
            step = judge_point(method, judged, weighed, running, notes, context)
            held = step is None and worst(tuple(notes.reasons)) in {"Holds", "Open"}
            step = decide(step, held, worth(method, judged, weighed, context), weighed, points[-1].inside_kg, notes, context)
            step = left_of(step, judged[-1].point, points[-1], context)
    elif not sheet.readings:
        notes.need(context.path("readings", "r1", "suction_pressure"), "suction pressure", None)
    found = worth(method, judged, weighed, context)
    if found is not None and weighed.plan_kg:
        say_blunt(method, found, weighed.plan_kg, notes, context)
    judge_kind(sheet, points, notes, context)
    say_exceeded(points, weighed, notes, context)
    handed = hand_over(running, points, weighed.plan_kg, notes)
    said = verdict(notes, _otherwise(notes, method))
    shown = Shown(method, points, judged, step, found, at_the_edge(notes))
    result = StepResult(
        step=context.step,
        state="open",
        verdict=said,
        summary=_summary(said, points, method, to_glass),
        figures=figures(shown, context),
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=cautions(method, step is not None and step.mass_kg < 0.0),
        movements=context.movements,
        waiting=served.waiting,
        picture=VerifyPicture(
            bands=bands(shown, context),
            trims=trim_rows(shown),
            tape=tape(judged, points, weighed, step, found, context),
            scale=anchors(points, step, context),
            causes=handed.causes,
            next_check=handed.next_check,
            notes=(*handed.notes, *before_notes(change, points, context)),
            before_after=before_after(change, points, context),
            takes_out=step is not None and step.mass_kg < 0.0,
        ),
    )
    inside = points[-1].inside_kg if points else weighed.inside_kg
    by_target = to_glass or (method != "weight" and bool(judged))
    return Judged(result, verified(Verified(inside, method, said.word == "Holds"), sheet, said, notes, context, by_target=by_target))


def _judged(method: Judge, sheet: VerifySheet, points: list[Point], weighed: Weighed, notes: Notes, context: StepContext) -> list[Judging]:
    """Every point that points away from its own target; what stands in the way is said of the last one only."""
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
        target = targets.subcooling_target(value_of(context.plate.subcooling_target), profile)
        return changed_target(target, context.handed.plan_change, profile)
    tolerance = profile.value("verify.superheat_tolerance")
    if sheet.chart_superheat is not None:
        return Target(sheet.chart_superheat.value, tolerance, "the unit's own chart", False)
    wet, dry = value_of(point.reading.return_wet_bulb), value_of(point.reading.outdoor)
    if wet is None or dry is None:
        return None
    if wet > dry + fixed("verify.wet_over_dry"):
        notes.refuse(context.path("readings", point.id, "return_wet_bulb"), "wet_bulb", "Return wet bulb and outdoor air look swapped.")
        return None
    broken = targets.refusals(wet, dry, profile)
    if broken:
        text = sentence("Superheat cannot judge the charge today. Weigh it in, use the unit's own chart, or come back in other weather.")
        notes.say("target.applies", "Wait", text, profile.source("target.wet_bulb_low"), role="no_method")
        notes.reasons.extend(refusal_reason(refusal, profile.source(refusal.rule_id)) for refusal in broken)
        return None
    return Target(
        targets.formula_superheat_k(wet, dry), tolerance, "(3·wet bulb − 80 − outdoor)/2 in °F, common practice, no source", False
    )


def _judge_weight(weighed: Weighed, sheet: VerifySheet, notes: Notes, context: StepContext) -> None:
    heating = sheet.mode == "heating"
    if weighed.inside_kg is None:
        notes.need("/steps/weigh_in/runs/0/sheet/draws/d1/gross_end", "the weighed charge", None)
        return
    charged = context.claims.get("charged")
    standing = "not_yet" if charged is None else charged.standing
    if standing == "shown":
        text = (
            sentence("Weight is the proof in heating; {value} are in.")
            if heating
            else sentence("Weight is the proof for this kind of system; {value} are in.")
        )
        notes.say("verify.by_weight", "Holds", text, TRADE, value=Amount(context.account.balance.low_kg, "mass"))
    elif standing == "answered_for":
        text = (
            sentence("Weight is the proof in heating. It was not all weighed; somebody answers for it.")
            if heating
            else sentence("Weight is the proof for this kind of system. It was not all weighed; somebody answers for it.")
        )
        notes.say("verify.by_weight", "Open", text, TRADE)
    else:
        text = (
            sentence("Weight is the proof in heating, and the charge is not shown right yet.")
            if heating
            else sentence("Weight is the proof for this kind of system, and the charge is not shown right yet.")
        )
        notes.say("verify.by_weight", "Wait", text, TRADE)


def _otherwise(notes: Notes, method: Judge) -> Otherwise:
    glass = next((r for r in notes.reasons if r.role == "glass"), None)
    if glass is not None:
        return Otherwise(glass.message)
    if method == "weight":
        return Otherwise(Message("Proven by weight."))
    if at_the_edge(notes):
        return Otherwise(headline("The weighed charge stands; {method} is at its edge.", method=method))
    return Otherwise(headline("{method:cap} proves the charge.", method=method))


def _summary(verdict: Verdict, points: list[Point], method: Judge, to_glass: bool) -> Message:
    if method == "weight":
        return Message(sentence("to the glass") if to_glass else sentence("by weight"))
    if not points:
        return Message("after the run-in")
    speaking = [point for point in points if point.speaks]
    state = speaking[-1].state if speaking else None
    value = None if state is None else state.subcooling_k if method == "subcooling" else state.superheat_k
    if value is None:
        return Message("readings wanted")
    return headline("{word} · {method} {value}", value=Amount(value, "temperature_delta"), word=verdict.word, method=method)
