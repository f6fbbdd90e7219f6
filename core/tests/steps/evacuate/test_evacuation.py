"""The isolated vacuum: practice's own cases, fits held against scipy, and what is never judged."""

import math
import random
from collections.abc import Sequence
from typing import Any

import numpy
import pytest
from scipy.optimize import curve_fit

from tests.make import findings
from tests.make_closed import HELD, RECOVERED, REPAIRED, UNIT, isolated, rules, said, vacuum, vacuum_sheet
from tests.test_reference_worked_cases import cases
from yoshi_core.charge.volume import Volume
from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.findings.pictures import EvacuatePicture
from yoshi_core.profile.profile import Profile
from yoshi_core.properties.humid_air import water_vapor_pa
from yoshi_core.steps.evacuate.judge import watched_for
from yoshi_core.tight_and_dry import evacuation
from yoshi_core.tight_and_dry.decay import Noise, fit_both, fit_leak, fit_moisture, group
from yoshi_core.tight_and_dry.evacuation import Limits
from yoshi_core.units.quantities import MICRON_PA

NOISE = Noise(5.0 * MICRON_PA, 0.02)


def limits(watch_min: float = 10.0) -> Limits:
    return Limits(500 * MICRON_PA, 500 * MICRON_PA, 2e-4, watch_min * 60.0, NOISE)


def judged(
    rows: Sequence[tuple[float, float]], litres: float = 10.0, watch_min: float = 10.0, band: float = 1.0
) -> evacuation.DecayVerdict:
    samples = [(minutes * 60.0, micron * MICRON_PA) for minutes, micron in rows]
    return evacuation.judge(samples, litres / 1e3, limits(watch_min), volume_band=band)


class TestReference:
    @pytest.mark.parametrize("case", cases("decay-"))
    def test_worked_cases(self, case: dict[str, Any]) -> None:
        assert judged(case["given"]["minutes_micron"], case["given"]["volume_l"]).kind == case["expect"]["kind"]

    @pytest.mark.parametrize("case", [c for c in cases("decay-") if c.id in {"decay-moist", "decay-tight", "decay-both"}])
    def test_fits_agree_with_scipy(self, case: dict[str, Any]) -> None:
        """The same three models through the same readings by `scipy.optimize.curve_fit`."""
        rows = [(m * 60.0, p * MICRON_PA) for m, p in case["given"]["minutes_micron"] if m * 60.0 >= 90.0]
        seconds, values = [r[0] - rows[0][0] for r in rows], [r[1] for r in rows]
        sigma = [NOISE.of(v) for v in values]
        groups = group(rows, NOISE)
        line, _ = curve_fit(lambda t, a, r: a + r * numpy.asarray(t), seconds, values, sigma=sigma)
        assert fit_leak(groups).rate_pa_s == pytest.approx(line[1], rel=1e-6)
        half = 0.5 * seconds[-1]
        begin = (values[-1], values[-1] - values[0], seconds[-1] / 5)
        curve, _ = curve_fit(_levelling, seconds, values, begin, sigma=sigma, bounds=([0, 0, 5.0], [1e4, 1e4, half]))
        ours = fit_moisture(groups)
        assert ours.plateau_pa == pytest.approx(curve[0], rel=2e-3)
        assert ours.tau_s == pytest.approx(curve[2], rel=0.05)
        theirs = sum(
            ((v - (curve[0] - curve[1] * math.exp(-t / curve[2]))) / s) ** 2 for t, v, s in zip(seconds, values, sigma, strict=True)
        )
        assert ours.score - 3.0 * math.log(len(values)) == pytest.approx(theirs, abs=0.05)

    def test_fact_4_two_readings_pass_a_number_and_say_that_they_tell_no_more(self) -> None:
        found = judged([(0, 170), (10, 240)])
        assert (found.kind, found.two_points) == ("tight", True)
        assert found.slope_pa_s * 60.0 / MICRON_PA == pytest.approx(7.0)
        assert found.slope_limit_pa_s * 60.0 / MICRON_PA == pytest.approx(9.0, abs=0.05)
        shown = isolated([(0, 170), (10, 240)])
        assert shown.verdict.word == "Holds"
        assert "do not tell moisture from leak" in shown.verdict.headline.show()

    def test_fact_4_steady_passes_as_soon_as_the_time_is_served(self) -> None:
        early = isolated([(0, 440), (5, 440)])
        assert early.verdict.word == "Wait"
        assert early.waiting is not None
        assert (early.waiting.until - early.waiting.since).total_seconds() == pytest.approx(600.0)
        assert isolated([(0, 440), (5, 440), (10, 440)]).verdict.word == "Holds"

    @pytest.mark.parametrize(("fahrenheit", "micron"), [(14, 1949), (32, 4585), (68, 17_547)])
    def test_what_water_holds_over_ice_and_water(self, fahrenheit: float, micron: float) -> None:
        """Tables of vapour pressure over ice and water (from memory)."""
        assert water_vapor_pa((fahrenheit + 459.67) / 1.8) / MICRON_PA == pytest.approx(micron, rel=2e-3)


