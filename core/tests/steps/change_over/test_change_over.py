"""A retrofit changed over: oil, metering, controls."""

import pytest

from tests.make import NOW
from tests.make_changed import (
    OIL,
    OLD,
    OVER,
    PLAN,
    REPAIRED,
    SHEETS,
    WALK_IN,
    changed,
    lacks,
    said,
    told,
)
from yoshi_core.charge import oil_change
from yoshi_core.charge.oil_change import Turn
from yoshi_core.charge.tubing import bore_m
from yoshi_core.errors import OutOfRange
from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import saturation
from yoshi_core.running import controls
from yoshi_core.units.quantities import PSI_PA


class TestOil:
    def test_by_dilution_three_changes_of_three_quarters(self) -> None:
        """1 → 1/4 → 1/16 → 1/64."""
        assert oil_change.left_share([Turn(0.75)] * 3) == pytest.approx(1 / 64)
        assert oil_change.changes_to(0.05, 1.0, 0.75) == 3
        assert oil_change.changes_to(0.05, 0.25, 0.75) == 2
        assert oil_change.changes_to(0.05, 0.04, 0.75) == 0
        assert oil_change.changes_to(0.05, 0.11, 1.0 + 1e-12) == 1

    def test_a_refractometer_decides_over_dilution(self) -> None:
        assert oil_change.left_share([Turn(0.75), Turn(0.75, 0.11)]) == pytest.approx(0.11)
        assert oil_change.left_share([Turn(None)]) is None

    @pytest.mark.parametrize("share", [-0.1, 1.2])
    def test_more_than_all_cannot_be_drained(self, share: float) -> None:
        with pytest.raises(OutOfRange):
            oil_change.left_share([Turn(share)])

    @pytest.mark.parametrize(("limit", "share"), [(0.05, 0.0), (0.0, 0.5)])
    def test_draining_nothing_thins_nothing(self, limit: float, share: float) -> None:
        with pytest.raises(OutOfRange):
            oil_change.changes_to(limit, 1.0, share)

    def test_how_many_more_are_said(self) -> None:
        found = changed(change_over={**OVER, "oil_changes": {"o1": OIL}})
        assert said(found, "change_over", "retrofit.residual_oil") == (
            "25.0 % of the mineral oil is left, at most 5.0 % may be. 2 more changes like the last: run it between them."
        )
        assert found.step("change_over").verdict.word == "Wait"

    def test_a_second_change_before_it_mixed_does_not_count(self) -> None:
        unmixed = {**OIL, "mixed": False}
        found = changed(change_over={**OVER, "oil_changes": {"o1": OIL, "o2": unmixed, "o3": unmixed}})
        assert told(found, "change_over")["retrofit.mixed"] == "Open"
        assert told(found, "change_over")["retrofit.residual_oil"] == "Wait"

    def test_an_oil_both_carry_may_stay(self) -> None:
        found = changed({**OLD, "oil": "POE 32"}, change_over={k: v for k, v in OVER.items() if not k.startswith("oil")})
        assert told(found, "change_over")["retrofit.oil"] == "Holds"
        assert found.step("change_over").verdict.word == "Holds"

    def test_the_same_oil_again_is_no_change(self) -> None:
        assert told(changed(change_over={**OVER, "oil_grade": "Mineral"}), "change_over")["retrofit.oil_grade"] == "Stop"

    def test_more_drained_than_it_holds_names_the_field(self) -> None:
        found = changed(change_over={**OVER, "oil_system": "0.5 L"}).step("change_over")
        assert found.problems[0].path.endswith("/oil_system")

    def test_filled_for_drained(self) -> None:
        low = {"o1": OIL, "o2": OIL, "o3": {**OIL, "filled": "0.6 L"}}
        assert told(changed(change_over={**OVER, "oil_changes": low}), "change_over")["retrofit.level"] == "Open"


