"""Two readings of one cylinder, and the questions steps ask the account, each at its edge."""

from datetime import timedelta

import pytest

from tests.account.test_account import line
from tests.make import NOW
from yoshi_core.account.account import UNKNOWN, Balance, account_of, in_order
from yoshi_core.account.lines import movement
from yoshi_core.account.weighing import FOLLOWS_WITHIN_KG, Weighing, weighed_in_kg
from yoshi_core.errors import InvalidInput


class TestTwoReadings:
    def test_what_reached_the_system_is_what_left_less_the_hose(self) -> None:
        assert weighed_in_kg(14.0, 9.0, 0.0) == 5.0
        assert weighed_in_kg(14.0, 9.0, 0.25) == pytest.approx(4.75)

    def test_nothing_drawn_is_nothing_in_whatever_the_hose_keeps(self) -> None:
        assert weighed_in_kg(14.0, 14.0, 0.0) == 0.0
        assert weighed_in_kg(14.0, 14.0, 0.25) == 0.0
        assert weighed_in_kg(14.0, 14.0 + 5e-10, 0.25) == 0.0

    def test_all_of_it_may_stay_in_the_hose(self) -> None:
        assert weighed_in_kg(14.0, 13.75, 0.25) == pytest.approx(0.0, abs=1e-12)

    def test_a_scale_that_went_up_is_refused_with_both_readings(self) -> None:
        with pytest.raises(InvalidInput) as caught:
            weighed_in_kg(9.0, 14.0, 0.0)
        assert (caught.value.path, caught.value.params) == ("/gross_end", {"start_kg": 9.0, "end_kg": 14.0})
        with pytest.raises(InvalidInput):
            weighed_in_kg(9.0, 9.0 + 2e-9, 0.0)

    def test_less_than_the_hose_keeps_is_refused_with_what_was_drawn(self) -> None:
        with pytest.raises(InvalidInput) as caught:
            weighed_in_kg(14.0, 13.9, 0.25)
        assert caught.value.path == "/hose_loss"
        assert caught.value.params["drawn_kg"] == pytest.approx(0.1)
        with pytest.raises(InvalidInput):
            weighed_in_kg(14.0, 14.0 - 2e-9, 0.25)

    def test_one_follows_on_the_other_to_a_milligram_of_the_same_cylinder(self) -> None:
        first = Weighing("14", 10.0, 8.0)
        assert Weighing("14", 8.0 + FOLLOWS_WITHIN_KG, 7.0).follows(first)
        assert not Weighing("14", 8.0 + 1.1 * FOLLOWS_WITHIN_KG, 7.0).follows(first)
        assert not Weighing("15", 8.0, 7.0).follows(first)


class TestQuestions:
    EMPTIED = account_of([line(0, "added", 1.0), line(1, "emptied"), line(2, "added", 2.0), line(3, "lost", 0.5), line(4, "taken", 0.25)])

    def test_what_lines_changed_together_is_added_less_taken_less_lost(self) -> None:
        ids = [row.line.id for row in self.EMPTIED.booked]
        assert self.EMPTIED.moved_kg(ids) == pytest.approx(1.0 + 2.0 - 0.5 - 0.25)
        assert self.EMPTIED.moved_kg(ids[3:4]) == -0.5
        assert self.EMPTIED.moved_kg(ids[4:]) == -0.25
        assert self.EMPTIED.moved_kg(ids[1:2]) == 0.0
        assert self.EMPTIED.moved_kg([]) == 0.0
        opened = account_of([line(0, "opening", 3.0), line(1, "added", 1.0)])
        assert opened.moved_kg([row.line.id for row in opened.booked]) == 1.0

    def test_a_round_is_from_where_it_was_last_empty_to_its_own_last_line(self) -> None:
        ids = [row.line.id for row in self.EMPTIED.booked]
        again, lines = self.EMPTIED.round_of(ids[2:4])
        assert (again, [row.line.id for row in lines]) == (True, ids[2:4])
        again, lines = self.EMPTIED.round_of(ids[3:4])
        assert (again, [row.line.id for row in lines]) == (True, ids[2:4])
        again, lines = self.EMPTIED.round_of(ids[:1])
        assert (again, [row.line.id for row in lines]) == (False, ids[:1])
        again, lines = self.EMPTIED.round_of([])
        assert (again, [row.line.id for row in lines]) == (True, ids[2:])
        twice = account_of([line(0, "emptied"), line(1, "added", 1.0), line(2, "emptied"), line(3, "added", 2.0)])
        assert [row.line.low_kg for row in twice.round_of([])[1]] == [2.0]
        assert twice.round_of([twice.booked[1].line.id])[0] is True
        assert account_of([]).round_of([]) == (False, ())
        again, lines = self.EMPTIED.round_of([ids[0], ids[2]])
        assert (again, [row.line.id for row in lines]) == (False, ids[:3])

    def test_lines_since_it_was_empty_are_all_of_them_where_it_never_was(self) -> None:
        assert [row.line.low_kg for row in self.EMPTIED.since_emptied()] == [2.0, 0.5, 0.25]
        whole = account_of([line(0, "added", 1.0), line(1, "added", 2.0)])
        assert len(whole.since_emptied()) == 2

    def test_before_and_after_some_lines(self) -> None:
        ids = [row.line.id for row in self.EMPTIED.booked]
        assert self.EMPTIED.before_first(ids[3:]).low_kg == 2.0
        assert self.EMPTIED.before_first(["none"]) == self.EMPTIED.balance
        last = self.EMPTIED.after_last(ids[2:4])
        assert last is not None
        assert last.low_kg == 1.5
        assert self.EMPTIED.after_last(["none"]) is None