def _levelling(seconds: Any, plateau: float, amount: float, tau: float) -> Any:
    return plateau - amount * numpy.exp(-numpy.asarray(seconds) / tau)


class TestPracticesOwnCases:
    """Common practice, no source."""

    def test_two_gauges_that_disagree_mean_a_closed_port_and_no_moisture_verdict(self) -> None:
        found = vacuum([(0, "pump"), (30, "isolated")], [(30, 5000.0), (34, 5000.0), (40, 5000.0, 380.0)])
        assert found.verdict.word == "Wait"
        assert rules(found)["vacuum.port"] == "Wait"
        assert "vacuum.decay" not in rules(found)

    def test_a_large_vessel_that_levels_off_above_the_limit_is_moist(self) -> None:
        """3 m³: 350 to 1,100 in four hours, 2,100 next morning and level for two hours, read every half hour."""
        dice = random.Random(4)
        rows = [(30.0 * n, 350 + 750 * n / 8 if n <= 8 else min(2100.0, 1100 + 1000 * (n - 8) / 24)) for n in range(37)]
        noisy = [(m, p + dice.gauss(0, 5) * (m > 0)) for m, p in rows]
        assert judged(noisy, 3000.0, 720.0).kind == "moist"
        only_morning = [row for row in noisy if row[0] <= 240 or row[0] >= 960]
        assert judged(only_morning, 3000.0, 720.0).kind == "moist"
        exponential = [(30.0 * n, 2110 - 1760 * math.exp(-n / 10) + dice.gauss(0, 10) * (n > 0)) for n in range(50)]
        assert judged(exponential, 3000.0, 720.0).kind == "moist"

    @pytest.mark.parametrize("rise", [0.0, 60.0, 200.0])
    def test_level_for_half_a_day_is_tight_and_dry(self, rise: float) -> None:
        dice = random.Random(5)
        rows = [(0.0, 255.0)] + [(30.0 * n, 255 + rise * (1 - math.exp(-n / 2)) + dice.gauss(0, 2)) for n in range(1, 25)]
        assert max(p for _, p in rows) < 500
        assert judged(rows, 3000.0, 720.0).kind == "tight"

    def test_a_peak_that_falls_back_is_equalizing(self) -> None:
        found = judged([(0, 435), (1, 564), (2, 510), (3, 440)])
        assert found.kind == "equalizing"
        assert judged([(0, 435), (1, 564), (3, 440), (5, 440)]).kind == "cannot tell yet"
        assert judged([(0, 435), (1, 564), (3, 440), (5, 440), (8, 440), (10, 441)]).kind == "tight"

    def test_stopping_on_the_way_is_no_pass(self) -> None:
        found = vacuum([(0, "pump")], [(35, 698), (78, 576)])
        assert found.verdict.word == "Wait"
        assert found.verdict.headline.show() == "At least 32 min more to 500 micron, or never: look for what is holding it up."
        assert len(found.drawn(EvacuatePicture).causes) == 5
        assert found.drawn(EvacuatePicture).causes[0].speaks_for
        stopped = vacuum([(0, "pump"), (79, "isolated")], [(35, 698), (78, 576), (79, 576), (89, 590)])
        assert "Isolated at 576 micron, above 500 micron" in stopped.verdict.headline.show()

    def test_an_isolation_that_was_none(self) -> None:
        assert judged([(0, 400), (2, 380), (4, 350), (8, 300)]).kind == "still pulling"


def peaked(per_min: float, every: float, until: float, *, falls_min: float = 4.0, high: float = 170.0) -> list[tuple[float, float]]:
    """A gauge near the pump: a peak within half a minute that comes down into the room behind, over a leak; no scatter."""
    count = int(until / every) + 1
    minutes = [n * every for n in range(count)]
    return [(m, 300 + high * (math.exp(-m / falls_min) - math.exp(-m / 0.2)) + per_min * m) for m in minutes]


