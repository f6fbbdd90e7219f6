"""Channels, what is refused on them, steadiness, and logs put into a job."""

from dataclasses import replace
from datetime import timedelta

import pytest

from tests.make import NOW, job
from tests.make_closed import RECOVERED, REPAIRED, UNIT, hold_sheet, moment, vacuum_sheet
from yoshi_core.document.model import StepEvent
from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.instruments import channels, make
from yoshi_core.job import live
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.steps.step import WantedLog
from yoshi_core.tight_and_dry import trace
from yoshi_core.units.quantities import MICRON_PA, PSI_PA


@pytest.mark.parametrize(
    ("channel", "value", "unit", "si"),
    [
        ("vacuum", 500, "micron", 500 * MICRON_PA),
        ("vacuum", 66.661, "Pa", 66.661),
        ("suction_pressure", 118.0, "psig", 118 * PSI_PA),
        ("metal", 294.26, "K", 294.26),
        ("metal", 32, "°F", 273.15),
        ("scale", 2.0, "lb", 0.90718474),
    ],
)
def test_values_are_read_in_their_own_unit(channel: str, value: float, unit: str, si: float) -> None:
    assert channels.read(channel, value, unit) == pytest.approx(si)


@pytest.mark.parametrize(
    ("channel", "value", "unit", "said"),
    [
        ("vacuum", 500, "psig", "not a unit of it. Use micron or Pa"),
        ("vacuum", "500", "micron", "no number"),
        ("vacuum", True, "micron", "no number"),
        ("vacuum", float("nan"), "micron", "no number"),
        ("vacuum", 9e9, "micron", "outside"),
        ("metal", 900, "°F", "Check the unit it posts in"),
        ("wind", 3, "m/s", "There is no channel"),
    ],
)
def test_what_cannot_be_is_refused_in_words(channel: str, value: object, unit: str, said: str) -> None:
    with pytest.raises((InvalidInput, OutOfRange), match=said):
        channels.read(channel, value, unit)


def test_a_clock_that_runs_ahead_is_refused_and_a_buffered_reading_is_not() -> None:
    channels.check_moment(NOW - timedelta(hours=5), NOW)
    with pytest.raises(InvalidInput, match="60 min ahead of the clock"):
        channels.check_moment(NOW + timedelta(hours=1), NOW)
    with pytest.raises(InvalidInput, match="older than two weeks"):
        channels.check_moment(NOW - timedelta(days=15), NOW)


@pytest.mark.parametrize(
    ("slope", "word"),
    [(0.0, "steady"), (0.3, "rising"), (-0.3, "falling")],
)
def test_steadiness_is_of_the_last_half_minute(slope: float, word: str) -> None:
    rows = [(float(s), 100.0 + slope * s + (0.1 if s % 2 else -0.1)) for s in range(31)]
    assert channels.steadiness(rows, 1.0) == word
    assert channels.steadiness([(-300.0, 900.0), *rows], 1.0) == word
    assert channels.steadiness(rows[:3], 1.0) == "new"
    assert channels.steadiness([], 1.0) == "new"


def test_an_open_hold_asks_for_its_log_and_is_judged_by_it() -> None:
    start = NOW - timedelta(minutes=60)
    sheet = {**hold_sheet([(0, 0, None)]), "readings": {}, "filled_at": start.isoformat()}
    subject = job(UNIT, kind="service", sheets={"recover": RECOVERED, "repair": REPAIRED, "pressure_hold": sheet})
    wanted = {(log.step, log.field): log for log in live.wanted(subject)}
    gauge = wanted[("pressure_hold", "pressure_trace")]
    assert gauge.channels == ("liquid_pressure", "suction_pressure")
    rows = [(start + timedelta(seconds=s), 3.8e6) for s in range(0, 3600, 2)]
    metal = [(at, 294.0) for at, _ in rows]
    traces = {
        key: made
        for key, log, log_rows in (
            (("pressure_hold", "pressure_trace"), gauge, rows),
            (("pressure_hold", "metal_trace"), wanted[("pressure_hold", "metal_trace")], metal),
        )
        if (made := live.as_trace(log, log_rows, make.Make("gauge 1", 690.0, 6900.0, 0.0), sealed=True)) is not None
    }
    kept = traces[("pressure_hold", "pressure_trace")]
    assert (kept.rows, len(kept.seconds) <= trace.MOST_POINTS) == (1800, True)
    assert kept.sha256 == trace.seal([((at - start).total_seconds(), value) for at, value in rows])
    found = evaluate(live.with_traces(subject, traces), Profile(), NOW).step("pressure_hold")
    assert found.verdict.word == "Holds", found.verdict.headline.show()
    assert live.as_trace(gauge, rows[:1], make.Make("", 0.0, 0.0, 0.0), sealed=False) is None


