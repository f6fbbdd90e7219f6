"""The four steps judged whole, and every bad entry with its sentence."""

import dataclasses

import pytest

from tests.make import DRAW, NOW, PLATE, READING, RUNNING, WEIGHED, delta_f, findings, job, oz, reading_with, six_pounds
from yoshi_core.document.schema import check_range, default_unit, facts_of, read_entry
from yoshi_core.errors import CoreError
from yoshi_core.findings.result import StepResult
from yoshi_core.job.evaluate import evaluate
from yoshi_core.job.patches import Change, save
from yoshi_core.profile.profile import Profile
from yoshi_core.steps.registry import STEPS
from yoshi_core.units import mass_faces


def rules(result: object) -> set[str]:
    return {reason.rule_id for reason in result.verdict.reasons}  # type: ignore[attr-defined]


def test_the_first_whole_job() -> None:
    found = findings(PLATE, WEIGHED, RUNNING)
    total = found.step("identify").figure("total")
    close = found.step("weigh_in").figure("close_at")
    assert total is not None
    assert close is not None
    assert mass_faces(total.amount.value).lb_oz == "10 lb 7.5 oz"
    assert round(2 * oz(total.amount.u or 0), 1) == 2.4
    assert mass_faces(close.amount.value).lb_oz == "20 lb 14.4 oz"
    verify = found.step("verify")
    assert verify.verdict.word == "Holds"
    superheat, subcooling = verify.figure("superheat"), verify.figure("subcooling")
    assert superheat is not None
    assert subcooling is not None
    assert round(delta_f(superheat.amount.value), 1) == 11.3
    assert round(delta_f(subcooling.amount.value), 1) == 8.4


def test_every_figure_and_reason_names_its_rule_and_source() -> None:
    found = findings(PLATE, WEIGHED, RUNNING)
    for step in found.steps:
        for figure in step.figures:
            assert figure.why.rule_id
            assert figure.why.source
        for reason in step.verdict.reasons:
            assert reason.rule_id
            assert reason.source


def test_orifice_over_target_gets_one_bounded_addition_then_holds() -> None:
    first = reading_with(27, None, return_wet_bulb="67 °F", outdoor="95 °F")
    found = six_pounds("orifice", {"r1": first}).step("verify")
    target, step = found.figure("target"), found.figure("trim_step")
    assert target is not None
    assert step is not None
    assert delta_f(target.amount.value) == pytest.approx(13.0, abs=0.01)
    assert found.verdict.word == "Wait"
    assert 0 < oz(step.amount.value) <= 4.8 + 1e-9
    second = {**reading_with(16, None, return_wet_bulb="67 °F", outdoor="95 °F"), "added": f"{oz(step.amount.value):.3f} oz"}
    after = six_pounds("orifice", {"r1": first, "r2": second}).step("verify")
    assert after.verdict.word == "Holds"
    inside = after.figure("inside")
    assert inside is not None
    assert oz(inside.amount.value) == pytest.approx(96 + oz(step.amount.value), abs=0.01)


def test_valve_unit_five_degrees_short_is_nine_percent_and_half_is_added() -> None:
    found = six_pounds("txv", {"r1": reading_with(12, 5)}).step("verify")
    step = found.figure("trim_step")
    assert step is not None
    assert round(oz(step.amount.value), 1) == 4.4
    assert "verify.assumed_subcooling" in rules(found)
    reason = next(r for r in found.verdict.reasons if r.rule_id == "trim.step")
    assert reason.message.amounts["share"].value == pytest.approx(0.091, abs=0.0005)


def test_valve_unit_nine_degrees_short_is_held_by_the_step_limit() -> None:
    step = six_pounds("txv", {"r1": reading_with(12, 1)}).step("verify").figure("trim_step")
    assert step is not None
    assert oz(step.amount.value) == pytest.approx(4.8, abs=0.001)


def test_superheat_method_is_refused_for_both_reasons_with_what_to_do() -> None:
    found = six_pounds("orifice", {"r1": reading_with(12, None, return_wet_bulb="60 °F", outdoor="110 °F")}).step("verify")
    assert {"target.outdoor_high", "target.lowest"} <= rules(found)
    assert found.verdict.word == "Wait"
    assert found.figure("target") is None
    assert found.figure("trim_step") is None
    assert "Weigh it in" in found.verdict.headline.text


def test_the_cap_stops_trimming_outward_but_not_back() -> None:
    history = {"r1": reading_with(12, 1)}
    for n in (2, 3):
        history[f"r{n}"] = {**reading_with(12, 1 + n * 0.3), "added": "4.8 oz"}
    found = six_pounds("txv", history).step("verify")
    assert found.verdict.word == "Stop"
    assert "trim.cap" in rules(found)
    history["r4"] = {**reading_with(12, 18), "removed": "0.1 oz", "cylinder": "R9"}
    back = six_pounds("txv", history).step("verify")
    step = back.figure("trim_step")
    assert step is not None
    assert step.label == "take out next"


