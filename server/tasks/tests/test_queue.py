"""The queue: one process has a task, it goes on after a kill, and ends as it ended."""

from datetime import timedelta
from typing import Any

import pytest
from django.core import mail
from django.utils import timezone
from pytest_django import Settings

from tasks import queue
from tasks.models import Task
from tasks.queue import Step
from yoshi_core.errors import InvalidInput

pytestmark = pytest.mark.django_db
counted: list[int] = []


def count_up(step: Step) -> dict[str, int]:
    """To `given["to"]`, kept after each; dies once at `given["dies_at"]`."""
    for n in range(step.done.get("n", 0), step.given["to"]):
        if n == step.given.get("dies_at") and not step.done.get("died"):
            step.keep(n / step.given["to"], died=True)
            raise KeyboardInterrupt
        counted.append(n)
        step.keep((n + 1) / step.given["to"], n=n + 1)
        if n == step.given.get("cancelled_at"):
            queue.cancel(Task.objects.get(pk=step.id))
    return {"counted": step.done["n"]}


def refuse(step: Step) -> None:
    raise InvalidInput("Not this row.", path="/row")


def fail(step: Step) -> None:
    raise ConnectionRefusedError


@pytest.fixture(autouse=True)
def _kinds(settings: Settings) -> None:
    here = "tasks.tests.test_queue"
    settings.TASKS = {**settings.TASKS, "count": f"{here}.count_up", "refuse": f"{here}.refuse", "fail": f"{here}.fail"}
    counted.clear()


def run_one(kind: str, **given: Any) -> Task:
    task = queue.add(kind, given)
    queue.run_all("me")
    task.refresh_from_db()
    return task


def test_a_task_is_done_and_says_what_came_of_it() -> None:
    task = run_one("count", to=5)
    assert (task.state, task.progress, task.result) == ("done", 1.0, {"counted": 5})
    assert task.ended_at is not None


def test_a_task_whose_process_was_killed_goes_on_from_where_it_was() -> None:
    task = queue.add("count", {"to": 6, "dies_at": 3})
    with pytest.raises(KeyboardInterrupt):
        queue.run_all("first")
    assert queue.take("second") is None, "the first may still be alive"
    Task.objects.update(taken_until=timezone.now() - timedelta(seconds=1))
    assert queue.run_all("second") == 1
    task.refresh_from_db()
    assert (task.state, counted) == ("done", [0, 1, 2, 3, 4, 5])


def test_one_process_has_a_task_and_who_lost_it_stops() -> None:
    queue.add("count", {"to": 3})
    first = queue.take("first")
    assert first is not None
    assert queue.take("second") is None
    Task.objects.update(taken_until=timezone.now() - timedelta(seconds=1))
    second = queue.take("second")
    assert second is not None
    queue.run(first)
    assert counted == [0], "it learns at its first step that another has it"
    queue.run(second)
    assert Task.objects.get().state == "done"


def test_a_cancelled_task_stops_and_what_it_did_stays_done() -> None:
    task = run_one("count", to=9, cancelled_at=2)
    assert (task.state, counted) == ("cancelled", [0, 1, 2, 3]), "it learns at its next step"
    assert task.done["n"] == 4
    assert not queue.cancel(task)


def test_a_refusal_is_the_end_and_a_failure_is_tried_again_later() -> None:
    refused = run_one("refuse")
    assert (refused.state, refused.result["path"]) == ("failed", "/row")
    failed = run_one("fail")
    assert (failed.state, failed.tries) == ("waiting", 1)
    for _ in range(queue.MOST_TRIES):
        Task.objects.filter(state="waiting").update(run_at=timezone.now())
        queue.run_all("me")
    failed.refresh_from_db()
    assert (failed.state, failed.result["code"]) == ("failed", "gave_up")
    assert "ConnectionRefusedError" in failed.result["detail"]


def test_a_kind_nobody_does_is_no_task() -> None:
    with pytest.raises(KeyError):
        queue.add("conjure", {})


def test_mail_goes_out_by_the_queue() -> None:
    run_one("mail", to="vesk@shop.test", subject="Hello", words="It works.")
    assert [(m.to, m.subject, m.body) for m in mail.outbox] == [(["vesk@shop.test"], "Hello", "It works.")]
