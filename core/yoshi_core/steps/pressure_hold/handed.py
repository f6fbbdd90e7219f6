"""What Pressure hold hands to the steps after it."""

from datetime import datetime

from yoshi_core.frozen import dataclass
from yoshi_core.message import Message
from yoshi_core.steps.pressure_hold.sheet import Joints


@dataclass(frozen=True)
class Held:
    """What later steps build on: whether it is proven under nitrogen.

    `filled`: nitrogen went in, `let_down`: and out again. `kept`: nothing was lost between two readings beyond metal and gauge; `drops`: more was. `joints` is what a sensitive
    test showed at the joints made. `words` say what was held and how long, `unseen` what it could not have shown; `read_at` is when the last reading was first entered.
    """

    holds: bool
    filled: bool = False
    let_down: bool = False
    kept: bool = False
    drops: bool = False
    joints: Joints | None = None
    words: Message | None = None
    unseen: Message | None = None
    read_at: datetime | None = None
