"""Figures of the charge written out by hand, and each side of every edge."""

from math import pi, sqrt

import pytest
from CoolProp.CoolProp import PropsSI

from yoshi_core import refrigerants
from yoshi_core.account import weighing
from yoshi_core.charge import cylinders, line_set, oil_change, recovery, room_limits, stall, tubing, weigh_in
from yoshi_core.charge.oil_change import Turn
from yoshi_core.charge.total import Adjustment, LineRun, Nameplate, total_charge
from yoshi_core.charge.volume import Volume
from yoshi_core.charge.weigh_in import Source
from yoshi_core.profile.profile import Profile
from yoshi_core.units.quantities import INCH_M, LB_KG, PSI_PA

AIR_PA = 101_325.0


def test_however_full_it_may_be_filled_heat_must_not_fill_it() -> None:
    """A tenth more than eight tenths of R-134a at 25 °C would be all liquid at 55 °C (CoolProp's densities)."""
    hot, cool = (PropsSI("D", "T", t + 273.15, "Q", 0, "R134a") for t in (55.0, 25.0))
    assert 0.8 * cool < 0.99 * hot < 0.95 * cool
    assert cylinders.fill_limit_kg("R-134a", 20.0) == pytest.approx(0.8 * cool * 20.0 / 999.02, rel=2e-3)
    assert cylinders.fill_limit_kg("R-134a", 20.0, 0.95) == pytest.approx(0.99 * hot * 20.0 / 999.02, rel=2e-3)


def test_what_a_metre_of_line_holds_piece_by_piece() -> None:
    """3/8 and 3/4 in tube of 0.032 and 0.035 in wall, liquid at 100 °F, vapour 10 °F over a dew point of 45 °F."""
    found = line_set.allowance("R-134a", 0.375 * INCH_M, 0.75 * INCH_M)
    bores = [(od - 2 * wall) * INCH_M for od, wall in ((0.375, 0.032), (0.75, 0.035))]
    assert (found.liquid_area_m2, found.suction_area_m2) == pytest.approx([pi / 4 * bore**2 for bore in bores])
    dew = PropsSI("P", "T", (45 + 459.67) / 1.8, "Q", 1, "R134a")
    assert found.liquid_kg_m3 == pytest.approx(PropsSI("D", "T", (100 + 459.67) / 1.8, "Q", 0, "R134a"), rel=2e-3)
    assert found.suction_kg_m3 == pytest.approx(PropsSI("D", "T", (55 + 459.67) / 1.8, "P", dew, "R134a"), rel=5e-3)
    assert found.liquid_kg_m == pytest.approx(found.liquid_kg_m3 * found.liquid_area_m2)
    assert found.suction_kg_m == pytest.approx(found.suction_kg_m3 * found.suction_area_m2)
    assert line_set.allowance_kg_per_m("R-134a", 0.375 * INCH_M, 0.75 * INCH_M) == found.total_kg_m
    assert line_set.allowance_kg_per_m("R-134a", 0.375 * INCH_M) == found.liquid_kg_m
    cooler = line_set.allowance_kg_per_m("R-134a", 0.375 * INCH_M, liquid_k=290.0)
    assert cooler == pytest.approx(found.liquid_area_m2 * PropsSI("D", "T", 290.0, "Q", 0, "R134a"), rel=2e-3)


def test_a_vapour_line_holds_more_in_heating_than_in_cooling() -> None:
    hot_pa = PropsSI("P", "T", (105 + 459.67) / 1.8, "Q", 1, "R134a")
    hot = PropsSI("D", "T", (150 + 459.67) / 1.8, "P", hot_pa, "R134a")
    cold = line_set.allowance("R-134a", 0.375 * INCH_M, 0.75 * INCH_M).suction_kg_m3
    area = tubing.inside_area_m2(0.75 * INCH_M)
    assert line_set.hot_gas_more_kg_m("R-134a", 0.75 * INCH_M) == pytest.approx((hot - cold) * area, rel=1e-2)


