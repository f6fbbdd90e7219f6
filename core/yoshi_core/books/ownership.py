"""Whose refrigerant it is: used refrigerant changes hands only through reclaim, whoever agrees to something else."""

from yoshi_core.message import Message, joined

RECLAIM_ONLY = Message("Used refrigerant changes hands only through reclaim.")
ANOTHERS = Message("It belongs to another owner.")


def stays(owner: str, with_whom: str) -> bool | None:
    """Whether it stays with its owner; None where one of the two is not known."""
    return owner == with_whom if owner and with_whom else None


def refused(stays_with_owner: bool | None, whose: Message = ANOTHERS) -> Message | None:
    """Why it may not go there, in words; None where it stays with its owner, or nothing is known against it."""
    return joined(whose, RECLAIM_ONLY) if stays_with_owner is False else None
