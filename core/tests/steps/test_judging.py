"""Judgements a technician meets on the way: what each step asks, refuses and says next."""

import pytest

from tests.make import DRAW, PLATE, READING, RUNNING, WEIGHED, findings, oz, reading_with, six_pounds
from yoshi_core.errors import DocumentError
from yoshi_core.findings.pictures import WeighInPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.message import worded


def rules(result: StepResult) -> set[str]:
    return {reason.rule_id for reason in result.verdict.reasons}


def without(source: dict[str, object], *names: str) -> dict[str, object]:
    return {k: v for k, v in source.items() if k not in names}


def labels(result: StepResult) -> list[str]:
    return [worded(m.label) for m in result.missing]


class TestIdentify:
    def test_tube_sizes_stand_in_for_the_makers_allowance(self) -> None:
        line = {"length": "55 ft", "liquid_od": "3/8 in", "suction_od": "7/8 in"}
        total = findings({**PLATE, "lines": {"l1": line}}).step("identify").figure("total")
        makers = findings(PLATE).step("identify").figure("total")
        assert total is not None
        assert makers is not None
        assert oz(abs(total.amount.value - makers.amount.value)) < 4.0
        assert total.amount.u > makers.amount.u  # type: ignore[operator]

    def test_a_vapour_line_left_out_is_said_with_what_it_is_worth(self) -> None:
        """Less goes in without it, and the ± holds what the whole figure would be."""
        line = {"length": "55 ft", "liquid_od": "3/8 in"}
        step, whole = (findings({**PLATE, "lines": {"l1": {**line, **more}}}).step("identify") for more in ({}, {"suction_od": "3/4 in"}))
        left_out, entered = step.figure("total"), whole.figure("total")
        assert left_out is not None
        assert entered is not None
        said = next(reason for reason in step.verdict.reasons if reason.rule_id == "identify.left_out")
        assert said.value is not None
        assert left_out.amount.value + said.value.value == pytest.approx(entered.amount.value)
        assert 2.0 * left_out.amount.u >= said.value.value  # type: ignore[operator]
        assert labels(step) == []
        assert "identify.left_out" not in rules(whole)

    def test_no_vapour_line_is_usual_beside_a_very_thick_one_so_it_is_asked_for(self) -> None:
        step = findings({**PLATE, "lines": {"l1": {"length": "55 ft", "liquid_od": "1-1/8 in"}}}).step("identify")
        assert "vapour line OD" in labels(step)

    def test_an_unknown_refrigerant_needs_the_makers_figure(self) -> None:
        plate = {**PLATE, "refrigerant": "R-999X", "lines": {"l1": {"length": "55 ft", "liquid_od": "3/8 in"}}}
        assert "maker's allowance per length" in labels(findings(plate).step("identify"))

    @pytest.mark.parametrize("size", ["0.5 mm", "9 in"])
    def test_a_tube_size_that_is_none_never_enters_a_document(self, size: str) -> None:
        with pytest.raises(DocumentError, match="Liquid line OD must be from") as caught:
            findings({**PLATE, "lines": {"l1": {"length": "55 ft", "liquid_od": size}}})
        assert caught.value.path.endswith("/l1/liquid_od")

    def test_a_line_shorter_than_covered_is_asked_about_once(self) -> None:
        plate = {**PLATE, "lines": {"l1": {"length": "15 ft", "allowance": "0.6 oz/ft"}}}
        (question,) = findings(plate).step("identify").questions
        assert "swapped" in question.message.show()
        assert question.path.endswith("/included_length")


