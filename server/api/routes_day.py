"""The day's plan of the person who asks."""

from collections.abc import Iterator
from datetime import datetime, timedelta
from datetime import timezone as tzone
from typing import Annotated, Any, Literal

from django.http import HttpRequest
from ninja import Query, Router, Schema

from api.core_types import CoreMessage
from api.moments import moment_at
from api.who import person_of
from jobs.day import Wishes, day_of

router = Router()


class SlotRow(Schema):
    label: str
    short: str
    start: datetime
    end: datetime
    hands: bool
    kit: list[str]
    waits_from: datetime | None
    waits_for: str
    fills: str


class StopRow(Schema):
    at: datetime
    how: str


class DayJob(Schema):
    code: str
    title: str
    kind: str
    step: str
    headline: CoreMessage
    word: str
    carried: CoreMessage | None
    waits_until: datetime | None
    waits_for: str
    running: bool
    slots: list[SlotRow]
    proven: datetime | None
    technician: str
    not_before: datetime | None
    state: Literal["proven", "safe", "not_begun", "unsafe"]
    left: str
    stops: list[StopRow]
    rest_s: float
    not_done: list[str]


class SkippedJob(Schema):
    code: str
    title: str


class WaitingJob(Schema):
    """A job that goes on once somebody decided, or came back: `visit` is how the last one ended, where it did."""

    code: str
    title: str
    step: str
    stopped: bool
    what: CoreMessage
    visit: str
    awaited: str
    return_on: str
    technician: str


class KitRow(Schema):
    name: str
    busy_until: datetime | None
    slots: list[SlotRow]


class DayState(Schema):
    now: datetime
    begins: datetime
    leave: datetime
    jobs: list[DayJob]
    open: int
    decisions: list[WaitingJob]
    people: int
    skipped: list[SkippedJob]
    kit: list[KitRow]
    finish: datetime | None
    idle_s: float
    saved_s: float
    exact: bool
    from_history: list[str]


@router.get("", response=DayState)
def get_day(
    request: HttpRequest,
    leave: str = "",
    offset: Annotated[int, Query(ge=-1080, le=1080)] = 0,
    skip: str = "",
    later: str = "",
    whose: Literal["mine", "all"] = "mine",
    outside: bool = False,
) -> dict[str, Any]:
    """The plan within the shop's hours, or until a time to leave.

    `offset` is how many minutes the clock of the place is ahead of UTC; `outside` plans from now on whatever the hours are. `skip` are codes of jobs left out of today, `later` pairs `code=2026-06-18T15:30:00Z` of jobs not to be begun
    before, each with commas between; `whose` asks for one's own jobs or everybody's.
    """
    wishes = Wishes(frozenset(code for code in skip.split(",") if code), dict(_later(later)), whose == "all", outside)
    here = tzone(timedelta(minutes=offset))
    return day_of(person_of(request), here, moment_at(leave, "/leave") if leave else None, wishes)


def _later(text: str) -> Iterator[tuple[str, datetime]]:
    for pair in text.split(","):
        if pair:
            code, _, moment = pair.partition("=")
            yield code, moment_at(moment, "/later")
