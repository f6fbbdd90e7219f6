"""One rule of whose refrigerant it is, for the book, the move between circuits and the step that recovers it."""

import pytest

from yoshi_core.books import ownership
from yoshi_core.books.ownership import RECLAIM_ONLY
from yoshi_core.message import Message


@pytest.mark.parametrize(
    ("owner", "with_whom", "stays"),
    [("Ridge", "Ridge", True), ("Ridge", "Valley", False), ("", "Valley", None), ("Ridge", "", None), ("", "", None)],
)
def test_it_stays_with_its_owner_or_nothing_is_known(owner: str, with_whom: str, stays: bool | None) -> None:
    assert ownership.stays(owner, with_whom) is stays


def test_only_what_is_known_to_change_hands_is_refused() -> None:
    assert ownership.refused(True) is None
    assert ownership.refused(None) is None
    assert str(ownership.refused(False)) == f"It belongs to another owner. {RECLAIM_ONLY}"
    assert str(ownership.refused(False, Message("It is Ridge's."))) == f"It is Ridge's. {RECLAIM_ONLY}"
