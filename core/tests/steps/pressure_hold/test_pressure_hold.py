"""The pressure hold: nitrogen by an outside equation of state, practice's own cases, and what must be said."""

from dataclasses import replace
from datetime import timedelta
from typing import Any

import pytest
from CoolProp.CoolProp import PropsSI

from tests.make import NOW, findings, kelvin
from tests.make_closed import HOLD, RECOVERED, REPAIRED, UNIT, hold, hold_sheet, rules, said
from tests.test_reference_worked_cases import cases
from yoshi_core.document.plate import Plate
from yoshi_core.errors import OutOfRange
from yoshi_core.findings.pictures import PressureHoldPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.profile.profile import Profile
from yoshi_core.properties.atmosphere import site_pressure_pa
from yoshi_core.steps import volumes
from yoshi_core.tight_and_dry import pressure_hold
from yoshi_core.tight_and_dry.pressure_hold import HoldSample, HoldTerms
from yoshi_core.units.quantities import OZ_KG, PSI_PA, YEAR_S

TERMS = HoldTerms(900.0, 900.0, 0.1 * PSI_PA, 0.3, 3.0, 294.26, 0.006)


def sample(minutes: float, psig: float, fahrenheit: float | None) -> HoldSample:
    return HoldSample(minutes * 60.0, psig * PSI_PA + 101_325.0, None if fahrenheit is None else kelvin(fahrenheit))


class TestReference:
    @pytest.mark.parametrize("case", cases("hold-"))
    def test_nitrogen_follows_its_real_isochore(self, case: dict[str, Any]) -> None:
        given, expect = case["given"], case["expect"]
        site = site_pressure_pa(given["altitude_m"])
        start = given["start_psig"] * PSI_PA + site
        found = pressure_hold.expected_pa(start, kelvin(given["start_f"]), kelvin(given["now_f"]))
        assert (found - site) / PSI_PA == pytest.approx(expect["expected_psig"], abs=case["tolerance"]["psi"])
        ideal = start * kelvin(given["now_f"]) / kelvin(given["start_f"])
        assert (ideal - site) / PSI_PA == pytest.approx(expect["ideal_psig"], abs=0.01)

    @pytest.mark.parametrize("psig", [20, 150, 350, 600])
    @pytest.mark.parametrize(("start_f", "end_f"), [(0, 30), (60, 95), (70, 67), (110, 120), (95, 40)])
    def test_nitrogen_by_the_reference_equation_of_state(self, psig: float, start_f: float, end_f: float) -> None:
        """CoolProp's nitrogen, at constant density."""
        start = psig * PSI_PA + 101_325.0
        density = PropsSI("D", "P", start, "T", kelvin(start_f), "Nitrogen")
        outside = PropsSI("P", "D", density, "T", kelvin(end_f), "Nitrogen")
        assert pressure_hold.expected_pa(start, kelvin(start_f), kelvin(end_f)) == pytest.approx(outside, abs=0.12 * PSI_PA)

    def test_fact_5_a_tenth_of_a_psi_is_no_proven_drop(self) -> None:
        found = pressure_hold.judge([sample(15, 116.9, 70), sample(24.5, 116.8, 70)], TERMS)
        assert found.kind == "short"
        assert found.drop is not None
        assert not found.drop.seen
        assert found.wait_s == pytest.approx(900.0 - 570.0)

    def test_fact_6_at_150_psig_and_85_degrees(self) -> None:
        start = 150.0 * PSI_PA + 101_325.0
        real = (pressure_hold.expected_pa(start, kelvin(70), kelvin(85)) - 101_325.0) / PSI_PA
        assert real == pytest.approx(154.8, abs=0.05)
        assert (start * kelvin(85) / kelvin(70) - 101_325.0) / PSI_PA == pytest.approx(154.7, abs=0.05)


