"""What a circuit's charge did before this book: its opening balance and earlier additions, as noted elsewhere."""

from datetime import datetime
from typing import Any

from accounts import clock
from accounts.models import Person, Shop
from accounts.once import lock_shop, once
from accounts.queries import shop_of
from cylinders.actions.book import mass_of
from cylinders.models import Movement
from systems.queries import circuits_of
from yoshi_core.errors import InvalidInput

KINDS = ("opening", "added", "recovered")


def record_past(person: Person, key: str, circuit_id: int, kind: str, mass: str, at: datetime, reason: str) -> dict[str, Any]:
    """Add a line from an earlier record. Raises `InvalidInput`: a day in the future, a second opening, no source named."""
    shop = shop_of(person)

    def act(_: Shop) -> dict[str, Any]:
        circuit = circuits_of(shop).get(pk=circuit_id)
        if kind not in KINDS:
            raise InvalidInput("A line is one of {known}.", words={"known": tuple(KINDS)}, path="/kind")
        if at > clock.now():
            raise InvalidInput("An earlier record cannot be from the future.", path="/at")
        if not reason.strip():
            raise InvalidInput("Say where this is from: a logbook, an invoice, the label.", path="/reason")
        if kind == "opening" and Movement.objects.filter(to_circuit=circuit, kind="opening").exists():
            raise InvalidInput("This circuit has an opening balance already.", path="/kind")
        out = kind == "recovered"
        Movement.objects.create(
            shop=shop,
            key=f"past/{key}",
            kind=kind,
            at=at,
            by=person.shown_name,
            from_circuit=circuit if out else None,
            to_circuit=None if out else circuit,
            place="before this book",
            refrigerant=str(circuit.plate.get("refrigerant") or ""),
            mass_kg=mass_of(mass, "/mass"),
            text=mass[:60],
            provenance="note",
            reason=reason.strip()[:300],
        )
        return {"circuit": circuit.pk}

    content = {"past": circuit_id, "kind": kind, "mass": mass, "at": at.isoformat()}
    return once(shop, key, content, lambda: lock_shop(shop), act)
