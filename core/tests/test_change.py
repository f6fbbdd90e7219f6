"""A retrofit as a job: plan, old charge out, oil, metering and controls, weigh-in, proof, and what the circuit keeps."""

from typing import Any

import pytest

from tests.make import NOW, RUNNING, in_f, oz
from tests.make_changed import OIL, OLD, OUT, OVER, PLAN, REPAIRED, SHEETS, changed
from yoshi_core.charge import oil_change
from yoshi_core.charge.oil_change import Turn
from yoshi_core.document.model import Circuit, Job
from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.findings.pictures import VerifyPicture
from yoshi_core.job import closing, documents, new_job
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import saturation
from yoshi_core.record.record import label_data, record_data
from yoshi_core.running import controls
from yoshi_core.steps import plates, registry
from yoshi_core.steps.change_over.judge import bore_m
from yoshi_core.units.quantities import FAHRENHEIT_K, OZ_KG, PSI_PA, ZERO_FAHRENHEIT_K
from yoshi_core.views.ph_points import points_of

STARTED = {"cylinder": "N7", "holds": "R-407C", "gross_start": "30 lb", "tare": "5 lb", "gross_end": "22 lb 8.6 oz"}
WEIGHED = {"system_state": "empty", "draws": {"d1": STARTED}}
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


READ = {
    "suction_pressure": "66 psig",
    "suction_line": "60 °F",
    "liquid_pressure": "225 psig",
    "liquid_line": "96 °F",
    "outdoor": "88 °F",
    "return_wet_bulb": "65 °F",
}
FOUND = {
    "running": "settled", "run_time": "20 min", "mode": "cooling", "suction_pressure": "60 psig", "suction_line": "62 °F",
    "liquid_pressure": "200 psig", "liquid_line": "92 °F", "outdoor": "95 °F", "return_air": "76 °F", "return_wet_bulb": "64 °F", "supply": "58 °F",
}  # fmt: skip


class TestProve:
    def test_superheat_from_dew_and_subcooling_from_bubble(self) -> None:
        found = changed(weigh=WEIGHED, verify={**RUNNING, "readings": {"r1": READ}}).step("verify")
        site = 101325 * (1 - 2.25577e-5 * 2100) ** 5.25588
        dew = in_f(saturation.dew_temperature_k("R-407C", 66 * PSI_PA + site))
        bubble = in_f(saturation.bubble_temperature_k("R-407C", 225 * PSI_PA + site))
        superheat, subcooling = found.figure("superheat"), found.figure("subcooling")
        assert superheat is not None
        assert subcooling is not None
        assert superheat.amount.value / FAHRENHEIT_K == pytest.approx(60 - dew, abs=0.02)
        assert subcooling.amount.value / FAHRENHEIT_K == pytest.approx(bubble - 96, abs=0.02)

    def test_before_and_after_with_the_conditions_first(self) -> None:
        found = changed(weigh=WEIGHED, verify={**RUNNING, "readings": {"r1": READ}}, as_found=FOUND).step("verify")
        rows = {row.label: row for row in found.drawn(VerifyPicture).before_after}
        assert [row.condition for row in found.drawn(VerifyPicture).before_after][:2] == [True, True]
        assert in_f(rows["air over the condenser"].before.value) == pytest.approx(95)  # type: ignore[union-attr]
        assert rows["superheat, on dew"].before is not None
        assert rows["superheat, on dew"].after is not None
        assert "capacity, by the cycle" in rows
        said = " ".join(note.show() for note in found.drawn(VerifyPicture).notes)
        assert "Air over the condenser was 95.0 °F before and is 88.0 °F now: compare with care." in said
        assert "Before, it ran on 70.0 % of its charge" in said

    def test_nothing_is_compared_in_another_kind_of_job(self) -> None:
        assert changed(weigh=WEIGHED).step("verify").drawn(VerifyPicture).before_after == ()


