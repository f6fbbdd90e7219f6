"""One ladder from reasons to a word: a Stop is never hidden, whatever else was entered."""

from random import Random
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.generate import document, with_one_more
from tests.make import NOW, PLATE, findings, job
from tests.make_closed import HELD, RECOVERED, REPAIRED, UNIT, hold_sheet, vacuum_sheet
from tests.steps.recover.test_recover import BIG, PACKAGED, READY
from yoshi_core.document.model import Job
from yoshi_core.findings.result import StepResult
from yoshi_core.findings.verdict import Question, Role, Word
from yoshi_core.job import closing, documents
from yoshi_core.job.evaluate import Findings, evaluate
from yoshi_core.message import Message
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import registry
from yoshi_core.steps.contract import Notes
from yoshi_core.steps.verdicts import Otherwise, verdict

PROFILE = Profile()
HOLDS = Otherwise(Message("it holds"))


def stops(result: StepResult) -> set[str]:
    return {reason.rule_id for reason in result.verdict.reasons if reason.word == "Stop"}


def judged(job: Job) -> Findings:
    return evaluate(job, PROFILE, NOW)


class TestTheLadder:
    @staticmethod
    def notes(*reasons: tuple[Word, Role], problem: bool = False, missing: int = 0, question: bool = False) -> Notes:
        notes = Notes()
        for number, (word, role) in enumerate(reasons):
            notes.say(f"r.{number}", word, f"{word} {number}", "common practice, no source", role=role)
        if problem:
            notes.refuse("/a", "code", "unusable")
        for number in range(missing):
            notes.need(f"/{number}", f"field {number}", None)
        if question:
            notes.questions.append(Question("q", "/q", Message("is it right?")))
        return notes

    @pytest.mark.parametrize(
        ("notes", "word", "says"),
        [
            (notes(), "Holds", "it holds"),
            (notes(("Open", "remark")), "Holds", "it holds"),
            (notes(missing=1), "Open", "Still needed: field 0."),
            (notes(missing=5), "Open", "Still needed: field 0, field 1, field 2 and 2 more."),
            (notes(missing=1, question=True), "Open", "Still needed: field 0."),
            (notes(question=True), "Wait", "is it right?"),
            (notes(("Wait", "remark"), missing=1, question=True), "Wait", "Wait 0"),
            (notes(("Wait", "remark"), problem=True), "Open", "unusable"),
            (notes(("Wait", "remark"), ("Stop", "remark"), problem=True, missing=1, question=True), "Stop", "Stop 1"),
            (notes(("Wait", "remark"), ("Wait", "finding"), ("Wait", "condition")), "Wait", "Wait 2"),
            (notes(("Wait", "not_the_charge"), ("Wait", "clock"), ("Wait", "no_method")), "Wait", "Wait 2"),
            (notes(("Stop", "finding"), ("Stop", "remark"), ("Stop", "remark")), "Stop", "Stop 1"),
            (notes(("Stop", "not_the_charge"), ("Stop", "finding")), "Stop", "Stop 0"),
        ],
    )
    def test_the_gravest_decides_word_and_headline(self, notes: Notes, word: Word, says: str) -> None:
        said = verdict(notes, HOLDS)
        assert (said.word, said.headline.show()) == (word, says)

    def test_a_step_may_say_what_it_knows_while_entries_are_missing(self) -> None:
        told = Otherwise(Message("done"), missing=Message("Expect much. Still needed: {needed}."))
        assert verdict(self.notes(missing=2), told).headline.show() == "Expect much. Still needed: field 0 and field 1."


class TestStopsThatWereHidden:
    def test_oxygen_stays_a_stop_beside_a_clamp_reading_that_cannot_be(self) -> None:
        sheets = {"recover": RECOVERED, "repair": REPAIRED}
        good = hold_sheet([(15, 554.0, 70.0), (35, 550.5, 67.0)], gas="other")
        bad = hold_sheet([(15, 554.0, 70.0), (35, 550.5, -30.0)], gas="other")
        for sheet in (good, bad):
            result = findings(UNIT, kind="service", sheets={**sheets, "pressure_hold": sheet}).step("pressure_hold")
            assert result.verdict.word == "Stop"
            assert "dry nitrogen" in result.verdict.headline.show()
        assert findings(UNIT, kind="service", sheets={**sheets, "pressure_hold": bad}).step("pressure_hold").problems

    def test_an_overfilled_cylinder_stays_a_stop_beside_one_with_a_wrong_tare(self) -> None:
        full = {**BIG, "gross_now": "70 lb"}
        light = {**BIG, "cylinder": "R5", "gross_start": "20 lb"}
        alone = findings(PACKAGED, kind="service", sheets={"recover": {**READY, "cylinders": {"c1": full}}}).step("recover")
        both = findings(PACKAGED, kind="service", sheets={"recover": {**READY, "cylinders": {"c1": full, "c2": light}}}).step("recover")
        assert both.problems
        assert (alone.verdict.word, both.verdict.word) == ("Stop", "Stop")
        assert both.verdict.headline == alone.verdict.headline

    def test_an_unlisted_flammable_unit_says_so_in_its_headline(self) -> None:
        plate = {**PLATE, "refrigerant": "R-290", "listed": False, "factory_charge_other": "120 oz"}
        for missing in ({}, {"metering": None}):
            result = findings({k: v for k, v in {**plate, **missing}.items() if v is not None}).step("identify")
            assert result.verdict.word == "Stop"
            assert "not listed" in result.verdict.headline.show()