class TestWeighIn:
    @pytest.mark.parametrize(
        ("end", "word", "says"),
        [("20 lb 14.4 oz", "Holds", "within"), ("22 lb 0 oz", "Wait", "still to go in"), ("19 lb 0 oz", "Stop", "too much went in")],
    )
    def test_what_went_in_is_held_against_the_plan(self, end: str, word: str, says: str) -> None:
        step = findings(PLATE, {**WEIGHED, "draws": {"d1": {**DRAW, "gross_end": end}}}).step("weigh_in")
        assert step.verdict.word == word
        assert any(says in r.message.show() for r in step.verdict.reasons)

    def test_more_inside_than_belongs_is_recovered(self) -> None:
        sheet = {"system_state": "holding", "inside": "12 lb", "draws": {"d1": without(DRAW, "gross_end")}}
        step = findings(PLATE, sheet).step("weigh_in")
        assert "weigh_in.negative" in rules(step)
        assert step.drawn(WeighInPicture).marks == ()

    def test_a_precharged_unit_takes_only_the_line_and_the_parts(self) -> None:
        step = findings(PLATE, {"system_state": "precharged", "draws": {"d1": without(DRAW, "gross_end")}}).step("weigh_in")
        weigh = step.figure("to_weigh")
        assert weigh is not None
        assert oz(weigh.amount.value) == pytest.approx(19.5, abs=0.01)

    def test_a_scale_that_went_up_is_refused_and_counts_as_empty(self) -> None:
        step = findings(PLATE, {**WEIGHED, "draws": {"d1": {**DRAW, "gross_end": "33 lb"}}}).step("weigh_in")
        assert any("swapped" in p.message.show() for p in step.problems)
        assert step.figure("inside") is None

    def test_a_cylinder_under_its_tare_is_said_in_the_readers_units(self) -> None:
        (problem,) = (
            findings(PLATE, {**WEIGHED, "draws": {"d1": {**without(DRAW, "gross_end"), "gross_start": "8 lb"}}}).step("weigh_in").problems
        )
        assert "8 lb 0.0 oz" in problem.message.show("us")
        assert "3.629 kg" in problem.message.show("si")

    def test_less_gone_than_the_hose_holds_is_refused(self) -> None:
        draw = {**DRAW, "hose_loss": "4 oz", "gross_end": "31 lb 5 oz"}
        step = findings(PLATE, {**WEIGHED, "draws": {"d1": draw}}).step("weigh_in")
        assert any(p.path.endswith("/hose_loss") for p in step.problems)

    def test_a_charge_only_told_is_not_built_on(self) -> None:
        inside = {"value": 1.0, "text": "2 lb", "unit": "lb", "source": "told"}
        step = findings(PLATE, {"system_state": "holding", "inside": inside, "draws": {"d1": without(DRAW, "gross_end")}}).step("weigh_in")
        assert "weigh_in.told" in rules(step)

    def test_a_coarse_scale_is_refused_for_a_critical_charge(self) -> None:
        plate = {"refrigerant": "R-290", "factory_charge": "140 g", "kind": "reach_in", "metering": "capillary", "tolerance": "5 g"}
        sheet = {"system_state": "empty", "draws": {"d1": {"gross_start": "2 kg", "tare": "1 kg"}}}
        coarse = findings(plate, {**sheet, "scale_step": "10 g"}).step("weigh_in")
        assert coarse.verdict.word == "Stop"
        fine = findings(plate, {**sheet, "scale_step": "1 g"}).step("weigh_in")
        assert "critical.scale_share" not in rules(fine)
        assert "smallest step of the scale" in labels(findings(plate, sheet).step("weigh_in"))