@pytest.mark.parametrize(
    ("limit", "left", "drained", "times"), [(0.05, 1.0, 0.75, 3), (0.0625, 1.0, 0.75, 2), (0.25, 1.0, 0.75, 1), (0.05, 0.06, 0.5, 1)]
)
def test_how_many_more_oil_changes(limit: float, left: float, drained: float, times: int) -> None:
    """Each leaves a quarter: 25, 6.25, 1.6 %; what lands just on the limit needs no more."""
    assert oil_change.changes_to(limit, left, drained) == times


def test_old_oil_left_by_dilution_or_as_read() -> None:
    assert oil_change.left_share([]) == 1.0
    assert oil_change.left_share([Turn(0.75), Turn(0.75)]) == pytest.approx(0.0625)
    assert oil_change.left_share([Turn(0.75), Turn(None)]) is None
    assert oil_change.left_share([Turn(None), Turn(0.75)]) is None
    assert oil_change.left_share([Turn(None, 0.08), Turn(0.5)]) == pytest.approx(0.04)
    assert oil_change.left_share([Turn(0.5, 0.3)]) == 0.3


class TestRecoveryLevels:
    """40 CFR 82.156 (from memory): inches of mercury counted down from 29.9."""

    @pytest.mark.parametrize(
        ("refrigerant", "pounds", "inhg"),
        [
            ("R-134a", 199.0, 10.0),
            ("R-134a", 200.0, 15.0),
            ("R-32", 199.0, 0.0),
            ("R-32", 200.0, 0.0),
            ("R-22", 199.0, 0.0),
            ("R-22", 200.0, 10.0),
        ],
    )
    def test_by_class_and_size(self, refrigerant: str, pounds: float, inhg: float) -> None:
        found = recovery.level(refrigerant, pounds * LB_KG)
        wanted = (29.9 - inhg) * 3386.389
        assert found.absolute_pa == pytest.approx(min(wanted, AIR_PA))
        assert found.gauge_pa == pytest.approx(min(wanted - AIR_PA, 0.0))
        assert (found.share, found.source) == (None, "40 CFR 82.156 (from memory)")

    def test_a_low_pressure_machine_goes_to_25_mm_of_mercury(self) -> None:
        assert recovery.level("R-123", 300.0).absolute_pa == pytest.approx(25 * 133.322)

    def test_on_a_mountain_the_gauge_reads_zero_at_the_most(self) -> None:
        """At 2,100 m the air is at 78.5 kPa, so 0 inHg by the rule is above it."""
        found = recovery.level("R-410A", 5.0, 2100.0)
        assert found.gauge_pa == 0.0
        assert found.absolute_pa == pytest.approx(AIR_PA * (1 - 2.25577e-5 * 2100) ** 5.25588, rel=1e-4)
        sealed = recovery.level("R-134a", 50.0, 2100.0, "sealed")
        assert sealed.gauge_pa == pytest.approx(19.9 * 3386.389 - AIR_PA)

    @pytest.mark.parametrize(("runs", "share"), [(True, 0.90), (False, 0.80)])
    def test_a_small_appliance(self, runs: bool, share: float) -> None:
        found = recovery.level("R-134a", 0.5, small_appliance=True, compressor_runs=runs)
        assert found.share == share
        assert found.absolute_pa == pytest.approx(25.9 * 3386.389)
        assert found.gauge_pa == pytest.approx(25.9 * 3386.389 - AIR_PA)
        assert found.source == "40 CFR 82.156 (from memory)"
        high = recovery.level("R-134a", 0.5, 3000.0, small_appliance=True)
        assert high.gauge_pa == 0.0
        assert recovery.level("R-134a", 0.5, small_appliance=True).share == 0.80

    def test_classes(self) -> None:
        classes = {name: recovery.pressure_class(name) for name in ("R-123", "R-134a", "R-22", "R-410A", "R-32")}
        assert classes == {"R-123": "low", "R-134a": "medium", "R-22": "high", "R-410A": "high", "R-32": "very_high"}


def test_cylinders_needed_one_after_the_other() -> None:
    assert recovery.cylinders_needed(10.0, (5.0, 5.0)) == 2
    assert recovery.cylinders_needed(10.0 + 9e-10, (5.0, 5.0, 1.0)) == 2
    assert recovery.cylinders_needed(10.0 + 2e-9, (5.0, 5.0, 1.0)) == 3
    assert recovery.cylinders_needed(10.1, (5.0, 5.0)) is None
    assert recovery.cylinders_needed(0.0, ()) is None


