"""The plan against a simulated day: the practice rig gives the readings, the job's own rules say when a step is over.

Common practice, no source, for the two days played.
"""

from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

import pytest

from tests.make import NOW, job
from tests.make_closed import HOLD, PULL, RECOVERED, REPAIRED, UNIT
from yoshi_core.day import clock, schedule
from yoshi_core.day.schedule import Day
from yoshi_core.day.tasks import JobTasks
from yoshi_core.document.model import Job
from yoshi_core.job import closing
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.rig.nitrogen import NitrogenHold
from yoshi_core.rig.vacuum import Pump, VacuumSystem
from yoshi_core.steps import volumes
from yoshi_core.steps.plates import repaired_plate
from yoshi_core.steps.step import CLOSED, UNDER_NITROGEN
from yoshi_core.units.quantities import MICRON_PA, PSI_PA

THREE = NOW.replace(hour=15, minute=0, second=0, microsecond=0)
FIVE = THREE + timedelta(hours=2)
MINUTE_S, SITE_PA, START_K = 60.0, 101_325.0, 294.26
PROFILE = Profile()


def unit(**sheets: Any) -> Job:
    """A unit opened and repaired, its first steps settled."""
    made = job(UNIT, kind="service", sheets={"recover": RECOVERED, "repair": REPAIRED, **sheets})
    for step in ("as_found", "leak_search", "recover", "repair"):
        made = closing.not_applicable(made, step, "orrin", THREE, "done before")
    return closing.close_step(made, PROFILE, "identify", "orrin", THREE)


def litres() -> float:
    return volumes.of(repaired_plate(unit()), None).m3


def word(subject: Job, step: str, now: datetime) -> str:
    return evaluate(subject, PROFILE, now).step(step).verdict.word


def held(filled: datetime, until: datetime, leak_pa_m3_s: float = 0.0, cools_k: float = 0.0) -> dict[str, Any]:
    """The sheet of a hold at 560 psig as the rig shows it every five minutes, the metal cooling over the whole of it."""
    rig = NitrogenHold(litres(), 560.0 * PSI_PA + SITE_PA, START_K, leak_pa_m3_s)
    total, every = (until - filled).total_seconds(), max(300.0, (until - filled).total_seconds() / 40.0)
    rows, second = {}, 0.0
    while second <= total:
        metal = START_K - cools_k * second / total if total else START_K
        pressure = rig.step(every if second else 0.0, metal)
        at = (filled + timedelta(seconds=second)).isoformat()
        rows[f"r{int(second)}"] = {
            "at": at,
            "pressure": f"{(pressure - SITE_PA) / PSI_PA:.1f} psig",
            "metal": f"{(metal - 273.15) * 1.8 + 32:.2f} °F",
        }
        second += every
    return {**HOLD, "filled_at": filled.isoformat(), "readings": rows}


def pulled(begun: datetime, until: datetime, isolated: datetime | None) -> dict[str, Any]:
    """The sheet of an evacuation as the rig shows it every minute."""
    rig = VacuumSystem(litres(), START_K, pump=Pump(PROFILE.value("vacuum.pump")))
    rig.bore_m, rig.hose_m = PROFILE.value("vacuum.bore"), PROFILE.value("vacuum.length")
    events = {"e1": {"do": "pump", "at": begun.isoformat()}}
    rig.pumping, now = True, begun
    rows: dict[str, Any] = {}
    while now < until:
        if isolated is not None and now >= isolated and rig.pumping:
            rig.pumping = False
            events["e2"] = {"do": "isolated", "at": isolated.isoformat()}
        pressure = rig.step(MINUTE_S)
        now += timedelta(seconds=MINUTE_S)
        rows[f"r{len(rows)}"] = {"at": now.isoformat(), "vacuum": f"{pressure / MICRON_PA:.0f} micron"}
    return {**PULL, "events": events, "readings": rows}


def first_minute(holds: Callable[[int], bool], longest: int = 240) -> float:
    return MINUTE_S * next(n for n in range(1, longest) if holds(n))


def hold_takes() -> float:
    """Until the rules say that a tight system holds, seconds after it was filled; the gauge is read from when it has settled."""

    def settled(minutes: int) -> dict[str, Any]:
        sheet = held(THREE, at(minutes))
        rows = {key: row for key, row in sheet["readings"].items() if int(key[1:]) >= PROFILE.value("hold.settle")}
        return {**sheet, "readings": rows}

    return first_minute(lambda n: n % 5 == 0 and word(unit(pressure_hold=settled(n)), "pressure_hold", at(n)) == "Holds")


def at(minutes: float) -> datetime:
    return THREE + timedelta(minutes=minutes)


def pull_takes(damp: float) -> float:
    """Until the rig is well under the target, its surfaces holding so many times the water of a dry system."""
    rig = VacuumSystem(litres(), START_K, pump=Pump(PROFILE.value("vacuum.pump")))
    rig.bore_m, rig.hose_m = PROFILE.value("vacuum.bore"), PROFILE.value("vacuum.length")
    rig.sorbed_kg *= damp
    rig.pumping = True
    return first_minute(lambda _: rig.step(MINUTE_S) <= 0.7 * PROFILE.value("vacuum.target"))


