"""A cylinder's account: how it stands, what may go in and out, said in full."""

from datetime import UTC, datetime
from typing import Any

import pytest

from tests.make import NOW, in_f
from yoshi_core.books import cylinder as cylinder_book
from yoshi_core.books.cylinder import Card
from yoshi_core.errors import InvalidInput
from yoshi_core.profile.profile import Profile
from yoshi_core.units.quantities import LB_KG

R3 = Card("R3", "recovery", "R-410A", "Quillon Ridge", 26.7 * LB_KG, 47.7 * LB_KG, "2029-03")


def card(**more: Any) -> Card:
    return Card(**{**R3.__dict__, **more})


def stands(found: Card, net_kg: float) -> tuple[str, str, str]:
    told = cylinder_book.account(found, net_kg, Profile(), NOW)
    return told.word, told.badge, told.reason.show()


ROOM = "It takes more of the same refrigerant and owner."
BELOW = "More went out of it than ever came in. Weigh it."
VACUUM = "Pull a vacuum and purge it before its first use, or air goes in with the charge."


@pytest.mark.parametrize(
    ("found", "net", "word", "badge", "said"),
    [
        (R3, 12.0, "Holds", "Room", ROOM),
        (R3, 39.0, "Wait", "Nearly full", "1 lb 7.0 oz of room is left."),
        (R3, 41.0, "Stop", "Over its limit", "9.0 oz over what it may hold. Take that much out; liquid that fills it in the heat bursts it."),
        (R3, -1.0, "Stop", "Below zero", BELOW),
        (card(retest="2026-05"), 12.0, "Stop", "Retest due", "Its retest was due 2026-05: it must not be filled. Empty it and send it."),
        (card(retest="2026-06"), 12.0, "Holds", "Room", ROOM),
        (card(mixed=True), 12.0, "Stop", "Mixed", "Two refrigerants met in it: reclaim or destruction only, and no limit is known."),
        (
            card(refrigerant="", evacuated=True), 0.0, "Holds", "Ready",
            "Evacuated and empty: it takes any refrigerant, and then only that one.",
        ),
        (card(refrigerant=""), 0.0, "Wait", "Needs vacuum", VACUUM),
        (
            card(water_capacity_kg=None), 12.0, "Stop", "No limit known",
            "Its water capacity is not known, so no limit can be worked out: do not fill it.",
        ),
        (card(kind="new"), 12.0, "Holds", "In use", "One-way: never refilled."),
        (card(kind="new"), 0.0, "Wait", "Empty", "Empty. One-way: never refilled."),
        (card(kind="new"), 41.0, "Holds", "In use", "One-way: never refilled."),
        (card(refrigerant="R-999"), 12.0, "Holds", "Room", ROOM),
    ],
)  # fmt: skip
def test_how_a_cylinder_stands(found: Card, net: float, word: str, badge: str, said: str) -> None:
    assert stands(found, net * LB_KG) == (word, badge, said)


def test_a_speck_of_dust_on_the_scale_is_nothing() -> None:
    """A millionth of a kilogram: what sums of floating numbers are out by, and no more."""
    book = cylinder_book.BOOK_KG
    assert stands(R3, -book)[1] == "Room"
    assert stands(R3, -1.01 * book)[1] == "Below zero"
    ready = card(refrigerant="", evacuated=True)
    assert [stands(ready, kg)[1] for kg in (book, 1.01 * book)] == ["Ready", "Room"]
    assert [stands(card(kind="new"), kg)[1] for kg in (book, 1.01 * book)] == ["Empty", "In use"]
    assert [stands(card(refrigerant="R-410A", evacuated=True), 0.0)[1]] == ["Room"]


def test_at_its_limit_it_is_nearly_full_and_a_speck_over_it_is_over() -> None:
    limit = cylinder_book.account(R3, 0.0, Profile(), NOW).limit_kg
    assert limit is not None
    assert stands(R3, limit)[1:] == ("Nearly full", "0.0 oz of room is left.")
    assert stands(R3, limit + 0.5 * cylinder_book.BOOK_KG)[1] == "Nearly full"
    assert stands(R3, limit + 2 * cylinder_book.BOOK_KG)[1] == "Over its limit"
    nearly = Profile().value("recover.nearly_full")
    assert stands(R3, limit * (1 - nearly) - 1e-4)[1] == "Room"
    assert stands(R3, limit * (1 - nearly) + 1e-4)[1] == "Nearly full"