class TestWhatAPeakHides:
    """10 L may climb 9 micron a minute; twice that climbs unseen while a peak comes down by as much."""

    @pytest.mark.parametrize("every", [0.1, 0.5, 2.0])
    @pytest.mark.parametrize("falls", [2.0, 4.0, 6.0])
    def test_a_leak_behind_it_does_not_pass(self, every: float, falls: float) -> None:
        for minutes in (10, 12, 15, 20, 30):
            assert judged(peaked(18.0, every, minutes, falls_min=falls)).kind != "tight"
        assert judged(peaked(18.0, every, 40, falls_min=falls)).kind in {"leaking", "leaking and moist", "cannot tell yet"}

    @pytest.mark.parametrize("every", [0.1, 0.5, 2.0])
    def test_a_tight_one_passes_once_the_slope_after_it_is_known(self, every: float) -> None:
        assert judged(peaked(0.0, every, 30)).kind == "tight"

    def test_typed_seldom_a_fall_nobody_saw_may_hide_as_much(self) -> None:
        """Read at 3, 5, 8 and 10 minutes it stands nearly level; before that nobody looked."""
        rows = [(0.0, 300.0), (3.0, 438.0), (5.0, 439.0), (8.0, 468.0), (10.0, 495.0)]
        assert judged(rows).kind == "cannot tell yet"
        assert judged([(0.0, 300.0), (3.0, 420.0), (5.0, 421.0), (8.0, 420.0), (10.0, 421.0)]).kind == "cannot tell yet"
        longer = [(0.0, 300.0), *((float(m), 420.0 + 0.1 * m) for m in (3, 5, 8, 10, 15, 20, 25, 30, 35))]
        assert judged(longer).kind == "tight"

    def test_a_log_that_only_falls_proves_nothing_yet(self) -> None:
        rows = [(0.0, 300.0), (1.0, 420.0), (3.0, 409.0), (5.0, 402.0), (8.0, 396.0), (10.0, 394.0)]
        assert judged(rows).kind in {"equalizing", "cannot tell yet"}

    def test_two_ends_prove_nothing_of_what_fell_between_them(self) -> None:
        assert judged([(0, 480), (10, 440)]).kind in {"equalizing", "cannot tell yet"}
        assert judged([(0, 480), (12, 470), (20, 440)]).kind == "still pulling"
        assert judged([(0, 450), (3, 380), (6, 400), (10, 440)]).kind == "cannot tell yet"
        assert judged([(0, 440), (10, 435)]).kind == "tight"  # no more than the gauge scatters

    def test_more_readings_do_not_undo_what_two_have_passed(self) -> None:
        assert judged([(0, 170), (10, 240)]).kind == "tight"
        assert judged([(0, 170), (5, 210), (10, 240)]).kind == "tight"
        assert judged([(0, 170), (3, 195), (6, 218), (10, 240)]).kind == "tight"
        against = [(0, 170), (2, 172), (4, 175), (6, 180), (8, 210), (10, 240), (12, 280)]
        assert judged(against).kind != "tight"  # the last of them climb by far more than two ends say

    def test_a_leak_that_climbs_by_hundreds_is_no_moisture(self) -> None:
        """Into the room behind: the gauge is steep first and then as steep as the leak; or far above what any water holds."""
        steep = [(m / 2, 300 + 250 * m / 2 + 900 * (1 - math.exp(-m / 6))) for m in range(61)]
        assert judged(steep[:25]).kind != "moist"
        assert judged(steep).kind.startswith("leaking")
        no_water = [(m / 2, 300 + 60_000 * (1 - math.exp(-m / 8))) for m in range(33)]
        assert judged(no_water).kind != "moist"


