"""The best order of some jobs' tasks: branch and bound, within a budget of partial schedules."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from math import inf
from operator import le

from yoshi_core.day.tasks import EPS, JobTasks, Slot, idle, needs

MOST_NODES = 4_000
REMEMBERED = 24  # partial schedules of the same work that a new one is held against


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
    end_s: float = 0.0


class Search:
    """Branch and bound over the order in which tasks begin; every task begins as soon as its job and resources allow."""

    def __init__(self, jobs: Sequence[JobTasks], free: Mapping[str, float], limit_s: float, budget: Budget) -> None:
        self.jobs, self.limit, self.budget = list(jobs), limit_s, budget
        self.start = _State(tuple(0 for _ in jobs), tuple(job.ready_s for job in jobs), dict(free))
        self.rest = [self._tails(job) for job in jobs]
        self.seen: dict[tuple[int, ...], list[tuple[float, ...]]] = {}
        self.needed = [[needs(job, task) for task in job.tasks] for job in jobs]
        self.names = sorted({name for job in self.needed for task in job for name in task})
        self.ahead = [self._ahead(n) for n in range(len(self.jobs))]
        self.found: list[Slot] | None = None
        self.found_key = (limit_s + EPS, inf)

    @staticmethod
    def _tails(job: JobTasks) -> list[float]:
        tails = [0.0]
        for task in reversed(job.tasks):
            tails.append(tails[-1] + task.duration_s)
        return tails[::-1]

    def _ahead(self, n: int) -> list[tuple[tuple[float, ...], tuple[float, ...]]]:
        """From each task of a job on: what it still has to do with each resource, and the least that comes after the last of it."""
        load, tail = [0.0] * len(self.names), [inf] * len(self.names)
        found = [(tuple(load), tuple(tail))]
        for k in range(len(self.jobs[n].tasks) - 1, -1, -1):
            for name in self.needed[n][k]:
                i = self.names.index(name)
                load[i] += self.jobs[n].tasks[k].duration_s
                tail[i] = min(tail[i], self.rest[n][k + 1])
            found.append((tuple(load), tuple(tail)))
        return found[::-1]

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
                if job.running and state.done[n] == 0:
                    yield n, 0.0
                else:
                    free = (state.free.get(name, 0.0) for name in self.needed[n][state.done[n]])
                    yield n, max(state.ready[n], job.opens_s, *free, 0.0)

    def _after(self, state: _State, n: int, begins: float) -> _State:
        job = self.jobs[n]
        task = job.tasks[state.done[n]]
        ends = begins + task.duration_s
        free = dict(state.free)
        for name in self.needed[n][state.done[n]]:
            free[name] = max(ends, free.get(name, 0.0))
        done = tuple(d + (i == n) for i, d in enumerate(state.done))
        ready = tuple(ends if i == n else r for i, r in enumerate(state.ready))
        return _State(done, ready, free, [*state.slots, Slot(job.id, task, begins, ends)], begins, max(state.end_s, ends))

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
        ahead = [self.ahead[n][done] for n, done in enumerate(state.done)]
        loads = [
            state.free.get(name, 0.0) + load + min(part[1][i] for part in ahead)
            for i, name in enumerate(self.names)
            if (load := sum(part[0][i] for part in ahead)) > 0.0
        ]
        return max(longest, state.end_s, *loads, 0.0)

    def _dominated(self, state: _State) -> bool:
        """Whether the same work was done before with nothing later; keeps this one otherwise.

        Nothing begins before what began last, so what is free sooner is free then; what nobody needs any more counts for nothing.
        """
        from_s = state.last_s
        ready = (max(r, from_s) if done < len(job.tasks) else 0.0 for r, done, job in zip(state.ready, state.done, self.jobs, strict=True))
        ahead = [self.ahead[n][done][0] for n, done in enumerate(state.done)]
        free = (max(state.free.get(name, 0.0), from_s) if any(part[i] for part in ahead) else 0.0 for i, name in enumerate(self.names))
        vector = (from_s, state.end_s, *ready, *free)
        before = self.seen.setdefault(state.done, [])
        for other in before:
            if all(map(le, other, vector)):
                return True
        if len(before) < REMEMBERED:
            before.append(vector)
        return False

    def _keep(self, state: _State) -> None:
        finish = state.end_s
        if finish > self.limit + EPS:
            return
        key = (finish, idle(self.jobs, state.slots))
        if (
            self.found is None
            or key[0] < self.found_key[0] - EPS
            or (key[0] <= self.found_key[0] + EPS and key[1] < self.found_key[1] - EPS)
        ):
            self.found, self.found_key = state.slots, key
