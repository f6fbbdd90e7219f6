"""Sentences as they are read: names of their own, names around them, rows, days."""

import pytest

from yoshi_core.errors import InvalidInput
from yoshi_core.message import Message, headline, joined, plural, told, worded
from yoshi_core.units.display import Amount

POUND = Amount(0.45359237, "mass")


def test_a_sentence_keeps_its_own_names_where_more_are_given() -> None:
    days = headline("Slower than {low} to {high} days.", low="4", high="22")
    assert days.naming({"low": POUND, "high": POUND}, {"high": "9"}).show() == "Slower than 4 to 22 days."


def test_a_sentence_inside_another_may_use_the_names_around_it() -> None:
    both = joined(Message("{value} went in."), headline("{value} is its own.", value="That")).naming({"value": POUND}, {})
    assert both.show() == "1 lb 0.0 oz went in. That is its own."
    assert both.show("si") == "454 g went in. That is its own."


def test_one_that_names_itself_stands_as_it_is() -> None:
    assert headline("{a}", a=Message("{a}")).show() == "{a}"


@pytest.mark.parametrize(
    ("named", "read"),
    [
        (headline("{x}", x=("a",)), "a"),
        (headline("{x}", x=("a", "b", "c")), "a, b and c"),
        (headline("{x:or}", x=("a", "b")), "a or b"),
        (headline("{x:list}", x=("a", "b")), "a, b"),
        (headline("{x:cap}", x=("drier", "cores")), "Drier and cores"),
        (headline("{x:day}", x="2026-06-09T12:00"), "09 Jun 2026"),
        (plural(1, "one", "{n} of them"), "one"),
        (plural(2, "one", "{n} of them"), "2 of them"),
        (headline("{x} and {y}", x="{y}", y="typed"), "{y} and typed"),
    ],
)
def test_names_are_read(named: Message, read: str) -> None:
    assert named.show() == read


def test_an_error_is_read_in_the_units_of_who_asks() -> None:
    error = InvalidInput(
        "{code} has room for {room:cap}, not for {rows:or}.", words={"code": "R4", "room": POUND, "rows": ("a", 2)}, path="/mass"
    )
    assert error.message == "R4 has room for 1 lb 0.0 oz, not for a or 2."
    assert told(InvalidInput("{code} has room for {room}.", words={"code": "R4", "room": POUND})).show("si") == "R4 has room for 454 g."
    assert worded(told(InvalidInput("{n} of {m}.", words={"n": 2, "m": "three"}))) == "2 of three."