def test_the_units_own_answer_sets_the_later_steps() -> None:
    history = {"r1": reading_with(12, 1), "r2": {**reading_with(12, 3), "added": "4 oz"}}
    step = six_pounds("txv", history).step("verify").figure("trim_step")
    assert step is not None
    assert oz(step.amount.value) == pytest.approx(4.8, abs=0.01)  # half of 7 °F at 0.5 °F/oz is 7 oz; the cap of 9.6 and the limit bind
    assert "own answer" in step.why.source


def test_a_unit_that_answers_the_wrong_way_is_not_charged_further() -> None:
    history = {"r1": reading_with(12, 3), "r2": {**reading_with(12, 1), "added": "4 oz"}}
    found = six_pounds("txv", history).step("verify")
    assert "trim.no_answer" in rules(found)
    assert found.verdict.word == "Stop"


@pytest.mark.parametrize(
    ("superheat", "subcooling", "rule", "word"),
    [
        (2, 10, "verify.superheat_low", "Stop"),
        (30, 12, "verify.superheat_high", "Stop"),
        (30, 2, "verify.superheat_high", "Wait"),
        (12, -4, "verify.subcooling_negative", "Stop"),
    ],
)
def test_what_is_not_the_charge_is_said(superheat: float, subcooling: float, rule: str, word: str) -> None:
    found = six_pounds("txv", {"r1": reading_with(superheat, subcooling)}).step("verify")
    assert rule in rules(found)
    assert found.verdict.word == word


def test_orifice_with_both_differences_high_is_a_restriction() -> None:
    found = six_pounds("orifice", {"r1": reading_with(33, 18, return_wet_bulb="67 °F", outdoor="75 °F")}).step("verify")
    assert "trim.opposed" in rules(found)
    assert found.verdict.word == "Stop"


@pytest.mark.parametrize(("field", "value"), [("run_in", "3 min"), ("filter_ok", False), ("coils_ok", False)])
def test_nothing_is_judged_before_air_and_time_are_right(field: str, value: object) -> None:
    found = findings(PLATE, WEIGHED, {**RUNNING, field: value}).step("verify")
    assert found.verdict.word == "Wait"
    assert f"verify.{field}" in rules(found)


def test_a_capillary_unit_is_proven_by_weight_and_never_trimmed() -> None:
    sheet = {
        "refrigerant": "R-290",
        "factory_charge": "150 g",
        "kind": "reach_in",
        "metering": "capillary",
        "tolerance": "3 g",
        "listed": True,
    }
    draw = {"gross_start": "2140 g", "tare": "1020 g", "gross_end": "1990 g"}
    found = findings(sheet, {"system_state": "empty", "scale_step": "1 g", "draws": {"d1": draw}}, {**RUNNING, "readings": {}})
    assert found.step("weigh_in").verdict.word == "Holds"
    assert found.step("verify").verdict.word == "Holds"
    assert "verify.by_weight" in rules(found.step("verify"))
    coarse = findings(sheet, {"system_state": "empty", "scale_step": "0.5 oz", "draws": {"d1": draw}}).step("weigh_in")
    assert coarse.verdict.word == "Stop"
    assert "critical.scale_share" in rules(coarse)


def test_a_refrigerant_without_tables_still_gets_a_plan_by_weight() -> None:
    found = findings({**PLATE, "refrigerant": "R-999Z"}, WEIGHED, RUNNING)
    total = found.step("identify").figure("total")
    assert total is not None
    assert mass_faces(total.amount.value).lb_oz == "10 lb 7.5 oz"
    assert found.step("identify").questions[0].id == "unknown:R-999Z"
    assert found.step("weigh_in").figure("close_at") is not None
    assert "verify.no_tables" in rules(found.step("verify"))


def test_a_flammable_refrigerant_in_unlisted_equipment_is_stopped() -> None:
    found = findings({**PLATE, "refrigerant": "R-454B", "listed": False}).step("identify")
    assert found.verdict.word == "Stop"
    assert {c.id for c in found.cautions} >= {"flammable", "blend.liquid"}