class TestMetering:
    @pytest.mark.parametrize(
        ("stamp", "inches"), [("0.059", 0.059), ('.059"', 0.059), ("59", 0.059), ("1.5 mm", 1.5 / 25.4), ("0.059 in", 0.059)]
    )
    def test_a_bore_as_stamped(self, stamp: str, inches: float) -> None:
        assert bore_m(stamp) == pytest.approx(inches * 0.0254)

    def test_a_stamp_that_says_nothing(self) -> None:
        assert bore_m("piston B") is None
        assert bore_m(None) is None

    def test_an_orifice_follows_the_area_it_takes(self) -> None:
        assert told(changed(), "change_over")["retrofit.orifice"] == "Holds"
        far = changed(change_over={**OVER, "orifice": "0.080"})
        assert told(far, "change_over")["retrofit.orifice"] == "Wait"
        assert "would be right" in said(far, "change_over", "retrofit.orifice")
        assert told(changed(change_over={**OVER, "orifice": "piston B"}), "change_over")["retrofit.orifice"] == "Open"

    def test_repair_does_not_ask_for_the_old_one(self) -> None:
        assert "the orifice fitted" not in lacks(changed(), "repair")

    def test_a_valve_left_as_it_was(self) -> None:
        valve = {**OVER, "valve": "kept", "controls": {}, "no_controls": True}
        plan = {**PLAN, "refrigerant": "R-448A"}
        assert told(changed(WALK_IN, plan_change=plan, change_over=valve), "change_over")["retrofit.valve"] == "Wait"
        assert (
            told(changed(WALK_IN, plan_change=plan, change_over={**valve, "valve": "replaced"}), "change_over")["retrofit.valve"] == "Holds"
        )
        assert told(changed(WALK_IN, plan_change=plan, change_over={**valve, "valve": "set"}), "change_over")["retrofit.valve"] == "Wait"

    def test_left_out_repair_leaves_the_old_drier(self) -> None:
        gone = {"runs": [{"sheet": REPAIRED}], "events": [{"kind": "not_applicable", "at": NOW.isoformat(), "by": "x", "reason": "r"}]}
        plain = documents.load_job({
            "id": "t", "kind": "retrofit",
            "steps": {"identify": {"runs": [{"sheet": OLD}]}, "repair": gone, **{k: {"runs": [{"sheet": v}]} for k, v in SHEETS.items() if k != "repair"}},
        })  # fmt: skip
        assert told(evaluate(plain, Profile(), NOW), "change_over")["retrofit.drier"] == "Wait"


class TestControls:
    def test_the_same_coil_temperature_at_another_pressure(self) -> None:
        """R-404A 20 psig to R-448A: the coil's mean stays; by the saturation tables."""
        found, mean_k = controls.changed_pa("R-404A", "R-448A", 20 * PSI_PA, True, 0.0, "vented")
        assert saturation.mean_temperature_k("R-404A", 20 * PSI_PA + 101325, 0.6) == pytest.approx(mean_k)
        assert saturation.mean_temperature_k("R-448A", found + 101325, 0.6) == pytest.approx(mean_k, abs=1e-6)
        assert found < 20 * PSI_PA

    def test_each_control_is_held_to_it(self) -> None:
        wrong = {"k1": {"kind": "low_cut_out", "was": "25 psig", "set_to": "35 psig"}}
        found = changed(change_over={**OVER, "controls": wrong})
        assert said(found, "change_over", "retrofit.control").startswith(
            "Low cut-out at 35.0 psig: 24.2 psig is the same coil temperature as before."
        )
        assert told(found, "change_over")["retrofit.control"] == "Wait"

    def test_a_high_cut_out_stays_under_the_plate(self) -> None:
        high = {"k1": {"kind": "high_cut_out", "was": "295 psig", "set_to": "310 psig"}}
        found = changed(change_over={**OVER, "controls": high})
        assert found.step("change_over").figure("control_k1").amount.value == pytest.approx(300 * PSI_PA)  # type: ignore[union-attr]
        assert told(found, "change_over")["retrofit.control"] == "Wait"

    def test_nor_is_it_set_over_the_plate_within_the_slack(self) -> None:
        """301 psig is inside a control's slack, and over the plate's 300."""
        high = {"k1": {"kind": "high_cut_out", "was": "268 psig", "set_to": "301 psig"}}
        found = changed(change_over={**OVER, "controls": high})
        figure = found.step("change_over").figure("control_k1")
        assert figure is not None
        assert figure.amount.value <= 300 * PSI_PA
        assert told(found, "change_over")["retrofit.control"] == "Wait"

    def test_none_must_be_said(self) -> None:
        bare = {**OVER, "controls": {}}
        assert "pressure controls, or that there are none" in lacks(changed(change_over=bare), "change_over")
        assert changed(change_over={**bare, "no_controls": True}).step("change_over").verdict.word == "Holds"

    def test_seals_and_tag(self) -> None:
        found = changed(change_over={**OVER, "seals": False, "tagged": False})
        assert told(found, "change_over")["retrofit.seals"] == "Wait"
        assert told(found, "change_over")["retrofit.tagged"] == "Wait"
