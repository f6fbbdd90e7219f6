"""Mended: what Repair can show, and on what."""

from yoshi_core.message import Message, headline, joined
from yoshi_core.steps.claiming import Told, lost, reopened, still_hit
from yoshi_core.steps.contract import StepContext

NO_FAULT = frozenset({"healthy", "undercharge"})


def claim(context: StepContext) -> Told:
    """After a leak: what was mended, and the place tested again. Else the fault known, and gone in the running unit."""
    told = Told()
    repaired = context.handed.repair
    if repaired is None:
        return told.say("not_in_question", Message("Nothing was to be mended."))
    if not repaired.done:
        return _nothing_done(told, context)
    did = headline("{parts:cap} done.", parts=repaired.parts) if repaired.parts else Message("Joints made new.")
    told.pro(context.step, did)
    if repaired.unknown:
        why = headline("Why {parts} failed is not known.", parts=repaired.unknown)
        told.lacks(context.path("parts"), "why it failed")
        return told.say("not_yet", joined(did, why))
    if still_hit(context):
        return told.say("not_yet", headline("It leaks at {places}, and nothing was mended since.", places=still_hit(context)))
    searched = context.handed.leak_search
    if searched is not None and searched.hits:
        return _after_a_leak(did, searched.hits, told, context)
    found, recovered = context.handed.as_found, context.handed.recover
    read = found is not None and found.lead is not None and found.lead not in NO_FAULT
    over = None if recovered is None else recovered.over
    if repaired.failed or read or over is not None:
        return _gone(did, over, told, context)
    gone = lost(context)
    if gone is not None:
        return told.say("not_yet", joined(gone[1], Message("No place was found.")))
    return told.say("not_in_question", Message("All new; nothing had failed."))


def _nothing_done(told: Told, context: StepContext) -> Told:
    gone = lost(context)
    searched, found = context.handed.leak_search, context.handed.as_found
    if searched is not None and searched.leaking:
        return told.say("not_yet", headline("It leaks at {places}; nothing is mended yet.", places=searched.leaking))
    if gone is not None:
        return told.say("not_yet", joined(gone[1], Message("Nothing is mended yet.")))
    if found is not None and found.lead not in {None, "healthy"}:
        return told.say("not_yet", Message("What As found named is not mended yet."))
    return told.say("not_in_question", Message("Nothing was to be mended."))


def _after_a_leak(did: Message, hits: tuple[str, ...], told: Told, context: StepContext) -> Told:
    held, searched = context.handed.pressure_hold, context.handed.leak_search
    clean = held is not None and held.joints == "clean" and not reopened(context, held.read_at)
    if clean or (searched is not None and not searched.leaking):
        after = headline("It leaked at {places}; clean there since.", places=hits)
        told.pro("pressure_hold" if clean else "leak_search", after)
        return told.say("shown", joined(did, after))
    told.lacks("/steps/pressure_hold/runs/0/sheet/bubbles", "the place tested again")
    told.later("pressure_hold", context)
    if held is not None and reopened(context, held.read_at):
        told.awaits = "pressure_hold"  # it has to be held anew
    return told.say("not_yet", joined(did, headline("It leaked at {places}; not tested there since.", places=hits)))


def _gone(did: Message, over: Message | None, told: Told, context: StepContext) -> Told:
    """A fault that was seen or read is mended once the running unit does not show it any more."""
    fault = over or did
    if context.handed.verify.gone:
        after = Message("Gone in the running unit.")
        told.pro("verify", after)
        return told.say("shown", joined(fault, after))
    told.lacks("/steps/verify/runs/0/sheet/readings/r1/suction_pressure", "the running unit read again")
    told.later("verify", context)
    return told.say("not_yet", joined(fault, Message("The running unit has not shown it gone.")))
