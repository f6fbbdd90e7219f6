"""The account: laws that hold whatever the lines, and rounds of whole jobs to the ounce."""

import math
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.make import NOW, oz
from yoshi_core.account.account import UNKNOWN, Account, account_of, in_order, weakest
from yoshi_core.account.lines import KNOWN_BEST_FIRST, Kind, Line, Order, movement
from yoshi_core.account.weighing import Weighing
from yoshi_core.document.plate import Plate
from yoshi_core.job import documents, patches
from yoshi_core.job.evaluate import evaluate
from yoshi_core.job.patches import Change
from yoshi_core.profile.profile import Profile
from yoshi_core.steps.account_of import account_of_job
from yoshi_core.units.quantities import OZ_KG

MASS = st.floats(0.001, 50)
MOVES: st.SearchStrategy[Kind] = st.sampled_from(["added", "taken", "lost"])


def line(n: int, kind: Kind, kg: float = 0.0, most_kg: float | None = -1.0, **more: Any) -> Line:
    return Line(f"j/s/0/{n}/1", kind, "s", Order(0, 0, 0, n), kg, kg if most_kg == -1.0 else most_kg, more.pop("known", "weighed"), **more)


LINES = st.lists(st.tuples(MOVES, MASS, st.integers(0, 5)), max_size=8).map(
    lambda rows: [line(n, kind, kg, typed_at=NOW + timedelta(minutes=minute)) for n, (kind, kg, minute) in enumerate(rows)]
)


class TestLaws:
    @given(LINES, LINES)
    def test_after_it_was_emptied_nothing_before_counts(self, before: list[Line], other: list[Line]) -> None:
        empty = line(100, "emptied", typed_at=NOW + timedelta(hours=1))
        after = line(101, "added", 2.0, typed_at=NOW + timedelta(hours=2))
        assert account_of([*before, empty, after]).balance == account_of([*other, empty, after]).balance

    @given(LINES, st.randoms())
    def test_the_order_lines_are_given_in_does_not_matter(self, lines: list[Line], random: Any) -> None:
        shuffled = [*lines]
        random.shuffle(shuffled)
        assert account_of(shuffled) == account_of(lines)

    @given(LINES, MASS, st.integers(0, 7))
    def test_correcting_a_figure_never_changes_the_order(self, lines: list[Line], kg: float, which: int) -> None:
        if not lines:
            return
        n = which % len(lines)
        corrected = [*lines[:n], line(n, lines[n].kind, kg, typed_at=lines[n].typed_at), *lines[n + 1 :]]
        assert [row.id for row in in_order(corrected)] == [row.id for row in in_order(lines)]

    @given(LINES)
    def test_a_balance_is_never_under_nought_and_its_floor_never_over_its_ceiling(self, lines: list[Line]) -> None:
        for row in account_of([line(99, "opening", 1.0, 3.0, typed_at=NOW - timedelta(hours=1)), *lines]).booked:
            assert row.after.low_kg >= 0.0
            assert row.after.high_kg is None or row.after.high_kg >= row.after.low_kg - 1e-9

    @given(st.lists(st.floats(0.0, 3.0), min_size=1, max_size=6))
    def test_readings_that_follow_on_are_one_weighing(self, draws: list[float]) -> None:
        gross, lines = 40.0, [line(0, "opening")]
        for n, kg in enumerate(draws, 1):
            lines.append(line(n, "added", kg, weighing=Weighing("14", gross, gross - kg, 0.01, 0.01)))
            gross -= kg
        found = account_of(lines).balance
        assert found.low_kg == pytest.approx(40.0 - gross)
        assert found.u_kg == pytest.approx(math.sqrt(2) * 0.01)

    def test_readings_that_do_not_follow_on_add_in_squares(self) -> None:
        first, other = Weighing("14", 10.0, 9.0, 0.01, 0.01), Weighing("15", 10.0, 9.0, 0.02, 0.02)
        bumped = Weighing("14", 8.9, 8.0, 0.01, 0.01)
        lines = [line(0, "opening", u_kg=0.03), *(line(n, "added", 1.0, weighing=w) for n, w in enumerate((first, other, bumped), 1))]
        assert account_of(lines).balance.u_kg == pytest.approx(math.sqrt(4 * 0.01**2 + 2 * 0.02**2 + 0.03**2))


