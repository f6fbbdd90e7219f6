"""A wait of a step, from its start and how long it lasts."""

from datetime import datetime

from yoshi_core.document.bounds import later
from yoshi_core.findings.result import Waiting


def waiting(since: datetime, seconds: float, decides: str) -> Waiting | None:
    """The wait from a moment for so many seconds, and what it decides; None where it would end after any clock of ours."""
    until = later(since, seconds)
    return None if until is None else Waiting(since, until, decides)
