"""Recover: room before anything is opened, a running total is no result, the last weight judged. Common practice, no source."""

from typing import Any

import pytest

from tests.make import NOW, findings, job, oz
from yoshi_core.charge import recovery
from yoshi_core.document import ledger
from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.findings.pictures import RecoverPicture
from yoshi_core.findings.result import StepResult
from yoshi_core.job import closing
from yoshi_core.job.evaluate import evaluate
from yoshi_core.job.patches import Change, save
from yoshi_core.message import worded
from yoshi_core.profile.profile import Profile
from yoshi_core.units.quantities import LB_KG

PACKAGED = {
    "refrigerant": "R-410A",
    "factory_charge": "18 lb",
    "kind": "packaged",
    "metering": "txv",
    "altitude": "0 m",
    "pairing_proven": True,
    "pairing_by": "switched",
}
BIG = {"cylinder": "R4", "contents": "evacuated", "tare": "27 lb", "water_capacity": "47.7 lb", "gross_start": "27 lb"}
READY = {"way": "cylinder", "fan_on": True, "valves_open": True}
OVER = {
    **READY,
    "finished": True,
    "end_pressure": "0 psig",
    "waited": "6 min",
    "risen_to": "0.5 psig",
    "burnout": False,
    "same_owner": True,
    "acid": "clean",
    "use": "reuse",
}


def recovered(sheet: dict[str, Any], plate: dict[str, Any] = PACKAGED, **more: Any) -> StepResult:
    return findings(plate, kind="service", sheets={"recover": sheet}, **more).step("recover")


def rules(result: StepResult) -> dict[str, str]:
    return {reason.rule_id: reason.word for reason in result.verdict.reasons}


def test_a_running_total_shows_no_shortage_and_the_end_does() -> None:
    half = recovered({**READY, "cylinders": {"c1": {**BIG, "gross_now": "39 lb"}}})
    assert half.figure("share") is None
    assert half.verdict.headline.show() == "12 lb 0.0 oz so far; how much is missing is said at the end."
    end = recovered({**OVER, "cylinders": {"c1": {**BIG, "gross_now": "41 lb"}}})
    share = end.figure("share")
    assert share
    assert 1.0 - share.amount.value == pytest.approx(0.2222, abs=1e-4)
    assert end.verdict.word == "Holds"
    assert "22.2 % short" in next(r.message.show() for r in end.verdict.reasons if r.rule_id == "recover.share")


def test_five_pounds_three_ounces() -> None:
    scale = {
        "cylinder": "R1",
        "contents": "same",
        "tare": "20 lb",
        "water_capacity": "47.7 lb",
        "gross_start": "27 lb 2 oz",
        "gross_now": "32 lb 5 oz",
    }
    figure = recovered({**READY, "cylinders": {"c1": scale}}).figure("recovered")
    assert figure
    assert oz(figure.amount.value) == pytest.approx(5 * 16 + 3)


def test_more_than_the_plate_says_is_an_overcharge_or_a_wrong_plate() -> None:
    result = recovered({**OVER, "cylinders": {"c1": {**BIG, "gross_now": "37 lb"}}}, {**PACKAGED, "factory_charge": "9 lb 4 oz"})
    said = next(r.message.show() for r in result.verdict.reasons if r.rule_id == "recover.share")
    assert said.startswith("108.1 % came out")
    assert "overcharged by somebody, or a wrong plate" in said


def test_a_second_cylinder_is_asked_for_before_the_first_is_opened() -> None:
    small = {"contents": "same", "tare": "24 lb", "water_capacity": "26.2 lb", "gross_start": "39 lb"}
    plate = {**PACKAGED, "factory_charge": "12 lb"}
    result = recovered({**READY, "cylinders": {"c1": small}}, plate)
    assert (result.verdict.word, rules(result)["cylinder.fill"]) == ("Stop", "Stop")
    assert "Have another cylinder at hand before the first is opened." in result.verdict.headline.show()
    two = recovered({**READY, "cylinders": {"c1": small, "c2": BIG}}, plate)
    assert rules(two)["cylinder.fill"] == "Holds"


def test_the_as_found_cause_narrows_what_to_expect() -> None:
    assert recovery.expected_kg(10.0, "undercharge") == (4.0, 9.5)
    assert recovery.expected_kg(10.0, "overcharge")[0] > 10.0
    assert recovery.expected_kg(10.0, "condenser_air") == recovery.expected_kg(10.0, None)
    assert recovery.expected_kg(10.0, None, 0.1) == pytest.approx((0.05, 0.15))
    with pytest.raises(OutOfRange):
        recovery.expected_kg(0.0, None)


