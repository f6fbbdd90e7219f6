"""A changed refrigerant proven: what Verify reads, the walk-in, what the circuit keeps, and the points of its picture."""

from typing import Any

import pytest

from tests.make import NOW, RUNNING, in_f, oz
from tests.make_changed import OLD, PLAN, READ, SHEETS, STARTED, WALK_IN, WEIGHED, changed, figure_oz, lacks, said, told
from yoshi_core.document.model import Circuit, Job
from yoshi_core.findings.pictures import VerifyPicture
from yoshi_core.job import closing, documents, new_job
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.message import worded
from yoshi_core.profile.profile import Profile
from yoshi_core.properties import saturation
from yoshi_core.record.record import label_data, record_data
from yoshi_core.steps import plates
from yoshi_core.units.quantities import FAHRENHEIT_K, OZ_KG, PSI_PA, ZERO_FAHRENHEIT_K
from yoshi_core.views.ph_points import points_of

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


class TestInsideItsBandAndNotOnTarget:
    """The orifice unit's formula gives 13.5 °F at 65 and 88 °F; 3 °F over it is inside the band of 5 and not the quarter that ends a trim."""

    def read_at(self, over_f: float, ounces: float) -> Findings:
        site = 101325 * (1 - 2.25577e-5 * 2100) ** 5.25588
        dew = in_f(saturation.dew_temperature_k("R-407C", 66 * PSI_PA + site))
        draw = {**STARTED, "gross_start": f"{5 + (ounces + 64) / 16} lb", "gross_end": "9 lb"}
        reading = {**READ, "suction_line": f"{dew + 13.5 + over_f:.4f} °F"}
        return changed(weigh={"system_state": "empty", "draws": {"d1": draw}}, verify={**RUNNING, "readings": {"r1": reading}})

    def test_a_small_step_more_where_there_is_room(self) -> None:
        found = self.read_at(3.0, 119.4)
        assert told(found, "verify")["trim.step"] == "Wait"
        assert found.step("verify").figure("trim_step") is not None

    def test_none_on_its_target(self) -> None:
        assert "trim.step" not in told(self.read_at(1.0, 119.4), "verify")

    @pytest.mark.parametrize("ounces", [1.1 * 132.75, 1.0999 * 132.7])
    def test_at_the_cap_it_is_the_orifice(self, ounces: float) -> None:
        found = self.read_at(3.0, ounces)
        assert told(found, "verify")["retrofit.cap"] == "Open"
        assert "look at another orifice" in said(found, "verify", "retrofit.cap")
        assert found.step("verify").figure("trim_step") is None


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
        assert "what the low cut-out is set to" in [worded(m.label) for m in over.missing]

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
