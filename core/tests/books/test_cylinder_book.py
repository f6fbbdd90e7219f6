"""A cylinder's account, and a circuit's charge history: rates, thresholds, checks."""

from datetime import UTC, date, datetime
from typing import Any

import pytest

from tests.make import NOW, in_f
from yoshi_core.books import circuit as charge_history
from yoshi_core.books import cylinder as cylinder_book
from yoshi_core.books.circuit import Event
from yoshi_core.books.cylinder import Card
from yoshi_core.errors import InvalidInput
from yoshi_core.profile.profile import Profile
from yoshi_core.units.quantities import LB_KG

R3 = Card("R3", "recovery", "R-410A", "Quillon Ridge", 26.7 * LB_KG, 47.7 * LB_KG, "2029-03")


def card(**more: Any) -> Card:
    return Card(**{**R3.__dict__, **more})


def badge(found: Card, net_lb: float) -> tuple[str, str]:
    told = cylinder_book.account(found, net_lb * LB_KG, Profile(), NOW)
    return told.word, told.badge


@pytest.mark.parametrize(
    ("found", "net", "expected"),
    [
        (R3, 12.0, ("Holds", "Room")),
        (R3, 39.0, ("Wait", "Nearly full")),
        (R3, 41.0, ("Stop", "Over its limit")),
        (R3, -1.0, ("Stop", "Below zero")),
        (card(retest="2026-05"), 12.0, ("Stop", "Retest due")),
        (card(retest="2026-06"), 12.0, ("Holds", "Room")),
        (card(mixed=True), 12.0, ("Stop", "Mixed")),
        (card(refrigerant="", evacuated=True), 0.0, ("Holds", "Ready")),
        (card(refrigerant=""), 0.0, ("Wait", "Needs vacuum")),
        (card(water_capacity_kg=None), 12.0, ("Stop", "No limit known")),
        (card(kind="new"), 12.0, ("Holds", "In use")),
        (card(kind="new"), 0.0, ("Wait", "Empty")),
    ],
)
def test_how_a_cylinder_stands(found: Card, net: float, expected: tuple[str, str]) -> None:
    assert badge(found, net) == expected


def test_its_figures_are_the_limits_of_the_worked_case() -> None:
    told = cylinder_book.account(R3, 12 * LB_KG, Profile(), NOW)
    assert told.limit_kg is not None
    assert told.limit_kg / LB_KG == pytest.approx(40.44, abs=0.05)  # AHRI Guideline K rule (from memory), CoolProp density
    assert told.room_kg is not None
    assert told.room_kg / LB_KG == pytest.approx(28.44, abs=0.05)
    assert told.heel_kg is not None
    assert told.usable_kg is not None
    assert told.heel_kg + told.usable_kg == pytest.approx(12 * LB_KG)
    full = cylinder_book.account(R3, 40.44 * LB_KG, Profile(), NOW)
    assert full.liquid_full_k is not None
    assert in_f(full.liquid_full_k) == pytest.approx(134.5, abs=0.5)
    oily = cylinder_book.account(card(oily=True), 12 * LB_KG, Profile(), NOW)
    assert oily.limit_kg == pytest.approx(told.limit_kg * 0.7 / 0.8)


@pytest.mark.parametrize(
    ("found", "mass", "refrigerant", "owner", "said"),
    [
        (R3, 5.0, "R-22", "Quillon Ridge", "must not be mixed"),
        (R3, 5.0, "R-410A", "Elsewhere", "two owners"),
        (R3, 60.0, "R-410A", "Quillon Ridge", "does not fit"),
        (R3, 0.0, "R-410A", "Quillon Ridge", "above zero"),
        (card(kind="new"), 5.0, "R-410A", "", "one-way"),
        (card(mixed=True), 5.0, "R-410A", "", "mixture"),
        (card(retest="2020-01"), 5.0, "R-410A", "", "must not be filled"),
        (card(refrigerant=""), 5.0, "R-410A", "", "not evacuated"),
        (card(water_capacity_kg=None), 5.0, "R-410A", "", "No limit"),
    ],
)
def test_what_must_not_go_in(found: Card, mass: float, refrigerant: str, owner: str, said: str) -> None:
    with pytest.raises(InvalidInput, match=said):
        cylinder_book.may_take(found, 10 * LB_KG, mass * LB_KG, refrigerant, owner, Profile(), NOW)


def test_what_may_go_in_and_out() -> None:
    cylinder_book.may_take(R3, 10 * LB_KG, 5 * LB_KG, "R-410A", "Quillon Ridge", Profile(), NOW)
    cylinder_book.may_give(R3, 10 * LB_KG, 10 * LB_KG)
    with pytest.raises(InvalidInput, match="by its book"):
        cylinder_book.may_give(R3, 10 * LB_KG, 10.1 * LB_KG)
    cylinder_book.not_before(None, NOW, NOW)
    with pytest.raises(InvalidInput, match="weighed"):
        cylinder_book.not_before(NOW, datetime(2026, 6, 1, tzinfo=UTC), NOW)


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
