"""Doing a transaction again that the database broke off: two that met, or a node that went away.

Two writers on two nodes of a cluster meet at the commit, so the whole of it is done again, outside the outermost transaction.
"""

import random
import time
from collections.abc import Callable
from functools import wraps
from typing import ParamSpec, TypeVar

from django.db import OperationalError, connection

DEADLOCK, LOCK_TIMEOUT = 1213, 1205
MET = frozenset({DEADLOCK, LOCK_TIMEOUT})
LOST = frozenset({2002, 2003, 2006, 2013, 1047})
TRIES, TRIES_LOST = 8, 4
PAUSE_S, PAUSE_LOST_S = 0.02, 0.5
P = ParamSpec("P")
T = TypeVar("T")


def again_when_met(work: Callable[P, T]) -> Callable[P, T]:
    """Do it again after a conflict, which left nothing behind; for writes without a key, where a lost answer may have been a yes."""

    @wraps(work)
    def act(*args: P.args, **kwargs: P.kwargs) -> T:
        return again(lambda: work(*args, **kwargs), MET)

    return act


def again(work: Callable[[], T], worth: frozenset[int] = MET | LOST) -> T:
    """The work, done again while the database breaks it off for one of these reasons; each pause is longer than the one before."""
    met = lost = 0
    while True:
        try:
            return work()
        except OperationalError as error:
            number = error.args[0] if error.args else 0
            if number not in worth or connection.in_atomic_block:
                raise
            met, lost = met + (number in MET), lost + (number in LOST)
            if met >= TRIES or lost >= TRIES_LOST:
                raise
            if number in LOST:
                connection.close()
            time.sleep((PAUSE_LOST_S if number in LOST else PAUSE_S) * (1.0 + random.random()) * max(met, lost))  # noqa: S311 - no secret
