"""Weigh in: the total becomes a scale reading at which to close the valve, then what really went in."""

from yoshi_core.account.account import Balance
from yoshi_core.charge import weigh_in
from yoshi_core.charge.total import ChargeBuildUp
from yoshi_core.document.pairing import SOURCE, open_question
from yoshi_core.findings.pictures import Mark, WeighInPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Message, Question, Reason
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Judged, Notes, StepContext, headline
from yoshi_core.steps.identify.handed import Identified
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.steps.weigh_in.handed import Weighed
from yoshi_core.steps.weigh_in.lines import TRANSFER
from yoshi_core.steps.weigh_in.report import anchors, cautions, figures, marks
from yoshi_core.steps.weigh_in.sheet import WeighInSheet
from yoshi_core.steps.weigh_in.sources import (
    goal_of,
    judge_contents,
    judge_label,
    judge_sources,
    plan_of,
    refuse_draws,
    sources_of,
    this_round,
)
from yoshi_core.steps.weigh_in.stages import critical, stages_of
from yoshi_core.units.display import Amount
from yoshi_core.units.mass import ParsedMass, looks_like_slip


def judge(context: StepContext) -> Judged:
    """The marks before, the verdict on the weighed charge after."""
    notes = context.notes
    identified = context.handed.identify
    run = context.run
    sheet: WeighInSheet = run.sheet if run else WeighInSheet()
    if run:
        ask_about_sheet(notes, sheet, context.path(), run.answers)
        sheet = this_round(sheet, context)
    build_up = identified.careful
    goal = goal_of(build_up, context)
    if build_up is not None and goal is None:
        notes.say("retrofit.not_planned", "Wait", "Nothing is planned to go in: see Plan the change.", TRADE)
    notes.need(context.path("system_state"), "what is in the system now", sheet.system_state)
    _ask_inside(sheet, notes, context)
    before, after = _around(context)
    inside = None if sheet.system_state is None else before.mass_kg
    sources = sources_of(sheet, identified.plate.refrigerant, notes, context)
    plan = plan_of(goal, inside, sources, notes, context)
    done = refuse_draws(sheet, notes, context)
    stages = stages_of(sheet, plan, identified.plate, notes, context)
    _scale_fine_enough(sheet, identified, plan, notes, context)
    _before_it_is_charged(sheet, notes, context)
    if goal and plan:
        judge_sources(plan, sources, sheet, notes)
        judge_label(sheet, notes)
        judge_contents(sheet, identified.plate.refrigerant, notes, context)
        if done:
            _judge_weighed(after.low_kg - before.low_kg, plan, goal, sheet, notes, context)
    if plan and plan.now and plan.now.weighed:
        notes.need(context.path("draws", plan.now.source_id, "gross_end"), "what the scale reads after", None)
    total_inside = after if inside is not None and done else None
    inside_now = None if total_inside is None else total_inside.low_kg
    what = "total charge" if goal is build_up else "of the expected charge, to begin with"
    scale_marks = marks(plan, stages.stall)
    result = StepResult(
        step=context.step,
        state="open",
        verdict=verdict(notes, _otherwise(build_up, plan, inside_now, scale_marks)),
        summary=_summary(plan, inside_now, scale_marks),
        figures=figures(goal, inside, plan, sheet, total_inside, context.profile, identified.plate.refrigerant, what),
        missing=tuple(notes.missing),
        questions=tuple(notes.questions),
        problems=tuple(notes.problems),
        cautions=cautions(context, identified.plate),
        movements=context.movements,
        picture=WeighInPicture(
            marks=scale_marks,
            scale=anchors(plan, sheet, scale_marks, inside or 0.0, context.profile),
            plan=stages.rows,
            notes=stages.notes,
        ),
    )
    plan_kg = build_up.total_kg if build_up else None
    return Judged(
        result,
        Weighed(inside_now, plan_kg, None if total_inside is None else total_inside.u_kg, done),
    )


