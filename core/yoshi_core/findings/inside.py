"""What is inside, as it is shown: the account's lines in words, the balance after each, and what belongs in."""

from datetime import datetime

from yoshi_core.frozen import dataclass
from yoshi_core.message import Label, Message
from yoshi_core.units.display import Amount


@dataclass(frozen=True)
class InsideRow:
    """One line: what happened (`text`), with which cylinder (`note`), by how much (`change`), how that is known, and what is inside after it.

    `low` and `high` bound what is inside, `after` says it in words; `high` is None where nobody knows. `step` and `origin` lead to where it was
    entered. `change` is None where a line says what is inside instead, or its mass is not known.
    """

    id: str
    text: Message
    note: Label
    change: Amount | None
    known: str
    low: Amount
    high: Amount | None
    after: Message
    step: str
    origin: str
    at: datetime | None = None
    adds: bool = False


@dataclass(frozen=True)
class InsidePart:
    """A part of the circuit that valves can shut off: whether they are shut on it now, and what is in it, in words and as a kind.

    `medium` is one of charge, liquid, nitrogen, vacuum, zero, unknown; `passes` says that a valve on it was seen to let through.
    """

    id: str
    label: str
    shut: bool
    holds: str
    medium: str = "unknown"
    passes: bool = False


@dataclass(frozen=True)
class Inside:
    """The account as shown: its rows, oldest first; what is inside now in words and as bounds, how known; what belongs in where that is known.

    `parts` are what was shut off from what; none where nothing was. `open_side` names what is open to the work while a part is shut.
    """

    rows: tuple[InsideRow, ...]
    now: Message
    low: Amount
    high: Amount | None
    known: str
    belongs: Amount | None
    parts: tuple[InsidePart, ...] = ()
    open_side: str = ""
