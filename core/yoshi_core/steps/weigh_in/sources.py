"""The cylinders and cans of a weigh-in: what each can give, in which order, what is asked of each."""

from dataclasses import replace
from math import fsum
from typing import cast

from yoshi_core import refrigerants
from yoshi_core.charge import weigh_in
from yoshi_core.charge.total import ChargeBuildUp
from yoshi_core.charge.weigh_in import Contents, Source, WeighInPlan
from yoshi_core.document.sheets import value_of
from yoshi_core.errors import CoreError
from yoshi_core.findings.verdict import Question
from yoshi_core.message import Message, headline, joined, plural, sentence, told
from yoshi_core.profile.fixed import fixed
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.tolerance import Tolerance
from yoshi_core.steps.weigh_in.lines import draw_kg
from yoshi_core.steps.weigh_in.report import stays_in
from yoshi_core.steps.weigh_in.sheet import Draw, WeighInSheet
from yoshi_core.units.display import Amount
from yoshi_core.units.mass import ParsedMass, looks_like_slip
from yoshi_core.units.quantities import OZ_KG

BOOK_LEAST_KG = 4.0 * OZ_KG  # two scales of a shop differ by that without anything being wrong; common practice, no source
SHORT_SHARE = fixed("weigh_in.short_share")
LIGHT = sentence("The cylinder reads {gross}, less than its tare of {tare}. Check the tare stamped on it and the scale's zero.")


def this_round(sheet: WeighInSheet, context: StepContext) -> WeighInSheet:
    """The sheet without draws that went in before it was last emptied: what they gave is not there any more."""
    gone = {row.line.id for row in context.account.booked} - {row.line.id for row in context.account.since_emptied()}
    stem = f"{context.job.id}/{context.step}/{context.last_run}"
    return replace(sheet, draws={key: draw for key, draw in sheet.draws.items() if f"{stem}/{key}/1" not in gone})


def sources_of(sheet: WeighInSheet, refrigerant: str | None, matters_kg: float | None, notes: Notes, context: StepContext) -> list[Source]:
    """Every cylinder or can that can be planned with, in the order the school draws from them; `matters_kg` is by how much the charge may be out."""
    if not sheet.draws:
        taken = len(context.run.sheet.draws) if context.run else 0
        notes.need(context.path("draws", f"d{taken + 1}", "gross_start"), "what the scale reads now", None)
    found = [
        source
        for key, draw in sheet.draws.items()
        if (source := _source(key, draw, stays_in(draw, refrigerant, sheet, context.profile), matters_kg, notes, context)) is not None
    ]
    return list(weigh_in.in_order(found, cast(Contents, context.profile.choice("weigh_in.order"))))


def _blends_vapour(draw: Draw, notes: Notes, context: StepContext) -> None:
    """A blend's vapour is not its liquid: what is drawn so is not the refrigerant on the label."""
    name = context.plate.refrigerant
    if draw.vapour_too and name is not None and refrigerants.is_known(name) and refrigerants.get(name).is_blend:
        text = headline(
            "The last of {name} drawn as vapour is not {name} any more: its heel stays in the cylinder, and is counted so.", name=name
        )
        notes.say("weigh_in.last_vapour", "Wait", text, TRADE)


def _source(key: str, draw: Draw, heel: float, matters_kg: float | None, notes: Notes, context: StepContext) -> Source | None:
    _blends_vapour(draw, notes, context)
    label = value_of(draw.label_net)
    hose = value_of(draw.hose_loss) or 0.0
    contents = draw.contents or "new"
    if draw.gross_start is None and label is not None:
        return Source(key, label, 0.0, hose, heel, contents=contents, weighed=False)
    _ask_book(key, draw, matters_kg or BOOK_LEAST_KG, notes, context)
    tare = draw.tare.value if draw.tare else (draw.gross_start.value - label if draw.gross_start and label is not None else None)
    notes.need(context.path("draws", key, "gross_start"), "what the scale reads now", draw.gross_start)
    if tare is None:
        notes.need(context.path("draws", key, "tare"), "the cylinder's tare", None)
    if draw.gross_start is None or tare is None:
        return None
    return _checked(Source(key, draw.gross_start.value, tare, hose, heel, _given(draw), contents), notes, context)


def _ask_book(key: str, draw: Draw, matters_kg: float, notes: Notes, context: StepContext) -> None:
    """Ask when the scale reads another weight than the shop's book leaves this cylinder with, by more than the charge may be out."""
    book, typed = draw.book_gross, draw.gross_start
    answers = context.run.answers if context.run else {}
    question_id = f"book:{key}:{typed.value if typed else 0.0:.9g}"
    if book is None or typed is None or question_id in answers:
        return
    slip = looks_like_slip(ParsedMass(typed.value, typed.unit, typed.text), book.value, matters_kg)
    if not slip and abs(typed.value - book.value) <= max(matters_kg, BOOK_LEAST_KG):
        return
    text = (
        sentence("By the book it should read {book}, the entry is {typed}. Tenths of a pound are not ounces: which is right?")
        if slip
        else sentence(
            "By the book it should read {book}, the entry is {typed}. It was drawn from without being written down, or it is another cylinder: which is right?"
        )
    )
    amounts = {"book": Amount(book.value, "mass"), "typed": Amount(typed.value, "mass")}
    notes.questions.append(Question(question_id, context.path("draws", key, "gross_start"), Message(text, amounts)))


def _checked(source: Source, notes: Notes, context: StepContext) -> Source | None:
    try:
        weigh_in.check_source(source)
    except CoreError as error:
        gross, tare = Amount(source.gross_kg, "mass"), Amount(source.tare_kg, "mass")
        notes.refuse(context.path("draws", source.id, "gross_start"), error.code, LIGHT, gross=gross, tare=tare)
        return None
    return source