def _around(context: StepContext) -> tuple[Balance, Balance]:
    """What is inside before the first draw of this run since it was last empty, and after its last; the same where nothing was drawn yet."""
    lately = {row.line.id for row in context.account.since_emptied()}
    mine = [line_id for line_id in context.ids(number=context.last_run) if line_id in lately]
    draws = [line_id for line_id in mine if context.account.moved_kg((line_id,)) and TRANSFER not in line_id]
    after = context.account.after_last(mine) or context.account.balance
    return (context.account.before_first(draws), after) if draws else (after, after)


def _ask_inside(sheet: WeighInSheet, notes: Notes, context: StepContext) -> None:
    given = context.account.moved_kg(line_id for line_id in context.ids() if TRANSFER in line_id)
    if sheet.system_state == "empty" and given:
        text = "{value} came from another circuit of this owner, weighed; they count as inside."
        notes.say("weigh_in.transferred", "Holds", text, "cylinder book", value=Amount(given, "mass"))
    if sheet.system_state == "holding":
        notes.need(context.path("inside"), "what is already inside", sheet.inside)
        if sheet.inside is not None and sheet.inside.source in {"told", "assumed"}:
            text = f"What is inside is only {sheet.inside.source}. A partly charged system is recovered and weighed, or trimmed at Verify."
            notes.say("weigh_in.told", "Wait", text, TRADE)


def _before_it_is_charged(sheet: WeighInSheet, notes: Notes, context: StepContext) -> None:
    """Pairing still open, and a system called empty that was not recovered to empty."""
    question = open_question(context.plate)
    if question is not None:
        notes.reasons.append(Reason(question.rule_id, question.message, "Wait", None, None, SOURCE))
    _vacuum_proven(sheet, notes, context)
    if context.job.kind == "retrofit" and sheet.system_state in {"holding", "precharged"}:
        text = "Another refrigerant goes only into an empty system, never on top of what is left of the old one."
        notes.say("weigh_in.other", "Stop", text, TRADE)
    before = context.earlier.get("recover")
    recovered = context.handed.recover
    if sheet.system_state != "empty" or before is None or recovered is None or before.state == "not_applicable":
        return
    if not recovered.empty:
        text = "It is called empty, and Recover does not say so. What is still inside would be charged on top of."
        notes.say("weigh_in.not_empty", "Wait", text, TRADE)


def _vacuum_proven(sheet: WeighInSheet, notes: Notes, context: StepContext) -> None:
    before = context.earlier.get("evacuate")
    evacuated = context.handed.evacuate
    if sheet.system_state == "holding" or before is None or evacuated is None or before.state == "not_applicable":
        return
    if not evacuated.proven:
        text = "Evacuate is not proven tight and dry. What is weighed in now leaks out again, or makes acid with the water."
        notes.say("weigh_in.vacuum", "Wait", text, TRADE)


def _scale_fine_enough(
    sheet: WeighInSheet, identified: Identified, plan: weigh_in.WeighInPlan | None, notes: Notes, context: StepContext
) -> None:
    """A stated or critical tolerance refuses a coarse scale; elsewhere one coarser than a weigh-in's tolerance is named."""
    if not critical(identified.plate) and identified.plate.tolerance is None:
        _name_a_coarse_scale(sheet, plan, notes, context)
        return
    tolerance = identified.plate.tolerance.value if identified.plate.tolerance else context.profile.value("critical.tolerance")
    limit = tolerance * context.profile.value("critical.scale_share")
    if not notes.need(context.path("scale_step"), "the scale's step", sheet.scale_step) or sheet.scale_step is None:
        return
    if sheet.scale_step.value > limit + 1e-9:
        notes.say(
            "critical.scale_share",
            "Stop",
            "The scale reads in steps of {value}; this charge is ± {tolerance}, so it takes steps of {limit} or finer.",
            context.profile.source("critical.scale_share"),
            value=Amount(sheet.scale_step.value, "mass"),
            limit=Amount(limit, "mass"),
            tolerance=Amount(tolerance, "mass"),
        )


