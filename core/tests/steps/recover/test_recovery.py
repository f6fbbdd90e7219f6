"""Recovery and leak rates against worked cases and published levels (from memory where said)."""

from datetime import date

import pytest

from yoshi_core.charge import cylinders, recovery
from yoshi_core.charge.recovery import INHG_PA
from yoshi_core.errors import OutOfRange
from yoshi_core.leaks import rate as leak_rate
from yoshi_core.leaks.rate import Addition
from yoshi_core.properties.atmosphere import site_pressure_pa
from yoshi_core.units.quantities import FAHRENHEIT_K, LB_KG, OZ_KG, ZERO_FAHRENHEIT_K


def in_f(kelvin: float) -> float:
    return (kelvin - ZERO_FAHRENHEIT_K) / FAHRENHEIT_K


class TestCylinder:
    @pytest.mark.parametrize(
        ("name", "water_lb", "most_lb"),
        [("R-454B", 26.2, 20.69), ("R-134a", 47.7, 46.09), ("R-407C", 29.7, 27.05), ("R-410A", 47.7, 40.44)],
    )
    def test_the_most_it_may_hold(self, name: str, water_lb: float, most_lb: float) -> None:
        """AHRI Guideline K (from memory) on CoolProp's liquid densities."""
        assert cylinders.fill_limit_kg(name, water_lb * LB_KG) / LB_KG == pytest.approx(most_lb, abs=0.1)

    def test_room_and_the_scale_s_reading_at_the_limit(self) -> None:
        """27 lb 2 oz to 32 lb 5 oz is 5 lb 3 oz recovered (common practice, no source)."""
        found = recovery.room("R-410A", 47.7 * LB_KG, 28 * LB_KG, 10 * LB_KG)
        assert found.room_kg / LB_KG == pytest.approx(30.44, abs=0.1)
        assert found.stop_gross_kg / LB_KG == pytest.approx(68.44, abs=0.1)
        assert pytest.approx((5 * 16 + 3) * OZ_KG) == ((32 * 16 + 5) - (27 * 16 + 2)) * OZ_KG

    def test_a_second_cylinder_is_asked_for_before_the_first_is_opened(self) -> None:
        """12 lb of R-410A into a 26.2 lb water-capacity cylinder that holds 15 lb."""
        free = recovery.room("R-410A", 26.2 * LB_KG, 13 * LB_KG, 15 * LB_KG).room_kg
        assert recovery.cylinders_needed(12 * LB_KG, (free,)) is None
        assert recovery.cylinders_needed(12 * LB_KG, (free, 30 * LB_KG)) == 2
        assert recovery.cylinders_needed(5 * LB_KG, (free,)) == 1

    @pytest.mark.parametrize(("name", "full_f"), [("R-410A", 134.5), ("R-404A", 136.0), ("R-32", 141.0)])
    def test_when_liquid_alone_fills_it(self, name: str, full_f: float) -> None:
        """Filled to 80 % at 25 °C (common practice, CoolProp's densities)."""
        water = 47.7 * LB_KG
        found = recovery.liquid_full_k(name, water, cylinders.fill_limit_kg(name, water))
        assert found is not None
        assert in_f(found) == pytest.approx(full_f, abs=1.5)

    def test_a_little_in_it_never_fills_it(self) -> None:
        assert recovery.liquid_full_k("R-410A", 47.7 * LB_KG, 2 * LB_KG) is None

    def test_less_than_nothing_in_it_is_refused(self) -> None:
        with pytest.raises(OutOfRange, match="check its tare"):
            recovery.room("R-410A", 20.0, 10.0, -0.1)


class TestLevel:
    @pytest.mark.parametrize(("inches", "altitude", "vacuum"), [(10.0, 0.0, 10.02), (10.0, 2100.0, 3.28), (15.0, 1600.0, 9.76)])
    def test_inches_become_what_the_site_s_gauge_reads(self, inches: float, altitude: float, vacuum: float) -> None:
        wanted = recovery.vacuum_absolute_pa(inches)
        assert wanted / INHG_PA == pytest.approx(29.9 - inches, abs=0.05)
        assert (site_pressure_pa(altitude) - wanted) / INHG_PA == pytest.approx(vacuum, abs=0.05)

    @pytest.mark.parametrize(
        ("name", "kind"),
        [("R-123", "low"), ("R-134a", "medium"), ("R-22", "high"), ("R-410A", "high"), ("R-32", "very_high"), ("R-404A", "high")],
    )
    def test_classes(self, name: str, kind: str) -> None:
        """40 CFR 82.152 (from memory): R-32 is 359 psia at 104 °F, just over the high class."""
        assert recovery.pressure_class(name) == kind

    @pytest.mark.parametrize(
        ("name", "charge_lb", "inches"),
        [("R-32", 500, 0.0), ("R-22", 20, 0.0), ("R-22", 200, 10.0), ("R-134a", 20, 10.0), ("R-134a", 318, 15.0)],
    )
    def test_by_class_and_size(self, name: str, charge_lb: float, inches: float) -> None:
        found = recovery.level(name, charge_lb * LB_KG)
        expected = min(recovery.vacuum_absolute_pa(inches), site_pressure_pa(0.0))
        assert found.absolute_pa == pytest.approx(expected)
        assert found.share is None

    def test_a_low_pressure_chiller_goes_to_25_mmhg(self) -> None:
        assert recovery.level("R-123", 500.0).absolute_pa == pytest.approx(25 * 133.322)

    def test_a_level_above_the_site_s_air_is_zero_on_its_gauge(self) -> None:
        """0 inHg at 2,100 m would be +3.3 psig: go to 0 psig all the same."""
        found = recovery.level("R-22", 5.0, 2100.0)
        assert found.gauge_pa == 0.0
        assert found.absolute_pa == pytest.approx(site_pressure_pa(2100.0))

    def test_a_small_appliance_by_share_or_by_four_inches(self) -> None:
        running, stopped = (recovery.level("R-134a", 0.5, small_appliance=True, compressor_runs=r) for r in (True, False))
        assert (running.share, stopped.share) == (0.90, 0.80)
        assert running.absolute_pa == pytest.approx(25.9 * INHG_PA)
        with pytest.raises(OutOfRange, match="5 lb or less"):
            recovery.level("R-134a", 5.0, small_appliance=True)

    def test_what_cannot_be_is_refused(self) -> None:
        for inches in (-1.0, 31.0):
            with pytest.raises(OutOfRange):
                recovery.vacuum_absolute_pa(inches)
        with pytest.raises(OutOfRange):
            recovery.level("R-22", 0.0)