def test_what_will_come_out() -> None:
    assert recovery.expected_kg(10.0, "undercharge") == pytest.approx((4.0, 9.5))
    assert recovery.expected_kg(10.0, "overcharge") == pytest.approx((10.2, 13.5))
    assert recovery.expected_kg(10.0, "healthy") == pytest.approx((9.5, 10.5))
    for unknown in (None, "", "low_airflow"):
        assert recovery.expected_kg(10.0, unknown) == pytest.approx((7.0, 11.0))
    assert recovery.expected_kg(10.0, "healthy", 2.0) == pytest.approx((1.0, 3.0))
    found = recovery.recovered_share(3.0, 4.0)
    assert (found.share, found.missing_kg) == (0.75, 1.0)


def test_room_of_a_cylinder_with_another_share() -> None:
    most = cylinders.fill_limit_kg("R-410A", 20.0, 0.7)
    found = recovery.room("R-410A", 20.0, 10.0, 5.0, 0.7)
    assert (found.most_net_kg, found.room_kg, found.stop_gross_kg) == (most, most - 5.0, 10.0 + most)
    assert recovery.room("R-410A", 20.0, 10.0, most + 1.0, 0.7).room_kg == 0.0


def test_where_liquid_alone_fills_it() -> None:
    kg = 20.0 / 999.02 * PropsSI("D", "T", 330.0, "Q", 0, "R134a")
    found = recovery.liquid_full_k("R-134a", 20.0, kg)
    assert found == pytest.approx(330.0, abs=0.1)
    assert recovery.liquid_full_k("R-134a", 20.0, 0.1) is None


class TestRooms:
    """IEC 60335-2-40 (from memory), with propane's lower limit of 0.038 kg/m³."""

    R290, R32, R134A = (refrigerants.get(name) for name in ("R-290", "R-32", "R-134a"))

    def test_free_and_ceiling(self) -> None:
        assert room_limits.free_kg(self.R290, Profile()) == pytest.approx(4.0 * 0.038)
        lfl = self.R32.lfl_kg_m3
        assert lfl is not None
        assert room_limits.free_kg(self.R32, Profile()) == pytest.approx(1.5 * 4.0 * lfl)
        assert room_limits.free_kg(self.R134A, Profile()) is None
        for mounting, height in (("floor", 0.6), ("window", 1.0), ("wall", 1.8), ("ceiling", 2.2)):
            ceiling = room_limits.ceiling_kg(self.R290, 20.0, mounting)
            assert ceiling == pytest.approx(2.5 * 0.038**1.25 * height * sqrt(20.0))
            assert room_limits.area_for_m2(self.R290, ceiling, mounting) == pytest.approx(20.0)

    def test_what_a_leak_leaves_to_breathe(self) -> None:
        assert room_limits.breathing_kg_m3(refrigerants.get("R-410A"), Profile()) == Profile().value("room.R-410A")
        assert room_limits.breathing_kg_m3(self.R290, Profile()) is None


class TestStall:
    def test_the_system_is_full_of_vapour_at_the_cylinders_pressure(self) -> None:
        pressure = PropsSI("P", "T", 295.0, "Q", 1, "R134a")
        density = PropsSI("D", "T", 305.0, "P", pressure, "R134a")
        assert stall.stall_kg("R-134a", 0.01, 305.0, 295.0) == pytest.approx(0.01 * density, rel=5e-3)
        assert stall.stall_kg("R-134a", 0.01, 294.9, 295.0) is None
        assert stall.stall_kg("R-134a", 0.01, 295.0 - 0.049, 295.0) == stall.stall_kg("R-134a", 0.01, 295.0, 295.0)

    def test_the_band_is_the_volumes_and_three_kelvin(self) -> None:
        volume = Volume(0.010, 1.5, "measured")
        found = stall.estimate("R-134a", volume, 305.0, 295.0)
        assert found is not None
        assert found.kg == stall.stall_kg("R-134a", 0.010, 305.0, 295.0)
        assert found.low_kg == stall.stall_kg("R-134a", 0.010 / 1.5, 305.0, 292.0)
        assert found.high_kg == stall.stall_kg("R-134a", 0.015, 305.0, 298.0)
        near = stall.estimate("R-134a", volume, 296.0, 295.0)
        assert near is not None
        assert near.high_kg == stall.stall_kg("R-134a", 0.015, 298.0, 298.0)
        assert stall.estimate("R-134a", volume, 290.0, 295.0) is None


