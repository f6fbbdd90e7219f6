"""What is not kept for ever: keys of accepted requests, sessions that ran out, tries at signing in, tasks that ended."""

from datetime import timedelta
from typing import Any

from django.db.models import QuerySet
from django.utils import timezone

from accounts.models import AcceptedRequest, SignedIn, SignInTries
from tasks.models import Task
from yoshi_core.job.entering import LONGEST_AWAY

KEYS = LONGEST_AWAY
TRIES, ENDED_TASKS = timedelta(days=2), timedelta(days=30)
AT_ONCE = 1_000


def prune() -> dict[str, int]:
    """Take away what has served its time, in small bites that hold no lock for long; how many rows of each."""
    now = timezone.now()
    return {
        "requests": _in_bites(AcceptedRequest.objects.filter(at__lt=now - KEYS)),
        "sessions": _in_bites(SignedIn.objects.filter(expire_date__lt=now)),
        "tries": _in_bites(SignInTries.objects.filter(last_at__lt=now - TRIES)),
        "tasks": _in_bites(Task.objects.filter(ended_at__lt=now - ENDED_TASKS)),
    }


def _in_bites(rows: QuerySet[Any]) -> int:
    gone = 0
    while some := list(rows.values_list("pk", flat=True)[:AT_ONCE]):
        gone += rows.filter(pk__in=some).delete()[0]
    return gone
