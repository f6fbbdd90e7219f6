"""What is left of a job on the clock: its tasks with durations, who or what they need, and where it may be left.

Durations come from the profile until the shop's own history of that kind is long enough (`known`).
"""

from datetime import datetime

from yoshi_core.day.tasks import JobTasks
from yoshi_core.document.model import Job
from yoshi_core.job.evaluate import Findings
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import registry
from yoshi_core.steps.plates import repaired_plate
from yoshi_core.steps.step import NOT_OPENED, Known, OnTheClock, Task

SETTLED = frozenset({"closed", "not_applicable"})


def tasks_of(job: Job, findings: Findings, profile: Profile, now: datetime, person: str, known: Known | None = None) -> JobTasks:
    """What is left of the job from its first open step on, in order; a wait that runs comes first with what is left of it."""
    found: list[Task] = []
    running = begun = False
    stands = NOT_OPENED
    plate = repaired_plate(job)
    for name in registry.order(job.kind):
        step, result = registry.STEPS[name], findings.step(name)
        if result.state in SETTLED:
            if result.state == "closed" and not found:
                begun, stands = True, stands if step.left_after is None else step.left_after
            continue
        if not found and step.opens and _under_way(job, name):
            begun, stands = True, step.left_after or ""
        share = step.share(OnTheClock(job, plate, result, profile, now, known or {}), step)
        running = running or (share.running and not found)
        found += share.tasks
    if running:
        stands = found[0].safe_during
    return JobTasks(job.id, person, tuple(found), 0.0, running, begun or running, stands)


def _under_way(job: Job, step: str) -> bool:
    """Whether anything was written down of a step: then what it opens is open."""
    record = job.steps.get(step)
    return record is not None and bool(record.runs)
