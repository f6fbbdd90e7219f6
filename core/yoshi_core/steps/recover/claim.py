"""Emptied lawfully: what Recover can show, and on what."""

from yoshi_core.findings.verdict import Message
from yoshi_core.steps.claiming import Told, opened
from yoshi_core.steps.contract import StepContext
from yoshi_core.steps.inside import found_empty

NOTHING_HELD = Message("Nothing that held a charge was opened.")


def claim(context: StepContext) -> Told:
    """Shown by level and rise, by a pump-down, or by being found empty; a loss into the air, or an emptying only told, never shows it."""
    told = Told()
    handed, searched = context.handed.recover, context.handed.leak_search
    if handed is None:
        return told.say("not_in_question", NOTHING_HELD)
    went = [row.line for row in context.account.booked if row.line.kind == "lost"]
    if went:
        words = Message("Refrigerant went into the air; how much stands in what is inside.")
        told.con(went[-1].step, words)
        return told.say("not_yet", words)
    if handed.words is not None and (handed.empty or handed.pumped_down):
        told.pro(context.step, handed.words)
        return told.say("shown", handed.words)
    if handed.begun:
        told.lacks(context.path("end_pressure"), "the pressure at the end, and after the wait")
        words = Message("How much came out was told, not weighed.") if handed.told else Message("Recovery is not shown to be over.")
        return told.say("not_yet", handed.words or words)
    if found_empty(context) or (searched is not None and searched.empty):
        step = "as_found" if found_empty(context) else "leak_search"
        words = Message("Found empty.")
        told.pro(step, words)
        return told.say("shown", words)
    if not opened(context) or context.handed.weigh_in.state == "precharged":
        return told.say("not_in_question", NOTHING_HELD)
    told.lacks(context.path("way"), "how it was emptied")
    return told.say("not_yet", Message("How it was emptied is not shown."))
