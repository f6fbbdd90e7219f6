"""When a shop works: the stretch of a day that is planned, from its own hours and what a person said."""

from datetime import datetime, time, timedelta

from yoshi_core.errors import InvalidInput
from yoshi_core.frozen import dataclass
from yoshi_core.profile.profile import Profile

WORKING_DAYS = {"five": 5, "six": 6, "seven": 7}
MIDNIGHT = time(0, 0)


@dataclass(frozen=True)
class Stretch:
    """From when to when work is planned."""

    begins: datetime
    leaves: datetime


def stretch(now: datetime, profile: Profile, leaves: datetime | None = None, *, outside: bool = False) -> Stretch:
    """The rest of today's hours, or the next working day's where today's are over; `now` has the offset of where the shop is.

    A time to leave that a person chose ends the day instead of the shop's closing, on whatever day that is. `outside` is
    a person's word that work goes on whatever the hours are: then it begins now, and ends at the time to leave or a day on.
    Raises `InvalidInput` for a moment without its offset.
    """
    if now.tzinfo is None or (leaves is not None and leaves.tzinfo is None):
        raise InvalidInput("A time needs its offset from UTC.", path="/leave")
    if outside:
        return Stretch(now, leaves or now + timedelta(days=1))
    opens_s, closes_s = profile.value("day.opens"), profile.value("day.closes")
    chosen = None if leaves is None else leaves.astimezone(now.tzinfo)
    ends_s = closes_s if chosen is None else (chosen - datetime.combine(chosen.date(), MIDNIGHT, now.tzinfo)).total_seconds()
    ends_s += 86_400.0 if ends_s <= opens_s else 0.0  # who leaves after midnight goes on into the night
    days = WORKING_DAYS[profile.choice("day.week")]
    for ahead in range(-1, 8):
        day = datetime.combine(now.date() + timedelta(days=ahead), MIDNIGHT, now.tzinfo)
        begins, ends = day + timedelta(seconds=opens_s), day + timedelta(seconds=ends_s)
        if day.weekday() < days and now < ends:
            return Stretch(max(begins, now), ends)
    raise AssertionError("a week has a working day")