class TestWalkIn:
    """R-404A with a receiver to R-448A: valve, cut-outs, glide in the box rule, charge to the glass."""

    PLAN = {**PLAN, "refrigerant": "R-448A"}
    OVER = {
        "seals": True, "tagged": True, "valve": "replaced",
        "controls": {"k1": {"kind": "low_cut_out", "was": "18 psig"}, "k2": {"kind": "fan_on", "was": "220 psig"}},
    }  # fmt: skip

    def at(self, glass: str, inside_lb: float, suction_psig: float = 39.0, box: str = "36 °F") -> Findings:
        draw = {**STARTED, "holds": "R-448A", "gross_start": "30 lb", "gross_end": f"{30 - inside_lb} lb"}
        reading = {
            "suction_pressure": f"{suction_psig} psig",
            "suction_line": "40 °F",
            "liquid_pressure": "230 psig",
            "liquid_line": "90 °F",
            "box": box,
            "outdoor": "80 °F",
        }
        run = {**RUNNING, "sight_glass": glass, "readings": {"r1": reading}}
        return changed(WALK_IN, {"system_state": "empty", "draws": {"d1": draw}}, run, plan_change=self.PLAN, change_over=self.OVER)

    def test_cut_outs_are_told_before_they_are_set(self) -> None:
        over = self.at("bubbles", 9.0).step("change_over")
        low, fan = over.figure("control_k1"), over.figure("control_k2")
        assert low is not None
        assert fan is not None
        assert low.amount.value < 18 * PSI_PA
        assert fan.amount.value != pytest.approx(220 * PSI_PA, rel=0.005)
        assert "what the low cut-out is set to" in [m.label for m in over.missing]

    def test_the_box_rule_takes_the_mean_of_the_glide(self) -> None:
        """At 39 psig R-448A: dew and bubble some 10 °F apart; 0.6 of dew and 0.4 of bubble stand under the box."""
        found = self.at("clear", 9.5)
        mean = saturation.mean_temperature_k("R-448A", 39 * PSI_PA + 101325, 0.6)
        assert saturation.glide_k("R-448A", 39 * PSI_PA + 101325) > 8 * FAHRENHEIT_K
        rule = next(r for r in found.step("verify").verdict.reasons if r.rule_id == "verify.under_box")
        assert rule.value is not None
        assert rule.value.value == pytest.approx(36 * FAHRENHEIT_K + ZERO_FAHRENHEIT_K - mean, abs=1e-6)

    def test_bubbles_ask_for_a_step_and_a_clear_glass_holds(self) -> None:
        start = figure_oz(self.at("bubbles", 9.0), "plan_change", "start") / 16
        found = self.at("bubbles", start)
        step = found.step("verify").figure("trim_step")
        assert told(found, "verify")["trim.step"] == "Wait"
        assert step is not None
        assert oz(step.amount.value) == pytest.approx(0.05 * figure_oz(found, "plan_change", "final"), abs=0.1)
        clear = self.at("clear", start)
        assert told(clear, "verify")["retrofit.glass"] == "Holds"

    def test_after_a_step_it_is_looked_at_again_before_the_next(self) -> None:
        draw = {**STARTED, "holds": "R-448A", "gross_start": "30 lb", "gross_end": "20.5 lb"}
        reading = {"suction_pressure": "39 psig", "suction_line": "40 °F", "liquid_pressure": "230 psig", "liquid_line": "90 °F"}
        run = {**RUNNING, "sight_glass": "bubbles", "readings": {"r1": reading, "r2": {"added": "4 oz"}}}
        weigh = {"system_state": "empty", "draws": {"d1": draw}}
        found = changed(WALK_IN, weigh, run, plan_change=self.PLAN, change_over=self.OVER)
        assert found.step("verify").figure("trim_step") is None
        assert "the glass and the gauges after the step" in lacks(found, "verify")

    def test_at_the_cap_the_charge_is_not_the_fault(self) -> None:
        final = figure_oz(self.at("bubbles", 9.0), "plan_change", "final") / 16
        found = self.at("bubbles", 1.1 * final)
        assert told(found, "verify")["retrofit.glass"] == "Stop"


