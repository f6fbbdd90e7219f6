"""What Evacuate hands to the steps after it."""

from datetime import datetime
from typing import Literal

from yoshi_core.frozen import dataclass
from yoshi_core.message import Message


@dataclass(frozen=True)
class Evacuated:
    """What later steps build on: whether it is proven tight and dry.

    `begun`: a pump was on it. `against`: it leaks, or has levelled off above what is allowed. `words` are what the gauge said; `read_at` is when the
    last reading was first entered.
    """

    proven: bool
    begun: bool = False
    against: Literal["leak", "wet"] | None = None
    words: Message | None = None
    read_at: datetime | None = None
