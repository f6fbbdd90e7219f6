"""The day's plan: held against a general-purpose constraint solver, and against practice's own days."""

import random
import time
from collections.abc import Sequence
from itertools import combinations, pairwise

import pytest
from ortools.sat.python import cp_model

from yoshi_core.day import schedule
from yoshi_core.day.tasks import JobTasks, Slot
from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.steps.step import Task

MIN = 60.0


def task(label: str, minutes: float, hands: bool = True, kit: Sequence[str] = (), safe: str = "", during: str = "") -> Task:
    return Task(label, label, minutes * MIN, hands, tuple(kit), safe, during)


def random_jobs(dice: random.Random, count: int) -> list[JobTasks]:
    kits = ("pump", "nitrogen", "scale")
    jobs = []
    for n in range(count):
        tasks = []
        for k in range(dice.randint(2, 5)):
            hands = dice.random() < 0.6
            kit = () if hands and dice.random() < 0.5 else (dice.choice(kits),)
            tasks.append(task(f"j{n}t{k}", dice.randint(2, 40), hands, kit))
        jobs.append(JobTasks(f"j{n}", dice.choice(("orrin", "pell")), tuple(tasks), float(dice.choice((0, 0, 10))) * MIN))
    return jobs


def needs(job: JobTasks, item: Task) -> set[str]:
    return {*([f"person:{job.person}"] if item.hands else []), *item.kit}


def solver_finish(jobs: Sequence[JobTasks], leave_s: float) -> float | None:
    """The earliest finish of all these jobs by OR-tools' constraint solver, minutes as whole numbers; None where they do not fit."""
    model = cp_model.CpModel()
    horizon = int(leave_s / MIN)
    intervals: dict[str, list[cp_model.IntervalVar]] = {}
    ends = []
    for job in jobs:
        before = None
        for item in job.tasks:
            length = int(item.duration_s / MIN)
            start, end = model.new_int_var(0, horizon, ""), model.new_int_var(0, horizon, "")
            interval = model.new_interval_var(start, length, end, "")
            model.add(start >= int(job.ready_s / MIN))
            if before is not None:
                model.add(start >= before)
            before = end
            for name in needs(job, item):
                intervals.setdefault(name, []).append(interval)
        ends.append(before)
    for some in intervals.values():
        model.add_no_overlap(some)
    finish = model.new_int_var(0, horizon, "")
    model.add_max_equality(finish, ends)
    model.minimize(finish)
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.max_time_in_seconds = 60
    status = solver.solve(model)
    assert status in {cp_model.OPTIMAL, cp_model.INFEASIBLE}
    return float(solver.objective_value) * MIN if status == cp_model.OPTIMAL else None


def solver_best(jobs: Sequence[JobTasks], leave_s: float) -> tuple[int, float]:
    """Most jobs proven and then the earliest finish, by the solver."""
    for size in range(len(jobs), 0, -1):
        found = [f for some in combinations(jobs, size) if (f := solver_finish(some, leave_s)) is not None]
        if found:
            return size, min(found)
    return 0, 0.0


def assert_possible(jobs: Sequence[JobTasks], slots: Sequence[Slot]) -> None:
    """In order within a job, and nothing used twice at once."""
    by_id = {job.id: job for job in jobs}
    for job in jobs:
        own = [s for s in slots if s.job == job.id]
        assert [s.task.id for s in own] == [t.id for t in job.tasks[: len(own)]]
        for first, second in pairwise(own):
            assert second.start_s >= first.end_s - 1e-6
    for one, two in combinations(slots, 2):
        if needs(by_id[one.job], one.task) & needs(by_id[two.job], two.task):
            assert one.end_s <= two.start_s + 1e-6 or two.end_s <= one.start_s + 1e-6


@pytest.mark.parametrize("seed", range(14))
def test_most_proven_and_earliest_finish_as_the_constraint_solver_finds(seed: int) -> None:
    dice = random.Random(seed)
    jobs = random_jobs(dice, dice.randint(1, 6))
    total = sum(t.duration_s for job in jobs for t in job.tasks)
    leave = dice.choice((0.35, 0.6, 1.2)) * total // MIN * MIN
    day = schedule.plan(jobs, leave)
    assert_possible(jobs, day.slots)
    count, finish = solver_best(jobs, leave)
    assert len(day.proven) == count
    if count:
        assert day.finish_s == pytest.approx(finish)
    assert day.exact


def test_six_jobs_of_a_whole_day_are_planned_while_one_looks() -> None:
    dice = random.Random(99)
    jobs = random_jobs(dice, 6)
    started = time.perf_counter()
    day = schedule.plan(jobs, 12 * 3600.0)
    assert len(day.proven) == 6
    assert time.perf_counter() - started < 60.0


