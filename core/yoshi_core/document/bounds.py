"""What no field of a document can hold: a number past it overflows where it is squared or divided by, a moment past it has no clock.

Every field's own range lies far within. A document from elsewhere is held to these when it is read, so that whatever loads can be judged.
"""

from datetime import UTC, datetime, timedelta

LARGEST, SMALLEST = 1e12, 1e-50
EARLIEST, LATEST = datetime(1970, 1, 1, tzinfo=UTC), datetime(2200, 1, 1, tzinfo=UTC)


def holds(number: float) -> bool:
    """Whether a document can hold this number, in SI: none, or from 10⁻⁵⁰ to 10¹² either way; never NaN."""
    return number == 0 or SMALLEST <= abs(number) <= LARGEST


def is_of_our_time(moment: datetime) -> bool:
    """Whether a moment with its offset is from 1970 to 2199."""
    return EARLIEST <= moment < LATEST


def later(moment: datetime, seconds: float) -> datetime | None:
    """The moment so many seconds on; None where it would be after 2199, which nobody waits for."""
    if not seconds < (LATEST - moment).total_seconds():
        return None
    return moment + timedelta(seconds=seconds)