@pytest.mark.parametrize(
    ("cylinder", "rule"),
    [({"contents": "other"}, "cylinder.mixed"), ({"retest": "2026-05"}, "cylinder.retest"), ({"gross_now": "68 lb"}, "cylinder.over")],
)
def test_a_cylinder_that_must_not_be_filled_stops(cylinder: dict[str, Any], rule: str) -> None:
    result = recovered({**READY, "cylinders": {"c1": {**BIG, **cylinder}}})
    assert rules(result)[rule] == "Stop"
    assert rules(recovered({**READY, "cylinders": {"c1": {**BIG, "retest": "2026-06"}}})).get("cylinder.retest") is None


@pytest.mark.parametrize(
    ("cylinder", "code"),
    [
        ({"gross_now": "26 lb"}, "negative_recovered"),
        ({"gross_start": "31 lb"}, "not_empty"),
        ({"gross_start": "20 lb"}, "out_of_range"),
        ({"retest": "next May"}, "not_a_month"),
    ],
)
def test_entries_that_cannot_be_are_refused_by_name(cylinder: dict[str, Any], code: str) -> None:
    result = recovered({**READY, "cylinders": {"c1": {**BIG, **cylinder}}})
    assert code in [p.code for p in result.problems]
    assert result.verdict.word == "Open"


def test_a_scale_a_hair_under_the_tare_is_an_empty_cylinder() -> None:
    hair = recovered({**READY, "cylinders": {"c1": {**BIG, "tare": "12.248 kg"}}})
    assert hair.problems == ()
    assert rules(hair)["cylinder.fill"] == "Holds"


def test_no_water_capacity_no_limit() -> None:
    result = recovered({**READY, "cylinders": {"c1": {k: v for k, v in BIG.items() if k != "water_capacity"}}})
    assert any("no limit can be worked out" in worded(m.label) for m in result.missing)


def test_a_cylinder_is_changed_before_it_is_full() -> None:
    # 47.7 lb of water hold 40.44 lb of R-410A: 67.44 lb on the scale
    near = recovered({**READY, "cylinders": {"c1": {**BIG, "gross_now": "65 lb"}}}, {**PACKAGED, "factory_charge": "60 lb"})
    assert rules(near)["cylinder.change"] == "Wait"
    row = near.drawn(RecoverPicture).cylinders[0]
    assert row.stop_gross
    assert row.stop_gross.value / LB_KG == pytest.approx(67.44, abs=0.05)


@pytest.mark.parametrize(
    ("more", "rule"),
    [
        ({"end_pressure": "8 psig"}, "recover.level"),
        ({"waited": "2 min"}, "recover.wait"),
        ({"risen_to": "20 psig"}, "recover.rise"),
        ({"frost": True}, "recover.frost"),
    ],
)
def test_the_pressure_is_watched_before_it_is_called_done(more: dict[str, Any], rule: str) -> None:
    result = recovered({**OVER, "cylinders": {"c1": {**BIG, "gross_now": "41 lb"}}, **more})
    assert (result.verdict.word, rules(result)[rule]) == ("Wait", "Wait")


def test_a_small_sealed_unit_is_done_by_its_share() -> None:
    plate = {**PACKAGED, "refrigerant": "R-134a", "factory_charge": "19 oz", "kind": "reach_in", "metering": "capillary"}
    sheet = {**OVER, "compressor_runs": True, "cylinders": {"c1": {**BIG, "gross_now": "28 lb 2 oz"}}}
    assert rules(recovered(sheet, plate))["recover.level"] == "Holds"
    short = {**sheet, "end_pressure": None, "cylinders": {"c1": {**BIG, "gross_now": "28 lb"}}}
    assert [m.label for m in recovered(short, plate).missing] == ["pressure at the end"]


