"""Whether this condenser is proven to belong to that indoor unit, and which circuit of its cabinet it is."""

from yoshi_core.document.plate import Plate
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message, sentence
from yoshi_core.profile.profile import TRADE

SOURCE = TRADE


@dataclass(frozen=True)
class PairingQuestion:
    """What is still open about the pairing: rule id, the plate's field that settles it, and the sentence.

    `before_opening`: it must be settled before anything is opened.
    """

    rule_id: str
    field: str
    message: Message
    before_opening: bool = True


def open_question(plate: Plate) -> PairingQuestion | None:
    """The first thing open about the pairing; None when it is proven, or nothing was said about it."""
    if plate.pairing_by == "told":
        text = sentence(
            "That these belong together was only told. Switch it off and see which one stops, or trace the line, before anything is opened."
        )
        return PairingQuestion("pairing.told", "pairing_by", Message(text))
    if plate.pairing_proven is False:
        text = sentence("Which indoor unit this condenser feeds is not proven. Switch it off and see which one stops.")
        return PairingQuestion("pairing.unproven", "pairing_proven", Message(text))
    if plate.circuit_known is False:
        text = sentence(
            "Which circuit of the cabinet this is, is not known. It stays an open question: "
            "the smaller charge counts until the running unit says which plate applies."
        )
        return PairingQuestion("pairing.circuit", "circuit_known", Message(text), before_opening=False)
    return None
