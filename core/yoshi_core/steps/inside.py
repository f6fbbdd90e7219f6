"""Whether refrigerant may still be in the circuit: nitrogen or a pump goes on only where it is known to be empty."""

from yoshi_core.steps.contract import StepContext


def may_hold_refrigerant(context: StepContext) -> bool:
    """True until it is known to be empty: by Recover, or, where that does not apply, by what was found in it.

    False for a kind of job that has no Recover at all.
    """
    before = context.earlier.get("recover")
    recovered = context.handed.recover
    if before is None or recovered is None:
        return False
    if recovered.empty or before.state != "not_applicable":
        return not recovered.empty
    return not (_found_empty(context) or _told_empty(context))


def _found_empty(context: StepContext) -> bool:
    found = context.handed.as_found
    return found is not None and found.at_air and context.earlier["as_found"].state != "not_applicable"


def _told_empty(context: StepContext) -> bool:
    searched = context.handed.leak_search
    return searched is not None and searched.empty and context.earlier["leak_search"].state != "not_applicable"
