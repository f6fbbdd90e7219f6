"""Keeping the list of jobs in order: call one otherwise, discard one that was begun for nothing."""

import dataclasses
from typing import Any

from accounts.models import Person
from accounts.texts import one_line
from jobs.actions.change_job import on_job
from jobs.models import Job
from jobs.store import read, record, write
from yoshi_core.errors import InvalidInput


class ChangedMeanwhile(InvalidInput):
    """Somebody else changed the same thing since it was read."""

    code = "changed_meanwhile"


def rename(person: Person, code: str, key: str, was: str, title: str) -> dict[str, Any]:
    """Call an open job otherwise; `was` is what it was called when that was decided.

    Raises `InvalidInput` for no name or a closed job, whose record stays as it is, `ChangedMeanwhile` where it has another name by now.
    """
    name = one_line(title, 160, "/title", "A job's name")
    if not name:
        raise InvalidInput("A job needs a name: which unit, where.", path="/title")

    def act(row: Job) -> dict[str, Any]:
        if row.closed:
            raise InvalidInput("This job is closed; its record keeps its name.", path="/title")
        if row.title not in {was, name}:
            raise ChangedMeanwhile(
                "Somebody called it “{title}” meanwhile. Look, then say which.", words={"title": row.title}, path="/title", now=row.title
            )
        if row.title != name:
            write(row, dataclasses.replace(read(row), title=name), "renamed", {"was": row.title, "now": name}, person)
        return {}

    return on_job(person, code, key, {"rename": name, "was": was}, act)


def discard(person: Person, code: str, key: str, discarded: bool) -> dict[str, Any]:
    """Take a job out of all lists because nothing was done in it, or take it back; what was typed and its history stay.

    Raises `InvalidInput` for one that somebody did work in.
    """

    def act(row: Job) -> dict[str, Any]:
        if row.discarded == discarded:
            return {}
        if discarded and (why := work_in(row)):
            raise InvalidInput("{why}, so it is kept: close it, or end the visit.", words={"why": why}, path="/discarded")
        row.discarded = row.closed = discarded
        record(row, "discarded" if discarded else "taken_back", {}, person)
        row.refresh_from_db(fields=["listed"])
        return {}

    return on_job(person, code, key, {"discard": discarded}, act, books=True)


def work_in(row: Job) -> str:
    """What was done in a job, so that it is no empty one; nothing where it is. Typed figures alone are no work."""
    job = read(row)
    if row.closed:
        return "It is closed"
    if job.ledger or job.acts:
        return "Refrigerant was booked in it"
    if any(step.events for step in job.steps.values()):
        return "A step of it was closed"
    if row.gateways.exists():
        return "Instruments are on it"
    return ""
