"""The right unit and circuit: what Identify can show, and on what."""

from yoshi_core import refrigerants
from yoshi_core.document.pairing import open_question
from yoshi_core.document.plate import LINELESS_KINDS, PAIRINGS
from yoshi_core.message import Message, headline, sentence
from yoshi_core.steps.claiming import Told
from yoshi_core.steps.contract import StepContext
from yoshi_core.steps.identify.asked import other_refrigerant

OPENING = frozenset({"service", "retrofit"})


def claim(context: StepContext) -> Told:
    """Shown by the pairing as it was proven; against it speaks another refrigerant than on record, until that is settled."""
    told, plate = Told(), context.plate
    other = other_refrigerant(context)
    if other is not None:
        told.con(context.step, other.message)
        return told.say("contradicted", other.message)
    question = open_question(plate)
    if question is not None and question.rule_id == "pairing.circuit" and context.handed.verify.which_circuit:
        words = Message("The running unit says which of the two circuits this is.")
        told.pro("verify", words)
        return told.say("shown", words)
    if question is not None:
        told.lacks(context.path(question.field), "proof that this is the unit and the circuit")
        return told.say("not_yet", question.message)
    if plate.pairing_by is not None:
        words = headline("Proven by: {how}.", how=PAIRINGS[plate.pairing_by])
        told.pro(context.step, words)
        return told.say("shown", words)
    if plate.pairing_proven or plate.kind in LINELESS_KINDS:
        words = Message(
            sentence("Proven: these units are a pair.")
            if plate.pairing_proven
            else sentence("One unit with its own circuit: nothing to pair.")
        )
        told.pro(context.step, words)
        return told.say("shown", words)
    if context.job.kind not in OPENING:
        return told.say("not_in_question", Message("Nothing is opened in this kind of job."))
    told.lacks(context.path("pairing_proven"), "proof that these units are a pair")
    named = plate.refrigerant and refrigerants.is_known(plate.refrigerant)
    return told.say(
        "not_yet", Message(sentence("Not proven yet: that these units are a pair.") if named else sentence("The plate is not read yet."))
    )
