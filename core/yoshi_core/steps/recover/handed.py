"""What Recover hands to the steps after it."""

from yoshi_core.frozen import dataclass
from yoshi_core.message import Message
from yoshi_core.steps.recover.sheet import Way


@dataclass(frozen=True)
class Recovered:
    """What later steps build on: weight in kg, whether it is over, and whether the system is empty.

    `begun`: anything came out, or was said to have. `pumped_down`: the charge stands shut in, the rest let to zero. `words` are what was reached;
    `short` says that less came out than belongs there, `over` that more did; None where neither is so.
    `way` is how it comes out, as chosen.
    """

    recovered_kg: float | None
    finished: bool
    empty: bool
    begun: bool = False
    pumped_down: bool = False
    told: bool = False
    words: Message | None = None
    short: Message | None = None
    over: Message | None = None
    way: Way | None = None