def test_a_pull_asks_from_its_first_event_and_keeps_the_moments_exact() -> None:
    begun = NOW - timedelta(minutes=60)
    sheet = vacuum_sheet([(0, "pump"), (30, "isolated"), (60, "pump")], [])
    [log, second] = live.wanted(job(UNIT, kind="service", sheets={"evacuate": sheet}))
    assert (log.channels, second.channels) == (("vacuum",), ("second_vacuum",))
    assert log.since.isoformat() == moment(0, begun)
    assert [at.isoformat() for at in log.exact] == [moment(m, begun) for m in (0, 30, 60)]
    rows = [(begun + timedelta(seconds=s), 1e5 / (1 + s)) for s in range(3600)]
    made = live.as_trace(log, rows, make.Make("", 0.0, 0.0, 0.0), sealed=False)
    assert made is not None
    assert {1799.0, 1800.0} <= set(made.seconds)
    assert made.sha256 == ""


def test_nothing_is_asked_for_before_the_work_began() -> None:
    assert live.wanted(job(UNIT, kind="service")) == ()


def test_a_calibration_runs_out_and_then_the_limit_counts_double() -> None:
    old, fresh = ((NOW - timedelta(days=days)).date().isoformat() for days in (401, 399))
    gauge = make.Make("gauge", 690.0, 6_900.0, 0.01)
    assert make.limit_at(gauge, 2e5, NOW, Profile()) == 6_900.0
    assert make.limit_at(gauge, -2e6, NOW, Profile()) == 20_000.0
    assert not make.overdue("", NOW.date(), Profile())
    assert make.limit_at(replace(gauge, calibrated_on=fresh), 2e5, NOW, Profile()) == 6_900.0
    assert make.limit_at(replace(gauge, calibrated_on=old), 2e5, NOW, Profile()) == 13_800.0
    assert make.limit_at(replace(gauge, calibrated_on=old), 2e5, NOW, Profile(overrides={"instrument.overdue": 3.0})) == 20_700.0


def test_what_a_log_keeps_of_its_gauge() -> None:
    log = WantedLog("evacuate", "trace", ("vacuum",), NOW, ())
    gauge = make.Make("gauge 7", 1.0, 2.0, 0.03, "2026-01-02")
    two = [(NOW, 90.0), (NOW + timedelta(seconds=4), 80.0)]
    assert live.as_trace(log, two, gauge, sealed=False) == trace.Trace(
        NOW, (0.0, 4.0), (90.0, 80.0), 2, "", "gauge 7", 1.0, 2.0, 0.03, "2026-01-02"
    )
    assert live.as_trace(log, two[:1], gauge, sealed=False) is None
    assert live.as_trace(log, [], gauge, sealed=True) is None
    sealed = live.as_trace(log, two, gauge, sealed=True)
    assert sealed is not None
    assert sealed.sha256 == trace.seal([(0.0, 90.0), (4.0, 80.0)])


def test_a_closed_or_left_out_step_asks_for_no_log_and_an_opened_one_again() -> None:
    sheet = vacuum_sheet([(0, "pump")], [])
    subject = job(UNIT, kind="service", sheets={"evacuate": sheet})
    assert [log.step for log in live.wanted(subject)] == ["evacuate", "evacuate"]
    for kinds, asks in ((["closed"], False), (["not_applicable"], False), (["closed", "reopened"], True), (["reopened", "closed"], False)):
        events = tuple(StepEvent(kind, NOW, "J. Pell") for kind in kinds)
        record = replace(subject.steps["evacuate"], events=events)
        assert bool(live.wanted(replace(subject, steps={**subject.steps, "evacuate": record}))) is asks, kinds


def test_a_log_goes_into_the_last_run_and_leaves_the_others() -> None:
    sheet = vacuum_sheet([(0, "pump")], [])
    subject = job(UNIT, kind="service", sheets={"evacuate": sheet, "repair": REPAIRED})
    (first,) = subject.steps["evacuate"].runs
    other = replace(first, visit="v2")
    thrice = replace(subject, steps={**subject.steps, "evacuate": replace(subject.steps["evacuate"], runs=(first, other, first))})
    kept = trace.Trace(NOW, (0.0, 4.0), (90.0, 80.0), 2, "", "gauge", 1.0, 2.0, 0.03, "")
    found = live.with_traces(thrice, {("evacuate", "trace"): kept})
    assert found.steps["evacuate"].runs[:2] == (first, other)
    assert found.steps["evacuate"].runs[2].sheet.trace == kept
    assert len(found.steps["evacuate"].runs) == 3
    assert found.steps["repair"] == subject.steps["repair"]