def test_in_a_hot_van_a_cylinder_that_liquid_alone_would_fill_waits() -> None:
    """Filled to eight tenths at 77 °F it is full of liquid at 134.5 °F; a shop whose vans get hotter is told."""
    hotter = Profile(overrides={"cylinder.hot": 340.0})
    told = cylinder_book.account(R3, 40.0 * LB_KG, hotter, NOW)
    assert told.liquid_full_k is not None
    assert (told.word, told.badge) == ("Wait", "Hot van")
    assert told.reason.show() == f"Liquid alone fills it at {in_f(told.liquid_full_k):.1f} °F: keep it cool."
    at = Profile(overrides={"cylinder.hot": told.liquid_full_k})
    assert cylinder_book.account(R3, 40.0 * LB_KG, at, NOW).badge == "Nearly full"


def test_the_account_of_nothing_of_too_much_and_of_what_is_not_known() -> None:
    empty = cylinder_book.account(R3, 0.0, Profile(), NOW)
    assert (empty.heel_kg, empty.usable_kg, empty.net_kg, empty.gross_kg) == (0.0, 0.0, 0.0, R3.tare_kg)
    below = cylinder_book.account(R3, -1.0, Profile(), NOW)
    assert (below.heel_kg, below.usable_kg) == (0.0, 0.0)
    full = cylinder_book.account(R3, 30.0, Profile(), NOW)
    assert full.limit_kg is not None
    assert full.room_kg == 0.0
    assert full.gross_kg == R3.tare_kg + 30.0
    assert full.stop_gross_kg == R3.tare_kg + full.limit_kg
    new = cylinder_book.account(card(kind="new"), 5.0, Profile(), NOW)
    assert new.limit_kg is not None
    assert (new.room_kg, new.stop_gross_kg) == (None, None)
    for unknown in (card(refrigerant=""), card(refrigerant="R-999"), card(water_capacity_kg=None)):
        told = cylinder_book.account(unknown, 5.0, Profile(), NOW)
        assert (told.limit_kg, told.room_kg, told.stop_gross_kg, told.heel_kg, told.usable_kg, told.liquid_full_k) == (None,) * 6


@pytest.mark.parametrize(("text", "read"), [("2029-03", "2029-03"), (" 2029-12 ", "2029-12"), ("", ""), ("   ", "")])
def test_a_retest_month_is_read(text: str, read: str) -> None:
    assert cylinder_book.read_retest(text) == read


