"""A little refrigerant put in on purpose, under nitrogen, so that a detector finds the leak."""

from yoshi_core.document.sheets import value_of
from yoshi_core.message import sentence
from yoshi_core.profile.profile import TRADE
from yoshi_core.steps.act_lines import act_kg
from yoshi_core.steps.contract import Notes, StepContext
from yoshi_core.units.display import Amount


def judge_tracers(notes: Notes, context: StepContext) -> None:
    """More than a tracer's share is a Stop before it goes in; what went in is a remark, and comes out by the same way as the nitrogen."""
    profile, full = context.profile, context.handed.identify.careful
    most = profile.value("leak.tracer")
    if full is not None:
        most = min(most, profile.value("leak.tracer_share") * full.total_kg)
    for act in context.job.acts.values():
        mass = act_kg(act) if act_kg(act) is not None else value_of(act.mass)
        if act.kind != "tracer" or mass is None:
            continue
        amounts = {"value": Amount(mass, "mass"), "limit": Amount(most, "mass")}
        source = profile.source("leak.tracer")
        over = mass > most * (1.0 + 1e-9)
        if over and not act.done and act.gross_after is None:
            text = sentence("{value} is more than a tracer: {limit} at most, under nitrogen. More is refrigerant let off.")
            notes.tell("leak.tracer", "Stop", text, source, amounts, role="hard")
        elif over:
            notes.tell(
                "leak.tracer", "Open", "{value} went in as a tracer; {limit} is the most. It is kept in the record.", source, amounts
            )
        else:
            notes.tell("leak.tracer_law", "Open", "A tracer of {value} under nitrogen: only where the law allows it.", TRADE, amounts)
