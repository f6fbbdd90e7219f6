"""What a job can say, and on what: seven claims, each with what points to it, what against it, and what would show it."""

from typing import Literal

from yoshi_core.findings.verdict import Missing
from yoshi_core.frozen import dataclass
from yoshi_core.message import Message

ClaimId = Literal["unit", "emptied", "mended", "tight", "dry", "charged", "runs"]
Standing = Literal["shown", "answered_for", "contradicted", "not_yet", "not_in_question"]
LABELS: dict[ClaimId, str] = {
    "unit": "The right unit",
    "emptied": "Emptied",
    "mended": "Mended",
    "tight": "Tight",
    "dry": "Dry",
    "charged": "Charged right",
    "runs": "Runs right",
}
STANDINGS: dict[Standing, str] = {
    "shown": "Shown",
    "answered_for": "Answered for",
    "contradicted": "Contradicted",
    "not_yet": "Not yet",
    "not_in_question": "Not in question",
}


@dataclass(frozen=True)
class Evidence:
    """One thing that speaks for or against a claim, and the step where it was entered."""

    message: Message
    step: str


@dataclass(frozen=True)
class Claim:
    """What a job says of one thing: its standing, one sentence, and what it rests on.

    `step` is where it is shown or answered for. `by` and `reason` are whose word stands in for what was not shown;
    `mode` is the mode of the unit it was shown in, empty where that does not matter; `awaits` the step still to come that can show it.
    """

    id: ClaimId
    step: str
    label: str
    standing: Standing
    words: Message
    shows: tuple[Evidence, ...] = ()
    against: tuple[Evidence, ...] = ()
    missing: tuple[Missing, ...] = ()
    mode: str = ""
    by: str = ""
    reason: str = ""
    awaits: str = ""

    @property
    def settled(self) -> bool:
        """Whether nothing more is asked of it: shown, answered for, or not in question."""
        return self.standing in {"shown", "answered_for", "not_in_question"}


@dataclass(frozen=True)
class Way:
    """A way a job or a visit may close: whether it is open now, and in words why, or what bars it."""

    id: str
    label: str
    open: bool
    words: Message
    reasoned: bool = False