class TestRecoverLeftOut:
    """Only what is known to be empty silences nitrogen on refrigerant, and refrigerant into the air."""

    @staticmethod
    def left_out(**sheets: dict[str, Any]) -> Findings:
        after = {"repair": REPAIRED, "pressure_hold": HELD, "evacuate": vacuum_sheet([(0, "pump")], [(5, 3000.0)])}
        made = job(UNIT, kind="service", sheets={**after, **sheets})
        return judged(closing.not_applicable(made, "recover", "orrin", NOW, "no machine on the van"))

    def test_leaving_recover_out_silences_neither(self) -> None:
        found = self.left_out()
        assert "hold.refrigerant" in stops(found.step("pressure_hold"))
        assert "vacuum.refrigerant" in stops(found.step("evacuate"))
        assert "nitrogen" in found.step("pressure_hold").verdict.headline.show()

    @pytest.mark.parametrize(
        "known",
        [
            {"leak_search": {"inside": "empty"}},
            {"as_found": {"running": "off", "standing_pressure": "0 psig", "standing_cold": "70 °F"}},
            {"recover": RECOVERED},
        ],
    )
    def test_what_is_known_to_be_empty_does(self, known: dict[str, Any]) -> None:
        found = self.left_out(**known)
        assert "hold.refrigerant" not in stops(found.step("pressure_hold"))
        assert "vacuum.refrigerant" not in stops(found.step("evacuate"))

    @pytest.mark.parametrize(
        "unknown",
        [
            {"leak_search": {"inside": "little"}},
            {"as_found": {"running": "off", "standing_pressure": "3 psig", "standing_cold": "70 °F"}},
            {"recover": {**RECOVERED, "finished": False}},
        ],
    )
    def test_what_may_still_be_in_it_does_not(self, unknown: dict[str, Any]) -> None:
        found = self.left_out(**unknown)
        assert "hold.refrigerant" in stops(found.step("pressure_hold"))
        assert "vacuum.refrigerant" in stops(found.step("evacuate"))

    def test_what_a_step_that_was_left_out_says_is_no_knowledge(self) -> None:
        made = job(UNIT, kind="service", sheets={"leak_search": {"inside": "empty"}, "repair": REPAIRED, "pressure_hold": HELD})
        for step in ("leak_search", "recover"):
            made = closing.not_applicable(made, step, "orrin", NOW, "not today")
        assert "hold.refrigerant" in stops(judged(made).step("pressure_hold"))


def test_every_step_is_somewhere_stopped_by_the_documents_made_here() -> None:
    """The property below says something of every step that can stop."""
    stopped: set[str] = set()
    for seed in range(120):
        stopped |= {result.step for result in judged(documents.load_job(document(seed))).steps if stops(result)}
    assert stopped >= set(registry.STEPS) - {"leak_search", "as_found"}


@given(seed=st.integers(0, 10**9))
@settings(max_examples=150, deadline=None)
def test_no_entry_takes_a_stop_away_unless_its_own_reason_went(seed: int) -> None:
    dice = Random(seed)
    before = document(seed)
    first, then = (judged(documents.load_job(plain)) for plain in (before, with_one_more(before, dice)))
    for result in (*first.steps, *then.steps):
        if result.state == "not_applicable":
            continue
        leading = [reason.message for reason in result.verdict.reasons if reason.word == "Stop"]
        assert (result.verdict.word == "Stop") == bool(leading), result.step
        assert not leading or result.verdict.headline in leading
    for result in first.steps:
        after = then.step(result.step)
        if stops(result) & stops(after) and after.state != "not_applicable":
            assert after.verdict.word == "Stop"