def test_a_slip_against_the_plate_is_asked_about_and_settled_once() -> None:
    circuit = {"id": "c", "plate": {"factory_charge": "9 lb 8 oz"}}
    found = findings({**PLATE, "factory_charge": "9 lb 5 oz"}, circuit=circuit).step("identify")
    (question,) = found.questions
    assert found.verdict.word == "Wait"
    assert "tenths of a pound are not ounces" in question.message.show()
    assert question.suggestion == "9 lb 8 oz"
    kept = job({**PLATE, "factory_charge": "9 lb 5 oz"}, circuit=circuit)
    run = dataclasses.replace(kept.steps["identify"].runs[0], answers={question.id: "kept"})
    record = dataclasses.replace(kept.steps["identify"], runs=(run,))
    settled = evaluate(dataclasses.replace(kept, steps={"identify": record}), Profile(), NOW).step("identify")
    assert not settled.questions
    assert settled.verdict.word == "Holds"


def test_201_oz_written_as_12_lb_5_oz_is_asked_about() -> None:
    found = findings({**PLATE, "factory_charge": "12 lb 5 oz", "factory_charge_other": "201 oz"}).step("identify")
    assert "tenths of a pound are not ounces" in found.questions[0].message.show()


def test_an_included_length_longer_than_the_line_is_asked_and_leaves_the_plate() -> None:
    sheet = {**PLATE, "included_length": "70 ft", "parts": {}}
    found = findings(sheet).step("identify")
    assert found.questions[0].path.endswith("/included_length")
    total = found.figure("total")
    assert total is not None
    assert mass_faces(total.amount.value).lb_oz == "9 lb 4.0 oz"
    deducting = Profile(choices={"line.shorter_than_included": "deduct"})
    less = findings(sheet, profile=deducting).step("identify").figure("total")
    assert less is not None
    assert mass_faces(less.amount.value).lb_oz == "8 lb 11.0 oz"


@pytest.mark.parametrize(
    ("change", "where", "says"),
    [
        ({"gross_start": "8 lb"}, "gross_start", "less than its tare"),
        ({"gross_end": "33 lb"}, "gross_end", "more at the end"),
        ({"gross_end": "8 lb 15 oz"}, "gross_end", "empty cylinder"),
        ({"gross_end": "31 lb 6.2 oz"}, "hose_loss", "lost in the hose"),
    ],
)
def test_scale_readings_that_cannot_be(change: dict[str, str], where: str, says: str) -> None:
    found = findings(PLATE, {"system_state": "empty", "draws": {"d1": {**DRAW, **change}}}).step("weigh_in")
    assert any(p.path.endswith(where) and says in p.message.show() for p in found.problems)
    assert found.verdict.word in {"Open", "Stop"}


def test_a_cylinder_with_too_little_says_so_before_it_is_opened() -> None:
    draw = {"gross_start": "14 lb", "tare": "9 lb"}
    found = findings(PLATE, {"system_state": "empty", "draws": {"d1": draw}}).step("weigh_in")
    assert found.verdict.word == "Wait"
    reason = next(r for r in found.verdict.reasons if r.rule_id == "weigh_in.short")
    assert reason.value is not None
    assert mass_faces(reason.value.value).lb_oz == "5 lb 7.5 oz"


def test_more_inside_than_belongs_means_recover_that_much() -> None:
    found = findings(PLATE, {"system_state": "holding", "inside": "11 lb", "draws": {}}).step("weigh_in")
    reason = next(r for r in found.verdict.reasons if r.rule_id == "weigh_in.negative")
    assert reason.value is not None
    assert oz(reason.value.value) == pytest.approx(8.5, abs=0.01)


@pytest.mark.parametrize(
    ("end", "word"), [("20 lb 14.4 oz", "Holds"), ("21 lb 0 oz", "Holds"), ("21 lb 4 oz", "Wait"), ("20 lb 10 oz", "Stop")]
)
def test_weighed_in_is_held_against_the_plan(end: str, word: str) -> None:
    found = findings(PLATE, {"system_state": "empty", "draws": {"d1": {**DRAW, "gross_end": end}}}).step("weigh_in")
    assert found.verdict.word == word


@pytest.mark.parametrize(
    ("change", "where", "says"),
    [
        ({"suction_pressure": "400 psig", "liquid_pressure": "100 psig"}, "suction_pressure", "above liquid"),
        ({"suction_pressure": "-11.3 psig"}, "suction_pressure", "outside the R-410A table"),
        ({"liquid_pressure": "900 psig"}, "liquid_pressure", "outside the R-410A table"),
        ({"suction_line": "102 °F", "liquid_line": "54 °F"}, "suction_line", "swapped"),
    ],
)
def test_readings_that_cannot_be_are_named(change: dict[str, str], where: str, says: str) -> None:
    found = findings(PLATE, WEIGHED, {**RUNNING, "readings": {"r1": {**READING, **change}}}).step("verify")
    assert any(p.path.endswith(where) and says in p.message.show() for p in found.problems)
    assert found.verdict.word == "Open"


