"""Long logs made short: what a job keeps of thousands of readings, with a seal of the whole.

Rows stay where they were taken; a job holds at most `MOST_POINTS` of them, chosen so that a drawing
and a verdict are the same: first and last, both neighbours of every named moment, and in every
slice of time the lowest and the highest.
"""

import hashlib
from collections.abc import Iterable, Sequence
from datetime import datetime
from math import isfinite

from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass

MOST_POINTS = 600
Row = tuple[float, float]


@dataclass(frozen=True)
class Trace:
    """A thinned log: seconds after `starts_at` and SI values, with the count and SHA-256 of the full log.

    `instrument` is who gave it, `step` its display's step in SI where it said so; likewise its ± as `limit` in SI and as
    `relative` share of the reading, and the day it was calibrated as year-month-day, empty where nobody said.
    """

    starts_at: datetime
    seconds: tuple[float, ...]
    values: tuple[float, ...]
    rows: int = 0
    sha256: str = ""
    instrument: str = ""
    step: float | None = None
    limit: float | None = None
    relative: float | None = None
    calibrated_on: str = ""


def thin(rows: Sequence[Row], exact_s: Sequence[float] = (), most: int = MOST_POINTS) -> tuple[Row, ...]:
    """At most `most` of the rows `(second, value)`, in order.

    Kept are the first and the last row, the rows around each moment of `exact_s`, and the extremes of equal
    slices of time. Raises `InvalidInput` for rows out of order, repeated or not finite, and for a limit too small.
    """
    _check(rows)
    if len(rows) <= most:
        return tuple(rows)
    keep = {0, len(rows) - 1}
    for moment in exact_s:
        after = _first_from(rows, moment)
        keep.update(n for n in (after - 1, after) if 0 <= n < len(rows))
    slices = (most - len(keep)) // 2
    if slices < 1:
        raise InvalidInput(
            "{most} points are too few to keep {count} named ones and the extremes between.", words={"most": most, "count": len(keep)}
        )
    start, width = rows[0][0], (rows[-1][0] - rows[0][0]) / slices
    lowest: dict[int, int] = {}
    highest: dict[int, int] = {}
    for n, (second, value) in enumerate(rows):
        place = min(int((second - start) / width), slices - 1)
        if place not in lowest or value < rows[lowest[place]][1]:
            lowest[place] = n
        if place not in highest or value > rows[highest[place]][1]:
            highest[place] = n
    keep.update(lowest.values())
    keep.update(highest.values())
    return tuple(rows[n] for n in sorted(keep))


def _check(rows: Sequence[Row]) -> None:
    before = float("-inf")
    for second, value in rows:
        if not (isfinite(second) and isfinite(value)):
            raise InvalidInput("A log holds finite times and values only.")
        if second <= before:
            raise InvalidInput("The rows of a log come in order of time, each moment once.")
        before = second


def _first_from(rows: Sequence[Row], moment: float) -> int:
    low, high = 0, len(rows)
    while low < high:
        middle = (low + high) // 2
        low, high = (middle + 1, high) if rows[middle][0] < moment else (low, middle)
    return low


def seal(rows: Iterable[Row]) -> str:
    """SHA-256 of a log: one line `second,value` a row, each number as Python writes it."""
    digest = hashlib.sha256()
    for second, value in rows:
        digest.update(f"{second!r},{value!r}\n".encode())
    return digest.hexdigest()


def tidy(rows: Iterable[Row]) -> tuple[Row, ...]:
    """Rows as they came, put in order; of a moment that came twice the last one stays."""
    return tuple(sorted(dict(rows).items()))
