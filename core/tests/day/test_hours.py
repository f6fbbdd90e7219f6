"""The shop's hours: what stretch of which day is planned, and that nothing is put outside it unless a person says so."""

import random
from datetime import UTC, datetime, timedelta, timezone

import pytest

from tests.day.test_schedule import MIN, random_jobs, task
from yoshi_core.day import schedule
from yoshi_core.day.hours import stretch
from yoshi_core.day.tasks import JobTasks
from yoshi_core.errors import InvalidInput
from yoshi_core.profile.profile import Profile

HERE = timezone(-timedelta(hours=6))
SIX, ALWAYS = Profile(choices={"day.week": "six"}), Profile(choices={"day.week": "seven"})


def at(text: str) -> datetime:
    """A moment of the last days of November 2026; the 27th is a Friday."""
    return datetime.fromisoformat(f"2026-11-{text}").replace(tzinfo=HERE)


@pytest.mark.parametrize(
    ("now", "begins", "leaves", "profile"),
    [
        ("26 10:00", "26 10:00", "26 17:00", Profile()),
        ("26 05:00", "26 07:00", "26 17:00", Profile()),
        ("26 16:59", "26 16:59", "26 17:00", Profile()),
        ("26 17:00", "27 07:00", "27 17:00", Profile()),
        ("26 23:30", "27 07:00", "27 17:00", Profile()),
        ("27 18:00", "30 07:00", "30 17:00", Profile()),
        ("28 10:00", "30 07:00", "30 17:00", Profile()),
        ("28 10:00", "28 10:00", "28 17:00", SIX),
        ("29 10:00", "30 07:00", "30 17:00", SIX),
        ("29 10:00", "29 10:00", "29 17:00", ALWAYS),
        ("26 08:00", "26 09:00", "26 17:00", Profile(overrides={"day.opens": 32_400.0})),
    ],
)
def test_the_rest_of_the_day_or_the_next_that_is_worked(now: str, begins: str, leaves: str, profile: Profile) -> None:
    found = stretch(at(now), profile)
    assert (found.begins, found.leaves) == (at(begins), at(leaves))


@pytest.mark.parametrize(
    ("now", "leave", "begins", "ends"),
    [
        ("26 10:00", "26 15:00", "26 10:00", "26 15:00"),
        ("26 18:00", "26 21:00", "26 18:00", "26 21:00"),  # chosen later than closing: work goes on until then
        ("26 18:00", "27 15:00", "27 07:00", "27 15:00"),
        ("26 23:00", "27 02:00", "26 23:00", "27 02:00"),  # into the night
        ("26 00:30", "26 02:00", "26 00:30", "26 02:00"),
        ("28 10:00", "28 16:00", "30 07:00", "30 16:00"),  # a Saturday nobody said is worked
    ],
)
def test_a_time_to_leave_ends_the_day_and_opens_no_other(now: str, leave: str, begins: str, ends: str) -> None:
    found = stretch(at(now), Profile(), at(leave))
    assert (found.begins, found.leaves) == (at(begins), at(ends))


def test_a_persons_word_plans_at_once() -> None:
    found = stretch(at("28 22:00"), Profile(), at("29 01:00"), outside=True)
    assert (found.begins, found.leaves) == (at("28 22:00"), at("29 01:00"))
    assert stretch(at("28 22:00"), Profile(), outside=True).leaves == at("29 22:00")


def test_the_same_moment_is_another_hour_elsewhere() -> None:
    assert stretch(at("26 16:00").astimezone(UTC), Profile()).begins == datetime(2026, 11, 27, 7, tzinfo=UTC)


def test_a_moment_without_its_offset_is_refused() -> None:
    for now, leave in ((datetime(2026, 11, 26), None), (at("26 10:00"), datetime(2026, 11, 26, 17))):  # noqa: DTZ001
        with pytest.raises(InvalidInput):
            stretch(now, Profile(), leave)


@pytest.mark.parametrize("seed", range(20))
def test_nothing_but_what_runs_begins_before_anybody_is_there(seed: int) -> None:
    dice = random.Random(seed)
    opens = dice.choice((0.0, 30.0, 600.0)) * MIN
    jobs = [
        JobTasks(j.id, j.person, j.tasks, j.ready_s, running=n == 0, begun=n == 0, opens_s=opens)
        for n, j in enumerate(random_jobs(dice, 4))
    ]
    day = schedule.plan(jobs, opens + 480.0 * MIN)
    running = next(slot for slot in day.slots if slot.job == jobs[0].id)
    assert running.start_s == 0.0
    assert all(slot.start_s >= opens - 1e-6 for slot in day.slots if slot is not running)


def test_the_night_is_no_wait_of_anybody() -> None:
    """A pump left running overnight: in the morning it is shut off and watched, and nobody was kept waiting by the pump."""
    tasks = (task("pull", 60, hands=False, kit=["pump"]), task("watch", 10, hands=False), task("weigh in", 20))
    job = JobTasks("a", "orrin", tasks, running=True, begun=True, opens_s=600.0 * MIN)
    day = schedule.plan([job], 900.0 * MIN)
    assert [(s.start_s / MIN, s.waits_for, s.waited_s) for s in day.slots] == [(0.0, "", 0.0), (600.0, "", 0.0), (610.0, "", 0.0)]
    assert day.idle_s == pytest.approx(10.0 * MIN)
    assert schedule.one_after_the_other([job]) == pytest.approx(690.0 * MIN)
