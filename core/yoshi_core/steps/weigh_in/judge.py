"""Weigh in: the total becomes a scale reading at which to close the valve, then what really went in."""

from collections.abc import Sequence
from dataclasses import replace
from math import fsum

from yoshi_core.account.account import Balance, Booked
from yoshi_core.charge import weigh_in
from yoshi_core.charge.total import ChargeBuildUp
from yoshi_core.document.pairing import SOURCE, open_question
from yoshi_core.findings.pictures import Mark, WeighInPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Question, Reason
from yoshi_core.message import Message, headline, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Judged, Notes, StepContext
from yoshi_core.steps.sections import judge_liquid
from yoshi_core.steps.sheet_checks import ask_about_sheet
from yoshi_core.steps.tolerance import HALF_SHOWN_KG, Tolerance, tolerance_of
from yoshi_core.steps.verdicts import Otherwise, verdict
from yoshi_core.steps.weigh_in.claim import BALANCE_STANDS
from yoshi_core.steps.weigh_in.handed import Weighed
from yoshi_core.steps.weigh_in.lines import COMING, TRANSFER
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
from yoshi_core.steps.weigh_in.stages import stages_of
from yoshi_core.steps.weigh_in.warming import warmed
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
        sheet = warmed(this_round(sheet, context), notes)
    build_up = identified.careful
    goal = goal_of(build_up, context)
    if build_up is not None and goal is None:
        notes.say("retrofit.not_planned", "Wait", "Nothing is planned to go in: see Plan the change.", TRADE)
    notes.need(context.path("system_state"), "system now", sheet.system_state)
    _ask_inside(sheet, notes, context)
    _coming(notes, context)
    tolerance = None if goal is None else tolerance_of(identified.plate, goal.total_kg, context.profile)
    before, after = _around(goal, tolerance, context)
    inside = None if sheet.system_state is None else before.mass_kg
    whole = not sheet.draws and _whole_as_it_came(sheet, inside, goal, tolerance, notes)
    sources = [] if whole else sources_of(sheet, identified.plate.refrigerant, tolerance.kg if tolerance else None, notes, context)
    plan = plan_of(goal, inside, sources, notes, context)
    done = refuse_draws(sheet, notes, context)
    stages = stages_of(sheet, plan, identified.plate, notes, context)
    if tolerance is not None and not whole:
        _scale_fine_enough(sheet, tolerance, plan, notes, context)
    _before_it_is_charged(sheet, notes, context)
    if "recover" not in context.earlier:
        judge_liquid(notes, context)
    judge_contents(sheet, identified.plate.refrigerant, notes, context)
    if goal and plan and tolerance:
        judge_sources(plan, sources, sheet, tolerance, notes, identified.plate.refrigerant)
        judge_label(sheet, notes)
        _tell_unweighed(notes, context)
        if done:
            _judge_weighed(after.low_kg - before.low_kg, plan, tolerance, sheet, notes, context)
            _tell_spread(after, tolerance, notes)
    if plan and plan.now and plan.now.weighed:
        notes.need(context.path("draws", plan.now.source_id, "gross_end"), "what the scale reads after", None)
    total_inside = after if inside is not None and (done or whole) else None
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
        Weighed(
            inside_now,
            plan_kg,
            None if total_inside is None else total_inside.u_kg,
            done,
            sheet.system_state,
            None if goal is None else goal.total_kg,
            tolerance.kg + HALF_SHOWN_KG if tolerance else 0.0,
        ),
    )


def _whole_as_it_came(
    sheet: WeighInSheet, inside: float | None, goal: ChargeBuildUp | None, tolerance: Tolerance | None, notes: Notes
) -> bool:
    """Whether a unit came with all that belongs in: then nothing is weighed."""
    if (
        sheet.system_state != "precharged"
        or inside is None
        or goal is None
        or tolerance is None
        or not tolerance.holds(goal.total_kg - inside)
    ):
        return False
    text = sentence("Nothing to weigh in: {value} came in it, as stamped, and {limit} belong in.")
    notes.say("weigh_in.as_stamped", "Holds", text, "data plate", value=Amount(inside, "mass"), limit=Amount(goal.total_kg, "mass"))
    return True


def _around(goal: ChargeBuildUp | None, tolerance: Tolerance | None, context: StepContext) -> tuple[Balance, Balance]:
    """What is inside before the first draw of this run since it was last empty, and after its last; the same where nothing was drawn yet.

    While the draws alone fall short of the goal, what went in beside the sheets after them counts as inside, and is not to be weighed again.
    """
    lately = {row.line.id for row in context.account.since_emptied()}
    mine = [line_id for line_id in context.ids(number=context.last_run) if line_id in lately]
    draws = [line_id for line_id in mine if context.account.moved_kg((line_id,)) and TRANSFER not in line_id]
    after = context.account.after_last(mine) or context.account.balance
    if not draws:
        return after, after
    before = context.account.before_first(draws)
    if goal is None or tolerance is None or after.low_kg > goal.total_kg or tolerance.holds(goal.total_kg - after.low_kg):
        return before, after
    later = _beside_after(context, mine)
    return _with(before, later), _with(after, later)


