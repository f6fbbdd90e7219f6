"""Visits: each starts, and ends with an outcome in the words of a job, on the same claims."""

import dataclasses
from datetime import datetime

from yoshi_core.document.model import OUTCOMES, Job, Outcome, Visit
from yoshi_core.errors import InvalidInput
from yoshi_core.findings.claims import Way
from yoshi_core.findings.pictures import CloseOutPicture
from yoshi_core.frozen import dataclass
from yoshi_core.job.closing import posted
from yoshi_core.job.evaluate import Findings


def current(job: Job) -> Visit | None:
    """The visit that goes on; None between visits."""
    last = job.visits[-1] if job.visits else None
    return last if last is not None and last.outcome is None else None


@dataclass(frozen=True)
class Ending:
    """How a visit is to end: its outcome and why, what is awaited, and the day to come back."""

    outcome: Outcome
    reason: str = ""
    awaited: str = ""
    return_on: str = ""


def end_visit(job: Job, findings: Findings, ending: Ending, by: str, at: datetime) -> Job:
    """The job with its visit ended, what it moved in the book. A visit ends in the words of a job, on the same claims.

    Raises `InvalidInput` without a visit, a reason, or what the outcome asks for.
    """
    outcome, reason, awaited, return_on = ending.outcome, ending.reason, ending.awaited, ending.return_on
    visit = current(job)
    if visit is None:
        raise InvalidInput("No visit is under way: start one first.", path="/visits")
    if outcome not in OUTCOMES:
        raise InvalidInput("A visit ends as {known}.", words={"known": tuple(OUTCOMES.values())}, path="/outcome")
    way = next((way for way in ways(findings) if way.id == outcome), None)
    if way is not None and not way.open:
        raise InvalidInput("It may not end as “{way}”: {said}", words={"way": way.label, "said": way.words}, path="/outcome")
    if (way is None or way.reasoned) and not reason.strip():
        raise InvalidInput("Say why it ends this way; the next visit starts from it.", path="/reason")
    if outcome == "running_not_proven" and not awaited.strip():
        raise InvalidInput("Say what is awaited: a part, the weather, a decision.", path="/awaited")
    ended = dataclasses.replace(
        visit, ended_at=at, outcome=outcome, reason=reason.strip(), awaited=awaited.strip(), return_on=_day(return_on)
    )
    return posted(dataclasses.replace(job, visits=(*job.visits[:-1], ended)), findings, at, by)


def ways(findings: Findings) -> tuple[Way, ...]:
    """The ways the job or its visit may end now; none for a kind of job that is not closed out."""
    return next((result.drawn(CloseOutPicture).ways for result in findings.steps if result.step == "close_out"), ())


def _day(text: str) -> str:
    if not text.strip():
        return ""
    try:
        return datetime.strptime(text.strip(), "%Y-%m-%d").date().isoformat()  # noqa: DTZ007 - a day has no clock
    except ValueError:
        raise InvalidInput("Write the day as year-month-day, such as 2026-07-03.", path="/return_on") from None


def start_visit(job: Job, by: str, at: datetime) -> Job:
    """The job with a new visit. Raises `InvalidInput` while one goes on."""
    if current(job) is not None:
        raise InvalidInput("A visit is under way already; end it first.", path="/visits")
    return dataclasses.replace(job, visits=(*job.visits, Visit(f"v{len(job.visits) + 1}", at, (by,))))
