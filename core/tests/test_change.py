"""A retrofit as a job: plan, old charge out, oil, metering and controls, weigh-in, proof, and what the circuit keeps."""

import pytest

from tests.make import NOW, RUNNING, oz
from tests.make_changed import OIL, OLD, OUT, OVER, PLAN, REPAIRED, SHEETS, changed
from yoshi_core.charge import oil_change
from yoshi_core.charge.oil_change import Turn
from yoshi_core.document.model import Job
from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.job import closing, documents
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import saturation
from yoshi_core.running import controls
from yoshi_core.steps import registry
from yoshi_core.steps.change_over.judge import bore_m
from yoshi_core.units.quantities import PSI_PA

STARTED = {"cylinder": "N7", "holds": "R-407C", "gross_start": "30 lb", "tare": "5 lb", "gross_end": "22 lb 8.6 oz"}
WEIGHED = {"system_state": "empty", "draws": {"d1": STARTED}}
READ = {
    "suction_pressure": "66 psig",
    "suction_line": "60 °F",
    "liquid_pressure": "225 psig",
    "liquid_line": "96 °F",
    "outdoor": "88 °F",
    "return_wet_bulb": "65 °F",
}
WALK_IN = {
    "refrigerant": "R-404A", "factory_charge": "10 lb", "kind": "receiver", "metering": "txv", "oil": "POE", "altitude": "0 m",
    "gauge_reference": "vented", "design_high": "400 psig", "floods": False, "pairing_proven": True, "pairing_by": "only",
    "included_length": "20 ft", "lines": {"l1": {"length": "20 ft", "liquid_od": "3/8 in", "suction_od": "7/8 in"}},
}  # fmt: skip
REACH_IN = {
    "refrigerant": "R-134a", "factory_charge": "6 oz", "kind": "reach_in", "metering": "capillary", "oil": "POE", "altitude": "0 m",
    "gauge_reference": "vented", "design_high": "250 psig", "tolerance": "0.2 oz",
}  # fmt: skip


def told(found: Findings, step: str) -> dict[str, str]:
    return {reason.rule_id: reason.word for reason in found.step(step).verdict.reasons}


def said(found: Findings, step: str, rule: str) -> str:
    return next(r.message.show() for r in found.step(step).verdict.reasons if r.rule_id == rule)


def figure_oz(found: Findings, step: str, name: str) -> float:
    figure = found.step(step).figure(name)
    assert figure is not None
    return oz(figure.amount.value)


def lacks(found: Findings, step: str) -> list[str]:
    return [missing.label for missing in found.step(step).missing]


class TestPlan:
    def test_from_the_full_charge_whatever_was_recovered(self) -> None:
        """8 lb 12 oz full, 6 lb 2 oz recovered after a leak: start 7 lb 7.4 oz, final 8 lb 4.7 oz."""
        found = changed(weigh=WEIGHED)
        assert figure_oz(found, "recover", "recovered") == pytest.approx(98.0, abs=0.05)
        assert figure_oz(found, "plan_change", "start") == pytest.approx(119.4, abs=0.1)
        assert figure_oz(found, "plan_change", "final") == pytest.approx(132.7, abs=0.1)
        assert figure_oz(found, "weigh_in", "to_weigh") == pytest.approx(119.4, abs=0.1)
        assert found.step("plan_change").verdict.word == "Holds"

    @pytest.mark.parametrize(
        ("to", "rule", "words"),
        [
            ("R-410A", "retrofit.pressure", "395.6 psig on the worst day, and the plate says 300.0 psig."),
            ("R-32", "retrofit.listed", "Class A2L, and the equipment is not listed for it."),
            ("R-290", "retrofit.listed", "Class A3, and the equipment is not listed for it."),
            ("R-12", "retrofit.ozone", "It depletes ozone: phased out, and no way to go."),
        ],
    )
    def test_what_may_not_go_in_is_stopped_with_its_reason(self, to: str, rule: str, words: str) -> None:
        found = changed(plan_change={**PLAN, "refrigerant": to})
        assert found.step("plan_change").verdict.word == "Stop"
        assert said(found, "plan_change", rule) == words
        assert found.step("plan_change").figure("start") is None
        assert found.step("weigh_in").figure("to_weigh") is None
        with pytest.raises(InvalidInput):
            closing.close_step(self.stopped(to), Profile(), "plan_change", "p", NOW, "the owner wants it")

    def stopped(self, to: str) -> Job:
        sheets = {"identify": OLD, "plan_change": {**PLAN, "refrigerant": to}}
        return documents.load_job({"id": "s", "kind": "retrofit", "steps": {k: {"runs": [{"sheet": v}]} for k, v in sheets.items()}})

    def test_tables_that_do_not_reach_stop_it(self) -> None:
        hot = {**PLAN, "refrigerant": "R-410A", "condensing": "165 °F", "evaporating": "60 °F"}
        found = changed({**OLD, "refrigerant": "R-134a", "design_high": "2000 psig"}, plan_change=hot)
        assert told(found, "plan_change")["retrofit.tables"] == "Stop"

    def test_nobody_agrees(self) -> None:
        assert "that the maker, or who answers for it, agrees" in lacks(changed(plan_change={"refrigerant": "R-407C"}), "plan_change")
        refused = changed(plan_change={**PLAN, "approved": False})
        assert told(refused, "plan_change")["retrofit.approved"] == "Stop"
        assert refused.step("plan_change").problems[0].path.endswith("/approved")

    @pytest.mark.parametrize(("to", "code"), [("R-22", "same_refrigerant"), ("R-999", "unknown_refrigerant")])
    def test_what_cannot_be_planned_is_refused_by_field(self, to: str, code: str) -> None:
        problem = changed(plan_change={**PLAN, "refrigerant": to}).step("plan_change").problems[0]
        assert problem.code == code
        assert problem.path.endswith("/refrigerant")

    def test_without_a_full_charge_there_is_no_plan(self) -> None:
        found = changed({key: value for key, value in OLD.items() if key != "factory_charge"})
        assert "the correct full charge of what is in it" in lacks(found, "plan_change")
        assert found.step("weigh_in").figure("to_weigh") is None

    def test_the_order_of_the_work(self) -> None:
        order = registry.order("retrofit")
        assert order.index("identify") < order.index("plan_change") < order.index("recover") < order.index("change_over")
        assert order.index("change_over") < order.index("pressure_hold") < order.index("weigh_in") < order.index("verify")
        assert not {"plan_change", "change_over"} & set(registry.order("service"))