class TestPracticesOwnCases:
    """Common practice, no source."""

    def test_the_fall_the_metal_explains_holds(self) -> None:
        found = hold([(15, 554.0, 70), (35, 550.5, 67)])
        assert found.verdict.word == "Holds", found.verdict.headline.show()
        assert "days until empty would not have shown" in found.verdict.headline.show()

    def test_the_same_fall_on_metal_that_stayed_stops(self) -> None:
        found = hold([(15, 554.0, 70), (35, 550.5, 70)])
        assert found.verdict.word == "Stop"
        assert rules(found)["hold.drop"] == "Stop"

    def test_nineteen_psi_in_a_quarter_of_an_hour_is_a_leak_with_its_rate(self) -> None:
        found = hold([(15, 466, 70), (30, 447, 70)])
        assert found.verdict.word == "Stop"
        low, high = found.figure("leak_low"), found.figure("leak_high")
        assert low is not None
        assert high is not None
        flow = 19.0 * PSI_PA * 0.006 / 900.0
        molar, gas = 0.0725854, 8.314462618
        reference = PropsSI("P", "T", kelvin(70), "Q", 1, "R410A")
        nitrogen = (456.5 * PSI_PA + 101_325.0) ** 2 - 101_325.0**2
        outside = flow * molar / (gas * kelvin(70)) * (reference**2 - 101_325.0**2) / nitrogen * 17.6 / 12.5 * YEAR_S / OZ_KG
        middle = (low.amount.value * high.amount.value) ** 0.5 * YEAR_S / OZ_KG
        assert middle == pytest.approx(outside, rel=0.02)

    def test_a_short_hold_waits_and_names_what_it_could_not_have_seen(self) -> None:
        found = hold([(15, 116.9, 70), (24.5, 116.8, 70)], test_pressure="117 psig")
        assert found.verdict.word == "Wait"
        assert "days until empty would not have shown" in said(found, "hold.unseen")
        assert found.waiting is not None
        assert found.waiting.decides == "whether it holds"
        assert (found.waiting.until - NOW).total_seconds() == pytest.approx(330.0, abs=1.0)

    def test_without_a_clamp_the_same_fall_is_no_stop_and_it_says_why(self) -> None:
        found = hold([(15, 554.0, None), (35, 550.5, None)], metal_by="none")
        assert found.verdict.word == "Wait"
        assert "± is 16.4 psi" in said(found, "hold.unprobed")

    def test_a_rise_passes_nothing(self) -> None:
        found = hold([(15, 300.0, 70), (35, 304.0, 70)])
        assert rules(found)["hold.rise"] == "Wait"


