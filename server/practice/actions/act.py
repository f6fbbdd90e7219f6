"""What somebody does with a run: touch something at the bench, let its time run or stand, end it, share how it went."""

from typing import Any

from django.db import transaction
from django.utils import timezone

from accounts.models import Person
from accounts.retry import again_when_met
from practice.models import SPEEDS, Act, Run
from practice.queries import run_of
from tasks import queue
from yoshi_core.errors import InvalidInput

MOST_WAITING = 20


@again_when_met
@transaction.atomic
def touch(person: Person, code: str, key: str, do: str, what: str, to: str) -> Act:
    """Ask for an act; whoever lets the run's time run does it at its second. Sent twice it is one."""
    run = _mine(person, code)
    found = run.acts.filter(key=key).first()
    if found is not None:
        return found
    if run.state == "ended":
        raise InvalidInput("This run has ended. Begin another one.")
    if run.acts.filter(at_s=None, refused__isnull=True).count() >= MOST_WAITING:
        raise InvalidInput("The bench does not follow any more. Wait a moment.")
    return Act.objects.create(run=run, key=key, do=do, what=what, to=to)


@again_when_met
@transaction.atomic
def set_clock(person: Person, code: str, speed: int) -> Run:
    """Let its time run at 1×, 10× or 60×, or stand at 0. Raises `InvalidInput`."""
    run = _mine(person, code)
    if speed not in (0, *SPEEDS):
        raise InvalidInput("Time runs at 1×, 10× or 60×, or stands.", path="/speed")
    if run.state == "ended":
        raise InvalidInput("This run has ended. Begin another one.")
    run.state = "going" if speed else "paused"
    run.speed = speed or run.speed
    run.asleep = False
    run.ticked_at = run.seen_at = timezone.now()
    run.save(update_fields=["state", "speed", "asleep", "ticked_at", "seen_at"])
    return run


@again_when_met
@transaction.atomic
def end(person: Person, code: str) -> Run:
    """End a run; what it came to is worked out by a task. Ended twice it has ended once."""
    run = _mine(person, code)
    if run.state != "ended":
        run.state, run.ended_at = "ended", timezone.now()
        run.save(update_fields=["state", "ended_at"])
        queue.add("practice_debrief", {"run": run.pk}, shop_id=run.book_id)
    return run


@again_when_met
@transaction.atomic
def share(person: Person, code: str, *, shared: bool) -> Run:
    """Let the lead see how close it was, or take that back."""
    run = _mine(person, code)
    run.shared = shared
    run.save(update_fields=["shared"])
    return run


def _mine(person: Person, code: str) -> Run:
    run_of(person, code)
    return Run.objects.select_for_update().get(person=person, code=code)


def kept_acts(run: Run) -> list[Any]:
    """What was done, in its order, as the core takes it."""
    return list(run.acts.exclude(at_s=None).order_by("at_s", "pk").values_list("at_s", "do", "what", "to"))