class TestBounds:
    def test_nothing_said_is_not_known(self) -> None:
        assert account_of([]).balance == UNKNOWN
        assert (UNKNOWN.low_kg, UNKNOWN.high_kg, UNKNOWN.mass_kg) == (0.0, None, None)

    def test_taking_subtracts_the_larger_from_the_floor_and_the_smaller_from_the_ceiling(self) -> None:
        found = account_of([line(0, "opening", 2.0, 5.0), line(1, "taken", 0.5, 1.0)]).balance
        assert (found.low_kg, found.high_kg, found.mass_kg) == (1.0, 4.5, None)
        assert account_of([line(0, "opening", 2.0), line(1, "taken", 0.5, None)]).balance.low_kg == 0.0

    def test_more_out_than_there_could_be_raises_what_was_there(self) -> None:
        found = account_of([line(0, "opening", 1.0, 2.0), line(1, "taken", 3.0)])
        assert found.booked[-1].raised_kg == 1.0
        assert found.balance.high_kg == 0.0
        assert account_of([line(0, "taken", 3.0)]).booked[-1].raised_kg == 0.0

    def test_some_more_of_nobody_knows_what(self) -> None:
        found = account_of([line(0, "opening", 2.0), line(1, "added", 0.0, None, known="not_said")]).balance
        assert (found.low_kg, found.high_kg, found.known) == (2.0, None, "not_said")

    def test_a_word_for_what_is_known_changes_nothing_and_for_what_is_not_it_counts(self) -> None:
        assert account_of([line(0, "emptied"), line(1, "added", 2.0), line(2, "opening", 0.0)]).balance.mass_kg == 2.0
        assert account_of([line(0, "taken", 2.0), line(1, "opening", 0.0)]).balance.mass_kg == 0.0

    def test_what_never_touched_the_circuit_and_shut_valves_change_nothing(self) -> None:
        lines = [line(0, "opening", 2.0), line(1, "beside", 1.0), line(2, "shut_in"), line(3, "let_back")]
        assert {row.after.mass_kg for row in account_of(lines).booked} == {2.0}

    def test_a_sum_is_known_as_well_as_its_weakest_part(self) -> None:
        assert weakest([]) == "not_said"
        assert [weakest(KNOWN_BEST_FIRST[: n + 1]) for n in range(len(KNOWN_BEST_FIRST))] == list(KNOWN_BEST_FIRST)

    def test_an_untimed_line_stands_behind_the_one_before_it_in_the_job(self) -> None:
        earlier = NOW - timedelta(hours=1)
        late, untimed, early = line(0, "added", 1.0, typed_at=NOW), line(1, "added", 2.0), line(2, "added", 3.0, typed_at=earlier)
        assert [row.low_kg for row in in_order([late, untimed, early])] == [3.0, 1.0, 2.0]

    def test_what_is_said_of_when_orders_among_itself_and_never_against_what_was_only_typed(self) -> None:
        """A day typed up in the evening: a trim said to have been at two in the afternoon is still after the recovery typed before it."""
        evening = [NOW + timedelta(minutes=n) for n in range(3)]
        out = line(0, "emptied", typed_at=evening[0])
        second = line(1, "added", 2.0, typed_at=evening[1], said_at=NOW - timedelta(hours=2))
        first = line(2, "added", 1.0, typed_at=evening[2], said_at=NOW - timedelta(hours=3))
        assert [row.low_kg for row in in_order([first, second, out])] == [0.0, 1.0, 2.0]

    def test_what_is_inside_is_said_of_before_the_first_that_went_in(self) -> None:
        said_late = [line(0, "added", 2.0, typed_at=NOW), line(1, "opening", 0.0, typed_at=NOW + timedelta(minutes=5))]
        assert account_of(said_late).balance.mass_kg == 2.0
        after_some_came_out = [line(0, "taken", 1.0), line(1, "opening", 3.0), line(2, "added", 0.5)]
        assert account_of(after_some_came_out).balance.mass_kg == 3.5

    def test_only_a_mass_between_two_places_is_a_movement(self) -> None:
        whole = line(0, "added", 1.0, source="cylinder:14", destination="circuit:x", provenance="weighed", refrigerant="R-22")
        moved = movement(whole)
        assert moved is not None
        assert (moved.key, moved.kind, moved.mass_kg, moved.provenance) == (whole.id, "charge", 1.0, "weighed")
        assert movement(line(0, "added", 1.0, source="cylinder:14")) is None
        assert movement(line(0, "added", 1.0, 2.0, source="cylinder:14", destination="circuit:x")) is None
        given = movement(line(0, "beside", 1.0, source="cylinder:14", destination="circuit:y"))
        assert given is not None
        assert given.kind == "transfer"
        hose = movement(line(0, "beside", 1.0, source="cylinder:14", destination="hose"))
        assert hose is not None
        assert hose.kind == "lost"