class TestSchoolsAndSetUp:
    def test_the_school_decides_what_a_rise_may_reach(self) -> None:
        rise = [(0, 400), (2, 560), (4, 640), (6, 680), (8, 700), (10, 705), (12, 708), (14, 709), (16, 710), (18, 710)]
        assert isolated(rise).verdict.word == "Wait"
        assert "moisture" in isolated(rise).verdict.headline.show()
        thousand = Profile(choices={"vacuum.proof": "thousand"})
        assert isolated(rise, profile=thousand).verdict.word == "Holds"
        deep = Profile(choices={"vacuum.proof": "deep"})
        assert "above 250 micron" in isolated(rise, profile=deep).verdict.headline.show()

    def test_a_large_volume_is_watched_longer_and_a_guessed_one_counts_at_its_upper_end(self) -> None:
        level = [(0, 300), (4, 300), (8, 300), (12, 300)]
        assert judged(level, 10.0).kind == "tight"
        assert judged(level, 300.0).kind == "cannot tell yet"
        climbing = [(0.5 * n, 300 + 6 * 0.5 * n) for n in range(31)]
        assert judged(climbing, 10.0).kind == "tight"
        assert judged(climbing, 10.0, band=2.0).kind == "cannot tell yet"

    @pytest.mark.parametrize(
        ("more", "rule", "word"),
        [
            ({"energized": False}, "vacuum.power", "Stop"),
            ({"valves_open": False}, "vacuum.valves", "Wait"),
            ({"place": "pump"}, "vacuum.place", "Wait"),
            ({"place": "manifold", "path_proven": False}, "vacuum.place", "Wait"),
            ({"compound_only": True}, "vacuum.compound", "Wait"),
            ({"wet": True}, "vacuum.pulls", "Open"),
        ],
    )
    def test_what_must_be_right_before_the_pump_starts(self, more: dict[str, Any], rule: str, word: str) -> None:
        assert rules(isolated([(0, 440), (10, 440)], **more))[rule] == word

    def test_the_hold_comes_first_unless_the_school_says_otherwise(self) -> None:
        unheld = {**HELD, "readings": {}}
        assert rules(isolated([(0, 440), (10, 440)], before={"pressure_hold": unheld}))["vacuum.hold_first"] == "Open"
        leaks = {**HELD, "bubbles": "leaks"}
        assert rules(isolated([(0, 440), (10, 440)], before={"pressure_hold": leaks}))["vacuum.leaks"] == "Wait"
        replaces = Profile(choices={"vacuum.replaces_hold": "yes"})
        assert rules(isolated([(0, 440), (10, 440)], before={"pressure_hold": unheld}, profile=replaces))["vacuum.hold_first"] == "Open"

    def test_a_pull_that_ends_worse_than_the_one_before_names_a_port_that_closed(self) -> None:
        """2,500 micron in the first night, 5,000 in the second: not the pump, not the water (common practice, no source)."""
        events = [(0, "pump"), (600, "nitrogen"), (640, "pump")]
        first = [(60, 9000.0), (300, 3000.0), (590, 2500.0)]
        worse = vacuum(events, [*first, (700, 9000.0), (900, 5200.0), (1300, 5050.0), (1500, 5000.0)], volume="3400 L")
        assert worse.drawn(EvacuatePicture).causes[0].id == "port"
        alike = vacuum(events, [*first, (700, 9000.0), (900, 3000.0), (1300, 2550.0), (1500, 2500.0)], volume="3400 L")
        assert "port" not in [cause.id for cause in alike.drawn(EvacuatePicture).causes]

    def test_a_school_watches_a_large_machine_for_a_whole_day(self) -> None:
        day, night = (Profile(choices={"vacuum.watch": school}) for school in ("day", "overnight"))
        large, small = Volume(0.43, 1.0, "measured"), Volume(0.005, 1.0, "measured")
        assert watched_for(large, day, "chiller") == 86_400.0
        assert watched_for(large, night, "chiller") == 43_200.0
        assert watched_for(small, day, "split") == watched_for(small, night, "split") == 600.0

    def test_28_inches_at_a_thousand_feet_are_far_from_dry(self) -> None:
        """28.0 inHg at 1,000 ft is 21,700 micron (common practice, no source)."""
        plate = {"altitude": "1000 ft"}
        found = isolated([(0, 440), (10, 440)], compound_only=True, plate={**UNIT, **plate})
        assert "217" in said(found, "vacuum.compound")

    def test_advice_names_what_makes_the_pull_faster(self) -> None:
        found = vacuum([(0, "pump")], [], cores_out=False, hose_bore="1/2 in", hose_length="2 ft", pump_speed="10 cfm")
        assert any("valve cores out it is" in m.show() for m in found.drawn(EvacuatePicture).notes)
        narrow = vacuum([(0, "pump")], [], hose_bore="3/16 in", hose_length="5 ft")
        texts = [m.show() for m in narrow.drawn(EvacuatePicture).notes]
        assert any("1/2 in inside" in t for t in texts)

    def test_three_pulls_walk_through_their_plan(self) -> None:
        events = [(0, "pump"), (20, "nitrogen"), (30, "pump"), (45, "nitrogen"), (55, "pump"), (80, "isolated")]
        found = vacuum(events, [(20, 1700), (45, 980), (80, 300), (82, 310), (84, 312)], method="triple")
        assert [row.state for row in found.drawn(EvacuatePicture).plan] == ["done"] * 5 + ["now"]
        first = vacuum(events[:2], [(20, 1700)], method="triple")
        assert [row.state for row in first.drawn(EvacuatePicture).plan][:3] == ["done", "now", "later"]
        assert "rests" in first.verdict.headline.show()
        sweep = vacuum([(0, "pump"), (10, "sweep"), (20, "pump")], [(10, 1700), (21, 9000), (23, 4000)], method="sweep")
        assert [row.state for row in sweep.drawn(EvacuatePicture).plan] == ["done", "done", "now", "later"]

    def test_the_ballast_is_shut_on_the_way(self) -> None:
        found = vacuum([(0, "pump"), (0.1, "ballast_open")], [(10, 9000), (15, 2500)])
        assert rules(found)["vacuum.ballast"] == "Wait"
        shut = vacuum([(0, "pump"), (0.1, "ballast_open"), (14, "ballast_shut")], [(10, 9000), (15, 2500)])
        assert "vacuum.ballast" not in rules(shut)

    def test_a_plateau_above_what_water_holds_is_not_water_alone(self) -> None:
        rise = [(0, 400), *((m, 2600 - 2200 * math.exp(-m / 4)) for m in range(2, 21, 2))]
        found = isolated(rise, coldest="14 °F")
        assert "Water at 14.0 °F holds 1949 micron at most" in said(found, "vacuum.ceiling")
        assert "refrigerant from the oil" in said(found, "vacuum.ceiling")

    def test_a_gauge_at_its_floor_is_said(self) -> None:
        found = isolated([(0, 20), (5, 20), (10, 20)], gauge_floor="20 micron")
        assert rules(found)["vacuum.gauge_floor"] == "Open"


