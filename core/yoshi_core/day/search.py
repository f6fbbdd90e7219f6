"""The best order of some jobs' tasks: branch and bound, within a budget of partial schedules."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from math import inf

from yoshi_core.day.tasks import EPS, JobTasks, Slot, idle, needs

MOST_NODES = 12_000


@dataclass
class Budget:
    """How many more partial schedules a day may try: the same day gives the same plan on every machine, and never computes for minutes."""

    left: int = MOST_NODES

    def spend(self) -> bool:
        """Whether one more may be tried."""
        self.left = max(self.left - 1, 0)
        return self.left > 0


@dataclass
class _State:
    """Where a partial schedule stands."""

    done: tuple[int, ...]
    ready: tuple[float, ...]
    free: dict[str, float]
    slots: list[Slot] = field(default_factory=list)
    last_s: float = 0.0


class Search:
    """Branch and bound over the order in which tasks begin; every task begins as soon as its job and resources allow."""

    def __init__(self, jobs: Sequence[JobTasks], free: Mapping[str, float], limit_s: float, budget: Budget) -> None:
        self.jobs, self.limit, self.budget = list(jobs), limit_s, budget
        self.start = _State(tuple(0 for _ in jobs), tuple(job.ready_s for job in jobs), dict(free))
        self.rest = [self._tails(job) for job in jobs]
        self.seen: dict[tuple[int, ...], list[tuple[float, ...]]] = {}
        self.names = sorted({name for job in jobs for task in job.tasks for name in needs(job, task)})
        self.found: list[Slot] | None = None
        self.found_key = (limit_s + EPS, inf)

    @staticmethod
    def _tails(job: JobTasks) -> list[float]:
        tails = [0.0]
        for task in reversed(job.tasks):
            tails.append(tails[-1] + task.duration_s)
        return tails[::-1]

    def best(self) -> list[Slot] | None:
        """The schedule with the earliest finish, and the least idle hands among those; None where none ends in time."""
        self._dive(self.start)
        self._walk(self.start)
        return self.found

    def first(self) -> list[Slot] | None:
        """A good schedule without proof that it is best."""
        self._dive(self.start)
        return self.found

    def _heads(self, state: _State) -> Iterator[tuple[int, float]]:
        """Each job's next task and when it could begin; a running first task began already."""
        for n, job in enumerate(self.jobs):
            if state.done[n] < len(job.tasks):
                task = job.tasks[state.done[n]]
                if job.running and state.done[n] == 0:
                    yield n, 0.0
                else:
                    yield n, max(state.ready[n], job.opens_s, *(state.free.get(name, 0.0) for name in needs(job, task)), 0.0)

    def _after(self, state: _State, n: int, begins: float) -> _State:
        job = self.jobs[n]
        task = job.tasks[state.done[n]]
        ends = begins + task.duration_s
        free = dict(state.free)
        for name in needs(job, task):
            free[name] = max(ends, free.get(name, 0.0))
        done = tuple(d + (i == n) for i, d in enumerate(state.done))
        ready = tuple(ends if i == n else r for i, r in enumerate(state.ready))
        return _State(done, ready, free, [*state.slots, Slot(job.id, task, begins, ends)], begins)

    def _dive(self, state: _State) -> None:
        """Straight down: of the tasks that can begin soonest, the job with most left."""
        while heads := list(self._heads(state)):
            soonest = min(begins for _, begins in heads)
            n, begins = max((h for h in heads if h[1] <= soonest + EPS), key=lambda h: self.rest[h[0]][state.done[h[0]]])
            state = self._after(state, n, begins)
        self._keep(state)

    def _walk(self, state: _State) -> None:
        heads = list(self._heads(state))
        if not heads:
            self._keep(state)
            return
        if not self.budget.spend() or self._bound(state, heads) > self.found_key[0] + EPS or self._dominated(state):
            return
        horizon = min(begins + self.jobs[n].tasks[state.done[n]].duration_s for n, begins in heads)
        for n, begins in sorted(heads, key=lambda h: (h[1], -self.rest[h[0]][state.done[h[0]]])):
            ends = begins + self.jobs[n].tasks[state.done[n]].duration_s
            runs = self.jobs[n].running and state.done[n] == 0
            if not runs and (begins < state.last_s - EPS or (begins >= horizon - EPS and ends > horizon + EPS)):
                continue  # in order of beginning, and nothing that could be over before is put behind
            self._walk(self._after(state, n, begins))

    def _bound(self, state: _State, heads: list[tuple[int, float]]) -> float:
        """No schedule from here ends sooner: the longest job, and every resource with all it still has to do."""
        longest = max(begins + self.rest[n][state.done[n]] for n, begins in heads)
        load: dict[str, float] = {}
        tail: dict[str, float] = {}
        for n, job in enumerate(self.jobs):
            for k in range(state.done[n], len(job.tasks)):
                for name in needs(job, job.tasks[k]):
                    load[name] = load.get(name, 0.0) + job.tasks[k].duration_s
                    tail[name] = min(tail.get(name, inf), self.rest[n][k + 1])
        loads = [state.free.get(name, 0.0) + total + tail[name] for name, total in load.items()]
        return max(longest, max((s.end_s for s in state.slots), default=0.0), *loads, 0.0)

    def _dominated(self, state: _State) -> bool:
        """Whether the same work was done before with nothing later; keeps this one otherwise."""
        vector = (*state.ready, *(state.free.get(name, 0.0) for name in self.names), state.last_s)
        before = self.seen.setdefault(state.done, [])
        for other in before:
            if all(a <= b + EPS for a, b in zip(other, vector, strict=True)):
                return True
        before[:] = [other for other in before if not all(b <= a + EPS for a, b in zip(other, vector, strict=True))]
        before.append(vector)
        return False

    def _keep(self, state: _State) -> None:
        finish = max((s.end_s for s in state.slots), default=0.0)
        if finish > self.limit + EPS:
            return
        key = (finish, idle(self.jobs, state.slots))
        if (
            self.found is None
            or key[0] < self.found_key[0] - EPS
            or (key[0] <= self.found_key[0] + EPS and key[1] < self.found_key[1] - EPS)
        ):
            self.found, self.found_key = state.slots, key
