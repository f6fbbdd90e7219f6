"""Entries as they are taken, wherever they are taken: of what is no field, of closed steps, and of long ago they are refused one by one."""

import dataclasses
from collections.abc import Callable, Mapping, Sequence
from datetime import datetime, timedelta

from yoshi_core.document.model import Job
from yoshi_core.errors import CoreError
from yoshi_core.findings.verdict import Problem
from yoshi_core.job.evaluate import Findings
from yoshi_core.job.patches import Change, Saved, into_closed, locate, save
from yoshi_core.message import headline, told

LONGEST_AWAY = timedelta(days=180)  # so long a device may be away with what it has not sent


def no_fields(changes: Sequence[Change], now: datetime) -> dict[str, Problem]:
    """Changes that are not taken, by path, while the others of their batch are.

    They are of what is no field of a job, or typed so long ago that nobody knows any more whether they were taken then.
    """
    found = {}
    for change in changes:
        if change.typed_at is not None and now - change.typed_at > LONGEST_AWAY:
            text = "Typed on {on:day}, more than {days} days ago. Type it again if it still holds."
            said = headline(text, on=change.typed_at.isoformat(), days=str(LONGEST_AWAY.days))
            found[change.path] = Problem(change.path, "long_ago", said)
            continue
        try:
            locate(change.path)
        except CoreError as error:
            found[change.path] = Problem(change.path, error.code, told(error))
    return found


def entered(
    job: Job,
    changes: Sequence[Change],
    by: str,
    now: datetime,
    judged: Callable[[Job], Findings],
    wrong: Mapping[str, Problem] | None = None,
) -> Saved:
    """The job with these entries saved; what could not be is among the problems, and so is what was found `wrong` before.

    `judged` says what the job says now; it is only asked where a change is of a closed step, for what open steps ask of it.
    """
    refused = {**(wrong or {}), **no_fields(changes, now)}
    right = [change for change in changes if change.path not in refused]
    asked = judged(job).asked if into_closed(job, right) else frozenset()
    saved = save(job, right, by, now, asked)
    return dataclasses.replace(saved, problems=(*saved.problems, *refused.values()))


def tried(job: Job, changes: Sequence[Change], by: str, now: datetime, judged: Callable[[Job], Findings]) -> Saved:
    """What `entered` would give if nobody else had typed meanwhile: for showing what a job would say, not for keeping."""
    return entered(job, [dataclasses.replace(change, force=True) for change in changes], by, now, judged)
