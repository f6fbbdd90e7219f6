"""What is left of each job as tasks, and a task's place on the clock."""

from collections.abc import Sequence

from yoshi_core.frozen import dataclass
from yoshi_core.steps.step import Task

EPS = 1e-6


@dataclass(frozen=True)
class JobTasks:
    """What is left of one job, in order, and whose it is.

    `ready_s` is when it may go on, `opens_s` when anybody is there to go on with it: what runs goes on by itself before; `running` says that its first task runs already; `begun` that something of it is
    done; `stands` how it may be left as it is now, empty where it may not.
    """

    id: str
    person: str
    tasks: tuple[Task, ...]
    ready_s: float = 0.0
    running: bool = False
    begun: bool = False
    stands: str = ""
    opens_s: float = 0.0


@dataclass(frozen=True)
class Slot:
    """A task on the clock: what it waited for and how long, and whose wait it fills, where it does."""

    job: str
    task: Task
    start_s: float
    end_s: float
    waits_for: str = ""
    waited_s: float = 0.0
    fills: str = ""


def idle(jobs: Sequence[JobTasks], slots: Sequence[Slot]) -> float:
    """Seconds in which hands wait between now, or the day's opening, and a person's last task."""
    total = 0.0
    for person in {job.person for job in jobs}:
        own = {job.id: job for job in jobs if job.person == person}
        hands = [s for s in slots if s.job in own and s.task.hands]
        if hands:
            begins = min(own[s.job].opens_s if s.start_s >= own[s.job].opens_s else 0.0 for s in hands)
            total += max(s.end_s for s in hands) - begins - sum(s.end_s - s.start_s for s in hands)
    return total


def needs(job: JobTasks, task: Task) -> tuple[str, ...]:
    """What a task takes that there is one of: the person's hands, and kit."""
    return (*((f"person:{job.person}",) if task.hands else ()), *task.kit)