class TestPlan:
    def test_above_the_lowest_stamp_it_stops(self) -> None:
        stamps = {"s1": {"label": "pressure switch", "pressure": "450 psig"}}
        found = hold([(15, 554.0, 70), (35, 550.5, 67)], stamps=stamps)
        assert found.verdict.word == "Stop"
        assert "450.0 psig on pressure switch" in said(found, "hold.stamp")

    def test_without_a_stamp_it_asks_and_offers_no_figure(self) -> None:
        bare = {k: v for k, v in UNIT.items() if not k.startswith("design")}
        found = hold([(15, 300.0, 70), (35, 300.0, 70)], plate=bare)
        assert found.verdict.word == "Open"
        assert "lowest pressure stamped" in found.verdict.headline.show()
        assert found.figure("lowest") is None

    def test_refrigerant_still_inside_stops(self) -> None:
        half = {**RECOVERED, "finished": None}
        sheets = {"recover": half, "repair": REPAIRED, "pressure_hold": {**HOLD}}
        found = findings(UNIT, kind="service", sheets=sheets).step("pressure_hold")
        assert "Never put nitrogen on top" in said(found, "hold.refrigerant")
        assert found.verdict.word == "Stop"

    @pytest.mark.parametrize(
        ("more", "rule", "word"),
        [
            ({"gas": "other"}, "hold.gas", "Stop"),
            ({"regulator": False}, "hold.regulator", "Stop"),
            ({"fed": "one"}, "hold.fed", "Wait"),
            ({"searched_at": "600 psig"}, "hold.searched", "Open"),
            ({"bottle_volume": "1 L", "bottle_pressure": "800 psig"}, "hold.bottle", "Wait"),
            ({"bottle_volume": "20 L", "bottle_pressure": "2000 psig"}, "hold.bottle", "Holds"),
        ],
    )
    def test_what_must_be_right_before_the_valve_is_opened(self, more: dict[str, Any], rule: str, word: str) -> None:
        assert rules(hold([(15, 554.0, 70), (35, 550.5, 67)], **more))[rule] == word

    def test_a_low_pressure_machine_takes_ten_psig_and_no_stages(self) -> None:
        machine = {
            **UNIT,
            "refrigerant": "R-123",
            "kind": "chiller",
            "factory_charge": "300 lb",
            "design_low": "15 psig",
            "design_high": "15 psig",
        }
        found = hold([(15, 12.0, 70), (35, 12.0, 70)], plate=machine, test_pressure="12 psig", volume="1 m³")
        assert rules(found)["hold.low_pressure"] == "Stop"
        assert not [row for row in found.drawn(PressureHoldPicture).plan if row.id.startswith("stage")]
        assert "nothing leaks out" in said(found, "hold.leak")

    def test_stages_come_in_order_and_the_first_is_to_do(self) -> None:
        sheets = {"recover": RECOVERED, "repair": REPAIRED, "pressure_hold": HOLD}
        plan = findings(UNIT, kind="service", sheets=sheets).step("pressure_hold").drawn(PressureHoldPicture).plan
        assert [row.id for row in plan] == ["stage0", "stage1", "fill", "settle", "hold"]
        assert [row.state for row in plan][:2] == ["now", "later"]

    def test_a_leak_that_should_be_seen_tells_how_much_longer(self) -> None:
        found = hold([(15, 300.0, 70), (35, 300.0, 70)], see_leak="20 oz/yr")
        longer = found.figure("longer")
        assert longer is not None
        assert longer.amount.value > 3600.0

    def test_by_the_school_of_the_service_interval_the_yardstick_is_the_charge_s_own_tolerance(self) -> None:
        """6 lb ± 1 % lost in a year: 0.96 oz/yr; common practice, no source."""
        yearly = Profile(choices={"hold.yardstick": "interval"})
        found = hold([(15, 300.0, 70), (35, 300.0, 70)], profile=yearly)
        longer = found.figure("longer")
        assert longer is not None
        assert longer.amount.value > 86_400.0
        assert rules(found)["hold.limit"] == "Open"  # a remark: few holds can be so long
        assert "hold.limit" not in rules(hold([(15, 300.0, 70), (35, 300.0, 70)]))
        often = Profile(choices={"hold.yardstick": "interval"}, overrides={"hold.interval": 864_000.0})
        sooner = hold([(15, 300.0, 70), (35, 300.0, 70)], profile=often).figure("longer")
        assert sooner is not None
        assert sooner.amount.value < longer.amount.value

    def test_before_and_after_the_repair(self) -> None:
        drop = {"pressure_start": "300 psig", "pressure_end": "240 psig", "metal_start": "70 °F", "metal_end": "70 °F", "lasted": "15 min"}
        search = {"inside": "nitrogen", "volume": "6 L", "drops": {"n1": drop}}
        kept = hold_sheet([(15, 300.0, 70), (60, 300.0, 70)])
        sheets = {"leak_search": search, "recover": RECOVERED, "repair": REPAIRED, "pressure_hold": kept}
        found = findings(UNIT, kind="service", sheets=sheets).step("pressure_hold")
        assert "That leak is closed" in said(found, "hold.before")
        still = {**sheets, "pressure_hold": hold_sheet([(15, 300.0, 70), (30, 240.0, 70)])}
        assert "is still there" in said(findings(UNIT, kind="service", sheets=still).step("pressure_hold"), "hold.before")


def logged(**more: Any) -> StepResult:
    sheets = {"recover": RECOVERED, "repair": REPAIRED, "pressure_hold": {**HOLD, **more}}
    return findings(UNIT, kind="service", sheets=sheets).step("pressure_hold")


class TestTheLogItself:
    def test_a_reading_from_the_future_is_refused_in_words(self) -> None:
        sheet = hold_sheet([(15, 554.0, 70), (35, 550.5, 67)])
        sheet["readings"]["r3"] = {"at": "2026-06-18T17:00:00+00:00", "pressure": "550 psig"}
        sheets = {"recover": RECOVERED, "repair": REPAIRED, "pressure_hold": sheet}
        found = findings(UNIT, kind="service", sheets=sheets).step("pressure_hold")
        assert [p.code for p in found.problems] == ["future"]
        assert "from the future" in found.verdict.headline.show()

    def test_out_of_order_readings_are_sorted_and_said(self) -> None:
        found = hold([(35, 550.5, 67), (15, 554.0, 70)], start=NOW - timedelta(minutes=35))
        assert "not in the order" in said(found, "log.order")

    def test_a_trace_with_its_metal_is_judged_like_typed_readings(self) -> None:
        start = "2026-06-18T14:00:00+00:00"
        seconds = [float(s) for s in range(0, 4200, 30)]
        gauge = {"starts_at": start, "seconds": seconds, "values": [3.8e6] * len(seconds), "rows": 4200, "sha256": "ab", "instrument": "g1"}
        metal = {**gauge, "values": [294.0] * len(seconds)}
        found = logged(filled_at=start, pressure_trace=gauge, metal_trace=metal)
        assert found.verdict.word == "Holds", found.verdict.headline.show()
        assert len(found.drawn(PressureHoldPicture).charts[0].curves[0].seconds) == len(seconds)
        jumped = {**metal, "values": [294.0] * 100 + [301.0] * (len(seconds) - 100)}
        fell_off = logged(filled_at=start, pressure_trace=gauge, metal_trace=jumped)
        assert rules(fell_off)["hold.metal_jump"] == "Wait"


