"""Recovered before we came: nothing was in it, or another firm took it out and hands its sheet down."""

from yoshi_core.message import Message, headline, joined, sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.steps.inside import found_empty
from yoshi_core.steps.recover.after import judge_level
from yoshi_core.steps.recover.sheet import RecoverSheet
from yoshi_core.units.display import Amount


def nothing_in_it(sheet: RecoverSheet, context: StepContext) -> bool:
    """Whether it was found empty and nothing was written down of a recovery: then none is asked for."""
    searched = context.handed.leak_search
    nothing = found_empty(context) or (searched is not None and searched.empty)
    return nothing and sheet.way is None and not sheet.cylinders and sheet.told is None and not sheet.finished


def judge_handed_down(sheet: RecoverSheet, full_kg: float | None, notes: Notes, context: StepContext) -> None:
    """Another firm's sheet: who, down to what, and what it read after the wait; what came out is told, and proves no charge."""
    notes.need(context.path("firm"), "which firm", sheet.firm)
    if not notes.need(context.path("finished"), "whether its sheet says that it was finished", sheet.finished or None):
        return
    judge_level(sheet, full_kg, None, notes, context)
    for field, label, value in (
        ("end_pressure", "the pressure at the end, by its sheet", sheet.end_pressure),
        ("waited", "how long it was watched, by its sheet", sheet.waited),
        ("risen_to", "what it read after the wait, by its sheet", sheet.risen_to),
    ):
        if not any(missing.path == context.path(field) for missing in notes.missing):
            notes.need(context.path(field), label, value)
    if sheet.told is not None:
        text = sentence("{value} came out by its sheet. Nobody here weighed it: it says little about what was missing.")
        notes.say("recover.told", "Holds", text, TRADE, value=Amount(sheet.told.value, "mass"))


def words(sheet: RecoverSheet) -> Message | None:
    """What another firm's sheet says, in words."""
    if sheet.firm is None or sheet.end_pressure is None or sheet.risen_to is None:
        return None
    amounts = {"end": Amount(sheet.end_pressure.value, "gauge_pressure"), "risen": Amount(sheet.risen_to.value, "gauge_pressure")}
    out = None if sheet.told is None else headline("{out} came out, so it says.", out=Amount(sheet.told.value, "mass"))
    return joined(
        headline("Recovered by {firm}, by its sheet.", firm=sheet.firm),
        out,
        Message("Down to {end}, {risen} after the wait.", amounts),
    )
