"""Repair: joining, drier, orifice, oil, causes, and what parts do to the total (common practice, no source)."""

from typing import Any

import pytest

from tests.make import NOW, PLATE, findings, job, oz
from tests.make_closed import RECOVERED, REPAIRED, UNIT, rules, said
from yoshi_core.findings.result import StepResult
from yoshi_core.job import closing
from yoshi_core.message import worded
from yoshi_core.profile.profile import Profile
from yoshi_core.record import record
from yoshi_core.steps import plates


def repaired(plate: dict[str, Any] | None = None, **more: Any) -> StepResult:
    sheets = {"recover": RECOVERED, "repair": {**REPAIRED, **more}}
    return findings(plate or UNIT, kind="service", sheets=sheets).step("repair")


def test_a_clean_repair_holds() -> None:
    found = repaired()
    assert found.verdict.word == "Holds", found.verdict.headline.show()
    assert found.summary.show() == "drier and cores"


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
        ({"drier_size": False}, "repair.drier_size", "Open"),
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
    assert "why compressor failed" in [worded(m.label) for m in found.missing]
    assert "oil" not in " ".join(worded(m.label) for m in found.missing)


@pytest.mark.parametrize(
    ("fitted", "word"),
    [
        ("0.059", "Holds"),
        (".059", "Holds"),
        ("59", "Holds"),
        ("0.059 in", "Holds"),
        ('.059"', "Holds"),
        ("0,059", "Holds"),
        ("1.5 mm", "Holds"),
        ("#59", "Wait"),
        ("0.063", "Wait"),
        ("57", "Wait"),
        ("piston B", "Wait"),
    ],
)
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
    assert said(found, "repair.oil") == "430 mL (14.5 oz) of POE 32 to add."
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


class TestOil:
    """By kind and grade against the plate; without it, against what the refrigerant carries."""

    @pytest.mark.parametrize(
        ("on_record", "fitted", "word"),
        [
            ("POE 32", "POE 32", "Holds"),
            ("POE 32", "polyolester VG32", "Holds"),
            ("POE 32", "PVE 32", "Stop"),
            ("POE 32", "mineral oil", "Stop"),
            ("POE 32", "POE 68", "Wait"),
            ("POE 32", "compressor oil", "Open"),
            ("POE 32", "POE", "Open"),
        ],
    )
    def test_against_the_plate(self, on_record: str, fitted: str, word: str) -> None:
        found = repaired({**UNIT, "oil": on_record}, oil_out="measured", oil_removed="100 mL", oil_grade=fitted)
        assert rules(found)["repair.oil_kind"] == word

    @pytest.mark.parametrize(("fitted", "word"), [("POE 32", None), ("PAG 46", "Wait"), ("oil from the shelf", "Open")])
    def test_against_the_refrigerant_where_the_plate_is_silent(self, fitted: str, word: str | None) -> None:
        found = repaired({**UNIT, "refrigerant": "R-410A", "oil": None}, oil_out="measured", oil_removed="100 mL", oil_grade=fitted)
        assert rules(found).get("repair.oil_kind") == word

    def test_an_electric_compressor_takes_its_own_alone(self) -> None:
        van = {**UNIT, "kind": "vehicle", "refrigerant": "R-1234yf", "electric": True, "oil": None}
        assert rules(repaired(van, oil_out="measured", oil_removed="5 mL", oil_grade="PAG 46"))["repair.oil_kind"] == "Wait"
        named = {**van, "oil": "POE 68"}
        for fitted, word in (("PAG 46", "Stop"), ("POE 46", "Stop"), ("POE 68", "Holds"), ("the usual", "Wait")):
            assert rules(repaired(named, oil_out="measured", oil_removed="5 mL", oil_grade=fitted))["repair.oil_kind"] == word

    def test_of_a_vehicle_it_is_asked_whether_its_compressor_is_electric(self) -> None:
        van = {**UNIT, "kind": "vehicle", "refrigerant": "R-1234yf", "oil": None}
        asked = repaired(van, oil_out="measured", oil_removed="5 mL", oil_grade="PAG 46")
        assert "whether its compressor is electric" in [missing.label for missing in asked.missing]
        belt = repaired({**van, "electric": False}, oil_out="measured", oil_removed="5 mL", oil_grade="PAG 46")
        assert ("whether its compressor is electric" in [m.label for m in belt.missing], rules(belt).get("repair.oil_kind")) == (
            False,
            None,
        )


class TestOpenTime:
    """By what its oil draws out of the air, and by the air."""

    @pytest.mark.parametrize(
        ("oil", "weather", "stood", "wet"),
        [
            ("POE 32", None, "14 min", False), ("POE 32", None, "16 min", True),
            ("POE 32", "wet", "8 min", True), ("POE 32", "wet", "7 min", False), ("POE 32", "dry", "29 min", False), ("POE 32", "dry", "31 min", True),
            ("mineral", None, "119 min", False), ("mineral", None, "121 min", True), ("AB 150", "wet", "59 min", False), ("AB 150", "wet", "61 min", True),
            (None, None, "16 min", True),
        ],
    )  # fmt: skip
    def test_how_long_is_fine(self, oil: str | None, weather: str | None, stood: str, wet: bool) -> None:
        found = repaired({**UNIT, "oil": oil}, opened_for=stood, weather=weather)
        assert ("repair.open" in rules(found)) == wet


class TestRemedies:
    """What was asked for can be met."""

    def test_brazed_without_nitrogen(self) -> None:
        hot = {"joining": "brazed", "at_zero": True, "both_open": True, "fire_watch": True, "nitrogen_flow": False}
        assert rules(repaired(**hot))["repair.nitrogen"] == "Wait"
        assert rules(repaired(**hot, screen=True))["repair.nitrogen"] == "Open"
        assert rules(repaired(**hot, screen=True, drier="kept"))["repair.nitrogen"] == "Wait"

    def test_dirt_and_acid(self) -> None:
        parts = {"p1": {"kind": "compressor", "failed_by": "contamination"}}
        asked = repaired(parts=parts, acid_test=True, drier="suction_too", oil_out="none")
        assert "acid test says" in [missing.label for missing in asked.missing]
        assert rules(asked)["repair.suction_out"] == "Open"
        acid = repaired(parts=parts, acid_test=True, acid="acid", drier="suction_too", suction_out=True, oil_out="none")
        assert (rules(acid)["repair.acid_found"], rules(acid).get("repair.suction_out")) == ("Wait", None)
        assert "repair.acid_found" not in rules(repaired(parts=parts, acid_test=True, acid="clean", drier="suction_too", oil_out="none"))

    def test_a_second_kind_of_joint_is_hot_too(self) -> None:
        found = repaired(joining="flared", also_joined="brazed", both_open=False, nitrogen_flow=None)
        assert rules(found)["repair.trapped"] == "Stop"
        assert "nitrogen flowed while brazing" in [missing.label for missing in found.missing]
        assert "repair.trapped" not in rules(repaired(joining="flared", both_open=False))


def test_a_used_part_and_lines_washed_out_are_remarked_on_and_bar_nothing() -> None:
    found = repaired(parts={"p1": {"label": "service valve", "kind": "valve", "used": True}}, lines="washed")
    assert (rules(found)["repair.used"], rules(found)["repair.lines"]) == ("Open", "Open")
    assert "tested before it goes in" in said(found, "repair.used")
    assert "new drier" in said(found, "repair.lines")
    assert "repair.used" not in rules(repaired(parts={"p1": {"label": "service valve", "kind": "valve"}}))
