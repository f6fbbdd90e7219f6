"""Runs right: what the running unit showed."""

from yoshi_core.message import Message
from yoshi_core.steps.claiming import Told
from yoshi_core.steps.contract import StepContext


def claim(context: StepContext) -> Told:
    """Inside its target, or inside the rules of thumb that are all its kind has; nothing read shows nothing."""
    told, verified = Told(), context.handed.verify
    told.mode = verified.mode
    words = verified.words or Message("Nothing was read on the running unit.")
    if verified.stale:
        told.lacks(context.path("readings"), "a reading after the last change of charge")
        return told.say("not_yet", Message("Charge went in or out after the last reading: it says nothing of what is inside now."))
    if verified.against:
        told.con(context.step, words)
        return told.say("contradicted", words)
    if verified.shows is not None:
        told.pro(context.step, words)
        return told.say("shown", words)
    if not verified.read:
        told.lacks(context.path("readings"), "the running unit read")
    return told.say("not_yet", words)