def at(minutes: int) -> str:
    return (NOW + timedelta(minutes=minutes)).isoformat()


def draw(cylinder: str, start: str, end: str, minutes: int) -> dict[str, Any]:
    """A draw typed at a moment, as the device notes it."""
    gross = {"source": "weighed", "at": at(minutes)}
    return {"cylinder": cylinder, "tare": "5 lb", "gross_start": {"text": start, **gross}, "gross_end": {"text": end, **gross}}


DUCTLESS = {
    "refrigerant": "R-410A", "kind": "ductless", "metering": "eev", "factory_charge": "40 oz", "altitude": "2100 m",
    "gauge_reference": "vented", "pairing_proven": True, "pairing_by": "switched",
}  # fmt: skip


class TestTwoRoundsInOneJob:
    """A pound put in before the recovery is not there after it: 40 oz belong in, not 56 and not 24."""

    RECOVERED = {
        "way": "cylinder", "fan_on": True, "valves_open": True, "finished": True, "end_pressure": "0 psig", "waited": "5 min",
        "risen_to": "0 psig", "use": "new", "cylinders": {"c1": {
            "cylinder": "R-5", "contents": "evacuated", "tare": "13 lb", "water_capacity": "26.2 lb",
            "gross_start": {"text": "13 lb", "at": at(60)}, "gross_now": {"text": "14 lb 2 oz", "at": at(70)},
        }},
    }  # fmt: skip

    def steps(self, *runs: dict[str, Any]) -> dict[str, Any]:
        plain = {"identify": {"runs": [{"sheet": DUCTLESS}]}, "recover": {"runs": [{"sheet": self.RECOVERED}]}}
        return {"id": "two-rounds", "kind": "service", "steps": {**plain, "weigh_in": {"runs": [{"sheet": sheet} for sheet in runs]}}}

    def account(self, *runs: dict[str, Any]) -> Account:
        return account_of_job(documents.load_job(self.steps(*runs)), Plate(), Profile())

    FIRST = {"draws": {"d1": draw("14", "30 lb", "29 lb", 0)}}
    SECOND = {"system_state": "empty", "draws": {"d1": draw("14", "29 lb", "26 lb 8 oz", 120)}}

    def test_the_balance_after_each_line(self) -> None:
        booked = self.account(self.FIRST, self.SECOND).booked
        told = [(row.line.kind, round(oz(row.after.low_kg), 1), row.after.mass_kg is not None) for row in booked]
        assert told == [
            ("added", 16.0, False),
            ("taken", 0.0, False),
            ("emptied", 0.0, True),
            ("opening", 0.0, True),
            ("added", 40.0, True),
        ]

    def test_the_second_round_is_the_whole_charge(self) -> None:
        open_draw = {**self.SECOND["draws"]["d1"], "gross_end": None}  # type: ignore[index]
        planned = self.judged({**self.SECOND, "draws": {"d1": open_draw}})
        assert oz(planned("to_weigh")) == pytest.approx(40.0)
        assert oz(planned("close_at")) == pytest.approx(26 * 16 + 8)
        done = self.judged(self.SECOND)
        assert oz(done("inside")) == pytest.approx(40.0)

    def test_both_draws_may_stand_in_one_run(self) -> None:
        both = {"system_state": "empty", "draws": {"d1": self.FIRST["draws"]["d1"], "d2": self.SECOND["draws"]["d1"]}}  # type: ignore[index]
        step = evaluate(documents.load_job(self.steps(both)), Profile(), NOW).step("weigh_in")
        inside, wanted = step.figure("inside"), step.figure("to_weigh")
        assert inside is not None
        assert wanted is not None
        assert (oz(inside.amount.value), oz(wanted.amount.value)) == (pytest.approx(40.0), pytest.approx(40.0))
        assert "weigh_in.tolerance" in {reason.rule_id for reason in step.verdict.reasons if reason.word == "Holds"}

    def test_emptied_again_it_asks_for_the_next_reading_and_not_for_the_first(self) -> None:
        step = evaluate(documents.load_job(self.steps({"system_state": "empty", **self.FIRST})), Profile(), NOW).step("weigh_in")
        assert "/steps/weigh_in/runs/0/sheet/draws/d2/gross_start" in {need.path for need in step.missing}
        assert step.figure("inside") is None

    def judged(self, second: dict[str, Any]) -> Callable[[str], float]:
        step = evaluate(documents.load_job(self.steps(self.FIRST, second)), Profile(), NOW).step("weigh_in")

        def figure(name: str) -> float:
            one = step.figure(name)
            assert one is not None, name
            return one.amount.value

        return figure


