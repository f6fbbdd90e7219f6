"""A job on the clock: what is left of it, how long, with which kit, and where it may be left."""

from datetime import timedelta
from typing import Any

import pytest

from tests.make import NOW, job
from tests.make_closed import HELD, RECOVERED, REPAIRED, UNIT, hold_sheet, vacuum_sheet
from yoshi_core.day import clock, schedule
from yoshi_core.day.tasks import JobTasks
from yoshi_core.document.model import Job
from yoshi_core.job import closing
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.steps.step import CLOSED, NOT_OPENED, PUMP, RECOVERY, SCALE, UNDER_NITROGEN


def tasks(subject: Job, **more: Any) -> JobTasks:
    profile = more.pop("profile", Profile())
    return clock.tasks_of(subject, evaluate(subject, profile, NOW), profile, NOW, "orrin", **more)


def left_out(subject: Job, *steps: str) -> Job:
    for step in steps:
        subject = closing.not_applicable(subject, step, "orrin", NOW, "seen before")
    return subject


def test_an_untouched_job_has_all_of_its_work_ahead_in_order() -> None:
    found = tasks(job(UNIT, kind="service"))
    assert [t.id for t in found.tasks] == [
        "identify", "as_found", "leak_search", "recover", "repair", "fill", "pressure_hold", "set_up", "pull", "watch",
        "weigh_in", "run_in", "verify", "close_out",
    ]  # fmt: skip
    assert not found.running
    alone = {t.id for t in found.tasks if not t.hands}
    assert alone == {"recover", "pressure_hold", "pull", "watch", "run_in"}
    kit = {t.id: t.kit for t in found.tasks if t.kit}
    assert kit["pull"] == (PUMP,)
    assert kit["recover"] == (RECOVERY, SCALE)


def test_settled_steps_are_not_done_again() -> None:
    found = tasks(left_out(job(UNIT, kind="service"), "as_found", "leak_search", "recover", "repair"))
    assert [t.id for t in found.tasks][:2] == ["identify", "fill"]


def test_a_repair_under_way_may_not_be_left_and_one_not_begun_stands_as_it_was() -> None:
    settled = ("as_found", "leak_search", "recover")
    open_now = left_out(job(UNIT, kind="service", sheets={"repair": {"joining": "brazed"}}), *settled)
    open_now = closing.close_step(open_now, Profile(), "identify", "orrin", NOW)
    [left] = schedule.plan([tasks(open_now)], 60.0).left
    assert (left.state, left.how) == ("unsafe", "")
    untouched = left_out(job(UNIT, kind="service"), *settled)
    untouched = closing.close_step(untouched, Profile(), "identify", "orrin", NOW)
    [left] = schedule.plan([tasks(untouched)], 60.0).left
    assert (left.state, left.how) == ("safe", NOT_OPENED)


def test_a_hold_that_runs_comes_first_with_what_is_left_of_it() -> None:
    sheet = hold_sheet([(15, 300.0, 70), (20, 300.0, 70)], NOW - timedelta(minutes=20))
    sheets = {"recover": RECOVERED, "repair": REPAIRED, "pressure_hold": sheet}
    subject = left_out(job(UNIT, kind="service", sheets=sheets), "as_found", "leak_search", "recover", "repair")
    subject = closing.close_step(subject, Profile(), "identify", "orrin", NOW)
    found = tasks(subject)
    assert found.running
    assert (found.tasks[0].id, found.tasks[0].duration_s) == ("pressure_hold", pytest.approx(600.0))
    assert found.tasks[0].safe_during == UNDER_NITROGEN


@pytest.mark.parametrize(
    ("events", "readings", "first"),
    [
        ([(0, "pump")], [(10, 9000.0), (20, 3000.0), (30, 1200.0)], "pull"),
        ([(0, "pump"), (30, "isolated")], [(30, 300.0), (34, 310.0), (36, 312.0)], "watch"),
    ],
)
def test_a_pull_or_a_watch_that_runs_is_what_is_left_of_it(events: Any, readings: Any, first: str) -> None:
    sheets = {"recover": RECOVERED, "repair": REPAIRED, "pressure_hold": HELD, "evacuate": vacuum_sheet(events, readings)}
    subject = left_out(job(UNIT, kind="service", sheets=sheets), "as_found", "leak_search", "recover", "repair", "pressure_hold")
    subject = closing.close_step(subject, Profile(), "identify", "orrin", NOW)
    found = tasks(subject)
    assert (found.tasks[0].id, found.running) == (first, True)
    if first == "watch":
        assert found.tasks[0].duration_s == pytest.approx(240.0, abs=1.0)
    else:
        assert found.tasks[0].kit == (PUMP,)


