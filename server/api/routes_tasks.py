"""Work that goes on without a request: how far it is, what came of it, and stopping it."""

from datetime import datetime
from typing import Any

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema

from accounts import trail
from accounts.models import Person
from accounts.queries import shop_of
from api.who import person_of
from tasks import queue
from tasks.models import Made, Task

router = Router()
LAST = 50


class TaskLine(Schema):
    id: int
    kind: str
    state: str
    progress: float
    by: str
    created_at: datetime
    ended_at: datetime | None


class TaskRow(TaskLine):
    done: dict[str, Any]
    result: dict[str, Any]


def _tasks(person: Person) -> QuerySet[Task]:
    """One's own, or for lead and owner all the shop's."""
    rows = Task.objects.filter(shop=shop_of(person)).exclude(kind="mail").select_related("person")
    return rows.filter(person=person) if person.role == "technician" else rows


def own_task(person: Person, task_id: int) -> Task:
    """Raises `Task.DoesNotExist` for one that is not this person's to see."""
    return _tasks(person).get(pk=task_id)


def task_row(row: Task) -> dict[str, Any]:
    """The task with what it has done and what came of it."""
    return {**_line(row), "done": row.done, "result": row.result}


def _line(row: Task) -> dict[str, Any]:
    return {
        "id": row.pk,
        "kind": row.kind,
        "state": row.state,
        "progress": row.progress,
        "by": row.person.shown_name if row.person else "",
        "created_at": row.created_at,
        "ended_at": row.ended_at,
    }


@router.get("", response=list[TaskLine])
def get_tasks(request: HttpRequest) -> list[dict[str, Any]]:
    """The last tasks: one's own, or for lead and owner all the shop's; what came of each stands in it alone."""
    rows = _tasks(person_of(request)).order_by("-created_at").defer("given", "result", "done")
    return [_line(row) for row in rows[:LAST]]


@router.get("/{task}", response=TaskRow)
def get_task(request: HttpRequest, task: int) -> dict[str, Any]:
    """One task."""
    return task_row(own_task(person_of(request), task))


@router.get("/{task}/file", response={200: Any})
def get_file(request: HttpRequest, task: int) -> HttpResponse:
    """The file a task made; none before it is done."""
    row = Made.objects.get(task=own_task(person_of(request), task))
    return HttpResponse(row.content, content_type=row.media_type, headers={"Content-Disposition": f'inline; filename="{row.name}"'})


@router.post("/{task}/cancel", response=TaskRow)
def cancel_task(request: HttpRequest, task: int) -> dict[str, Any]:
    """Stop a task that has not ended; what it has done stays done."""
    person = person_of(request)
    if queue.cancel(own_task(person, task)):
        trail.note_asked(shop_of(person))
    return get_task(request, task)
