"""The task that works out what a run came to: it is played again beside the careful one."""

from typing import Any

from jobs.store import read
from practice.actions.act import kept_acts
from practice.models import Run
from practice.queries import exercise_of
from tasks.queue import Step
from yoshi_core.document import schema
from yoshi_core.practice.debrief import acts_from, debrief


def work(step: Step) -> dict[str, Any] | None:
    """Play it, and keep what it came to beside the run."""
    run = Run.objects.select_related("job").get(pk=step.given["run"])
    assert run.job is not None
    found = debrief(exercise_of(run), acts_from(kept_acts(run)), float(run.time_s), read(run.job))
    Run.objects.filter(pk=run.pk).update(result=schema.dump_full(found), met=found.person.met, off_kg=found.person.off_kg)
    return None