def test_told_authorizes_nothing_and_a_weighed_surplus_reaches_the_other_circuit() -> None:
    plate = {**PACKAGED, "refrigerant": "R-134a", "factory_charge": "318 lb", "kind": "chiller"}
    told = recovered({**READY, "told": "355 lb"}, plate)
    assert (told.verdict.word, rules(told)["recover.told"]) == ("Wait", "Wait")
    assert told.movements == ()
    tank = {
        "cylinder": "T1",
        "contents": "evacuated",
        "tare": "300 lb",
        "water_capacity": "1000 lb",
        "gross_start": "300 lb",
        "gross_now": "656 lb",
    }
    over = {
        **OVER,
        "told": "355 lb",
        "end_pressure": "-8 psig",
        "risen_to": "-7.5 psig",
        "use": "other_circuit",
        "to_circuit": "CH-2",
        "to_circuit_mass": "38 lb",
    }
    donor = job(plate, kind="service", circuit={"id": "CH-1"}, sheets={"recover": {**over, "cylinders": {"c1": tank}}})
    result = evaluate(donor, Profile(), NOW).step("recover")
    missing = result.figure("missing")
    assert missing
    assert missing.label == "surplus"
    assert missing.amount.value / LB_KG == pytest.approx(38.0)
    assert missing.amount.u
    assert missing.amount.u > 0.0
    assert rules(result)["transfer.surplus"] == "Holds"
    questions = [q for s in evaluate(donor, Profile(), NOW).steps for q in s.questions if s.step == "recover"]
    changes = [Change(f"/steps/recover/runs/0/answers/{q.id.replace('~', '~0').replace('/', '~1')}", None, "kept") for q in questions]
    donor = save(donor, changes, "J. Pell", NOW).job
    closed = closing.close_step(donor, Profile(), "recover", "J. Pell", NOW)
    assert ledger.balance_kg(closed.ledger, "circuit:CH-2") / LB_KG == pytest.approx(38.0)
    assert ledger.balance_kg(closed.ledger, "cylinder:T1") / LB_KG == pytest.approx(318.0)
    assert ledger.balance_kg(closed.ledger, "circuit:CH-1") / LB_KG == pytest.approx(-356.0)
    greedy = recovered({**over, "to_circuit_mass": "45 lb", "cylinders": {"c1": tank}}, plate)
    assert rules(greedy)["transfer.surplus"] == "Stop"
    hearsay = recovered({**over, "to_circuit_mass": {"text": "38 lb", "source": "told"}, "cylinders": {"c1": tank}}, plate)
    assert rules(hearsay)["transfer.weighed"] == "Stop"


def test_what_another_circuit_gave_counts_as_inside() -> None:
    fact = {
        "kind": "transfer_in",
        "key": "d/recover/0/transfer/1",
        "as_of": NOW.isoformat(),
        "source": "job d",
        "values": {"mass_kg": 2 * LB_KG},
    }
    draw = {"cylinder": "14", "gross_start": "31 lb", "tare": "9 lb"}
    result = findings({**PACKAGED}, {"system_state": "empty", "draws": {"d1": draw}}, facts=[fact]).step("weigh_in")
    to_weigh = result.figure("to_weigh")
    assert to_weigh
    assert to_weigh.amount.value / LB_KG == pytest.approx(16.0)


@pytest.mark.parametrize(
    ("more", "word"),
    [
        ({}, "Holds"),
        ({"burnout": True}, "Stop"),
        ({"acid": "acid"}, "Stop"),
        ({"same_owner": False}, "Stop"),
        ({"oily": True}, "Stop"),
        ({"burnout": True, "decisions": {"d1": {"question": "reuse?", "chosen": "reuse", "by": "canteen manager"}}}, "Open"),
        ({"same_owner": False, "decisions": {"d1": {"chosen": "reuse", "by": "canteen manager"}}}, "Stop"),
    ],
)
def test_reuse_follows_its_school(more: dict[str, Any], word: str) -> None:
    result = recovered({**OVER, "cylinders": {"c1": {**BIG, "gross_now": "41 lb"}}, **more})
    assert rules(result)["recovered.use"] == word


def test_a_blend_that_leaked_far_goes_for_reclaim() -> None:
    plate = {**PACKAGED, "refrigerant": "R-407C"}
    far = recovered({**OVER, "cylinders": {"c1": {**BIG, "gross_now": "40 lb"}}}, plate)
    assert rules(far)["recovered.use"] == "Stop"
    near = recovered({**OVER, "cylinders": {"c1": {**BIG, "gross_now": "44 lb"}}}, plate)
    assert rules(near)["recovered.use"] == "Holds"
    always_new = recovered(
        {**OVER, "cylinders": {"c1": {**BIG, "gross_now": "44 lb"}}}, plate, profile=Profile(choices={"recovered.use": "new"})
    )
    assert rules(always_new)["recovered.use"] == "Stop"


PUMPED = {
    "way": "pump_down",
    "compressor_runs": True,
    "low_breach": False,
    "small_condenser": False,
    "into_vacuum": False,
    "finished": True,
}


@pytest.mark.parametrize(
    ("more", "rule", "word"),
    [
        ({"shut_at": "1 psig"}, "pump_down.shut", "Holds"),
        ({"shut_at": "-3 psig"}, "pump_down.shut", "Open"),
        ({"shut_at": "30 psig"}, "pump_down.shut", "Wait"),
        ({"low_breach": True}, "pump_down.breach", "Stop"),
        ({"small_condenser": True}, "pump_down.room", "Stop"),
        ({"into_vacuum": True}, "pump_down.scroll", "Stop"),
        ({"compressor_runs": False}, "pump_down.runs", "Stop"),
    ],
)
def test_pumping_down_has_its_refusals(more: dict[str, Any], rule: str, word: str) -> None:
    result = recovered({**PUMPED, **more})
    assert rules(result)[rule] == word
    assert result.movements == ()