class TestVerify:
    def test_too_cold_to_judge_by_subcooling(self) -> None:
        step = six_pounds("txv", {"r1": reading_with(12, 10, outdoor="40 °F")}).step("verify")
        assert "verify.outdoor_low" in rules(step)
        assert step.figure("target") is None

    def test_a_unit_that_has_not_settled_is_not_judged(self) -> None:
        step = findings(PLATE, WEIGHED, {**RUNNING, "run_in": "4 min"}).step("verify")
        assert step.verdict.word == "Wait"
        assert "verify.run_in" in rules(step)

    def test_dirty_coils_come_before_any_charge(self) -> None:
        step = findings(PLATE, WEIGHED, {**RUNNING, "coils_ok": False}).step("verify")
        assert step.verdict.word in {"Wait", "Stop"}
        assert step.figure("trim_step") is None

    def test_short_and_full_at_once_is_no_question_of_charge(self) -> None:
        reading = reading_with(35, 18, return_wet_bulb="67 °F", outdoor="75 °F")
        step = six_pounds("orifice", {"r1": reading}).step("verify")
        assert "trim.opposed" in rules(step)
        assert step.verdict.word == "Stop"
        assert step.figure("trim_step") is None

    def test_without_a_weighed_charge_no_step_can_be_bounded(self) -> None:
        step = findings(PLATE, {"system_state": "empty", "draws": {}}, {**RUNNING, "readings": {"r1": reading_with(12, 2)}}).step("verify")
        assert step.figure("trim_step") is None

    def test_the_units_own_chart_wins_over_the_formula(self) -> None:
        reading = reading_with(13, None, return_wet_bulb="67 °F", outdoor="95 °F")
        chart = six_pounds("orifice", {"r1": reading}).step("verify").figure("target")
        assert chart is not None
        plate = {
            "refrigerant": "R-410A",
            "factory_charge": "6 lb",
            "kind": "packaged",
            "metering": "orifice",
            "altitude": "0 m",
            "gauge_reference": "vented",
        }
        sheet = {**RUNNING, "chart_superheat": "18 °F", "readings": {"r1": reading}}
        own = findings(
            plate, {"system_state": "empty", "draws": {"d1": {"gross_start": "20 lb", "tare": "9 lb", "gross_end": "14 lb"}}}, sheet
        )
        target = own.step("verify").figure("target")
        assert target is not None
        assert target.amount.value == pytest.approx(10.0)
        assert "chart" in target.why.source

    @pytest.mark.parametrize(
        ("change", "field"),
        [
            ({"suction_pressure": "372 psig", "liquid_pressure": "128 psig"}, "suction_pressure"),
            ({"suction_line": "102 °F", "liquid_line": "54 °F"}, "suction_line"),
        ],
    )
    def test_readings_that_cannot_be_are_called_swapped(self, change: dict[str, str], field: str) -> None:
        step = findings(PLATE, WEIGHED, {**RUNNING, "readings": {"r1": {**READING, **change}}}).step("verify")
        (problem,) = step.problems
        assert problem.path.endswith(f"/r1/{field}")
        assert "swapped" in problem.message.show()
        assert step.verdict.word == "Open"

    def test_a_pressure_above_the_tables_is_refused_where_it_was_typed(self) -> None:
        step = findings(PLATE, WEIGHED, {**RUNNING, "readings": {"r1": {**READING, "liquid_pressure": "800 psig"}}}).step("verify")
        assert any(p.path.endswith("/r1/liquid_pressure") for p in step.problems)


class TestCloseOut:
    def end(self, **sheet: object) -> StepResult:
        return findings(PLATE, WEIGHED, RUNNING, sheets={"close_out": sheet}).step("close_out")

    def test_proven_only_when_verify_holds(self) -> None:
        wrong = findings(PLATE, WEIGHED, {**RUNNING, "readings": {"r1": reading_with(12, 1)}}, sheets={"close_out": {"outcome": "proven"}})
        assert "close_out.way" in rules(wrong.step("close_out"))
        assert wrong.step("close_out").verdict.word == "Stop"

    def test_weight_alone_needs_a_weight_that_holds_and_a_reason(self) -> None:
        assert "reason" in labels(self.end(outcome="proven_by_weight", label_fixed=True))
        light = {**WEIGHED, "draws": {"d1": {**DRAW, "gross_end": "25 lb"}}}
        found = findings(PLATE, light, sheets={"close_out": {"outcome": "proven_by_weight"}}).step("close_out")
        assert found.verdict.word == "Stop"

    @pytest.mark.parametrize("outcome", ["handed_over", "left_safe"])
    def test_what_is_not_proven_closes_with_its_reason_alone(self, outcome: str) -> None:
        assert labels(self.end(outcome=outcome)) == ["reason"]
        assert self.end(outcome=outcome, reason="compressor will not start").verdict.word == "Holds"

    def test_a_label_not_fixed_waits(self) -> None:
        assert "close_out.label" in rules(self.end(outcome="proven", label_fixed=False))

    def test_the_greenhouse_weight_is_charge_times_gwp(self) -> None:
        """R-410A, GWP 2088 (IPCC AR4, from memory)."""
        step = self.end(outcome="proven", label_fixed=True)
        inside, co2e = step.figure("inside"), step.figure("co2e")
        assert inside is not None
        assert co2e is not None
        assert co2e.amount.value == pytest.approx(2088 * inside.amount.value, rel=1e-3)
