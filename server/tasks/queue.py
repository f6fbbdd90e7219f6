"""The queue: a task is added in the transaction of what asks for it, taken by one process, and goes on after a kill.

A task's function works in steps and keeps how far it came after each, so that whoever takes it next goes on from there;
its last step may be done twice, and must bear it. Kinds and their functions stand in the settings.
"""

import base64
import logging
import os
import socket
import uuid
import zlib
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

from django.conf import settings
from django.db import OperationalError
from django.db.models import Q, QuerySet
from django.utils import timezone
from django.utils.module_loading import import_string

from tasks.models import Task
from yoshi_core.errors import CoreError, InvalidInput

log = logging.getLogger("yoshi.tasks")
LEASE = timedelta(seconds=60)
MOST_TRIES = 8
MOST_TEXT = 7_000_000  # escaped it may be twice as long, and the database takes 16 MB at once
FIRST_WAIT_S, LONGEST_WAIT_S = 10.0, 3600.0
ENDED = ("done", "failed", "cancelled")


def packed(text: str) -> str:
    """A long text as a task keeps it. Raises `InvalidInput` for one that no row of the database takes."""
    short = base64.b85encode(zlib.compress(text.encode())).decode()
    if len(short) > MOST_TEXT:
        raise InvalidInput("This file is longer than one may be; split it.", path="/text")
    return short


def unpacked(short: str) -> str:
    return zlib.decompress(base64.b85decode(short)).decode()


class Cancelled(Exception):
    """Somebody cancelled the task, or another process has it."""


class Step:
    """What a task's function works with."""

    def __init__(self, task: Task) -> None:
        self._task = task
        self.given: dict[str, Any] = task.given
        self.done: dict[str, Any] = task.done
        self.shop_id, self.person_id, self.id = task.shop_id, task.person_id, task.pk

    @property
    def progress(self) -> float:
        return self._task.progress

    def keep(self, progress: float, **done: Any) -> None:
        """Keep how far it came, and the task for another while. Raises `Cancelled`; what was done until then is kept all the same."""
        self.done = {**self.done, **done}
        self._task.progress = progress
        mine = Task.objects.filter(pk=self._task.pk, state="running", taken_by=self._task.taken_by)
        if not mine.update(progress=min(max(progress, 0.0), 1.0), done=self.done, taken_until=timezone.now() + LEASE):
            Task.objects.filter(pk=self._task.pk, state="cancelled", taken_by=self._task.taken_by).update(done=self.done)
            raise Cancelled


def add(kind: str, given: dict[str, Any], *, shop_id: int | None = None, person_id: int | None = None) -> Task:
    """Put a task into the queue. Raises `KeyError` for a kind nobody does."""
    settings.TASKS[kind]
    return Task.objects.create(kind=kind, given=given, shop_id=shop_id, person_id=person_id, run_at=timezone.now())


def cancel(task: Task) -> bool:
    """Stop a task that has not ended; what it has done stays done. Whether it was stopped."""
    stopped = Task.objects.filter(pk=task.pk).exclude(state__in=ENDED)
    return bool(stopped.update(state="cancelled", given={}, ended_at=timezone.now()))


def waiting(now: datetime) -> QuerySet[Task]:
    """What may be taken: it waits and its time has come, or whoever had it is gone."""
    return Task.objects.filter(Q(state="waiting", run_at__lte=now) | Q(state="running", taken_until__lt=now))


def take(me: str) -> Task | None:
    """Take the next task for oneself alone; None where nothing waits. Two that reach for one at once: the first has it, on any node."""
    now = timezone.now()
    for candidate in waiting(now).order_by("run_at", "pk")[:5]:
        try:
            taken = waiting(now).filter(pk=candidate.pk).update(state="running", taken_by=me, taken_until=now + LEASE)
        except OperationalError:
            continue  # another node's was first
        if taken:
            candidate.refresh_from_db()
            return candidate
    return None


def name_of_process() -> str:
    return f"{socket.gethostname()[:40]}:{os.getpid()}:{uuid.uuid4().hex[:8]}"


def run(task: Task) -> None:
    """Work on a task that was taken, and say how it ended."""
    work: Callable[[Step], dict[str, Any] | None] = import_string(settings.TASKS[task.kind])
    try:
        result = work(Step(task)) or {}
    except Cancelled:
        return
    except CoreError as error:
        _end(task, "failed", {"detail": error.message, "path": error.path, "code": error.code})
    except Exception as error:
        log.exception("task %s of kind %s failed", task.pk, task.kind)
        _again(task, type(error).__name__)
    else:
        _end(task, "done", result)


def _mine(task: Task) -> QuerySet[Task]:
    return Task.objects.filter(pk=task.pk, state="running", taken_by=task.taken_by)


def _end(task: Task, state: str, result: dict[str, Any]) -> None:
    """What it was given goes with it: a mail holds a link that sets a password."""
    now = timezone.now()
    _mine(task).update(state=state, given={}, result=result, ended_at=now, **({"progress": 1.0} if state == "done" else {}))


def _again(task: Task, what: str) -> None:
    """Later, each time twice as late, and no more after so many tries."""
    tries = task.tries + 1
    if tries >= MOST_TRIES:
        _end(task, "failed", {"detail": f"Tried {tries} times; the last time: {what}.", "path": "", "code": "gave_up"})
        return
    wait = timedelta(seconds=min(FIRST_WAIT_S * 2 ** (tries - 1), LONGEST_WAIT_S))
    _mine(task).update(state="waiting", tries=tries, run_at=timezone.now() + wait, taken_by="", taken_until=None)


def run_all(me: str = "") -> int:
    """Work until nothing waits; how many tasks that were."""
    me, count = me or name_of_process(), 0
    while (task := take(me)) is not None:
        run(task)
        count += 1
    return count
