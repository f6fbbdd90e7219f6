"""Emptied lawfully: what Recover can show, and on what."""

from yoshi_core.account.account import Account
from yoshi_core.message import Message
from yoshi_core.steps.claiming import Told, opened
from yoshi_core.steps.contract import StepContext
from yoshi_core.steps.inside import found_empty
from yoshi_core.units.display import Amount

NOTHING_HELD = Message("Nothing that held a charge was opened.")


def claim(context: StepContext) -> Told:
    """Shown by level and rise, by a pump-down, or by being found empty; a loss into the air, or an emptying only told, never shows it."""
    told = Told()
    handed, searched = context.handed.recover, context.handed.leak_search
    if handed is None:
        return told.say("not_in_question", NOTHING_HELD)
    went = _into_the_air(context.account)
    if went:
        told.con(context.step, went)
        return told.say("not_yet", went)
    if handed.words is not None and (handed.empty or handed.pumped_down):
        told.pro(context.step, handed.words)
        return told.say("shown", handed.words)
    if handed.begun and handed.way == "pump_down":
        told.lacks(context.path("shut_at"), "where the suction valve was shut, and the rest let to zero")
        return told.say("not_yet", Message("The pump-down is not shown to be over."))
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


def _into_the_air(account: Account) -> Message | None:
    """What went off into the air, in words; a tracer that went in under nitrogen and off with it is none."""
    charge = True
    for row in account.booked:
        if row.line.kind in {"opening", "emptied"}:
            charge = row.after.mass_kg != 0.0
        elif row.line.kind == "added":
            charge = charge or not row.line.tracer
        elif row.line.kind == "lost" and charge:
            mass = row.line.mass_kg
            if mass is None:
                return Message("Refrigerant went into the air, nobody weighed it.")
            return Message("{lost} went into the air.", {"lost": Amount(mass, "mass")})
    return None
