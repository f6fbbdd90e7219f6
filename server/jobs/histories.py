"""What the books say of circuits over the years: each one's history, and over all of a shop what is due and what loses most."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from functools import lru_cache
from typing import TypeVar

from accounts.models import Shop
from accounts.queries import profile_of
from cylinders.models import Movement
from cylinders.queries import Moved, movements_of
from jobs.queries import retrofits_among
from systems.models import Circuit
from systems.queries import listed_circuits
from yoshi_core.books import circuit as charge_history
from yoshi_core.books.circuit import Event, History
from yoshi_core.document import schema
from yoshi_core.document.plate import Plate
from yoshi_core.job.evaluate import full_charge_kg
from yoshi_core.profile.profile import Profile

Line = TypeVar("Line", Movement, Moved)
FIRST, PART = 8, 500


def events_of(movements: list[Line], circuit: Circuit, changed: set[str]) -> list[tuple[Event, Line]]:
    """What changed the charge; a line that was reversed and its reversal cancel out and are left away."""
    reversed_ids = {m.reverses_id for m in movements if m.reverses_id}
    found = []
    for movement in movements:
        if movement.pk in reversed_ids or movement.kind == "reversal":
            continue
        added = movement.to_circuit_id == circuit.pk
        counts = movement.job_code not in changed
        found.append((Event(movement.at, "added" if added else "recovered", movement.mass_kg, counts, movement.refrigerant), movement))
    return found


def history_of(circuit: Circuit, events: Sequence[Event], profile: Profile, today: date) -> History:
    plate = schema.load(Plate, circuit.plate, "/plate")
    kept = circuit.fingerprint or {}
    last = datetime.fromisoformat(kept["at"]).date() if kept.get("at") else None
    full = kept.get("inside_kg") or full_charge_kg(plate, profile)
    return charge_history.history(events, full, plate.refrigerant, plate.kind, profile, today, last)


def histories(shop: Shop, page: Sequence[Circuit], today: date) -> list[tuple[Circuit, History]]:
    """Circuits with what their movements say, in two queries for all of them."""
    profile, moved = profile_of(shop), movements_of(page)
    changed = retrofits_among(shop, (row.job_code for rows in moved.values() for row in rows))
    return [(c, history_of(c, [event for event, _ in events_of(moved[c.pk], c, changed)], profile, today)) for c in page]


@dataclass(frozen=True)
class Overview:
    """The first circuits that are due for a look and those that lose most, and how many there are."""

    due: tuple[tuple[Circuit, History], ...]
    due_count: int
    losing: tuple[tuple[Circuit, History], ...]
    over_limit: int


def overview(shop: Shop, today: date) -> Overview:
    """Over all circuits that are in the lists; worked out again once somebody wrote in the shop's books, or on another day."""
    return _overview_at(shop.pk, shop.turn, profile_of(shop).revision, today)


@lru_cache(maxsize=32)
def _overview_at(shop_id: int, turn: int, revision: int, today: date) -> Overview:
    shop = Shop.objects.get(pk=shop_id)
    rows = list(listed_circuits(shop))
    found = [pair for first in range(0, len(rows), PART) for pair in histories(shop, rows[first : first + PART], today)]
    due = sorted((p for p in found if p[1].next_check and p[1].next_check <= today.isoformat()), key=_since)
    losing = sorted((p for p in found if p[1].rate is not None and p[1].rate.value > 0.0), key=_rate, reverse=True)
    over = sum(1 for _, history in losing if history.limit is not None and _rate((_, history)) > history.limit.value)
    return Overview(tuple(due[:FIRST]), len(due), tuple(losing[:FIRST]), over)


def _since(pair: tuple[Circuit, History]) -> tuple[str, int]:
    return pair[1].next_check or "", pair[0].pk


def _rate(pair: tuple[Circuit, History]) -> float:
    return pair[1].rate.value if pair[1].rate is not None else 0.0
