"""A stretch of an instrument's log a person set aside: it stays in the record and counts for nothing."""

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta
from typing import Annotated

from yoshi_core.document.sheets import Facts
from yoshi_core.frozen import dataclass

NEAR = timedelta(seconds=90)


@dataclass(frozen=True)
class LogAside:
    """From when to when a log does not count, and why; without an end it is the one reading nearest to that moment."""

    since: Annotated[datetime | None, Facts("moment", "from")] = None
    until: Annotated[datetime | None, Facts("moment", "to, empty for one reading")] = None
    set_aside: Annotated[str | None, Facts("text", "set aside because", max_length=200)] = None


def dropped(moments: Sequence[datetime], spans: Mapping[str, LogAside]) -> frozenset[int]:
    """Which of the moments of a log do not count, by their place. A stretch without its reason or its beginning sets nothing aside."""
    found: set[int] = set()
    for span in spans.values():
        if span.since is None or not span.set_aside:
            continue
        if span.until is not None:
            found.update(n for n, at in enumerate(moments) if span.since <= at <= span.until)
            continue
        nearest = min(range(len(moments)), key=lambda n: abs(moments[n] - span.since), default=None)  # type: ignore[operator]
        if nearest is not None and abs(moments[nearest] - span.since) <= NEAR:
            found.add(nearest)
    return frozenset(found)
