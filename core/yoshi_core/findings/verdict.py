"""What a step says: verdict with reasons, figures with their why, what is missing, what to mind.

Everything here is data; a sentence is a template with what it names beside it (`message.py`).
"""

from typing import Literal

from yoshi_core.frozen import dataclass
from yoshi_core.message import Label, Message
from yoshi_core.units.display import Amount

Word = Literal["Holds", "Wait", "Stop", "Open"]


Role = Literal[
    "remark", "hard", "no_method", "clock", "step", "condition", "not_the_charge", "no_step", "finding", "edge", "glass", "run_in_served", "outside", "outside_other", "thumb", "sign", "which_circuit",
]  # fmt: skip


@dataclass(frozen=True)
class Reason:
    """One rule that spoke: what was found (`value`), what it was held against (`limit`), and where that comes from.

    `role` says what the reason is for; nothing is recognised by the text of a rule's id. A Stop that no reason lifts
    (`hard`), a method that does not speak
    today (`no_method`), a wait that goes on (`clock`), the next step of charge (`step`), what must be right before
    readings speak (`condition`), another fault (`not_the_charge`), why no step is reckoned (`no_step`), what the step
    itself measured (`finding`), a reading left at the edge of its band (`edge`) or outside it (`outside`, in the mode it was not called for `outside_other`), a glass that ends a
    charge (`glass`), a run-in that is over (`run_in_served`), a rule of thumb of this kind (`thumb`), what speaks against a running unit and never for its charge (`sign`), which of two circuits it is (`which_circuit`); anything else is a `remark`.
    """

    rule_id: str
    message: Message
    word: Word
    value: Amount | None
    limit: Amount | None
    source: str
    school: str | None = None
    role: Role = "remark"


@dataclass(frozen=True)
class Verdict:
    """Holds, Wait, Stop, or Open while entries are missing."""

    word: Word
    headline: Message
    reasons: tuple[Reason, ...] = ()


@dataclass(frozen=True)
class Term:
    """One piece of a formula with this job's number in it: `op` before it, `label` under it."""

    op: Literal["", "+", "−", "×", "÷", "="]
    amount: Amount
    label: Label


@dataclass(frozen=True)
class Why:
    """How a figure came about: the formula with its numbers, notes, source, rule and school."""

    terms: tuple[tuple[Term, ...], ...]
    notes: tuple[Message, ...]
    source: str
    rule_id: str
    school: str | None = None


@dataclass(frozen=True)
class Figure:
    """One computed number: `u` inside `amount` is its standard uncertainty."""

    id: str
    label: Label
    amount: Amount
    why: Why


@dataclass(frozen=True)
class Missing:
    """A field that must be filled before the step can judge; `path` is inside the job document. No reason stands in for a `hard` one."""

    path: str
    label: Label
    hard: bool = False


@dataclass(frozen=True)
class Caution:
    """A short warning at the step where it bites; `seen` once a person of this job said so there."""

    id: str
    message: Message
    seen: bool = False


@dataclass(frozen=True)
class Question:
    """An unlikely entry, asked about once; answering `kept` under `id` settles it until the entry changes."""

    id: str
    path: str
    message: Message
    suggestion: str | None = None

    @property
    def answer_path(self) -> str:
        """JSON pointer of the answer that settles it."""
        name = self.id.replace("~", "~0").replace("/", "~1")
        return f"{self.path.partition('/sheet/')[0]}/answers/{name}"


@dataclass(frozen=True)
class Problem:
    """An entry that cannot be used; it counts as empty until mended."""

    path: str
    code: str
    message: Message


@dataclass(frozen=True)
class Movement:
    """Refrigerant that changed place: `key` is stable over recomputation; places read `cylinder:14` or `circuit:cr-1`."""

    key: str
    kind: Literal["charge", "recover", "transfer", "lost"]
    source: str
    destination: str
    refrigerant: str
    mass_kg: float
    provenance: str


_SEVERITY: dict[Word, int] = {"Holds": 0, "Open": 1, "Wait": 2, "Stop": 3}


def worst(reasons: tuple[Reason, ...]) -> Word:
    """The gravest word among reasons; Holds when there is none."""
    return max((r.word for r in reasons), key=lambda w: _SEVERITY[w], default="Holds")