class TestShare:
    @pytest.mark.parametrize(
        ("recovered_oz", "plate_oz", "share", "missing_oz"),
        [(14, 40, 0.35, 26), (14 * 16, 18 * 16, 0.778, 64), (4.7 * 16, 86, 0.874, 10.8), (160, 148, 1.081, -12)],
    )
    def test_against_what_belongs_there(self, recovered_oz: float, plate_oz: float, share: float, missing_oz: float) -> None:
        """Worked cases (common practice, no source); 10 lb out of a 9 lb 4 oz plate is 108 %."""
        found = recovery.recovered_share(recovered_oz * OZ_KG, plate_oz * OZ_KG)
        assert found.share == pytest.approx(share, abs=0.001)
        assert found.missing_kg / OZ_KG == pytest.approx(missing_oz, abs=0.01)

    def test_a_negative_weight_is_named(self) -> None:
        with pytest.raises(OutOfRange, match="swapped"):
            recovery.recovered_share(-0.1, 1.0)
        with pytest.raises(OutOfRange, match="no full charge"):
            recovery.recovered_share(1.0, 0.0)


class TestLeakRate:
    HISTORY = (Addition(date(2026, 2, 20), 4 * LB_KG), Addition(date(2026, 6, 20), 6 * LB_KG))

    def test_a_worked_case(self) -> None:
        """60 lb full; 4 lb on 20 February, 6 lb on 20 June: 30.42 % a year, 16.67 % rolling."""
        assert 100 * leak_rate.annualized_share(self.HISTORY, 60 * LB_KG) == pytest.approx(30.42, abs=0.05)
        assert 100 * leak_rate.rolling_share(self.HISTORY, 60 * LB_KG, date(2026, 6, 20)) == pytest.approx(16.67, abs=0.05)

    def test_same_day_additions_are_one_and_an_unknown_date_is_a_year(self) -> None:
        twice = (*self.HISTORY, Addition(date(2026, 6, 20), 2 * LB_KG))
        assert leak_rate.annualized_share(twice, 60 * LB_KG) == pytest.approx(8 / 60 * 365 / 120)
        assert leak_rate.annualized_share(self.HISTORY[:1], 60 * LB_KG) == pytest.approx(4 / 60)

    def test_a_day_apart_counts_a_day_and_ten_years_a_year(self) -> None:
        close = (Addition(date(2026, 6, 19), 1.0), Addition(date(2026, 6, 20), 1.0))
        assert leak_rate.annualized_share(close, 100.0) == pytest.approx(3.65)
        far = (Addition(date(2016, 6, 19), 1.0), Addition(date(2026, 6, 20), 1.0))
        assert leak_rate.annualized_share(far, 100.0) == pytest.approx(0.01)

    def test_a_repair_starts_the_rolling_year_anew_and_an_installation_does_not_count(self) -> None:
        since = leak_rate.rolling_share(self.HISTORY, 60 * LB_KG, date(2026, 6, 20), since=date(2026, 3, 1))
        assert since == pytest.approx(0.10)
        fresh = (Addition(date(2026, 1, 1), 60 * LB_KG, counts=False), *self.HISTORY)
        assert leak_rate.rolling_share(fresh, 60 * LB_KG, date(2026, 6, 20)) == pytest.approx(10 / 60)

    def test_an_ordinary_hold_sees_only_hundreds_of_ounces_a_year(self) -> None:
        """30 min on 8 L at 300 psig, clamps ±0.3 K: U is 0.9 psi, and so some hundreds of ounces of R-410A a year."""
        drop_psi = 2.0 * (0.1**2 / 6 + 2 * (314.7 * 0.3 / 295.0) ** 2) ** 0.5
        seen = drop_psi * 6894.757 * 0.008 / 1800.0
        band = leak_rate.as_refrigerant("R-410A", seen, 300 * 6894.757 + 101_325, 295.0)
        assert 100 < band.low_kg_year / OZ_KG < band.high_kg_year / OZ_KG < 1000
        assert band.high_kg_year / band.low_kg_year == pytest.approx(2.0)

    def test_nothing_leaks_out_of_a_machine_under_the_air_s_pressure(self) -> None:
        assert leak_rate.as_refrigerant("R-123", 1.0, 170e3, 288.0).high_kg_year == 0.0

    def test_what_cannot_be_is_refused(self) -> None:
        with pytest.raises(OutOfRange):
            leak_rate.annualized_share((), 10.0)
        with pytest.raises(OutOfRange, match="no full charge"):
            leak_rate.annualized_share(self.HISTORY, 0.0)
        with pytest.raises(OutOfRange, match="below zero"):
            leak_rate.rolling_share((Addition(date(2026, 1, 1), -1.0),), 10.0, date(2026, 6, 1))
        with pytest.raises(OutOfRange, match="above the air"):
            leak_rate.as_refrigerant("R-410A", 0.1, 101_325.0, 295.0)