class TestTotal:
    def test_the_plates_length_is_used_up_line_by_line(self) -> None:
        lines = [LineRun("l1", 4.0, 0.1), LineRun("l2", 5.0, 0.2)]
        found = total_charge(Nameplate(2.0, included_m=6.0), lines)
        assert [(part.id, part.extra_m) for part in found.parts[1:]] == [("l1", 0.0), ("l2", 3.0)]
        assert (found.total_kg, found.extra_length_m) == pytest.approx((2.6, 3.0))

    @pytest.mark.parametrize(("deduct", "kg"), [(False, 2.0), (True, 1.9)])
    def test_a_shorter_line_is_deducted_only_where_the_maker_says_so(self, deduct: bool, kg: float) -> None:
        lines = [LineRun("l1", 2.0, 0.1), LineRun("l2", 3.0, 0.1)]
        assert total_charge(Nameplate(2.0, included_m=6.0), lines, deduct_shorter=deduct).total_kg == pytest.approx(kg)

    def test_what_makes_the_uncertainty(self) -> None:
        lines = [LineRun("l1", 10.0, 0.1, 0.5, 0.01)]
        found = total_charge(Nameplate(2.0, 0.03, 4.0), lines, [Adjustment("p1", "drier", 0.04, 0.02)], scale_limit_kg=0.01)
        squares = [0.03, 0.5 * 0.1, 0.01 * 6.0, 0.02, 0.01]
        assert found.uncertainty_kg == pytest.approx(sqrt(sum(limit**2 / 3 for limit in squares)))
        assert [(limit.part, limit.kind, limit.label) for limit in found.limits()] == [
            ("l1", "allowance", "line"), ("l1", "length", "line"), ("plate", "plate", "plate"), ("p1", "part", "drier"), ("scale", "scale", "scale"),
        ]  # fmt: skip
        assert [limit.kg for limit in found.limits()] == pytest.approx(sorted(squares, reverse=True))
        left = sqrt(sum(limit**2 / 3 for limit in squares if limit != 0.06))
        assert found.without(found.limits()[0]) == pytest.approx(left)
        only = total_charge(Nameplate(2.0, 0.03))
        assert only.without(only.limits()[0]) == pytest.approx(0.0, abs=1e-9)
        assert (only.extra_length_m, only.scale_limit_kg, [part.kind for part in only.parts]) == (0.0, 0.0, ["plate"])
        covered = total_charge(Nameplate(2.0, 0.0, 10.0), [LineRun("l1", 10.0, 0.1, 0.5, 0.01)])
        assert covered.uncertainty_kg == 0.0
        short = total_charge(Nameplate(2.0, 0.0, 12.0), [LineRun("l1", 10.0, 0.1, 0.0, 0.01)], deduct_shorter=True)
        assert short.uncertainty_kg == pytest.approx(0.02 / sqrt(3))


