"""A day's jobs on the clock: who does what when, which kit runs where, what is proven before the van leaves.

Tasks of a job come one after the other. A task takes a person's hands, or runs alone; either may hold kit that
there is one of. Times are seconds from now. Best means: most jobs proven before the time to leave, then the earliest
finish, then the least waiting of hands; exact for up to `EXACT_JOBS` jobs, found by branch and bound.
"""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import combinations
from typing import Literal

from yoshi_core.day.search import Budget, Search
from yoshi_core.day.tasks import EPS, JobTasks, Slot, idle, needs
from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.frozen import dataclass
from yoshi_core.steps.step import Task

EXACT_JOBS = 6
MOST_JOBS, MOST_TASKS = 12, 20
LONGEST_S = 14 * 86_400.0
TOLD_FROM_S = 60.0

LeftState = Literal["proven", "safe", "not_begun", "unsafe"]


@dataclass(frozen=True)
class Left:
    """How a job stands when the van leaves: proven and when, or left safe and how, or not begun, or nowhere safe.

    `stops` are the moments of its day after which it may be left, each with how; `rest_s` is the work that a return
    still takes, without a wait that goes on by itself meanwhile.
    """

    job: str
    state: LeftState
    proven_s: float | None
    how: str
    done: tuple[str, ...]
    not_done: tuple[str, ...]
    stops: tuple[tuple[float, str], ...] = ()
    rest_s: float = 0.0


@dataclass(frozen=True)
class Day:
    """A plan: slots in order of time, how each job is left, the last proof, hands that wait, and whether it is proven best."""

    slots: tuple[Slot, ...]
    left: tuple[Left, ...]
    finish_s: float
    idle_s: float
    exact: bool

    @property
    def proven(self) -> tuple[str, ...]:
        """The jobs that are proven within the plan."""
        return tuple(item.job for item in self.left if item.proven_s is not None)


def plan(jobs: Sequence[JobTasks], leave_s: float, busy: Mapping[str, float] | None = None) -> Day:
    """The best day for these jobs; `busy` says until when a person or kit is taken.

    Raises `OutOfRange` for durations or a time to leave that cannot be, `InvalidInput` for jobs named twice or too many.
    """
    _check(jobs, leave_s)
    free = dict(busy or {})
    budget = Budget()
    chosen, slots = _most_proven(jobs, leave_s, free, budget)
    slots = _fill(jobs, chosen, slots, leave_s, free)
    ordered = _explained(jobs, sorted(slots, key=lambda s: (s.start_s, s.end_s, s.job)), free)
    proven_ends = [s.end_s for s in slots if s.job in chosen]
    finish = max(proven_ends, default=0.0)
    return Day(
        ordered, tuple(_left(job, slots, leave_s) for job in jobs), finish, idle(jobs, slots), len(jobs) <= EXACT_JOBS and budget.left > 0
    )


def one_after_the_other(jobs: Sequence[JobTasks], busy: Mapping[str, float] | None = None) -> float:
    """When the last job would be done if everybody finished each job before beginning the next, seconds from now.

    Between people kit is not waited for, so this is no later than such a day would really be.
    """
    begins = max((busy or {}).values(), default=0.0)
    ends: dict[str, float] = {}
    for job in jobs:
        ends[job.person] = max(ends.get(job.person, begins), job.ready_s, job.opens_s) + sum(task.duration_s for task in job.tasks)
    return max(ends.values(), default=begins)


def _check(jobs: Sequence[JobTasks], leave_s: float) -> None:
    if len({job.id for job in jobs}) < len(jobs):
        raise InvalidInput("A job stands in the plan once.", path="/jobs")
    if len(jobs) > MOST_JOBS or any(len(job.tasks) > MOST_TASKS for job in jobs):
        raise InvalidInput(
            "A day holds up to {most_jobs} jobs of {most_tasks} tasks.",
            words={"most_jobs": MOST_JOBS, "most_tasks": MOST_TASKS},
            path="/jobs",
        )
    if not 0.0 <= leave_s <= LONGEST_S:
        raise OutOfRange("The time to leave is from now to two weeks on.", value=leave_s)
    for job in jobs:
        for task in job.tasks:
            if not 0.0 <= task.duration_s <= LONGEST_S:
                raise OutOfRange("{label} cannot take that long, or less than nothing.", words={"label": task.label}, value=task.duration_s)


def _most_proven(jobs: Sequence[JobTasks], leave_s: float, free: Mapping[str, float], budget: Budget) -> tuple[frozenset[str], list[Slot]]:
    """The largest set of jobs that can be proven in time, with its earliest finish and then least idle hands."""
    alone = {job.id: Search([job], free, leave_s, budget).best() for job in jobs}
    possible = [job for job in jobs if alone[job.id] is not None]
    if len(possible) > EXACT_JOBS:
        return _greedily(possible, leave_s, free, budget)
    for size in range(len(possible), 0, -1):
        best: tuple[float, float, list[Slot], frozenset[str]] | None = None
        for some in combinations(possible, size):
            found = Search(some, free, leave_s if best is None else best[0], budget).best()
            if found is None:
                continue
            key = (max(s.end_s for s in found), idle(some, found))
            if best is None or key < (best[0] - EPS, best[1]) or (abs(key[0] - best[0]) <= EPS and key[1] < best[1] - EPS):
                best = (*key, found, frozenset(job.id for job in some))
        if best is not None:
            return best[3], best[2]
    return frozenset(), []


