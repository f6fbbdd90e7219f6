"""Whose refrigerant it is: used refrigerant changes hands only through reclaim, whoever agrees to something else."""

RECLAIM_ONLY = "Used refrigerant changes hands only through reclaim."


def stays(owner: str, with_whom: str) -> bool | None:
    """Whether it stays with its owner; None where one of the two is not known."""
    return owner == with_whom if owner and with_whom else None


def refused(stays_with_owner: bool | None, whose: str = "It belongs to another owner.") -> str | None:
    """Why it may not go there, in words; None where it stays with its owner, or nothing is known against it."""
    return f"{whose} {RECLAIM_ONLY}" if stays_with_owner is False else None
