"""Slips of the hand are asked about where a second figure for the same thing exists (common practice, no source)."""

from typing import Any

import pytest

from tests.make import DRAW, NOW, PLATE, WEIGHED, findings
from yoshi_core.findings.verdict import Question
from yoshi_core.job import documents
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile

LINE: dict[str, str] = {"length": "55 ft", "liquid_od": "3/8 in", "suction_od": "7/8 in", "allowance": "0.6 oz/ft"}


def asked(step: str, plate: dict[str, Any], weigh: dict[str, Any] | None = None, **more: Any) -> list[Question]:
    return list(findings(plate, weigh, **more).step(step).questions)


class TestLengths:
    RECORD = {"circuit": {"id": "C", "name": "C", "plate": {"lines": {"l1": {"length": "55 ft"}}}}}

    def with_length(self, text: str) -> list[str]:
        plate = {**PLATE, "lines": {"l1": {**LINE, "length": text}}}
        return [q.message.show() for q in asked("identify", plate, **self.RECORD) if q.id.startswith("length:")]

    def test_metres_taken_for_feet_are_named(self) -> None:
        (said,) = self.with_length("17 ft")
        assert (
            said == "The record says this line is 55.0 ft long, the entry is 17.0 ft. One of them is metres taken for feet. Which is right?"
        )

    def test_another_length_is_asked_about_and_a_near_one_is_not(self) -> None:
        assert "Measure it again" in self.with_length("70 ft")[0]
        assert self.with_length("57 ft") == []


class TestTheBookOfTheCylinder:
    def with_gross(self, text: str) -> list[str]:
        draw = {**DRAW, "gross_start": text, "book_gross": "31 lb 8 oz"}
        del draw["gross_end"]
        return [q.message.show() for q in asked("weigh_in", PLATE, {**WEIGHED, "draws": {"d1": draw}}) if q.id.startswith("book:")]

    def test_tenths_of_a_pound_written_as_ounces_are_named(self) -> None:
        """31 lb 8 oz is 31.5 lb: 31 lb 5 oz would move the charge by 3 oz, more than it may be out. 24.9 lb is not this cylinder."""
        assert "Tenths of a pound are not ounces" in self.with_gross("31 lb 5 oz")[0]
        assert self.with_gross("31 lb 6 oz") == []
        assert "drawn from without being written down" in self.with_gross("24 lb 14 oz")[0]

    def test_a_small_cylinder_shows_the_slip(self) -> None:
        draw = {"cylinder": "P3", "gross_start": "4 lb 5 oz", "tare": "2 lb", "book_gross": "4.55 lb"}
        (said,) = [
            q
            for q in asked("weigh_in", {**PLATE, "lines": {}}, {"system_state": "empty", "draws": {"d1": draw}})
            if q.id.startswith("book:")
        ]
        assert "Tenths of a pound are not ounces" in said.message.show()


@pytest.mark.parametrize("answered", [True, False])
def test_answered_once_it_is_settled(answered: bool) -> None:
    draw = {**DRAW, "gross_start": "24 lb 14 oz", "book_gross": "31 lb 8 oz"}
    del draw["gross_end"]
    first = asked("weigh_in", PLATE, {**WEIGHED, "draws": {"d1": draw}})
    question = next(q for q in first if q.id.startswith("book:"))
    steps = {"weigh_in": {"runs": [{"sheet": {**WEIGHED, "draws": {"d1": draw}}, "answers": {question.id: "kept"} if answered else {}}]}}
    job = documents.load_job({"id": "t", "steps": {"identify": {"runs": [{"sheet": PLATE}]}, **steps}})
    left = [q.id for q in evaluate(job, Profile(), NOW).step("weigh_in").questions]
    assert (question.id in left) is not answered


@pytest.mark.parametrize(("step", "named"), [("0.5 oz", True), ("0.1 oz", False)])
def test_a_scale_coarser_than_the_tolerance_is_named_with_one_that_would_do(step: str, named: bool) -> None:
    """1 % of 30 oz is less than the 0.5 oz that is never asked finer; a third of that is 0.17 oz."""
    plate = {**PLATE, "kind": "packaged", "factory_charge": "30 oz", "lines": {}, "parts": {}}
    found = findings(plate, {"system_state": "empty", "scale_step": step, "draws": {"d1": {"gross_start": "20 lb", "tare": "9 lb"}}})
    said = [r.message.show() for r in found.step("weigh_in").verdict.reasons if r.rule_id == "weigh_in.coarse"]
    assert bool(said) is named
    if named:
        assert said == ["The scale reads in steps of 0.5 oz, coarse for ± 0.5 oz. One of 0.2 oz or finer would do."]
