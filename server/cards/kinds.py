"""The five kinds of card a shop keeps: what is written on each, what it belongs to, and what hangs on it."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.db.models import Model, QuerySet

from accounts.models import Shop
from cylinders.models import Cylinder, Movement
from jobs.models import Job, WorkOrder
from systems.models import Card, Circuit, Customer, Site, System
from yoshi_core.document import schema
from yoshi_core.document.plate import Plate
from yoshi_core.errors import InvalidInput

LANGUAGES = {"en": "English", "es": "Spanish", "fr": "French", "de": "German"}
PLATE = ("refrigerant", "factory_charge", "kind", "metering", "included_length", "altitude", "serial", "oil")
YESNO = {"": "no", "yes": "yes"}
Row = Customer | Site | System | Circuit | Cylinder


@dataclass(frozen=True)
class CardField:
    """One line of a card. `options` are a choice's values with their words."""

    name: str
    label: str
    most: int
    needed: bool = False
    options: Mapping[str, str] | None = None
    hint: str = ""
    usual: str = ""


@dataclass(frozen=True)
class CardKind:
    """A kind of card. `parent` is the kind it belongs to by the column of that name; `hangs` are the columns that point at it, with their words."""

    id: str
    model: type[Model]
    label: str
    fields: tuple[CardField, ...]
    of_shop: str
    parent: str = ""
    parent_needed: bool = False
    hangs: tuple[tuple[type[Model], str, str], ...] = ()


def _plate_fields() -> tuple[CardField, ...]:
    found = []
    for name in PLATE:
        facts = schema.facts_of(Plate)[name][0]
        found.append(CardField(name, facts.label, facts.max_length, options={"": "?", **facts.options} if facts.options else None))
    return tuple(found)


NAME = CardField("name", "name", 120, needed=True)
ADDRESS = CardField("address", "address", 300)
KINDS = {
    kind.id: kind
    for kind in (
        CardKind(
            "customer",
            Customer,
            "customer",
            (
                NAME,
                ADDRESS,
                CardField("contact", "contact", 200, hint="who to ask for, phone or mail"),
                CardField("language", "language of their papers", 10, options=LANGUAGES, usual="en"),
            ),
            "shop",
            hangs=((Site, "customer", "sites"),),
        ),
        CardKind("site", Site, "site", (NAME, ADDRESS), "shop", "customer", hangs=((System, "site", "systems"),)),
        CardKind(
            "system",
            System,
            "system",
            (NAME,),
            "site__shop",
            "site",
            parent_needed=True,
            hangs=((Circuit, "system", "circuits"), (WorkOrder, "system", "work orders")),
        ),
        CardKind(
            "circuit",
            Circuit,
            "circuit",
            (NAME, CardField("code", "number", 40, needed=True, hint="its own in this shop"), *_plate_fields()),
            "system__site__shop",
            "system",
            parent_needed=True,
            hangs=((Job, "circuit", "jobs"), (Movement, "to_circuit", "charges put in"), (Movement, "from_circuit", "charges taken out")),
        ),
        CardKind(
            "cylinder",
            Cylinder,
            "cylinder",
            (
                CardField("code", "number", 40, needed=True, hint="its own in this shop"),
                CardField("kind", "kind", 10, needed=True, options=dict(Cylinder.KINDS), usual="recovery"),
                CardField("refrigerant", "refrigerant", 40),
                CardField("owner", "owner", 120),
                CardField("tare", "tare", 40, needed=True, hint="stamped TW on the collar"),
                CardField("water_capacity", "water capacity", 40, hint="stamped WC on the collar"),
                CardField("retest", "retest due", 10, hint="year and month, such as 2029-03"),
                CardField("oily", "oil in it", 5, options=YESNO),
            ),
            "shop",
            hangs=((Movement, "to_cylinder", "movements in"), (Movement, "from_cylinder", "movements out")),
        ),
    )
}


def kind_of(name: str) -> CardKind:
    """Raises `InvalidInput` for a kind there is not."""
    if name not in KINDS:
        raise InvalidInput("A card is of a customer, a site, a system, a circuit or a cylinder.", path="/kind")
    return KINDS[name]


def rows_of(kind: CardKind, shop: Shop) -> QuerySet[Any]:
    """All cards of a kind in a shop, archived ones too."""
    return QuerySet(kind.model).filter(**{kind.of_shop: shop})


def is_archived(row: Row) -> bool:
    return row.gone != "" if isinstance(row, Cylinder) else row.archived_at is not None


def title_of(row: Card | Cylinder) -> str:
    return f"Cylinder {row.code}" if isinstance(row, Cylinder) else row.name


def values_of(row: Row) -> dict[str, str]:
    """What is written on a card, as text."""
    if isinstance(row, Cylinder):
        water = "" if row.water_capacity_kg is None else f"{row.water_capacity_kg:.3f} kg"
        shown = {name: str(getattr(row, name)) for name in ("code", "kind", "refrigerant", "owner", "retest")}
        return {**shown, "tare": row.tare_text, "water_capacity": water, "oily": "yes" if row.oily else ""}
    if isinstance(row, Circuit):
        return {"name": row.name, "code": row.code, **{name: _text(row.plate.get(name)) for name in PLATE}}
    return {name.name: str(getattr(row, name.name)) for name in KINDS[type(row).__name__.lower()].fields}


def _text(plain: Any) -> str:
    if isinstance(plain, Mapping):
        return str(plain.get("text") or "") or f"{plain['value']:g}"
    return "" if plain is None else str(plain)