def test_nothing_is_opened_before_the_pairing_is_proven() -> None:
    unproven = {k: v for k, v in PACKAGED.items() if not k.startswith("pairing")}
    assert not any("are a pair" in worded(m.label) for m in recovered({**READY, "cylinders": {"c1": BIG}}, unproven).missing)
    apart = {**unproven, "kind": "split"}
    assert any("are a pair" in worded(m.label) and m.hard for m in recovered({**READY, "cylinders": {"c1": BIG}}, apart).missing)
    told = recovered({**READY, "cylinders": {"c1": BIG}}, {**PACKAGED, "pairing_by": "told"})
    assert rules(told)["pairing.told"] == "Stop"


def test_an_unlabelled_circuit_stays_open_and_the_smaller_plate_counts() -> None:
    plate = {**PACKAGED, "factory_charge": "8 lb", "circuit_known": False, "other_charge": "7 lb 8 oz"}
    draw = {"cylinder": "14", "gross_start": "31 lb", "tare": "9 lb"}
    found = findings(plate, {"system_state": "empty", "draws": {"d1": draw}})
    assert "pairing.circuit" in rules(found.step("identify"))
    assert rules(found.step("weigh_in"))["pairing.circuit"] == "Wait"
    to_weigh = found.step("weigh_in").figure("to_weigh")
    assert to_weigh
    assert to_weigh.amount.value / LB_KG == pytest.approx(7.5)


def test_an_unfinished_recovery_is_not_called_empty_and_not_applicable_may_be() -> None:
    draw = {"cylinder": "14", "gross_start": "31 lb", "tare": "9 lb"}
    subject = job(PACKAGED, {"system_state": "empty", "draws": {"d1": draw}}, kind="service")
    assert "weigh_in.not_empty" in rules(evaluate(subject, Profile(), NOW).step("weigh_in"))
    skipped = closing.not_applicable(subject, "recover", "J. Pell", NOW, "came empty from its maker")
    assert "weigh_in.not_empty" not in rules(evaluate(skipped, Profile(), NOW).step("weigh_in"))
    with pytest.raises(InvalidInput):
        closing.not_applicable(skipped, "recover", "J. Pell", NOW, "again")
    with pytest.raises(InvalidInput):
        closing.not_applicable(subject, "close_out", "J. Pell", NOW, "tired")


def test_the_last_weighed_total_is_the_measure_and_the_plate_comes_second() -> None:
    fact = {"kind": "weighed_total", "key": "CR-1", "as_of": NOW.isoformat(), "source": "job before", "values": {"mass_kg": 20 * LB_KG}}
    result = recovered({**OVER, "cylinders": {"c1": {**BIG, "gross_now": "41 lb"}}}, facts=[fact])
    share, plate = result.figure("share"), result.figure("plate_share")
    assert share
    assert share.amount.value == pytest.approx(0.7)
    assert plate
    assert plate.amount.value == pytest.approx(14 / 18)


def test_no_reason_closes_over_refrigerant_that_changes_its_owner() -> None:
    decided = {"decisions": {"d1": {"question": "back in", "chosen": "yes", "by": "the caretaker"}}}
    sheet = {**OVER, **decided, "same_owner": False, "cylinders": {"c1": {**BIG, "gross_now": "45 lb"}}}
    subject = job(PACKAGED, kind="service", sheets={"recover": sheet})
    result = evaluate(subject, Profile(), NOW).step("recover")
    assert (result.verdict.word, result.missing, result.problems) == ("Stop", (), ())
    with pytest.raises(InvalidInput, match="A reason does not lift this"):
        closing.close_step(subject, Profile(), "recover", "orrin", NOW, "both of them agreed")


def test_a_stop_of_another_kind_still_closes_with_its_reason() -> None:
    sheet = {**OVER, "acid": "acid", "cylinders": {"c1": {**BIG, "gross_now": "45 lb"}}}
    subject = job(PACKAGED, kind="service", sheets={"recover": sheet})
    assert evaluate(subject, Profile(), NOW).step("recover").verdict.word == "Stop"
    closed = closing.close_step(subject, Profile(), "recover", "orrin", NOW, "the lead decides tomorrow")
    assert closed.steps["recover"].events[-1].reason == "the lead decides tomorrow"