def _beside_after(context: StepContext, ids: Sequence[str]) -> list[Booked]:
    """What went in or out beside the sheets after the last of these lines, as masses; what nobody can say makes the balance unknown by itself."""
    lately = context.account.since_emptied()
    last = max((n for n, row in enumerate(lately) if row.line.id in set(ids)), default=len(lately))
    return [row for row in lately[last + 1 :] if row.line.origin.startswith("/acts/") and row.line.kind in {"added", "taken", "lost"}]


def _with(balance: Balance, later: Sequence[Booked]) -> Balance:
    """A balance with what these lines changed."""
    for row in later:
        sign = 1.0 if row.line.kind == "added" else -1.0
        high = None if balance.high_kg is None or row.line.high_kg is None else balance.high_kg + sign * row.line.high_kg
        balance = replace(balance, low_kg=balance.low_kg + sign * row.line.low_kg, high_kg=high)
    return balance


def _ask_inside(sheet: WeighInSheet, notes: Notes, context: StepContext) -> None:
    given = context.account.moved_kg(line_id for line_id in context.ids() if TRANSFER in line_id)
    if sheet.system_state == "empty" and given:
        text = sentence("{value} came from another circuit of this owner, weighed; they count as inside.")
        notes.say("weigh_in.transferred", "Holds", text, "cylinder book", value=Amount(given, "mass"))
    if sheet.system_state == "holding":
        notes.need(context.path("inside"), "already inside", sheet.inside)
        if sheet.inside is not None and sheet.inside.source in {"told", "assumed"}:
            text = (
                sentence("What is inside is only told. A partly charged system is recovered and weighed, or trimmed at Verify.")
                if sheet.inside.source == "told"
                else sentence("What is inside is only assumed. A partly charged system is recovered and weighed, or trimmed at Verify.")
            )
            notes.say("weigh_in.told", "Wait", text, TRADE)


def _coming(notes: Notes, context: StepContext) -> None:
    """What another job has set aside for this circuit: it moves nothing, and counts once it is weighed."""
    for fact in context.job.facts:
        if fact.kind != COMING:
            continue
        mass, most = (fact.values.get(key) for key in ("mass_kg", "at_most_kg"))
        amounts = {name: Amount(float(kg), "mass") for name, kg in (("mass", mass), ("most", most)) if kg is not None}
        text = sentence("Some may come from {from} on {on}. It counts once it is weighed.")
        if mass is not None and most is not None:
            text = sentence("{mass}, at most {most}, may come from {from} on {on}. It counts once it is weighed.")
        elif mass is not None:
            text = sentence("{mass} may come from {from} on {on}. It counts once it is weighed.")
        elif most is not None:
            text = sentence("At most {most} may come from {from} on {on}. It counts once it is weighed.")
        words = {"on": str(fact.values.get("on", "another day")), "from": str(fact.values.get("from", "another circuit"))}
        notes.tell("weigh_in.coming", "Open", text, "planned in another job", amounts, words)


def _before_it_is_charged(sheet: WeighInSheet, notes: Notes, context: StepContext) -> None:
    """Pairing still open, and a system called empty that was not recovered to empty."""
    question = open_question(context.plate)
    if question is not None:
        notes.reasons.append(Reason(question.rule_id, question.message, "Wait", None, None, SOURCE))
    _vacuum_proven(sheet, notes, context)
    if context.job.kind == "retrofit" and sheet.system_state in {"holding", "precharged"}:
        text = sentence("Another refrigerant goes only into an empty system, never on top of what is left of the old one.")
        notes.say("weigh_in.other", "Stop", text, TRADE, role="hard")
    before = context.earlier.get("recover")
    recovered = context.handed.recover
    if sheet.system_state != "empty" or before is None or recovered is None or before.state == "not_applicable":
        return
    emptied = context.claims.get("emptied")
    if not recovered.empty and (emptied is None or emptied.standing not in {"shown", "answered_for"}):
        text = sentence("It is called empty, and Recover does not say so. What is still inside would be charged on top of.")
        notes.say("weigh_in.not_empty", "Wait", text, TRADE)


def _vacuum_proven(sheet: WeighInSheet, notes: Notes, context: StepContext) -> None:
    """What the vacuum did not show is a remark; a vacuum that shows a leak or water stands in the way."""
    dry = context.claims.get("dry")
    if sheet.system_state == "holding" or dry is None or dry.settled:
        return
    if dry.standing == "contradicted":
        text = sentence("The vacuum says that it leaks or is wet. What is weighed in now leaks out again, or makes acid with the water.")
        notes.say("weigh_in.vacuum", "Wait", text, TRADE)
    else:
        notes.say("weigh_in.vacuum_open", "Open", "Dry is not shown yet: what is weighed in now is on top of that.", TRADE)