class TestPracticesOwnDays:
    """Common practice, no source."""

    def test_two_units_one_pump_one_nitrogen_bottle(self) -> None:
        def unit(name: str) -> JobTasks:
            return JobTasks(
                name,
                "orrin",
                (
                    task("fill", 5, True, ["nitrogen"], "under nitrogen"),
                    task("hold", 30, False, (), "under nitrogen", "under nitrogen"),
                    task("pull", 40, False, ["pump"]),
                    task("watch", 10, False, (), "under vacuum", "under vacuum"),
                    task("weigh in", 15, True, ["scale"], "charged"),
                    task("verify", 25, True),
                ),
            )

        jobs = [unit("one"), unit("two")]
        day = schedule.plan(jobs, 10 * 3600.0)
        assert set(day.proven) == {"one", "two"}
        saved = schedule.one_after_the_other(jobs) - day.finish_s
        assert schedule.one_after_the_other(jobs) == pytest.approx(250 * MIN)
        assert saved >= 75 * MIN
        assert_possible(jobs, day.slots)

    def test_three_oclock_must_leave_at_five_and_the_leak_not_found(self) -> None:
        job = JobTasks(
            "empty",
            "orrin",
            (
                task("search", 60, True, ["nitrogen"], "capped, empty"),
                task("repair", 45, True, (), ""),
                task("hold", 40, False, ["nitrogen"], "under nitrogen", "under nitrogen overnight"),
                task("pull", 45, False, ["pump"], ""),
                task("weigh in", 20, True, ["scale"], "charged"),
                task("verify", 30, True),
            ),
        )
        day = schedule.plan([job], 120 * MIN)
        [left] = day.left
        assert day.proven == ()
        assert left.how == "under nitrogen overnight"
        assert left.not_done[:2] == ("hold", "pull")

    def test_a_wait_is_filled_with_another_job(self) -> None:
        watching = JobTasks("vacuum", "orrin", (task("watch", 40, False, ["pump"]), task("weigh in", 20)), running=True)
        label = JobTasks("label", "orrin", (task("label", 15),))
        day = schedule.plan([watching, label], 3600.0)
        assert next(s for s in day.slots if s.job == "label").start_s == 0.0
        assert day.finish_s == pytest.approx(60 * MIN)
        assert day.idle_s == pytest.approx(25 * MIN)

    def test_a_wait_says_what_it_waits_for_and_work_says_whose_wait_it_fills(self) -> None:
        first = JobTasks("first", "orrin", (task("pull", 40, False, ["pump"]), task("weigh in", 20)), running=True)
        second = JobTasks("second", "orrin", (task("label", 10), task("pull", 30, False, ["pump"]), task("verify", 10)))
        slots = {(s.job, s.task.id): s for s in schedule.plan([first, second], 4 * 3600.0).slots}
        pull = slots[("second", "pull")]
        assert (pull.waits_for, pull.waited_s) == ("pump", pytest.approx(30 * MIN))
        assert slots[("second", "label")].fills == "first"
        assert slots[("first", "weigh in")].fills == "second"
        assert slots[("first", "pull")].waits_for == ""
        late = schedule.plan([JobTasks("one", "pell", (task("verify", 10),))], 3600.0, {"person:pell": 900.0}).slots[0]
        assert (late.waits_for, late.waited_s) == ("a hand", 900.0)

    def test_one_after_the_other_is_each_persons_own(self) -> None:
        jobs = [JobTasks(name, person, (task("work", 60),)) for name, person in (("a", "orrin"), ("b", "orrin"), ("c", "pell"))]
        assert schedule.one_after_the_other(jobs) == pytest.approx(120 * MIN)
        assert schedule.one_after_the_other(jobs, {"pump": 600.0}) == pytest.approx(130 * MIN)

    def test_a_job_nobody_gets_to_says_how_it_stands_now(self) -> None:
        long = (task("repair", 300),)
        opened = JobTasks("opened", "orrin", long, begun=True, stands="")
        capped = JobTasks("capped", "orrin", long, begun=True, stands="empty, capped")
        fresh = JobTasks("fresh", "orrin", long, stands="not opened")
        left = {item.job: item for item in schedule.plan([opened, capped, fresh], 3600.0).left}
        assert (left["opened"].state, left["opened"].how) == ("unsafe", "")
        assert (left["capped"].state, left["capped"].how) == ("safe", "empty, capped")
        assert left["fresh"].state == "not_begun"
        assert left["fresh"].rest_s == pytest.approx(300 * MIN)

    def test_busy_kit_and_people_are_waited_for(self) -> None:
        job = JobTasks("one", "pell", (task("pull", 30, False, ["pump"]), task("verify", 10)))
        day = schedule.plan([job], 3600.0, {"pump": 900.0})
        assert [s.start_s for s in day.slots] == [900.0, 2700.0]
        late = schedule.plan([job], 3600.0, {"pump": 900.0, "person:pell": 3500.0})
        assert late.proven == ()


def test_more_jobs_than_six_are_planned_and_said_not_to_be_proven_best() -> None:
    day = schedule.plan(random_jobs(random.Random(4), 9), 8 * 3600.0)
    assert not day.exact
    assert len(day.proven) >= 6


def test_what_cannot_be_is_refused() -> None:
    job = JobTasks("a", "orrin", (task("x", 5),))
    with pytest.raises(InvalidInput):
        schedule.plan([job, job], 100.0)
    with pytest.raises(OutOfRange):
        schedule.plan([job], -1.0)
    with pytest.raises(OutOfRange):
        schedule.plan([JobTasks("a", "orrin", (task("x", -5),))], 100.0)
    assert schedule.plan([], 100.0).slots == ()
