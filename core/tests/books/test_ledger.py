"""The ledger of a job: what closing one step posts never touches another's movements."""

import dataclasses
from datetime import timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.make import DRAW, NOW, PLATE, READING, RUNNING, job
from yoshi_core.document import ledger
from yoshi_core.document.model import Job, Posting
from yoshi_core.findings.verdict import Movement
from yoshi_core.job import closing
from yoshi_core.profile.profile import Profile

PROFILE = Profile()
WEIGH, VERIFY = "job/weigh_in/", "job/verify/"


def moved(key: str, kg: float = 1.0, source: str = "cylinder:14", destination: str = "circuit:A") -> Movement:
    return Movement(key, "charge", source, destination, "R-410A", kg, "weighed")


def posted(*rows: tuple[str, Movement]) -> tuple[Posting, ...]:
    return tuple(Posting("movement" if kind == "+" else "reversal", movement, NOW, "orrin") for kind, movement in rows)


class TestStanding:
    def test_the_last_posting_of_a_key_counts(self) -> None:
        first, second = moved("a", 1.0), moved("a", 2.0)
        assert ledger.standing(posted(("+", first), ("-", first), ("+", second))) == {"a": second}
        assert ledger.standing(posted(("+", first), ("-", first))) == {}
        assert ledger.standing(()) == {}

    def test_a_reversal_of_what_was_never_posted_changes_nothing(self) -> None:
        assert ledger.standing(posted(("-", moved("a")))) == {}


class TestSettle:
    def test_what_stands_already_posts_nothing(self) -> None:
        one = moved(f"{WEIGH}0/d1/1")
        assert ledger.settle(posted(("+", one)), [one], WEIGH, NOW, "vesk") == ()

    def test_a_changed_figure_posts_its_reversal_then_itself(self) -> None:
        old, new = moved(f"{WEIGH}0/d1/1", 1.0), moved(f"{WEIGH}0/d1/1", 1.2)
        found = ledger.settle(posted(("+", old)), [new], WEIGH, NOW, "vesk")
        assert [(p.kind, p.movement, p.at, p.by) for p in found] == [("reversal", old, NOW, "vesk"), ("movement", new, NOW, "vesk")]

    def test_what_is_no_longer_proposed_is_reversed(self) -> None:
        gone = moved(f"{WEIGH}0/d2/1")
        assert [(p.kind, p.movement) for p in ledger.settle(posted(("+", gone)), [], WEIGH, NOW, "vesk")] == [("reversal", gone)]

    def test_another_steps_movements_are_left_alone(self) -> None:
        theirs, mine = moved(f"{VERIFY}0/r2/1"), moved(f"{WEIGH}0/d1/1")
        assert ledger.settle(posted(("+", theirs)), [mine], WEIGH, NOW, "vesk") == (Posting("movement", mine, NOW, "vesk"),)
        assert ledger.settle(posted(("+", theirs), ("+", mine)), [], WEIGH, NOW, "vesk")[0].movement == mine

    def test_a_step_whose_name_begins_like_anothers_is_another(self) -> None:
        theirs = moved("job/weigh_in_again/0/d1/1")
        assert ledger.settle(posted(("+", theirs)), [], WEIGH, NOW, "vesk") == ()

    @given(masses=st.lists(st.one_of(st.none(), st.floats(0.01, 9.0)), min_size=1, max_size=6))
    def test_after_settling_exactly_what_is_proposed_stands(self, masses: list[float | None]) -> None:
        theirs = moved(f"{VERIFY}0/r2/1", 0.3)
        book = posted(("+", theirs))
        for n, kg in enumerate(masses):
            proposed = [] if kg is None else [moved(f"{WEIGH}0/d{n % 2}/1", kg)]
            book = (*book, *ledger.settle(book, proposed, WEIGH, NOW, "vesk"))
            mine = {key: m for key, m in ledger.standing(book).items() if key.startswith(WEIGH)}
            assert mine == {m.key: m for m in proposed}
            assert ledger.standing(book)[theirs.key] == theirs
        assert ledger.balance_kg(book, "circuit:A") == pytest.approx(0.3 + (masses[-1] or 0.0))


class TestTwoSteps:
    @staticmethod
    def two_closed() -> Job:
        """A charge weighed in, then three ounces more at Verify, both closed."""
        run = {**RUNNING, "readings": {"r1": {**READING, "added": "3 oz", "cylinder": "14"}}}
        subject = job(PLATE, {"system_state": "empty", "draws": {"d1": DRAW}}, run)
        for step in ("identify", "weigh_in", "verify"):
            subject = closing.close_step(subject, PROFILE, step, "orrin", NOW, "as it is")
        return subject

    def test_closing_verify_leaves_what_weigh_in_posted(self) -> None:
        subject = self.two_closed()
        keys = [p.movement.key.split("/")[1] for p in subject.ledger]
        assert keys == ["weigh_in", "weigh_in", "verify"]
        assert {p.kind for p in subject.ledger} == {"movement"}

    def test_weigh_in_corrected_leaves_what_verify_posted(self) -> None:
        subject = self.two_closed()
        verify = [p for p in subject.ledger if "/verify/" in p.movement.key]
        opened = closing.reopen_step(subject, "weigh_in", "vesk", NOW, "read again")
        record = opened.steps["weigh_in"]
        draw = record.runs[-1].sheet.draws["d1"]
        later = dataclasses.replace(draw, gross_end=dataclasses.replace(draw.gross_end, value=draw.gross_end.value - 0.05))
        sheet = dataclasses.replace(record.runs[-1].sheet, draws={"d1": later})
        run = dataclasses.replace(record.runs[-1], sheet=sheet)
        steps = {**opened.steps, "weigh_in": dataclasses.replace(record, runs=(run,))}
        again = closing.close_step(
            dataclasses.replace(opened, steps=steps), PROFILE, "weigh_in", "vesk", NOW + timedelta(minutes=5), "a better scale"
        )
        assert [p for p in again.ledger if "/verify/" in p.movement.key] == verify
        assert [p.kind for p in again.ledger if "/weigh_in/" in p.movement.key and p.movement.destination.startswith("circuit:")] == [
            "movement",
            "reversal",
            "movement",
        ]
        before, after = (ledger.balance_kg(x.ledger, "circuit:test-job") for x in (subject, again))
        assert after - before == pytest.approx(0.05)
