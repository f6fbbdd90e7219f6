"""A circuit's charge history: rates, thresholds, checks, and what is said of them."""

from datetime import date, datetime

import pytest

from yoshi_core.books import circuit as charge_history
from yoshi_core.books.circuit import Event
from yoshi_core.profile.profile import Profile
from yoshi_core.units.display import Amount
from yoshi_core.units.quantities import LB_KG


def events(*rows: tuple[str, str, float]) -> list[Event]:
    return [
        Event(datetime.fromisoformat(f"{day}T10:00:00+00:00"), "added" if kind == "+" else "recovered", lb * LB_KG)
        for day, kind, lb in rows
    ]


def test_the_worked_leak_rate_comes_out_of_a_history() -> None:
    # full charge 60 lb, filled at first; 4 lb on 2026-02-20, 6 lb on 2026-06-20: 30.42 % a year, rolling 16.67 %
    rows = events(("2020-05-01", "+", 60.0), ("2026-02-20", "+", 4.0), ("2026-06-20", "+", 6.0))
    today = date(2026, 6, 20)
    told = charge_history.history(rows, 60 * LB_KG, "R-404A", "receiver", Profile(), today, None)
    assert told.rate is not None
    assert told.rate.value == pytest.approx(0.3042, abs=5e-4)
    assert told.word == "Stop"
    rolling = charge_history.history(rows, 60 * LB_KG, "R-404A", "receiver", Profile(choices={"leak.rate": "rolling"}), today, None)
    assert rolling.rate is not None
    assert rolling.rate.value == pytest.approx(0.1667, abs=5e-4)
    assert rolling.word == "Holds"


def test_what_was_recovered_and_went_back_is_no_loss() -> None:
    rows = events(("2024-01-01", "+", 20.0), ("2026-03-01", "-", 15.0), ("2026-03-01", "+", 20.0))
    counted = [a.kg / LB_KG for a in charge_history.additions(rows) if a.counts]
    assert counted == [pytest.approx(5.0)]


def test_no_threshold_for_light_cooling_small_charges_or_a_mild_gas() -> None:
    rows = events(("2024-01-01", "+", 20.0), ("2026-03-01", "+", 5.0))
    for name, kind, full in (("R-410A", "split", 20.0), ("R-404A", "receiver", 10.0), ("R-290", "receiver", 20.0)):
        told = charge_history.history(rows, full * LB_KG, name, kind, Profile(), date(2026, 3, 2), None)
        assert told.limit is None, (name, kind)
    assert charge_history.history([], None, None, None, Profile(), date(2026, 3, 2), None).word == "Open"


def test_the_next_check_comes_by_co2_equivalent() -> None:
    # 60 lb of R-404A, GWP 3922: 106.7 t, so half-yearly (EU 517/2014, from memory)
    told = charge_history.history([], 60 * LB_KG, "R-404A", "receiver", Profile(), date(2026, 9, 1), date(2026, 1, 1))
    assert told.next_check == "2026-07-02"
    assert told.word == "Wait"
    assert told.co2e is not None
    assert told.co2e.value / 1000 == pytest.approx(106.7, abs=0.3)


def test_a_circuit_never_checked_is_due_today_unless_the_shop_has_no_fixed_rule() -> None:
    day = date(2026, 9, 1)
    assert charge_history.history([], 60 * LB_KG, "R-404A", "receiver", Profile(), day, None).next_check == "2026-09-01"
    free = Profile(choices={"leak.checks": "none"})
    assert charge_history.history([], 60 * LB_KG, "R-404A", "receiver", free, day, None).next_check is None


DAY = date(2026, 9, 1)