def test_limits_of_the_functions_are_refused() -> None:
    with pytest.raises(OutOfRange):
        pressure_hold.judge([], TERMS)
    with pytest.raises(OutOfRange):
        pressure_hold.until_seen_s(0.0, 2e6, 294.0, TERMS, probed=True)


def test_a_volume_is_entered_or_guessed_with_its_band() -> None:
    from_charge = volumes.of(Plate(kind="split"), None)
    assert from_charge.band == volumes.UNKNOWN_BAND
    found = hold([(15, 300.0, 70), (35, 300.0, 70)], volume=None).figure("volume")
    assert found is not None
    assert found.amount.value == pytest.approx(6 * 0.45359237 * volumes.LITRES_PER_KG["packaged"] / 1e3)


def test_an_instruments_own_limits_and_an_overdue_calibration_widen_the_hold() -> None:
    """A clamp that says ± 0.2 K sees less of a drop than the profile's; past its calibration it counts double, and it says so."""
    start = NOW - timedelta(minutes=40)

    def watched(limit: float, day: str) -> StepResult:
        seconds = [float(s) for s in range(0, 2401, 60)]
        own = {"starts_at": start.isoformat(), "seconds": seconds, "rows": len(seconds), "sha256": "ab", "calibrated_on": day}
        gauge = {**own, "values": [300.0 * PSI_PA] * len(seconds), "step": 0.1 * PSI_PA, "limit": 6900.0}
        metal = {**own, "values": [294.26] * len(seconds), "limit": limit}
        return logged(filled_at=start.isoformat(), pressure_trace=gauge, metal_trace=metal)

    def band(found: StepResult) -> float:
        figure = found.figure("drop")
        assert figure is not None
        assert figure.amount.u is not None
        return figure.amount.u

    fresh = (NOW - timedelta(days=30)).date().isoformat()
    old = (NOW - timedelta(days=500)).date().isoformat()
    assert band(watched(0.2, fresh)) < band(watched(0.9, fresh))
    assert band(watched(0.2, old)) == pytest.approx(2.0 * band(watched(0.2, fresh)), rel=0.05)
    assert rules(watched(0.2, old))["log.calibration"] == "Open"
    assert "log.calibration" not in rules(watched(0.2, fresh))


class TestLostBeforeItSettled:
    """466 to 447 psig in a quarter of an hour: more than settling takes."""

    TERMS = HoldTerms(900.0, 900.0, PSI_PA, 0.3, 3.0, 294.3, 0.01)

    def rows(self, end_psig: float, metal: float | None, minutes: float = 15.0) -> list[HoldSample]:
        air = 78_513.0
        return [
            HoldSample(0.0, 466.0 * PSI_PA + air, metal),
            HoldSample(minutes * 60.0, end_psig * PSI_PA + air, metal),
        ]

    @pytest.mark.parametrize("volume", [0.001, 0.01, 1.0])
    def test_at_the_same_metal_it_leaks_whatever_the_volume(self, volume: float) -> None:
        assert pressure_hold.judge(self.rows(447.0, 300.0), replace(self.TERMS, volume_m3=volume)).kind == "drops"

    def test_what_settling_may_take_is_no_leak_yet(self) -> None:
        assert pressure_hold.judge(self.rows(460.0, 300.0), self.TERMS).kind == "settling"

    def test_in_its_first_minutes_warm_gas_explains_more(self) -> None:
        for metal in (300.0, None):
            assert pressure_hold.judge(self.rows(430.0, metal, minutes=3.0), self.TERMS).kind == "settling"
        assert pressure_hold.judge(self.rows(430.0, 300.0, minutes=10.0), self.TERMS).kind == "drops"

    def test_without_a_clamp_it_is_a_likely_one(self) -> None:
        found = pressure_hold.judge(self.rows(447.0, None), self.TERMS)
        assert (found.kind, found.wait_s) == ("unsure", 900.0)
        assert pressure_hold.judge(self.rows(455.0, None, minutes=14.0), self.TERMS).kind == "settling"
        assert (
            pressure_hold.judge(self.rows(455.0, None), self.TERMS).kind == "unprobed"
        )  # it has settled, and its metal may have cooled so far
        assert pressure_hold.judge(self.rows(380.0, None), self.TERMS).kind == "drops"