def _name_a_coarse_scale(sheet: WeighInSheet, plan: weigh_in.WeighInPlan | None, notes: Notes, context: StepContext) -> None:
    if sheet.scale_step is None or plan is None or plan.weigh_kg <= 0.0:
        return
    limit = context.profile.value("weigh_in.tolerance") * plan.weigh_kg
    if sheet.scale_step.value <= limit + 1e-9:
        return
    notes.say(
        "weigh_in.coarse",
        "Open",
        "The scale reads in steps of {value}, {share} of what goes in. One of {limit} or finer keeps it within the tolerance.",
        context.profile.source("weigh_in.tolerance"),
        value=Amount(sheet.scale_step.value, "mass"),
        limit=Amount(limit, "mass"),
        share=Amount(sheet.scale_step.value / plan.weigh_kg, "fraction"),
    )


def _judge_weighed(
    weighed_kg: float,
    plan: weigh_in.WeighInPlan,
    build_up: ChargeBuildUp,
    sheet: WeighInSheet,
    notes: Notes,
    context: StepContext,
) -> None:
    _ask_end_slip(sheet, plan, notes, context)
    scale_limit = sheet.scale_step.value if sheet.scale_step else context.profile.value("scale.limit")
    tolerance = max(context.profile.value("weigh_in.tolerance") * build_up.total_kg, scale_limit)
    gap = weighed_kg - plan.weigh_kg
    source = context.profile.source("weigh_in.tolerance")
    value, limit = Amount(abs(gap), "mass"), Amount(tolerance, "mass")
    if abs(gap) <= tolerance + 1e-9:
        notes.say(
            "weigh_in.tolerance", "Holds", "Weighed in within {value} of the plan; {limit} is allowed.", source, value=value, limit=limit
        )
    elif gap < 0:
        notes.say("weigh_in.tolerance", "Wait", "{value} are still to go in; {limit} is allowed.", source, value=value, limit=limit)
    else:
        notes.say(
            "weigh_in.tolerance",
            "Stop",
            "{value} too much went in; {limit} is allowed. Recover the difference before running.",
            source,
            value=value,
            limit=limit,
        )


def _ask_end_slip(sheet: WeighInSheet, plan: weigh_in.WeighInPlan, notes: Notes, context: StepContext) -> None:
    """A reading after that misses the mark by the pound-ounce slip is asked about."""
    answers = context.run.answers if context.run else {}
    for take in plan.takes:
        end = sheet.draws[take.source_id].gross_end
        if end is None or not looks_like_slip(ParsedMass(end.value, end.unit, end.text), take.stop_gross_kg):
            continue
        question_id = f"slip:{take.source_id}:{end.value:.9g}"
        if question_id not in answers:
            text = "The mark was {mark}, the entry is {typed}. Tenths of a pound are not ounces: which did the scale show?"
            amounts = {"mark": Amount(take.stop_gross_kg, "mass"), "typed": Amount(end.value, "mass")}
            notes.questions.append(Question(question_id, context.path("draws", take.source_id, "gross_end"), Message(text, amounts)))


def _otherwise(
    build_up: ChargeBuildUp | None,
    plan: weigh_in.WeighInPlan | None,
    inside_kg: float | None,
    marks: tuple[Mark, ...],
) -> Otherwise:
    if build_up is None:
        unknown = Message("The total charge is not known yet: see Identify.")
        return Otherwise(unknown, "Open", missing=unknown)
    shut = headline("Close the valve when the scale reads {mark}.", mark=Amount(marks[-1].gross_kg, "mass")) if marks else None
    if plan is None or inside_kg is None:
        return Otherwise(shut or Message("Nothing has been weighed in yet."), "Open", missing=shut)
    return Otherwise(headline("{inside} are in the system.", inside=Amount(inside_kg, "mass")), missing=shut)


def _summary(plan: weigh_in.WeighInPlan | None, inside_kg: float | None, marks: tuple[Mark, ...]) -> Message:
    if inside_kg is not None:
        return headline("{inside} in the system", inside=Amount(inside_kg, "mass"))
    if marks:
        return headline("close at {mark}", mark=Amount(marks[-1].gross_kg, "mass"))
    if plan is not None:
        return headline("{weigh} to weigh", weigh=Amount(plan.weigh_kg, "mass"))
    return Message("not planned yet")