class TestBegun:
    """When a row was first typed is set once; no later correction moves it."""

    PATH = "/steps/weigh_in/runs/0/sheet/draws/d1"

    def test_the_first_figure_sets_it_and_a_correction_does_not(self) -> None:
        job = documents.load_job({"id": "j", "kind": "service", "visits": [{"id": "v1", "started_at": NOW.isoformat()}]})
        once = patches.save(job, [Change(f"{self.PATH}/gross_start", None, "30 lb")], "J. Pell", NOW).job
        later = NOW + timedelta(hours=3)
        seen = {"value": 30 * 16 * OZ_KG, "source": "weighed"}
        saved = patches.save(once, [Change(f"{self.PATH}/gross_start", seen, "31 lb", force=True)], "M. Orrin", later)
        assert saved.problems == ()
        assert saved.job.begun[self.PATH] == once.begun[self.PATH]
        assert (once.begun[self.PATH].at, once.begun[self.PATH].visit, once.begun[self.PATH].by) == (NOW, "v1", "J. Pell")

    def test_the_device_that_typed_it_says_when(self) -> None:
        job = documents.load_job({"id": "j", "kind": "service"})
        typed = NOW - timedelta(hours=2)
        saved = patches.save(job, [Change("/steps/recover/runs/0/sheet/finished", None, True, typed_at=typed)], "J. Pell", NOW)
        assert saved.job.begun["/steps/recover/runs/0/sheet/finished"].at == typed

    @pytest.mark.parametrize("off", [timedelta(minutes=1), -timedelta(days=366)])
    def test_a_wrong_clock_does_not(self, off: timedelta) -> None:
        job = documents.load_job({"id": "j", "kind": "service"})
        saved = patches.save(job, [Change(f"{self.PATH}/gross_start", None, "30 lb", typed_at=NOW + off)], "J. Pell", NOW)
        assert saved.job.begun[self.PATH].at == NOW

    def test_a_word_that_is_no_moment_and_a_clearing_set_nothing(self) -> None:
        job = documents.load_job({"id": "j", "kind": "service"})
        changes = [Change("/steps/recover/runs/0/sheet/fan_on", None, True), Change(f"{self.PATH}/gross_start", None, None)]
        assert patches.save(job, changes, "J. Pell", NOW).job.begun == {}
