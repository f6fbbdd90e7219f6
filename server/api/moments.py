"""Moments in requests: with their offset, and within what a clock of ours can show."""

from datetime import UTC, datetime
from typing import Annotated

from pydantic import AfterValidator, AwareDatetime

from yoshi_core.errors import InvalidInput

FIRST, LAST = datetime(1990, 1, 1, tzinfo=UTC), datetime(2200, 1, 1, tzinfo=UTC)


def moment_at(text: str, path: str) -> datetime:
    """The moment a text names. Raises `InvalidInput` for none, one without its offset, or one no job of ours can be at."""
    try:
        moment = datetime.fromisoformat(text)
    except ValueError:
        raise InvalidInput("Write a time as 2026-06-18T17:00:00Z.", path=path) from None
    if moment.tzinfo is None:
        raise InvalidInput("A time needs its offset from UTC.", path=path)
    if not _near(moment):
        raise InvalidInput("A time here is from 1990 to 2199.", path=path)
    return moment


def page_after(text: str) -> tuple[datetime, int] | None:
    """Where a page of a list begins, from the `next` of the one before; None for the first. Raises `InvalidInput`."""
    if not text:
        return None
    try:
        moment, row_id = text.split("~")
        parsed = datetime.fromisoformat(moment)
        if not _near(parsed) or not 0 <= int(row_id) < 2**63:
            raise ValueError
        return parsed, int(row_id)
    except (ValueError, TypeError):
        raise InvalidInput("This page marker is not one of ours; start from the first page.", path="/after") from None


def named_after(text: str) -> tuple[str, int] | None:
    """The same of a list by name."""
    if not text:
        return None
    name, _, row_id = text.rpartition("~")
    if not row_id.isascii() or not row_id.isdigit() or int(row_id) >= 2**63:
        raise InvalidInput("This page marker is not one of ours; start from the first page.", path="/after")
    return name, int(row_id)


def _near(moment: datetime) -> bool:
    try:
        return FIRST <= moment < LAST
    except OverflowError:
        return False


def _within(moment: datetime) -> datetime:
    if not _near(moment):
        raise ValueError("a time here is from 1990 to 2199")
    return moment


Moment = Annotated[AwareDatetime, AfterValidator(_within)]