def _greedily(jobs: Sequence[JobTasks], leave_s: float, free: Mapping[str, float], budget: Budget) -> tuple[frozenset[str], list[Slot]]:
    """More jobs than are searched exactly: the shortest first, each added while all still fit."""
    taken: list[JobTasks] = []
    slots: list[Slot] = []
    for job in sorted(jobs, key=lambda j: sum(t.duration_s for t in j.tasks)):
        found = Search([*taken, job], free, leave_s, budget).first()
        if found is not None:
            taken, slots = [*taken, job], found
    return frozenset(job.id for job in taken), slots


def _fill(jobs: Sequence[JobTasks], chosen: frozenset[str], slots: list[Slot], leave_s: float, free: Mapping[str, float]) -> list[Slot]:
    """What else can be done meanwhile without moving anything: the other jobs as far as their last safe point."""
    placed = list(slots)
    for job in jobs:
        if job.id in chosen:
            continue
        trial, ready, safe = list(placed), job.ready_s, 0
        for n, task in enumerate(job.tasks):
            begins = 0.0 if job.running and n == 0 else _earliest(job, task, ready, trial, jobs, free)
            over = begins + task.duration_s > leave_s + EPS
            if over and not (task.safe_during and not task.hands and begins <= leave_s):
                break
            trial.append(Slot(job.id, task, begins, begins + task.duration_s))
            ready = begins + task.duration_s
            if task.safe_after or over or (job.running and n == 0):
                safe = n + 1
            if over:
                break
        own = [s for s in trial if s.job == job.id][:safe]
        placed += own
    return placed


def _earliest(
    job: JobTasks, task: Task, ready: float, placed: Sequence[Slot], jobs: Sequence[JobTasks], free: Mapping[str, float]
) -> float:
    """The first gap that is long enough in everything the task needs."""
    wanted = set(needs(job, task))
    begins = max(ready, job.opens_s, *(free.get(name, 0.0) for name in wanted), 0.0)
    owners = {j.id: j for j in jobs}
    taken = sorted((s.start_s, s.end_s) for s in placed if wanted & set(needs(owners[s.job], s.task)))
    for start, end in taken:
        if begins + task.duration_s <= start + EPS:
            return begins
        begins = max(begins, end)
    return begins


def _explained(jobs: Sequence[JobTasks], slots: Sequence[Slot], free: Mapping[str, float]) -> tuple[Slot, ...]:
    """The slots with what each waited for, and the wait of another job of the same hands that it fills."""
    owners = {job.id: job for job in jobs}
    told = []
    for slot in slots:
        job = owners[slot.job]
        before = max((s.end_s for s in slots if s.job == slot.job and s.end_s <= slot.start_s + EPS and s is not slot), default=job.ready_s)
        waited = slot.start_s - max(before, job.opens_s)
        name = _held_by(slot, before, owners, slots, free) if waited > TOLD_FROM_S else ""
        told.append(replace(slot, waits_for=name, waited_s=waited if name else 0.0, fills=_fills(slot, owners, slots)))
    return tuple(told)


def _held_by(slot: Slot, before: float, owners: Mapping[str, JobTasks], slots: Sequence[Slot], free: Mapping[str, float]) -> str:
    """What was let go last before the slot began: a kit's name, or a hand."""
    held: list[tuple[float, str]] = []
    for name in needs(owners[slot.job], slot.task):
        ends = [free.get(name, 0.0), *(s.end_s for s in slots if s is not slot and name in needs(owners[s.job], s.task))]
        held += [(end, name) for end in ends if before + EPS < end <= slot.start_s + EPS]
    name = max(held, default=(0.0, ""))[1]
    return "a hand" if name.startswith("person:") else name


def _fills(slot: Slot, owners: Mapping[str, JobTasks], slots: Sequence[Slot]) -> str:
    """The job whose unattended wait this work of the same hands falls into."""
    if not slot.task.hands:
        return ""
    person = owners[slot.job].person
    shared = [
        (min(s.end_s, slot.end_s) - max(s.start_s, slot.start_s), s.job)
        for s in slots
        if not s.task.hands and s.job != slot.job and owners[s.job].person == person
    ]
    most, job = max(shared, default=(0.0, ""))
    return job if most >= 0.5 * (slot.end_s - slot.start_s) and most > TOLD_FROM_S else ""


def _left(job: JobTasks, slots: Sequence[Slot], leave_s: float) -> Left:
    own = sorted((s for s in slots if s.job == job.id), key=lambda s: s.start_s)
    done = [s for s in own if s.end_s <= leave_s + EPS]
    names = tuple(s.task.label for s in done)
    rest = job.tasks[len(done) :]
    if not rest:
        return Left(job.id, "proven", max((s.end_s for s in own), default=0.0), "", names, ())
    running = next((s for s in own if s.end_s > leave_s + EPS), None)
    alone = running is not None and bool(running.task.safe_during)
    if running is not None and alone:
        how = running.task.safe_during
    else:
        how = done[-1].task.safe_after if done else job.stands
    untouched = not own and not job.begun
    state: LeftState = "not_begun" if untouched else "safe" if how else "unsafe"
    stops = tuple((s.end_s, s.task.safe_after) for s in done if s.task.safe_after)
    rest_s = sum(task.duration_s for task in rest[1 if alone else 0 :])
    return Left(job.id, state, None, how, names, tuple(task.label for task in rest), stops, rest_s)