def _given(draw: Draw) -> float | None:
    try:
        return draw_kg(draw)
    except CoreError:
        return None


def goal_of(build_up: ChargeBuildUp | None, context: StepContext) -> ChargeBuildUp | None:
    """What is weighed in before it first runs: the total, and of another refrigerant the share a retrofit starts with."""
    change = context.handed.plan_change
    if change is None and context.job.kind == "retrofit":
        return None
    if build_up is None or change is None or change.by_weight:
        return build_up
    return replace(build_up, total_kg=context.profile.value("retrofit.start_share") * build_up.total_kg)


def judge_contents(sheet: WeighInSheet, refrigerant: str | None, notes: Notes, context: StepContext) -> None:
    """Nothing is topped up with another refrigerant, and nothing that came out of a changed system goes back into it."""
    change = context.handed.plan_change
    given = [(act.cylinder or key, act.holds) for key, act in context.job.acts.items() if act.kind in {"in", "tracer"}]
    drawn = [(draw.cylinder or key, draw.holds) for key, draw in sheet.draws.items()]
    for name, holds in (*drawn, *given):
        if holds and refrigerant and refrigerants.normalize(holds) != refrigerants.normalize(refrigerant):
            text = sentence(
                "{name} holds {holds} by the book, and {refrigerant} belongs in here. Never another one on top: take the right cylinder."
            )
            notes.say("weigh_in.other", "Stop", text, TRADE, role="hard", name=name, holds=holds, refrigerant=refrigerant)
    for draw in sheet.draws.values():
        if change is not None and draw.contents == "recovered":
            text = sentence("What was recovered here is {old}. {new} goes in, from a cylinder of its own.")
            notes.say("weigh_in.other", "Stop", text, TRADE, role="hard", old=change.old, new=change.new)


def plan_of(
    build_up: ChargeBuildUp | None, inside: float | None, sources: list[Source], notes: Notes, context: StepContext
) -> WeighInPlan | None:
    """The plan over all sources; says what is asked of the next one."""
    if build_up is None or inside is None:
        return None
    slow = context.profile.value("weigh_in.slow_share")
    plan = weigh_in.plan(build_up, inside, sources, slow_share=slow)
    now = plan.now
    if now is not None and not now.weighed:
        notes.need(context.path("draws", now.source_id, "gross_start"), "what the scale reads with it on", None)
    return plan


def refuse_draws(sheet: WeighInSheet, notes: Notes, context: StepContext) -> bool:
    """Say which readings of this run cannot be used; whether any draw is done."""
    done = False
    for key, draw in sheet.draws.items():
        try:
            done = draw_kg(draw) is not None or done
        except CoreError as error:
            notes.refuse(context.path("draws", key) + error.path, error.code, told(error))
    return done


def judge_sources(
    plan: WeighInPlan, sources: list[Source], sheet: WeighInSheet, tolerance: Tolerance, notes: Notes, refrigerant: str | None
) -> None:
    """Whether what stands there is enough, said before the first is opened; short by less than the charge may be out it is enough."""
    if plan.weigh_kg < 0 and not plan.short_kg:
        text = sentence("More is inside than belongs there. Recover {value}.")
        notes.say("weigh_in.negative", "Wait", text, "total less what is inside", value=Amount(-plan.weigh_kg, "mass"))
    if not (plan.takes and plan.short_kg):
        return
    stays = fsum(source.heel_kg for source in sources)
    several = len(sources) > 1
    known = any(draw.residue is not None for draw in sheet.draws.values())
    behind = Message(sentence("{heel} stay behind in them.") if known else sentence("{heel} stay behind as vapour.")) if stays else None
    if stays and not known and refrigerant and refrigerants.is_known(refrigerant) and not refrigerants.get(refrigerant).is_blend:
        behind = Message("{heel} stay behind as vapour; no blend, so that can be drawn as vapour too.")
    opened = any(take.done for take in plan.takes)
    amounts = {"value": Amount(plan.short_kg, "mass"), "heel": Amount(stays, "mass")}
    if plan.short_kg <= SHORT_SHARE * tolerance.kg:
        amounts["limit"] = Amount(tolerance.kg, "mass")
        text = (
            sentence("The cylinders run out {value} short, inside the ± {limit} of this charge: no other is needed.")
            if several
            else sentence("The cylinder runs out {value} short, inside the ± {limit} of this charge: no other is needed.")
        )
        notes.tell("weigh_in.short", "Open", joined(Message(text), behind), "gross less tare, hose and what stays in it", amounts)
        return
    text = sentence("The cylinders run out {value} short.") if several else sentence("The cylinder runs out {value} short.")
    enough = _enough(plan.more, opened)
    notes.tell("weigh_in.short", "Wait", joined(Message(text), behind, enough), "gross less tare, hose and what stays in it", amounts)


def _enough(more: int, opened: bool) -> Message:
    if more < 1:
        return Message(
            sentence("Have another one of the same refrigerant at hand.")
            if opened
            else sentence("Have another one of the same refrigerant at hand before the first is opened.")
        )
    if opened:
        return plural(more, "One more like the last would do; have it at hand.", "{n} more like the last would do; have them at hand.")
    return plural(
        more,
        "One more like the last would do; have it at hand before the first is opened.",
        "{n} more like the last would do; have them at hand before the first is opened.",
    )


def judge_label(sheet: WeighInSheet, notes: Notes) -> None:
    """A can's label is a plan, not a proof."""
    if any(draw.label_net is not None and draw.tare is None for draw in sheet.draws.values()):
        text = sentence("A can's label is not what went in: each goes on the scale before and after.")
        notes.say("weigh_in.label", "Open", text, TRADE)
