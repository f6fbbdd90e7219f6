"""Whose job it is: named with the work order, handed on by the lead."""

from typing import Any

from accounts.models import Person
from accounts.queries import shop_of
from jobs.actions.change_job import on_job
from jobs.models import Job
from jobs.naming import name_on
from jobs.store import record
from yoshi_core.errors import InvalidInput


def hand_on(person: Person, code: str, key: str, to: str, *, stays: bool) -> dict[str, Any]:
    """Hand a job, and the others of its work order, to somebody else of the shop; `stays` keeps those who are named on it.

    Raises `InvalidInput` for somebody who is not of the shop or may not sign in.
    """

    def act(row: Job) -> dict[str, Any]:
        other = Person.objects.filter(shop=shop_of(person), username=to, is_active=True).first()
        if other is None:
            raise InvalidInput("There is nobody of this name in the shop, or the account is ended.", path="/to")
        handed = [row, *Job.objects.select_for_update().filter(work_order=row.work_order_id).exclude(pk=row.pk).order_by("pk")]
        for each in handed if row.work_order_id is not None else [row]:
            if not stays:
                each.people.clear()
            name_on(each, other)
            each.technician = other.shown_name
            record(each, "handed_on", {"to": other.shown_name, "stays": stays}, person)
        return {}

    return on_job(person, code, key, {"hand_on": to, "stays": stays}, act)