class TestPlan:
    TOTAL = total_charge(Nameplate(5.0))

    def test_over_two_cylinders(self) -> None:
        sources = [Source("a", 12.0, 9.0, 0.02, 0.5), Source("b", 20.0, 9.0, 0.02)]
        found = weigh_in.plan(self.TOTAL, 1.0, sources, slow_share=0.2)
        first, second = found.takes
        assert (found.weigh_kg, found.short_kg, found.more) == (4.0, 0.0, 0)
        assert (first.take_kg, first.start_gross_kg, first.stop_gross_kg) == pytest.approx((2.48, 12.0, 9.5))
        assert (second.take_kg, second.stop_gross_kg) == pytest.approx((1.52, 20.0 - 1.52 - 0.02))
        assert first.slow_gross_kg - first.stop_gross_kg == pytest.approx(0.2 * 2.48)
        assert (first.counted_stop_kg, first.counted_slow_kg) == pytest.approx((-2.5, -2.5 + 0.2 * 2.48))
        assert found.now == first
        assert found.shown == first

    def test_what_a_cylinder_gave_counts_as_weighed(self) -> None:
        sources = [Source("a", 12.0, 9.0, given_kg=2.2), Source("b", 20.0, 9.0)]
        found = weigh_in.plan(self.TOTAL, 0.0, sources)
        assert [take.done for take in found.takes] == [True, False]
        assert found.takes[1].take_kg == pytest.approx(2.8)
        assert found.now == found.takes[1]
        assert found.short_kg == 0.0
        both = weigh_in.plan(self.TOTAL, 0.0, [sources[0], Source("b", 20.0, 9.0, given_kg=2.8)])
        assert both.now is None
        assert both.shown == both.takes[1]

    def test_a_cylinder_shut_early_still_counts_what_it_could_give(self) -> None:
        found = weigh_in.plan(self.TOTAL, 0.0, [Source("a", 14.0, 9.0, given_kg=2.0), Source("b", 10.0, 9.0)])
        assert found.short_kg == 0.0
        found = weigh_in.plan(self.TOTAL, 0.0, [Source("a", 12.0, 9.0, given_kg=2.0), Source("b", 10.0, 9.0)])
        assert found.short_kg == pytest.approx(1.0)
        assert found.more == 1
        over = weigh_in.plan(self.TOTAL, 0.0, [Source("a", 10.0, 9.0, given_kg=1.5), Source("b", 10.0, 9.0)])
        assert over.short_kg == pytest.approx(2.5)

    @pytest.mark.parametrize(("short", "more"), [(2.0, 1), (2.0001, 2), (4.0, 2)])
    def test_more_cylinders_like_the_last(self, short: float, more: int) -> None:
        build_up = total_charge(Nameplate(2.0 + short))
        assert weigh_in.plan(build_up, 0.0, [Source("a", 11.0, 9.0)]).more == more

    def test_nothing_more_of_an_empty_one_or_of_none(self) -> None:
        assert weigh_in.plan(self.TOTAL, 0.0, [Source("a", 9.0, 9.0)]).more == 0
        found = weigh_in.plan(self.TOTAL, 0.0)
        assert (found.takes, found.short_kg, found.more, found.now, found.shown) == ((), 5.0, 0, None, None)
        take_out = weigh_in.plan(self.TOTAL, 6.0, [Source("a", 12.0, 9.0, 0.02)])
        assert (take_out.weigh_kg, take_out.short_kg, take_out.more) == (-1.0, 0.0, 0)
        assert take_out.takes[0].stop_gross_kg == 12.0

    def test_a_billionth_of_a_kilogram_is_not_short(self) -> None:
        for over, short in ((9e-10, 0.0), (2e-9, pytest.approx(2e-9, rel=1e-3))):
            assert weigh_in.plan(total_charge(Nameplate(2.0 + over)), 0.0, [Source("a", 11.0, 9.0)]).short_kg == short

    def test_the_order_of_cylinders(self) -> None:
        new, back, done = Source("n", 11.0, 9.0), Source("r", 11.0, 9.0, contents="recovered"), Source("d", 11.0, 9.0, given_kg=1.0)
        assert [s.id for s in weigh_in.in_order([new, back, done], "recovered")] == ["d", "r", "n"]
        assert [s.id for s in weigh_in.in_order([back, done, new], "new")] == ["d", "n", "r"]

    def test_what_reached_the_system(self) -> None:
        assert weighing.weighed_in_kg(14.0, 9.5, 0.02) == pytest.approx(4.48)
        assert weighing.weighed_in_kg(14.0, 14.0, 0.02) == 0.0
        assert weighing.weighed_in_kg(14.0, 14.0 - 1.01e-9, 0.0) == pytest.approx(1.01e-9, rel=1e-2)
        assert weighing.weighed_in_kg(14.0, 14.0 - 0.9e-9, 0.0) == 0.0


def test_tube_walls_and_areas() -> None:
    assert tubing.wall_m(0.375 * INCH_M) == pytest.approx(0.032 * INCH_M)  # ASTM B280, from memory
    assert tubing.wall_m(0.00952) == pytest.approx(0.00081, abs=2e-5)
    assert tubing.inside_area_m2(0.01, 0.001) == pytest.approx(pi / 4 * 0.008**2)
    assert recovery.CLASS_LIMITS_PSIA[0][0] * PSI_PA > 0
