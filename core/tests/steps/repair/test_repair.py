"""Repair: joining, drier, orifice, oil, causes, and what parts do to the total (common practice, no source)."""

from typing import Any

import pytest

from tests.make import NOW, PLATE, findings, job, oz
from tests.make_closed import RECOVERED, REPAIRED, UNIT, rules, said
from yoshi_core.findings.result import StepResult
from yoshi_core.job import closing
from yoshi_core.profile.profile import Profile
from yoshi_core.record import record
from yoshi_core.steps import plates


def repaired(plate: dict[str, Any] | None = None, **more: Any) -> StepResult:
    sheets = {"recover": RECOVERED, "repair": {**REPAIRED, **more}}
    return findings(plate or UNIT, kind="service", sheets=sheets).step("repair")


def test_a_clean_repair_holds() -> None:
    found = repaired()
    assert found.verdict.word == "Holds", found.verdict.headline.show()
    assert found.summary.show() == "drier, cores"


@pytest.mark.parametrize(
    ("more", "rule", "word"),
    [
        ({"joining": "brazed", "at_zero": True, "both_open": False, "nitrogen_flow": True, "fire_watch": True}, "repair.trapped", "Stop"),
        ({"joining": "brazed", "at_zero": True, "both_open": True, "nitrogen_flow": True, "fire_watch": False}, "repair.fire", "Stop"),
        ({"joining": "brazed", "at_zero": True, "both_open": True, "nitrogen_flow": False, "fire_watch": True}, "repair.nitrogen", "Wait"),
        (
            {"joining": "brazed", "at_zero": True, "both_open": True, "nitrogen_flow": False, "fire_watch": True, "capillary": True},
            "repair.nitrogen",
            "Open",
        ),
        ({"drier": "kept"}, "repair.drier", "Wait"),
        ({"drier_way": False}, "repair.drier_way", "Stop"),
        ({"drier_size": False}, "repair.drier_size", "Wait"),
        ({"cores": False}, "repair.cores", "Wait"),
        ({"bulb": "loose"}, "repair.bulb", "Wait"),
        ({"lines": "as_they_were"}, "repair.lines", "Wait"),
        ({"opened_for": "2 h"}, "repair.open", "Open"),
        ({"water_seen": True}, "repair.wet", "Open"),
        ({"hidden": {"h1": {"label": "flare behind the cover", "tested": False}}}, "repair.hidden", "Wait"),
        ({"parts": {"p1": {"kind": "coil", "failed_by": "corrosion", "pressurized": False}}}, "repair.hiss", "Wait"),
        ({"parts": {"p1": {"kind": "compressor", "failed_by": "unknown"}}}, "repair.cause", "Open"),
        ({"parts": {"p1": {"kind": "compressor", "failed_by": "contamination"}}, "acid_test": False}, "repair.acid", "Wait"),
        ({"parts": {"p1": {"kind": "compressor", "failed_by": "contamination"}}}, "repair.suction_drier", "Wait"),
        ({"parts": {"p1": {"kind": "compressor", "failed_by": "short"}}}, "repair.cause_charge", "Open"),
    ],
)
def test_what_must_be_right_before_it_is_closed(more: dict[str, Any], rule: str, word: str) -> None:
    assert rules(repaired(**more))[rule] == word


def test_soft_solder_asks_for_no_nitrogen_and_a_ductless_unit_for_no_drier() -> None:
    soldered = repaired(joining="soldered", at_zero=True, both_open=True, fire_watch=True)
    assert soldered.verdict.word == "Holds"
    ductless = repaired({**UNIT, "kind": "ductless"}, drier="none_by_maker", drier_way=None, drier_size=None)
    assert ductless.verdict.word == "Holds"
    assert "repair.drier" not in rules(ductless)


def test_a_major_part_needs_its_cause() -> None:
    found = repaired(parts={"p1": {"label": "compressor", "kind": "compressor"}}, oil_out="none")
    assert "why compressor failed" in [m.label for m in found.missing]
    assert "oil" not in " ".join(m.label for m in found.missing)


@pytest.mark.parametrize(("fitted", "word"), [("0.059", "Holds"), (".059", "Holds"), ("#59", "Wait"), ("0.063", "Wait")])
def test_the_orifice_must_be_the_one_the_outdoor_unit_states(fitted: str, word: str) -> None:
    plate = {**UNIT, "metering": "orifice", "orifice": "0.059"}
    found = repaired(plate, orifice=fitted)
    assert rules(found)["repair.orifice"] == word


def test_the_oil_account() -> None:
    """350 mL came out, the new compressor asks for 700 and holds 600, dye brings 20: 430 to add."""
    parts = {"p1": {"kind": "compressor", "failed_by": "electrical", "oil_needs": "700 mL", "oil_inside": "600 mL"}}
    found = repaired(parts=parts, oil_out="measured", oil_removed="350 mL", oil_dye="20 mL", oil_grade="POE 32")
    oil = found.figure("oil")
    assert oil is not None
    assert oil.amount.value == pytest.approx(430e-6)
    assert said(found, "repair.oil") == "430 mL of POE 32 to add."
    blown = repaired(parts=parts, oil_out="blown_out")
    assert rules(blown)["repair.oil"] == "Wait"
    too_much = repaired(parts={"p1": {**parts["p1"], "oil_inside": "1200 mL"}}, oil_out="none", oil_grade="POE 32")
    assert rules(too_much)["repair.oil"] == "Wait"


def test_a_part_changes_the_total_of_every_later_step_and_of_the_record() -> None:
    part = {"label": "longer drier", "kind": "drier", "charge": "2 oz"}
    sheets = {"recover": RECOVERED, "repair": {**REPAIRED, "parts": {"p1": part}}}
    cylinder = {"cylinder": "14", "gross_start": "31 lb 6.5 oz", "tare": "9 lb"}
    empty = {"system_state": "empty", "draws": {"d1": cylinder}}
    without = findings(PLATE, empty, kind="service")
    subject = job(PLATE, empty, kind="service", sheets=sheets)
    found = findings(PLATE, empty, kind="service", sheets=sheets)
    for step, figure in (("identify", "total"), ("weigh_in", "to_weigh")):
        before, after = without.step(step).figure(figure), found.step(step).figure(figure)
        assert before is not None
        assert after is not None
        assert oz(after.amount.value - before.amount.value) == pytest.approx(2.0)
    label = record.label_data(subject, found, "Brindlewick")
    assert "longer drier 2.0 oz" in str(label)
    assert any("longer drier" in p.label for p in plates.repaired_plate(subject).parts.values() if p.label)
    skipped = closing.not_applicable(subject, "repair", "M. Orrin", NOW, "nothing was replaced")
    assert plates.repaired_parts(skipped) == {}


def test_taking_charge_away_and_the_profile_of_open_oil() -> None:
    found = repaired(parts={"p1": {"kind": "coil", "failed_by": "corrosion", "charge": "6 oz", "removes": True}})
    change = found.figure("parts_charge")
    assert change is not None
    assert oz(change.amount.value) == pytest.approx(-6.0)
    slower = findings(
        UNIT,
        kind="service",
        sheets={"repair": {**REPAIRED, "opened_for": "20 min"}},
        profile=Profile(overrides={"repair.open_limit": 3600.0}),
    )
    assert "repair.open" not in rules(slower.step("repair"))