@pytest.mark.parametrize("text", ["2029-13", "2029-00", "29-03", "March 2029", "2029-3"])
def test_what_is_no_retest_month_is_refused(text: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        cylinder_book.read_retest(text)
    assert (refused.value.path, refused.value.message) == ("/retest", "Write the retest date as year and month, such as 2029-03.")


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


OWNERS = "What is in R3 belongs to Quillon Ridge, this to Elsewhere: refrigerant of two owners is not mixed. Used refrigerant changes hands only through reclaim."


@pytest.mark.parametrize(
    ("found", "mass", "refrigerant", "owner", "path", "said"),
    [
        (R3, 5.0, "R-22", "Quillon Ridge", "/to", "R3 holds R-410A; R-22 must not be mixed into it."),
        (R3, 5.0, "R-410A", "Elsewhere", "/to", OWNERS),
        (R3, 31.0, "R-410A", "Quillon Ridge", "/mass", "R3 has room for 30 lb 7.0 oz; 31 lb 0.0 oz does not fit."),
        (R3, 0.0, "R-410A", "Quillon Ridge", "/mass", "What goes in is above zero; what leaves is booked the other way round."),
        (card(kind="new"), 5.0, "R-410A", "", "/to", "R3 is a one-way cylinder: it is never refilled."),
        (card(mixed=True), 5.0, "R-410A", "", "/to", "R3 holds a mixture: nothing more goes in."),
        (card(retest="2020-01"), 5.0, "R-410A", "", "/to", "R3: its retest was due 2020-01; it must not be filled."),
        (
            card(refrigerant=""), 5.0, "R-410A", "", "/to",
            "R3 was not evacuated and purged yet: air would go in with the charge.",
        ),
        (
            card(water_capacity_kg=None), 5.0, "R-410A", "", "/to",
            "No limit can be worked out for R3: its water capacity or the refrigerant's table is missing.",
        ),
        (
            card(refrigerant="R-999"), 5.0, "R-999", "", "/to",
            "No limit can be worked out for R3: its water capacity or the refrigerant's table is missing.",
        ),
    ],
)  # fmt: skip
def test_what_must_not_go_in(found: Card, mass: float, refrigerant: str, owner: str, path: str, said: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        cylinder_book.may_take(found, 10 * LB_KG, mass * LB_KG, refrigerant, owner, Profile(), NOW)
    assert (refused.value.path, refused.value.message) == (path, said)


def test_what_may_go_in() -> None:
    def takes(found: Card, net_kg: float, mass_kg: float, owner: str = "Quillon Ridge") -> None:
        cylinder_book.may_take(found, net_kg, mass_kg, "R-410A", owner, Profile(), NOW)

    takes(R3, 10 * LB_KG, 5 * LB_KG)
    takes(R3, 10 * LB_KG, 0.001)
    takes(R3, 0.0, 1.0, "Elsewhere")
    takes(R3, cylinder_book.BOOK_KG, 1.0, "Elsewhere")
    takes(card(refrigerant="", evacuated=True), 0.0, 1.0)
    with pytest.raises(InvalidInput, match="two owners"):
        takes(R3, 1.01 * cylinder_book.BOOK_KG, 1.0, "Elsewhere")
    limit = cylinder_book.account(R3, 0.0, Profile(), NOW).limit_kg
    assert limit is not None
    takes(R3, 5.0, limit - 5.0)
    takes(R3, 5.0, limit - 5.0 + 0.5 * cylinder_book.BOOK_KG)
    with pytest.raises(InvalidInput, match="does not fit"):
        takes(R3, 5.0, limit - 5.0 + 2 * cylinder_book.BOOK_KG)
    with pytest.raises(InvalidInput, match=r"has room for 0\.0 oz; 2 lb 3\.3 oz does not fit"):
        takes(R3, limit + 3.0, 1.0)
    oily = card(oily=True)
    with pytest.raises(InvalidInput, match="does not fit"):
        takes(oily, 5.0, limit - 5.0)
    takes(oily, 5.0, limit * 0.7 / 0.8 - 5.0)


def test_what_may_leave() -> None:
    book = cylinder_book.BOOK_KG
    cylinder_book.may_give(R3, 10 * LB_KG, 10 * LB_KG)
    cylinder_book.may_give(R3, 10 * LB_KG, 0.001)
    cylinder_book.may_give(R3, 5.0, 5.0 + 0.5 * book)
    weigh = "cannot leave it. Weigh it first if the scale says otherwise."
    for net_kg, mass_kg, said in (
        (10 * LB_KG, 10.5 * LB_KG, f"R3 holds 10 lb 0.0 oz by its book; 10 lb 8.0 oz {weigh}"),
        (5.0, 5.0 + 2 * book, None),
        (-1.0, 1.0, f"R3 holds 0.0 oz by its book; 2 lb 3.3 oz {weigh}"),
        (5.0, 0.0, "What leaves is above zero; what comes back is booked the other way round."),
        (5.0, -1.0, "What leaves is above zero; what comes back is booked the other way round."),
    ):
        with pytest.raises(InvalidInput) as refused:
            cylinder_book.may_give(R3, net_kg, mass_kg)
        assert refused.value.path == "/mass"
        assert said is None or refused.value.message == said


def test_no_movement_before_the_last_weighing_or_in_the_future() -> None:
    cylinder_book.not_before(None, NOW, NOW)
    cylinder_book.not_before(NOW, NOW, NOW)
    for weighed, at, said in (
        (
            NOW, datetime(2026, 6, 1, tzinfo=UTC),
            "It was weighed 18 Jun 2026 15:11, and the book agrees with the scale since. "
            "A movement before that cannot be added; weigh it again.",
        ),
        (None, datetime(2026, 6, 19, tzinfo=UTC), "A movement cannot be dated in the future."),
    ):  # fmt: skip
        with pytest.raises(InvalidInput) as refused:
            cylinder_book.not_before(weighed, at, NOW)
        assert (refused.value.path, refused.value.message) == ("/at", said)