class TestOrder:
    def test_lines_nobody_timed_stand_by_step_run_and_row_and_with_their_own_run(self) -> None:
        early = line(5, "added", 1.0, typed_at=NOW)
        with_it = line(6, "added", 2.0)
        later = line(0, "added", 3.0, typed_at=NOW + timedelta(hours=1))
        assert [row.low_kg for row in in_order([later, with_it, early])] == [1.0, 2.0, 3.0]

    def test_moments_said_order_only_among_themselves(self) -> None:
        rows = [
            line(0, "added", 1.0, typed_at=NOW, said_at=NOW + timedelta(hours=2)),
            line(1, "added", 2.0, typed_at=NOW + timedelta(minutes=1)),
            line(2, "added", 3.0, typed_at=NOW + timedelta(minutes=2), said_at=NOW),
        ]
        assert [row.low_kg for row in in_order(rows)] == [3.0, 2.0, 1.0]

    def test_what_was_inside_stands_before_what_went_in_since_it_was_last_empty(self) -> None:
        rows = [line(0, "added", 1.0), line(1, "emptied"), line(2, "added", 2.0), line(3, "opening", 5.0)]
        assert [row.kind for row in in_order(rows)] == ["added", "emptied", "opening", "added"]
        assert account_of(rows).balance.low_kg == 2.0  # emptied is known: a later word for it says nothing new

    def test_a_line_said_to_be_before_another_stands_there(self) -> None:
        first, second = line(0, "added", 1.0, origin="/acts/a"), line(1, "lost", 0.5, origin="/acts/b", before="/acts/a")
        assert [row.id for row in in_order([first, second])] == [second.id, first.id]
        alone = line(1, "lost", 0.5, origin="/acts/b", before="/acts/b")
        assert [row.id for row in in_order([first, alone])] == [first.id, alone.id]
        behind = line(0, "added", 1.0, origin="/acts/a", before="/acts/b")
        ahead = line(1, "lost", 0.5, origin="/acts/b")
        assert [row.id for row in in_order([behind, ahead])] == [behind.id, ahead.id]


