"""Reading practice: whose run it is, what time it is there, and who plays in it."""

from datetime import datetime

from django.db.models import QuerySet
from django.utils import timezone

from accounts.models import Person
from accounts.queries import shop_of
from practice.models import Exercise, Run
from yoshi_core.document.model import PRACTICE
from yoshi_core.practice import exercise as exercises
from yoshi_core.practice.entries import at
from yoshi_core.practice.exercise import Exercise as CoreExercise

LONGEST_TICK_S = 2.0


HEAVY = ("text", "shown", "inside", "result")
MOST_LISTED = 500


def runs_of(person: Person) -> list[Run]:
    """A person's own last runs, last first; what they are made of stays unread."""
    return list(Run.objects.filter(person=person).defer(*HEAVY).order_by("-began_at", "-pk")[:MOST_LISTED])


def run_of(person: Person, code: str, *, look: bool = False) -> Run:
    """The run of this code with its job's number, without what it came to. Raises `Run.DoesNotExist` for anybody else's."""
    heavy = ("result", "job__document", "job__findings", "job__headline", "job__carried", *(() if look else ("inside",)))
    return Run.objects.select_related("job").defer(*heavy).get(person=person, code=code)


def asked_for(person: Person, job_code: str, run_code: str) -> Run | None:
    """The run whose job is asked for, or whose books: a practice job's number says that it is one."""
    runs = Run.objects.filter(person=person).select_related("player", "book").defer(*HEAVY)
    if job_code.startswith(PRACTICE):
        return runs.filter(job__code=job_code).first()
    return runs.filter(code=run_code).first() if run_code else None


def asked_by_task(person: Person, task: int) -> Run | None:
    """The run a task is of: the paper of a practice job is made, and fetched, in its own books."""
    return Run.objects.filter(person=person, book__tasks=task).select_related("player", "book").defer(*HEAVY).first()


def moment_of(run: Run, now: datetime | None = None) -> datetime:
    """What the practice clock shows: it runs on since the last tick, at most as far as one tick may be late."""
    return at(seconds_of(run, now or timezone.now()))


def seconds_of(run: Run, now: datetime) -> float:
    """The practice seconds of a run at a moment of the office's clock."""
    if run.state != "going":
        return float(run.time_s)
    late = min(max((now - run.ticked_at).total_seconds(), 0.0), LONGEST_TICK_S)
    return run.time_s + late * run.speed


def as_player(run: Run, person: Person) -> Person:
    """Who acts in a run's own books: the person, by the name and the units they have."""
    player: Person = run.player
    player.units, player.clock, player.shop = person.units, person.clock, run.book
    return player


def exercise_of(run: Run) -> CoreExercise:
    """The exercise of a run, with the seed it was begun with."""
    return exercises.loads(run.text, run.seed)


def exercises_of(person: Person) -> QuerySet[Exercise]:
    """The shop's own exercises that are still in use."""
    return Exercise.objects.filter(shop=shop_of(person), gone=False).order_by("name", "pk")


def ended_runs(lead: Person) -> QuerySet[Run]:
    """Ended runs of the shop's people: a lead sees that one was done; how close only where the person shares it."""
    return Run.objects.filter(person__shop=shop_of(lead), state="ended").defer(*HEAVY).select_related("person").order_by("-ended_at")