def test_weighing_in_waits_for_a_vacuum_that_leaks_and_only_remarks_on_one_not_proven() -> None:
    done = {"recover": RECOVERED, "repair": REPAIRED, "pressure_hold": HELD}
    climbs = [(30 + minute, 300.0 + 60.0 * minute) for minute in range(16)]
    short, proven = [(30, 440), (35, 440)], [(30, 440), (35, 440), (40, 440)]
    for readings, wanted in ((climbs, {"weigh_in.vacuum"}), (short, {"weigh_in.vacuum_open"}), (proven, set())):
        sheets = {**done, "evacuate": vacuum_sheet([(0, "pump"), (30, "isolated")], readings)}
        weigh = findings(UNIT, {"system_state": "empty"}, kind="service", sheets=sheets).step("weigh_in")
        assert {rule for rule in rules(weigh) if rule.startswith("weigh_in.vacuum")} == wanted


def test_limits_are_refused() -> None:
    with pytest.raises(OutOfRange):
        judged([(0, 300)], 0.0)
    with pytest.raises(OutOfRange):
        evacuation.judge([], 0.01, limits())
    with pytest.raises(InvalidInput):
        group([(0.0, 1.0)], NOISE)
    with pytest.raises(OutOfRange):
        water_vapor_pa(100.0)


@pytest.mark.parametrize("seed", range(6))
def test_a_leak_twice_the_limit_is_never_passed_and_a_tight_one_never_called_leaking(seed: int) -> None:
    dice = random.Random(seed)
    for litres in (4.0, 10.0, 60.0):
        climb = 2.0 * 2e-4 / (litres / 1e3) * 60.0 / MICRON_PA
        for slope, wrong in ((climb, "tight"), (0.0, "leaking")):
            rows = [(0.0, 300.0)]
            rows += [(m / 2, 300 + slope * m / 2 + 40 * (1 - math.exp(-m / 8)) + dice.gauss(0, 4)) for m in range(1, 40)]
            assert judged(rows, litres).kind != wrong


def test_both_takes_seven_readings() -> None:
    rows = [(m, 300 + 20 * m + 400 * (1 - math.exp(-m / 3))) for m in range(2, 8)]
    assert judged([(0, 300), *rows]).both_fit is None
    assert judged([(0, 300), *rows, (9, 860), (10, 880)]).both_fit is not None
    assert fit_both(group([(m * 60.0, p * MICRON_PA) for m, p in [*rows, (9, 860), (10, 880)]], NOISE)).rate_pa_s >= 0.0