def test_what_a_history_says_in_full() -> None:
    rows = events(("2020-05-01", "+", 60.0), ("2026-02-20", "+", 4.0), ("2026-06-20", "-", 1.0), ("2026-06-20", "+", 7.0))
    told = charge_history.history(rows, 60 * LB_KG, "R-404A", "receiver", Profile(), date(2026, 6, 20), date(2026, 6, 20))
    assert told.full == Amount(60 * LB_KG, "mass")
    assert told.balance.quantity == "mass"
    assert told.balance.value == pytest.approx(70 * LB_KG)
    assert told.limit == Amount(Profile().value("leak.limit_commercial"), "yearly_loss")
    assert told.rate is not None
    assert told.co2e is not None
    assert (told.rate.quantity, told.co2e.quantity) == ("yearly_loss", "co2e")
    assert told.next_check == "2026-12-19"
    percent = f"{float(f'{told.rate.value:.2g}') * 100:.0f} %"
    assert told.message.show() == (
        f"It loses {percent} of its charge a year; over 20 % it is repaired within 30 days and the repair is tested."
    )
    assert told.message.amounts == {"rate": told.rate, "limit": told.limit}


def test_what_is_said_within_the_limit_without_a_rate_and_overdue() -> None:
    added = events(("2020-05-01", "+", 60.0), ("2026-02-20", "+", 1.0), ("2026-08-20", "+", 1.0))
    free = Profile(choices={"leak.checks": "none"})
    within = charge_history.history(added, 60 * LB_KG, "R-404A", "receiver", free, DAY, None)
    assert within.rate is not None
    assert (within.word, within.next_check) == ("Holds", None)
    assert within.message.show().endswith("% of its charge a year.")
    assert within.message.amounts == {"rate": within.rate}
    nothing = charge_history.history([], 60 * LB_KG, "R-404A", "receiver", free, DAY, None)
    assert (nothing.word, nothing.rate) == ("Open", None)
    assert nothing.message.show() == "Nothing was added that counts, so there is no rate."
    overdue = charge_history.history(added, 60 * LB_KG, "R-404A", "receiver", Profile(), DAY, date(2026, 1, 1))
    assert (overdue.word, overdue.message.show()) == ("Wait", "Its leak check was due 02 Jul 2026.")
    today = charge_history.history(added, 60 * LB_KG, "R-404A", "receiver", Profile(), date(2026, 7, 2), date(2026, 1, 1))
    assert (today.word, today.next_check) == ("Holds", "2026-07-02")


def test_a_system_no_law_limits_leaks_all_the_same_when_it_loses_more_than_its_kind_may() -> None:
    free = Profile(choices={"leak.rate": "rolling", "leak.checks": "none"})
    for added_lb, word in ((0.9, "Holds"), (1.1, "Wait"), (10.0, "Wait")):
        rows = events(("2020-05-01", "+", 10.0), ("2026-06-20", "+", added_lb))
        told = charge_history.history(rows, 10 * LB_KG, "R-410A", "split", free, DAY, None)
        assert (told.limit, told.word) == (None, word)
    assert told.message.show() == "It loses 100 % of its charge a year. No limit applies to it, but it leaks: find out where."


def test_at_its_limit_a_circuit_may_stay_and_over_it_must_not() -> None:
    rows = events(("2020-05-01", "+", 60.0), ("2026-06-20", "+", 12.0))
    rolling = Profile(choices={"leak.rate": "rolling", "leak.checks": "none"})
    for full_lb, word in ((60.0, "Holds"), (59.9, "Stop")):
        told = charge_history.history(rows, full_lb * LB_KG, "R-404A", "receiver", rolling, DAY, None)
        assert told.rate is not None
        assert told.rate.value == pytest.approx(12 / full_lb)
        assert told.word == word


def test_thresholds_by_kind_and_from_the_size_where_the_rule_begins() -> None:
    profile = Profile()
    least = profile.value("leak.from_charge")

    def limit(kg: float, kind: str, refrigerant: str = "R-404A") -> float | None:
        told = charge_history.history([], kg, refrigerant, kind, profile, DAY, None).limit
        return None if told is None else told.value

    assert limit(least, "receiver") == profile.value("leak.limit_commercial")
    assert limit(least - 2e-9, "receiver") is None
    assert limit(least, "chiller") == limit(least, "vrf") == profile.value("leak.limit_cooling")
    assert profile.value("leak.limit_cooling") != profile.value("leak.limit_commercial")
    assert {limit(50.0, kind) for kind in ("split", "heat_pump", "packaged", "ductless", "vehicle")} == {None}
    assert limit(50.0, "receiver", "R-999") is None
    at = Profile(overrides={"leak.from_gwp": 1430.0})
    assert charge_history.history([], 50.0, "R-134a", "chiller", at, DAY, None).limit is None
    under = Profile(overrides={"leak.from_gwp": 1429.0})
    assert charge_history.history([], 50.0, "R-134a", "chiller", under, DAY, None).limit is not None


