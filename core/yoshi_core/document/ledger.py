"""The ledger of a job: movements with stable keys, posted when a step closes, reversed when they changed."""

from collections.abc import Iterable, Sequence
from datetime import datetime
from math import fsum

from yoshi_core.document.model import Posting
from yoshi_core.findings.verdict import Movement


def standing(ledger: Sequence[Posting]) -> dict[str, Movement]:
    """Movements in force, by key: the last posting of each key unless it is a reversal."""
    found: dict[str, Movement] = {}
    for posting in ledger:
        if posting.kind == "movement":
            found[posting.movement.key] = posting.movement
        else:
            found.pop(posting.movement.key, None)
    return found


def settle(ledger: Sequence[Posting], proposed: Iterable[Movement], prefix: str, at: datetime, by: str) -> tuple[Posting, ...]:
    """Postings that make the ledger agree with `proposed` for all keys under `prefix`.

    Unchanged keys post nothing; a changed key posts a reversal and the new movement; a key no longer
    proposed posts a reversal.
    """
    wanted = {movement.key: movement for movement in proposed}
    stands = {key: m for key, m in standing(ledger).items() if key.startswith(prefix)}
    new = []
    for key, movement in stands.items():
        if wanted.get(key) != movement:
            new.append(Posting("reversal", movement, at, by))
    for key, movement in wanted.items():
        if stands.get(key) != movement:
            new.append(Posting("movement", movement, at, by))
    return tuple(new)


def balance_kg(ledger: Sequence[Posting], place: str) -> float:
    """Net kg that reached a place such as `circuit:cr-1` (negative: left it)."""
    moves = standing(ledger).values()
    return fsum([m.mass_kg for m in moves if m.destination == place] + [-m.mass_kg for m in moves if m.source == place])