def _bounds() -> list[tuple[str, list[str]]]:
    found = []
    for step, one in STEPS.items():
        for name, (facts, row) in facts_of(one.sheet).items():
            if facts.hard:
                found.append((step, [name]))
            for inner, (inner_facts, _) in (facts_of(row) if row else {}).items():
                if inner_facts.hard:
                    found.append((step, [name, "x1", inner]))
    return found


@pytest.mark.parametrize(("step", "keys"), _bounds(), ids=lambda v: v if isinstance(v, str) else ".".join(v))
def test_every_hard_range_refuses_beyond_both_bounds(step: str, keys: list[str]) -> None:
    facts, row = facts_of(STEPS[step].sheet)[keys[0]]
    if row is not None:
        facts = facts_of(row)[keys[-1]][0]
    assert facts.hard is not None
    low, high = facts.hard
    unit = default_unit(facts, "us")
    check_range(facts, low, unit, "the low bound")
    check_range(facts, high, unit, "the high bound")
    span = high - low
    for outside in (low - span * 1e-6 - 1e-9, high + span * 1e-6 + 1e-9, 1e306, -1e306):
        with pytest.raises(CoreError) as caught:
            check_range(facts, outside, unit, "what was typed")
        assert facts.label[1:] in caught.value.message
        assert "what was typed is not" in caught.value.message


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ("1e308 lb", "must be from 0.01102 lb to 4409 lb; 1e+308 lb is not."),
        ("0 kg", "must be from 0.005 kg to 2000 kg; 0 kg is not."),
        ("0 lb 0 oz", "must be from 0.2 oz to 4409 lb 3.9 oz; 0 lb 0 oz is not."),
        ("99999 kg", "must be from 0.005 kg to 2000 kg; 99999 kg is not."),
    ],
)
def test_a_figure_out_of_range_is_refused_in_the_unit_it_was_typed_in(typed: str, says: str) -> None:
    facts = facts_of(STEPS["identify"].sheet)["factory_charge"][0]
    with pytest.raises(CoreError) as caught:
        read_entry(facts, typed)
    assert says in caught.value.message


@pytest.mark.parametrize(
    ("typed", "code"),
    [
        ("abc", "unit"),
        ("-3 lb", "unit"),
        ("1e999 kg", "unit"),
        ("NaN lb", "unit"),
        ("4 psig", "unit"),
        ("4 lb 17 oz", "unit"),
        ("9,5 lb", "unit"),
        ("99999 lb", "out_of_range"),
        ("0 lb", "out_of_range"),
    ],
)
def test_a_bad_entry_is_refused_in_words_and_nothing_else_changes(typed: str, code: str) -> None:
    before = job(PLATE)
    path = "/steps/identify/runs/0/sheet/factory_charge"
    good = Change("/steps/identify/runs/0/sheet/included_length", {"value": 7.62, "source": "plate"}, "20 ft")
    saved = save(before, [Change(path, None, typed, force=True), good], "M. Orrin", NOW)
    (problem,) = saved.problems
    assert (problem.path, problem.code) == (path, code)
    assert len(problem.message.text) > 20
    assert saved.job.steps["identify"].runs[0].sheet.factory_charge == before.steps["identify"].runs[0].sheet.factory_charge
    assert saved.job.steps["identify"].runs[0].sheet.included_length.value == pytest.approx(6.096)


def test_profile_thresholds_are_what_judges() -> None:
    strict = Profile(overrides={"verify.subcooling_tolerance": 0.5})

    def word(found: StepResult) -> str:
        return next(r.word for r in found.verdict.reasons if r.rule_id == "verify.subcooling_tolerance")

    assert word(findings(PLATE, WEIGHED, RUNNING).step("verify")) == "Holds"
    found = findings(PLATE, WEIGHED, RUNNING, profile=strict).step("verify")
    assert word(found) == "Open"
    assert next(r for r in found.verdict.reasons if r.rule_id == "verify.subcooling_tolerance").source.startswith("Field practice")


def test_two_disputed_lengths_weigh_to_the_smaller_total() -> None:
    dispute = {
        "path": "/steps/identify/runs/0/sheet/lines/l1/length",
        "value": {"value": 46 * 0.3048, "text": "46 ft", "unit": "ft"},
        "by": "J. Pell",
        "at": NOW.isoformat(),
    }
    found = findings(PLATE, {"system_state": "empty", "draws": {"d1": {"gross_start": "31 lb 6.5 oz", "tare": "9 lb"}}}, disputes=[dispute])
    weigh = found.step("weigh_in").figure("to_weigh")
    assert weigh is not None
    assert oz(weigh.amount.value) == pytest.approx(167.5 - 9 * 0.6, abs=0.01)
    assert "disputed" in {c.id for c in found.step("weigh_in").cautions}