def test_nothing_is_said_of_a_circuit_whose_charge_is_not_known() -> None:
    rows = events(("2020-05-01", "+", 60.0), ("2026-06-20", "+", 12.0))
    for full_kg, refrigerant in ((None, "R-404A"), (0.0, "R-404A")):
        told = charge_history.history(rows, full_kg, refrigerant, "receiver", Profile(), DAY, None)
        assert (told.full, told.rate, told.limit, told.co2e, told.next_check) == (None,) * 5
    for name in (None, "R-999"):
        told = charge_history.history(rows, 60 * LB_KG, name, "receiver", Profile(), DAY, None)
        assert told.full is not None
        assert (told.limit, told.co2e, told.next_check) == (None, None, None)


@pytest.mark.parametrize(
    ("tonnes", "days"),
    [(4.999, None), (5.0, 365), (49.999, 365), (50.0, 182), (499.999, 182), (500.0, 91), (900.0, 91)],
)
def test_days_between_leak_checks(tonnes: float, days: int | None) -> None:
    # EU 517/2014, from memory: 5 t yearly, 50 t half-yearly, 500 t quarterly
    assert charge_history.check_days(tonnes * 1000) == days


def test_a_first_filling_is_no_loss_and_what_went_back_in_parts_is_counted_once() -> None:
    first = charge_history.additions(events(("2024-01-01", "+", 20.0), ("2025-01-01", "+", 2.0)))
    assert [(a.counts, round(a.kg / LB_KG, 6)) for a in first] == [(False, 20.0), (True, 2.0)]
    rows = events(("2026-01-01", "-", 10.0), ("2026-01-02", "+", 4.0), ("2026-01-03", "+", 7.5), ("2026-01-04", "+", 1.0))
    assert [(a.counts, round(a.kg / LB_KG, 6)) for a in charge_history.additions(rows)] == [(True, 1.5), (True, 1.0)]
    twice = events(("2026-01-01", "-", 3.0), ("2026-01-02", "-", 2.0), ("2026-01-03", "+", 6.0))
    assert [round(a.kg / LB_KG, 6) for a in charge_history.additions(twice)] == [1.0]


def test_a_gram_is_nothing() -> None:
    def added(kg: float) -> int:
        taken = Event(datetime.fromisoformat("2026-01-01T10:00:00+00:00"), "recovered", 1.0)
        back = Event(datetime.fromisoformat("2026-01-02T10:00:00+00:00"), "added", 1.0 + kg)
        return len(charge_history.additions([taken, back]))

    assert [added(kg) for kg in (0.00099, 0.00101)] == [0, 1]
    exactly = Event(datetime.fromisoformat("2026-01-02T10:00:00+00:00"), "added", charge_history.NOTHING_KG)
    assert charge_history.additions([exactly]) == []


def test_before_a_change_of_refrigerant_nothing_counts() -> None:
    def event(day: int, refrigerant: str) -> Event:
        return Event(datetime.fromisoformat(f"2026-01-{day:02d}T10:00:00+00:00"), "added", 1.0, refrigerant=refrigerant)

    rows = [event(4, "R-407C"), event(1, "R-22"), event(2, "R-22"), event(2, "R-12"), event(3, "R-407C"), event(5, "")]
    assert [e.at.day for e in charge_history.since_change(rows, "R-407C")] == [3, 4, 5]
    assert [e.at.day for e in charge_history.since_change(rows, "R-22")] == [5]
    assert [e.at.day for e in charge_history.since_change(rows, None)] == [1, 2, 2, 3, 4, 5]
    assert [e.at.day for e in charge_history.since_change(rows[4:], "R-407C")] == [3, 5]
    told = charge_history.history(rows, 5.0, "R-407C", "split", Profile(), DAY, None)
    assert told.balance.value == 3.0
