"""What is left of a job on the clock: its tasks with durations, who or what they need, and where it may be left.

Durations come from the profile until the shop's own history of that kind is long enough (`known`).
"""

from datetime import datetime

from yoshi_core.day.tasks import JobTasks
from yoshi_core.document.model import Job
from yoshi_core.document.plate import Plate
from yoshi_core.job.evaluate import Findings
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import registry
from yoshi_core.steps.plates import repaired_plate
from yoshi_core.steps.step import NOT_OPENED, Known, OnTheClock, Share

SETTLED = frozenset({"closed", "not_applicable"})


def tasks_of(job: Job, findings: Findings, profile: Profile, now: datetime, person: str, known: Known | None = None) -> JobTasks:
    """What is left of the job, in order. What runs comes first with what is left of it, whatever was closed before it.

    Steps before a running one are behind it: their work is done, however little of it was written down.
    """
    plate, order = repaired_plate(job), registry.order(job.kind)
    shares = {name: _share(name, job, plate, findings, profile, now, known) for name in order if findings.step(name).state not in SETTLED}
    running = [name for name, share in shares.items() if share.running]
    if running:
        left = [task for name in order[order.index(running[-1]) :] if name in shares for task in shares[name].tasks]
        return JobTasks(job.id, person, tuple(left), 0.0, True, True, left[0].safe_during)
    begun, stands = _stands(job, findings, tuple(shares))
    return JobTasks(job.id, person, tuple(task for share in shares.values() for task in share.tasks), 0.0, False, begun, stands)


def _share(name: str, job: Job, plate: Plate, findings: Findings, profile: Profile, now: datetime, known: Known | None) -> Share:
    step = registry.STEPS[name]
    return step.share(OnTheClock(job, plate, findings.step(name), profile, now, known or {}), step)


def _stands(job: Job, findings: Findings, left: tuple[str, ...]) -> tuple[bool, str]:
    """Whether it was begun, and how it may be left as it is now, empty where it may not: by what was closed, begun, or shown to be out of it."""
    begun, stands = False, NOT_OPENED
    for name in registry.order(job.kind):
        step = registry.STEPS[name]
        if left and name == left[0] and not (step.opens and _under_way(job, name)):
            break
        if findings.step(name).state == "closed" or (step.opens and name in left[:1]):
            begun = True
            stands = (step.left_after or "") if name in left else stands if step.left_after is None else step.left_after
    out = any(claim.id == "emptied" and claim.standing == "shown" for claim in findings.claims)
    if stands == NOT_OPENED and out and _under_way(job, "recover"):
        return True, registry.STEPS["recover"].left_after or ""
    return begun, stands


def _under_way(job: Job, step: str) -> bool:
    """Whether anything was written down of a step: then what it opens is open."""
    record = job.steps.get(step)
    return record is not None and bool(record.runs)