class TestBalances:
    def test_taking_from_what_nobody_knows_leaves_what_surely_went_in(self) -> None:
        some = account_of([line(0, "added", 3.0), line(1, "taken", 1.0, 2.0)]).balance
        assert (some.low_kg, some.high_kg) == (1.0, None)
        unweighed = account_of([line(0, "opening", 3.0), line(1, "lost", 0.0, None)]).balance
        assert (unweighed.low_kg, unweighed.high_kg) == (0.0, 3.0)

    def test_more_out_than_was_thought_raises_what_was_in_it(self) -> None:
        row = account_of([line(0, "opening", 1.0), line(1, "taken", 1.5)]).booked[-1]
        assert row.raised_kg == pytest.approx(0.5)
        assert row.after.low_kg == row.after.high_kg == 0.0
        assert account_of([line(0, "opening", 1.0), line(1, "taken", 1.0)]).booked[-1].raised_kg == 0.0

    def test_a_unit_with_a_charge_joins_what_is_known_and_else_is_what_is_inside(self) -> None:
        assert account_of([line(0, "emptied"), line(1, "replaced", 2.0)]).balance.low_kg == 2.0
        assert account_of([line(0, "added", 1.0), line(1, "replaced", 2.0)]).balance.low_kg == 2.0
        joined = account_of([line(0, "emptied"), line(1, "added", 1.0), line(2, "replaced", 2.0)]).balance
        assert (joined.low_kg, joined.high_kg) == (3.0, 3.0)

    def test_what_changes_nothing_changes_nothing(self) -> None:
        for kind in ("beside", "shut_in", "let_back"):
            rows = account_of([line(0, "opening", 1.0), line(1, kind, 0.5)]).booked
            assert rows[1].after == rows[0].after
        assert account_of([]).balance == UNKNOWN == Balance(0.0, None, 0.0, "not_said")

    def test_a_sum_is_known_as_its_weakest_part_and_nought_weakens_nothing(self) -> None:
        told = account_of([line(0, "emptied", known="measured"), line(1, "added", 1.0), line(2, "added", 1.0, known="told")]).balance
        assert told.known == "told"
        nothing = account_of([line(0, "emptied", known="assumed"), line(1, "added", 1.0)]).balance
        assert nothing.known == "weighed"

    def test_a_word_for_what_is_known_already_raises_nothing(self) -> None:
        rows = account_of([line(0, "emptied"), line(1, "opening", 5.0)]).booked
        assert [(row.raised_kg, row.after.low_kg) for row in rows] == [(0.0, 0.0), (0.0, 0.0)]

    def test_what_is_inside_keeps_its_spread_and_how_it_is_known(self) -> None:
        opened = account_of([line(0, "opening", 3.0, known="stamped", u_kg=0.25)]).balance
        assert (opened.u_kg, opened.known) == (0.25, "stamped")

    def test_readings_that_follow_on_are_one_weighing_first_less_last_and_what_comes_after_counts(self) -> None:
        """0.3 at the first reading and 0.4 at the last make 0.5; another cylinder's 1.2 and 0.5 join in squares."""
        rows = [
            line(0, "added", 2.0, weighing=Weighing("14", 10.0, 8.0, 0.3, 9.0)),
            line(1, "added", 1.0, weighing=Weighing("14", 8.0, 7.0, 9.0, 0.4)),
        ]
        assert account_of(rows).balance.u_kg == pytest.approx(0.5)
        other = line(2, "added", 1.0, weighing=Weighing("15", 9.0, 8.0, 1.2, 0.5))
        assert account_of([*rows, other]).balance.u_kg == pytest.approx((0.25 + 1.44 + 0.25) ** 0.5)
        again = line(3, "added", 1.0, weighing=Weighing("14", 6.0, 5.0, 1.2, 0.5))
        assert account_of([*rows, again]).balance.u_kg == pytest.approx((0.25 + 1.44 + 0.25) ** 0.5)

    def test_a_movement_between_two_circuits_is_a_transfer_and_one_without_two_places_is_none(self) -> None:
        given = movement(line(0, "taken", 1.0, source="circuit:a", destination="circuit:b", refrigerant="R-410A"))
        assert given is not None
        assert (given.kind, given.mass_kg, given.refrigerant) == ("transfer", 1.0, "R-410A")
        out = movement(line(0, "taken", 1.0, source="circuit:a", destination="cylinder:7"))
        assert out is not None
        assert out.kind == "recover"
        assert movement(line(0, "taken", 1.0, source="circuit:a")) is None
        assert movement(line(0, "taken", 1.0, destination="cylinder:7")) is None
        assert movement(line(0, "taken", 0.0, source="circuit:a", destination="cylinder:7")) is None
        assert movement(line(0, "taken", 1.0, 2.0, source="circuit:a", destination="cylinder:7")) is None
