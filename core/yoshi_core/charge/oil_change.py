"""Old oil left after oil changes, and how many more it takes: by dilution, or by a refractometer where one was read.

Each change takes the share of the system's oil that was drained; what stays behind mixes with the new. Common practice,
no source; a change counts only where the oil had run and mixed before it.
"""

from collections.abc import Sequence
from math import ceil, log, log1p

from yoshi_core.errors import OutOfRange
from yoshi_core.frozen import dataclass

MOST_SHARE = 0.999


@dataclass(frozen=True)
class Turn:
    """One change: share of the system's oil that was drained (None: not known), and the refractometer's share of old oil after it."""

    drained_share: float | None
    read: float | None = None


def left_share(turns: Sequence[Turn]) -> float | None:
    """Share of old oil left, from 1 before the first change; None where a change says neither what was drained nor what was read.

    Raises `OutOfRange` for a share drained outside 0 to 1.
    """
    left: float | None = 1.0
    for turn in turns:
        if turn.drained_share is not None and not 0.0 <= turn.drained_share <= 1.0 + 1e-9:
            raise OutOfRange("More oil was drained than the whole system holds. Check both figures.", value=turn.drained_share, high=1.0)
        if turn.read is not None:
            left = turn.read
        elif turn.drained_share is None or left is None:
            left = None
        else:
            left *= 1.0 - min(turn.drained_share, MOST_SHARE)
    return left


def changes_to(limit: float, left: float, drained_share: float) -> int:
    """How many more changes, each taking that share, bring what is left under the limit; both shares above 0 and below 1.

    Raises `OutOfRange` where draining takes nothing, or for a limit of zero.
    """
    if not 0.0 < drained_share <= 1.0 + 1e-9 or not 0.0 < limit < 1.0:
        raise OutOfRange("A change that drains nothing thins nothing.", value=drained_share)
    if left <= limit:
        return 0
    return ceil(log(limit / left) / log1p(-min(drained_share, MOST_SHARE)) - 1e-9)
