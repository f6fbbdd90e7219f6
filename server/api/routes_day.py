"""The day's plan of the person who asks."""

from datetime import datetime
from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from api.who import person_of
from jobs.day import day_of
from yoshi_core.errors import InvalidInput

router = Router()


class SlotRow(Schema):
    label: str
    start: datetime
    end: datetime
    hands: bool
    kit: list[str]


class DayJob(Schema):
    code: str
    title: str
    step: str
    word: str
    waits_until: datetime | None
    waits_for: str
    running: bool
    slots: list[SlotRow]
    proven: datetime | None
    left: str
    not_done: list[str]


class SkippedJob(Schema):
    code: str
    title: str


class KitRow(Schema):
    name: str
    busy_until: datetime | None
    slots: list[SlotRow]


class DayState(Schema):
    now: datetime
    leave: datetime
    jobs: list[DayJob]
    skipped: list[SkippedJob]
    kit: list[KitRow]
    finish: datetime | None
    idle_s: float
    saved_s: float
    exact: bool
    from_history: list[str]


@router.get("", response=DayState)
def get_day(request: HttpRequest, leave: str, skip: str = "") -> dict[str, Any]:
    """The plan until a time to leave; `skip` are codes of jobs left out of today, with commas between."""
    try:
        moment = datetime.fromisoformat(leave)
    except ValueError:
        raise InvalidInput("Write the time to leave as 2026-06-18T17:00:00Z.", path="/leave") from None
    if moment.tzinfo is None:
        raise InvalidInput("The time to leave needs its offset from UTC.", path="/leave")
    return day_of(person_of(request), moment, frozenset(code for code in skip.split(",") if code))