def test_the_shops_own_times_take_over_and_the_profile_sets_the_rest() -> None:
    known = {("packaged", "weigh_in"): 300.0}
    found = {
        t.id: t.duration_s for t in tasks(job(UNIT, kind="service"), known=known, profile=Profile(overrides={"time.repair": 60.0})).tasks
    }
    assert (found["weigh_in"], found["repair"]) == (300.0, 60.0)


def test_a_chiller_is_watched_half_a_day() -> None:
    found = {t.id: t.duration_s for t in tasks(job({**UNIT, "kind": "chiller", "factory_charge": "300 lb"}, kind="service")).tasks}
    assert found["watch"] >= 43_200.0
    assert found["pressure_hold"] >= 43_200.0


def test_three_oclock_must_leave_at_five_nothing_is_proven_and_it_says_where_to_stop() -> None:
    """Common practice, no source: an empty system, the leak not found, two hours left."""
    subject = left_out(job(UNIT, kind="service"), "as_found", "recover")
    subject = closing.close_step(subject, Profile(), "identify", "orrin", NOW)
    day = schedule.plan([tasks(subject)], 2 * 3600.0)
    assert day.proven == ()
    [left] = day.left
    assert left.how == UNDER_NITROGEN
    assert "Evacuate" not in left.done
    assert "Weigh in" in left.not_done
    tomorrow = schedule.plan([tasks(subject)], 8 * 3600.0)
    assert tomorrow.proven == (subject.id,)


def test_the_watch_on_the_clock_is_the_schools_and_a_leak_search_does_not_empty_a_system() -> None:
    five = Profile(choices={"vacuum.watch": "five"})
    found = {t.id: t for t in tasks(job(UNIT, kind="service"), profile=five).tasks}
    assert found["watch"].duration_s == pytest.approx(300.0)
    assert found["leak_search"].safe_after == CLOSED
    assert found["set_up"].safe_after == ""


OUT = {**RECOVERED, "use": "new"}


def test_what_runs_is_planned_as_running_whatever_was_closed() -> None:
    """Nothing was closed, and it holds under nitrogen: the hold is what is left, not another look at how it was found."""
    sheet = hold_sheet([(15, 300.0, 70), (20, 300.0, 70)], NOW - timedelta(minutes=20))
    found = tasks(job(UNIT, kind="service", sheets={"recover": OUT, "repair": REPAIRED, "pressure_hold": sheet}))
    assert (found.running, found.begun, found.stands) == (True, True, UNDER_NITROGEN)
    assert [t.id for t in found.tasks] == ["pressure_hold", "set_up", "pull", "watch", "weigh_in", "run_in", "verify", "close_out"]
    pulled = vacuum_sheet([(0, "pump")], [(10, 9000.0), (20, 3000.0), (30, 1200.0)])
    found = tasks(job(UNIT, kind="service", sheets={"recover": OUT, "repair": REPAIRED, "pressure_hold": HELD, "evacuate": pulled}))
    assert (found.running, found.tasks[0].id) == (True, "pull")
    [left] = schedule.plan([found], 60.0).left
    assert left.how != NOT_OPENED
    unread = vacuum_sheet([(0, "pump")], [])
    found = tasks(job(UNIT, kind="service", sheets={"recover": OUT, "repair": REPAIRED, "pressure_hold": sheet, "evacuate": unread}))
    assert (found.running, [t.id for t in found.tasks][:2]) == (True, ["pull", "watch"])


def test_what_is_out_of_it_was_opened_however_little_was_closed() -> None:
    found = tasks(job(UNIT, kind="service", sheets={"recover": OUT}))
    assert (found.begun, found.stands) == (True, "empty, capped")
    assert tasks(job(UNIT, kind="service", sheets={"recover": {"way": "cylinder"}})).stands == NOT_OPENED
