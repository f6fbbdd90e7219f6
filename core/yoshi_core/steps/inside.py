"""Whether refrigerant may still be in the circuit: nitrogen or a pump goes on only where it is known to be empty."""

from yoshi_core.document.model import StepRecord
from yoshi_core.steps.contract import StepContext
from yoshi_core.steps.sections import lets_through


def may_hold_refrigerant(context: StepContext) -> bool:
    """True until it is known to be empty: by Recover, or, where nothing came out there, by what was found in it.

    A shut valve that lets through makes both its sides not known. Else false for a kind of job that has no Recover at all.
    """
    before = context.earlier.get("recover")
    recovered = context.handed.recover
    if lets_through(context) is not None:
        return True
    if before is None or recovered is None:
        return False
    if recovered.empty or recovered.pumped_down:
        return False
    if recovered.begun and not recovered.told:
        return True
    return not (found_empty(context) or _told_empty(context) or _said(context))


def _said(context: StepContext) -> bool:
    """Whether a person said that nothing was in it when they came, or is any more, or that its charge is shut in as it was delivered."""
    runs = context.job.steps.get("weigh_in", StepRecord()).runs
    precharged = bool(runs) and runs[-1].sheet.system_state == "precharged"
    nothing = any(act.kind == "found" and act.mass is not None and act.mass.value == 0.0 for act in context.job.acts.values())
    let_off = any(act.empties and act.kind in {"out", "lost"} and not act.reserved for act in context.job.acts.values())
    return precharged or nothing or let_off


def found_empty(context: StepContext) -> bool:
    """Whether it stood at the air's own pressure when it was come to."""
    found = context.handed.as_found
    return found is not None and found.at_air and context.earlier["as_found"].state != "not_applicable"


def _told_empty(context: StepContext) -> bool:
    searched = context.handed.leak_search
    return searched is not None and (searched.empty or searched.nitrogen) and context.earlier["leak_search"].state != "not_applicable"