def _scale_fine_enough(
    sheet: WeighInSheet, tolerance: Tolerance, plan: weigh_in.WeighInPlan | None, notes: Notes, context: StepContext
) -> None:
    """A stated ± or a critical charge refuses a coarse scale; elsewhere one coarser than its share of the tolerance is named."""
    limit = tolerance.kg * context.profile.value("critical.scale_share")
    if tolerance.strict:
        notes.need(context.path("scale_step"), "smallest step of the scale", sheet.scale_step)
    if sheet.scale_step is None or sheet.scale_step.value <= limit + 1e-9 or plan is None or plan.weigh_kg <= 0.0:
        return
    amounts = {
        "value": Amount(sheet.scale_step.value, "mass"),
        "limit": Amount(limit, "mass"),
        "tolerance": Amount(tolerance.kg, "mass"),
    }
    source = context.profile.source("critical.scale_share")
    if tolerance.strict:
        text = sentence("The scale reads in steps of {value}; this charge is ± {tolerance}, so it takes steps of {limit} or finer.")
        notes.tell("critical.scale_share", "Stop", text, source, amounts)
    else:
        text = sentence("The scale reads in steps of {value}, coarse for ± {tolerance}. One of {limit} or finer would do.")
        notes.tell("weigh_in.coarse", "Open", text, source, amounts)


def _judge_weighed(
    weighed_kg: float, plan: weigh_in.WeighInPlan, tolerance: Tolerance, sheet: WeighInSheet, notes: Notes, context: StepContext
) -> None:
    _ask_end_slip(sheet, plan, tolerance, notes, context)
    gap = weighed_kg - plan.weigh_kg
    amounts = {"value": Amount(abs(gap), "mass"), "limit": Amount(tolerance.kg, "mass")}
    if tolerance.holds(gap):
        text = sentence("Weighed in within {value} of the plan; {limit} is allowed.")
        notes.tell(tolerance.rule_id, "Holds", text, tolerance.source, amounts)
    elif gap < 0:
        notes.tell(tolerance.rule_id, "Wait", "{value} are still to go in; {limit} is allowed.", tolerance.source, amounts)
    else:
        text = sentence("{value} too much went in; {limit} is allowed. Recover the difference before running.")
        notes.tell(tolerance.rule_id, "Stop", text, tolerance.source, amounts)


def _tell_unweighed(notes: Notes, context: StepContext) -> None:
    """What went in beside the sheets after the last draw, and nobody weighed."""
    mine = context.ids(number=context.last_run)
    told = [row.line for row in _beside_after(context, mine) if row.line.kind == "added" and row.line.known not in BALANCE_STANDS]
    known = fsum(line.low_kg for line in told)
    if known:
        text = sentence("{value} of it went in unweighed, as somebody says: weigh where it came from, or somebody answers for it.")
        notes.say("weigh_in.unweighed", "Wait", text, TRADE, value=Amount(known, "mass"))
    elif told:
        text = sentence(
            "Some went in that nobody weighed. Put the cylinder on the scale now: against its book, or its last reading, that says how much."
        )
        notes.say("weigh_in.unweighed", "Wait", text, TRADE)


def _tell_spread(after: Balance, tolerance: Tolerance, notes: Notes) -> None:
    """A weighing less sure than the charge may be out: said, where no stated ± refuses it."""
    if tolerance.strict or 2.0 * after.u_kg <= tolerance.kg:
        return
    amounts = {"value": Amount(2.0 * after.u_kg, "mass"), "limit": Amount(tolerance.kg, "mass")}
    text = sentence(
        "All readings together are ± {value}, wider than the ± {limit} of this charge. Fewer cylinders, or a finer scale, would be surer."
    )
    notes.tell("weigh_in.spread", "Open", text, "scale readings of this job", amounts)


def _ask_end_slip(sheet: WeighInSheet, plan: weigh_in.WeighInPlan, tolerance: Tolerance, notes: Notes, context: StepContext) -> None:
    """A reading after that misses the mark by the pound-ounce slip, and by more than the charge may be out, is asked about."""
    answers = context.run.answers if context.run else {}
    for take in plan.takes:
        end = sheet.draws[take.source_id].gross_end
        if end is None or not looks_like_slip(ParsedMass(end.value, end.unit, end.text), take.stop_gross_kg, tolerance.kg):
            continue
        question_id = f"slip:{take.source_id}:{end.value:.9g}"
        if question_id not in answers:
            text = sentence("The mark was {mark}, the entry is {typed}. Tenths of a pound are not ounces: which did the scale show?")
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