class TestWhatItLeaves:
    def job(self, weigh: dict[str, Any] | None) -> Job:
        sheets = {"identify": OLD, **SHEETS, **({} if weigh is None else {"weigh_in": weigh})}
        circuit = {"id": "AX-1", "name": "Annex split", "plate": OLD}
        return documents.load_job({
            "id": "ret-1", "kind": "retrofit", "circuit": circuit, "steps": {k: {"runs": [{"sheet": v}]} for k, v in sheets.items()},
        })  # fmt: skip

    def test_before_it_is_charged_the_circuit_stays_what_it_was(self) -> None:
        subject = self.job(None)
        assert plates.left_plate(subject, None).refrigerant == "R-22"
        assert closing.circuit_lesson(subject, None) is None

    def test_charged_the_circuit_is_the_new_refrigerants(self) -> None:
        lesson = closing.circuit_lesson(self.job(WEIGHED), 130 * OZ_KG)
        assert lesson is not None
        assert lesson.refrigerant == "R-407C"
        assert lesson.oil == "POE 32"
        assert lesson.factory_charge is not None
        assert oz(lesson.factory_charge.value) == pytest.approx(130)
        assert evaluate(
            documents.load_job({"id": "next", "circuit": {"id": "AX-1", "plate": documents.dump_job(self.job(None))["circuit"]["plate"]}}),
            Profile(),
            NOW,
        )

    def test_the_next_visit_finds_that_charge_as_its_total(self) -> None:
        lesson = closing.circuit_lesson(self.job(WEIGHED), 130 * OZ_KG)
        assert lesson is not None
        later = new_job.new_job("next", "service", "", Circuit("AX-1", plate=lesson), Profile(), "p", NOW)
        total = evaluate(later, Profile(), NOW).step("identify").figure("total")
        assert total is not None
        assert oz(total.amount.value) == pytest.approx(130, abs=0.05)

    def test_record_and_label_say_what_it_was_and_what_it_is(self) -> None:
        subject = self.job(WEIGHED)
        found = evaluate(subject, Profile(), NOW)
        label = label_data(subject, found, "shop")
        assert label["refrigerant"] == "R-407C"
        assert label["made_of"] == "Changed from R-22 · oil POE 32 · never top up with R-22"
        record = record_data(subject, found, "practice", "us", NOW, "shop")
        assert record["refrigerant"] == "R-407C"
        assert record["change"]["old"] == "R-22"
        assert any(line["label"] == "expected in the end" and line["value"].startswith("8 lb 4.7 oz") for line in record["change"]["lines"])


class TestJobPoints:
    def job(self) -> Job:
        sheets = {"identify": OLD, **SHEETS, "as_found": FOUND, "weigh_in": WEIGHED, "verify": {**RUNNING, "readings": {"r1": READ}}}
        return documents.load_job({"id": "p", "kind": "retrofit", "steps": {k: {"runs": [{"sheet": v}]} for k, v in sheets.items()}})

    def test_each_reading_stands_with_the_refrigerant_it_was_taken_with(self) -> None:
        subject = self.job()
        assert [row.label for row in points_of(subject, "R-22")] == ["as found"]
        assert [row.label for row in points_of(subject, "R-407C")] == ["reading 1"]
        assert points_of(subject, "R-410A") == ()

    def test_points_are_a_way_round(self) -> None:
        row = points_of(self.job(), "R-407C")[0]
        assert row.suction is not None
        assert row.discharge is not None
        assert row.liquid is not None
        assert row.inlet is not None
        assert row.inlet.enthalpy_j_kg == row.liquid.enthalpy_j_kg < row.suction.enthalpy_j_kg < row.discharge.enthalpy_j_kg
        assert row.inlet.pressure_pa == row.suction.pressure_pa
        assert row.vapour_share == pytest.approx(0.25, abs=0.1)

    def test_what_the_tables_do_not_reach_is_left_out(self) -> None:
        cold = {**FOUND, "suction_line": "-20 °F"}
        sheets = {"identify": OLD, "as_found": cold}
        subject = documents.load_job({"id": "p", "steps": {k: {"runs": [{"sheet": v}]} for k, v in sheets.items()}})
        assert points_of(subject, "R-22") == ()
