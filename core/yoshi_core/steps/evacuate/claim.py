"""Dry: what Evacuate can show."""

from yoshi_core.message import Message, joined, sentence
from yoshi_core.steps.claiming import Told, opened, reopened
from yoshi_core.steps.contract import StepContext

AGAINST = {"leak": Message("It leaks."), "wet": Message("It levels off above what is allowed: water, or refrigerant out of the oil.")}


def claim(context: StepContext) -> Told:
    """Shown by the rise of the isolated vacuum and by nothing else; a pump that runs shows nothing."""
    told = Told()
    pumped = context.handed.evacuate
    if pumped is None or not opened(context):
        return told.say("not_in_question", Message("Nothing was opened."))
    words = pumped.words or Message(sentence("The vacuum was not read.") if pumped.begun else sentence("Not evacuated."))
    if reopened(context, pumped.read_at):
        return told.say("not_yet", Message("It was opened again after the vacuum: pull it again."))
    if pumped.against is not None:
        told.con(context.step, joined(words, AGAINST[pumped.against]))
        return told.say("contradicted", told.against[0].message)
    if pumped.proven:
        told.pro(context.step, words)
        return told.say("shown", words)
    told.lacks(context.path("readings"), "the micron gauge, shut off and watched long enough")
    return told.say("not_yet", words)