def watch_takes(pull_s: float) -> float:
    """Until the rules say that it is tight and dry, seconds after the pump was shut off."""
    shut = THREE + timedelta(seconds=pull_s)
    before = held(THREE - timedelta(hours=3), THREE - timedelta(hours=2))

    def holds(n: int) -> bool:
        now = shut + timedelta(minutes=n)
        return word(unit(pressure_hold=before, evacuate=pulled(THREE, now, shut)), "evacuate", now) == "Holds"

    return first_minute(holds)


def played(plans: list[JobTasks], order: Day | None, real: dict[tuple[str, str], float]) -> float:
    """The moment the last job is done when tasks begin in the plan's order, or one job after the other, and take what they really take."""
    if order is None:
        return sum(real.get((plan.id, task.id), task.duration_s) for plan in plans for task in plan.tasks)
    ready = {plan.id: 0.0 for plan in plans}
    free: dict[str, float] = {}
    person = {plan.id: plan.person for plan in plans}
    for slot in order.slots:
        needs = [*slot.task.kit, *([f"person:{person[slot.job]}"] if slot.task.hands else [])]
        begins = max(ready[slot.job], *(free.get(name, 0.0) for name in needs), 0.0)
        ends = begins + real.get((slot.job, slot.task.id), slot.task.duration_s)
        ready[slot.job] = ends
        free.update(dict.fromkeys(needs, ends))
    return max(ready.values())


@pytest.mark.parametrize("damp", [(8.0, 8.0), (8.0, 12.0), (12.0, 9.0), (12.0, 12.0)])
def test_two_units_one_pump_one_bottle_save_the_minutes_the_plan_claims(damp: tuple[float, float]) -> None:
    """Hands work as the profile says; hold, pull and watch take what they take on the rig, 17 to 40 minutes for a pull planned at 30."""
    made = clock.tasks_of(unit(), evaluate(unit(), PROFILE, THREE), PROFILE, THREE, "orrin")
    plans = [JobTasks(name, made.person, made.tasks, begun=True) for name in ("one", "two")]
    assert [t.id for t in made.tasks][:5] == ["fill", "pressure_hold", "set_up", "pull", "watch"]
    day = schedule.plan(plans, 12 * 3600.0)
    assert set(day.proven) == {"one", "two"}
    claimed = schedule.one_after_the_other(plans) - day.finish_s
    hold, watch = hold_takes(), watch_takes(PROFILE.value("time.pull"))
    real: dict[tuple[str, str], float] = {}
    for plan, factor in zip(plans, damp, strict=True):
        real |= {(plan.id, "pressure_hold"): hold, (plan.id, "watch"): watch, (plan.id, "pull"): pull_takes(factor)}
    saved = played(plans, None, real) - played(plans, day, real)
    assert claimed >= 60 * MINUTE_S
    assert saved == pytest.approx(claimed, abs=15 * MINUTE_S)


class TestThreeOClockMustLeaveAtFive:
    """An empty system, the leak not found yet."""

    @pytest.fixture
    def day(self) -> Day:
        empty = closing.not_applicable(job(UNIT, kind="service", sheets={"recover": RECOVERED}), "as_found", "orrin", THREE, "empty")
        empty = closing.not_applicable(empty, "recover", "orrin", THREE, "empty")
        empty = closing.close_step(empty, PROFILE, "identify", "orrin", THREE)
        plan = clock.tasks_of(empty, evaluate(empty, PROFILE, THREE), PROFILE, THREE, "orrin")
        return schedule.plan([plan], (FIVE - THREE).total_seconds())

    def test_the_plan_says_at_once_that_proof_will_not_fit_where_to_stop_and_what_a_return_takes(self, day: Day) -> None:
        [left] = day.left
        assert (left.state, left.how) == ("safe", UNDER_NITROGEN)
        assert [how for _, how in left.stops] == [CLOSED, UNDER_NITROGEN]
        assert left.not_done[0] == "Pressure hold"
        assert 1.5 * 3600.0 < left.rest_s < 4 * 3600.0

    def test_at_five_the_hold_still_waits_and_the_next_morning_it_is_the_long_hold_it_became(self, day: Day) -> None:
        filled = THREE + timedelta(seconds=next(s.end_s for s in day.slots if s.task.id == "fill"))
        assert filled < FIVE
        at_five = unit(pressure_hold=held(filled, FIVE))
        assert word(at_five, "pressure_hold", FIVE) == "Wait"
        morning = FIVE + timedelta(hours=14)
        assert word(unit(pressure_hold=held(filled, morning, cools_k=9.0)), "pressure_hold", morning) == "Holds"
        leaks = unit(pressure_hold=held(filled, morning, leak_pa_m3_s=2e-2, cools_k=9.0))
        assert word(leaks, "pressure_hold", morning) == "Stop"

    def test_pulling_at_once_without_the_hold_would_not_have_been_proof_by_five_either(self, day: Day) -> None:
        repaired = THREE + timedelta(seconds=next(s.end_s for s in day.slots if s.task.label == "Repair"))
        begun = repaired + timedelta(seconds=PROFILE.value("time.set_up"))
        short = unit(evacuate=pulled(begun, FIVE, FIVE - timedelta(minutes=3)))
        assert word(short, "evacuate", FIVE) != "Holds"
