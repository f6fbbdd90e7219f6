"""How long a day's plan takes to compute, over random days of up to twelve jobs, against sorting the same tasks once.

    python bench/day_speed.py [DAYS]

The same seed gives the same days; a day that spends its budget of partial schedules is counted.
"""

import random
import sys
import time
from pathlib import Path

sys.path[:0] = [str(Path(__file__).resolve().parents[1] / "core")]

from yoshi_core.day import schedule
from yoshi_core.day.tasks import JobTasks
from yoshi_core.steps.step import Task

SEED, DAYS = 12, 10_000
PEOPLE, KIT = ("orrin", "pell", "vesk"), ("pump", "nitrogen", "scale", "recovery machine")


def day(dice: random.Random) -> tuple[list[JobTasks], float]:
    """One day of a shop: people, shared kit, waits that go on by themselves, jobs half done, a time to leave."""
    people = PEOPLE[: dice.choice((1, 1, 2, 3))]
    jobs = []
    for n in range(dice.randint(1, 12)):
        tasks = []
        for k in range(dice.randint(1, 12)):
            hands = dice.random() < 0.6
            kit = (dice.choice(KIT),) if dice.random() < 0.4 else ()
            safe = "closed, with what was in it" if dice.random() < 0.4 else ""
            tasks.append(
                Task(f"t{k}", f"task {k}", dice.choice((5, 10, 15, 20, 30, 45, 60, 90)) * 60.0, hands, kit, safe, "" if hands else "safe")
            )
        running = dice.random() < 0.2
        jobs.append(JobTasks(f"j{n}", dice.choice(people), tuple(tasks), 0.0, running, running or dice.random() < 0.5))
    return jobs, dice.uniform(1.0, 10.0) * 3600.0


def main(days: int) -> None:
    dice = random.Random(SEED)
    took, plain, spent, seven = [], [], 0, 0
    for _ in range(days):
        jobs, leave_s = day(dice)
        started = time.perf_counter()
        plan = schedule.plan(jobs, leave_s)
        took.append(time.perf_counter() - started)
        started = time.perf_counter()
        sorted((task.duration_s, job.id) for job in jobs for task in job.tasks)
        plain.append(time.perf_counter() - started)
        large = len(jobs) > schedule.EXACT_JOBS
        seven += large
        spent += not plan.exact and not large
    took.sort()
    plain.sort()
    at = [took[min(int(share * days), days - 1)] * 1e3 for share in (0.5, 0.95, 0.99, 1.0)]
    print(f"{days:,} days: median {at[0]:.1f} ms, 95 of 100 {at[1]:.0f}, 99 of 100 {at[2]:.0f} (goal 300), longest {at[3]:.0f}")
    print(
        f"    {took[days // 2] / plain[days // 2]:.0f} times sorting the same tasks; of up to six jobs {spent:,} of {days - seven:,} not proven the best"
    )


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else DAYS)