class TestOldChargeOut:
    def test_it_never_goes_back_in(self) -> None:
        found = changed(recover={**OUT, "use": "reuse", "same_owner": True, "burnout": False})
        assert told(found, "recover")["retrofit.use"] == "Stop"

    def test_pumped_down_is_not_out(self) -> None:
        assert told(changed(recover={"way": "pump_down", "compressor_runs": True}), "recover")["retrofit.pump_down"] == "Stop"

    def test_all_of_it_may_go_to_another_circuit_that_runs_on_it(self) -> None:
        use = {**OUT, "use": "other_circuit", "same_owner": True, "burnout": False, "acid": "clean", "to_circuit": "AX-2"}
        found = changed(recover={**use, "to_circuit_mass": {"text": "6 lb", "source": "weighed"}})
        assert told(found, "recover")["transfer.surplus"] == "Holds"

    def test_the_level_is_that_of_the_old_refrigerant(self) -> None:
        assert told(changed(recover={**OUT, "end_pressure": "12 psig"}), "recover")["recover.level"] == "Wait"

    def test_what_came_out_is_booked_as_the_old_refrigerant_and_what_goes_in_as_the_new(self) -> None:
        found = changed(weigh=WEIGHED)
        assert {m.refrigerant for m in found.step("recover").movements} == {"R-22"}
        assert {m.refrigerant for m in found.step("weigh_in").movements} == {"R-407C"}


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
        assert said(found, "change_over", "retrofit.control").startswith("Low cut-out at 35.0 psig; 24.2 psig keeps it where it was.")
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


class TestWeighIn:
    def test_another_refrigerant_is_never_put_on_top(self) -> None:
        other = {"system_state": "empty", "draws": {"d1": {**STARTED, "holds": "R-22"}}}
        assert told(changed(weigh=other), "weigh_in")["weigh_in.other"] == "Stop"
        back = {"system_state": "empty", "draws": {"d1": {**STARTED, "contents": "recovered"}}}
        assert told(changed(weigh=back), "weigh_in")["weigh_in.other"] == "Stop"
        assert "weigh_in.other" not in told(changed(weigh=WEIGHED), "weigh_in")

    def test_nor_on_top_of_what_is_left_of_the_old(self) -> None:
        held = {**WEIGHED, "system_state": "holding", "inside": "2 lb"}
        assert told(changed(weigh=held), "weigh_in")["weigh_in.other"] == "Stop"

    def test_a_part_the_repair_put_in_joins_the_expected_charge(self) -> None:
        """8 lb 12 oz and 4 oz of a larger drier, of R-22: 9 lb by 0.948 is 136.5 oz, and nine tenths of it 122.8."""
        drier = {"p1": {"label": "drier", "kind": "drier", "charge": "4 oz"}}
        found = changed(weigh=WEIGHED, repair={**REPAIRED, "parts": drier})
        assert figure_oz(found, "weigh_in", "to_weigh") == pytest.approx(0.9 * 0.948 * 144, abs=0.1)

    def test_nor_is_it_trimmed_with_another(self) -> None:
        wrong = {**READ, "gross_before": "22 lb", "gross_after": "21 lb 12 oz", "cylinder": "R9", "holds": "r22"}
        found = changed(weigh=WEIGHED, verify={**RUNNING, "readings": {"r1": READ, "r2": wrong}})
        assert told(found, "verify")["verify.other"] == "Stop"
        right = changed(weigh=WEIGHED, verify={**RUNNING, "readings": {"r1": READ, "r2": {**wrong, "holds": "407C"}}})
        assert "verify.other" not in told(right, "verify")

    def test_a_capillary_takes_all_of_it_by_weight_and_is_not_trimmed(self) -> None:
        over = {"seals": True, "tagged": True, "no_controls": True}
        weigh = {
            "system_state": "empty",
            "scale_step": "0.05 oz",
            "draws": {"d1": {**STARTED, "holds": "R-513A", "gross_end": "29 lb 10 oz"}},
        }
        found = changed(REACH_IN, weigh, plan_change={**PLAN, "refrigerant": "R-513A"}, change_over=over)
        final = figure_oz(found, "plan_change", "final")
        assert found.step("plan_change").figure("start") is None
        assert figure_oz(found, "weigh_in", "to_weigh") == pytest.approx(final, abs=1e-6)
        assert "by weight alone" in found.step("plan_change").verdict.headline.show()
        assert "retrofit.valve" in told(found, "change_over")
        verify = found.step("verify")
        assert verify.figure("trim_step") is None
        assert "trim.step" not in told(found, "verify")
