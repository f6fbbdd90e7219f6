"""Cylinders from a CSV file, and to one: open formats in and out."""

from collections.abc import Iterable, Iterator
from typing import Any

from accounts.models import Person, Shop
from accounts.texts import cell, chunked, table
from cylinders.actions.book import Line, cylinder_of, movement_of, opening_of
from cylinders.models import Cylinder, Movement
from cylinders.queries import contents_kg
from systems.actions.table import Table, begin, take_in
from tasks.queue import Step

KIND = "import_cylinders"
COLUMNS = ("code", "kind", "refrigerant", "owner", "tare", "water_capacity", "retest", "gross", "evacuated", "oily", "mixed")
MARKS = ("evacuated", "oily", "mixed")


def import_cylinders(person: Person, key: str, text: str) -> int:
    """Add the cylinders of a file; nothing is written while one row is wrong. The number of its task."""
    return begin(person, key, KIND, COLUMNS, text)


def work(step: Step) -> dict[str, Any]:
    """The task itself."""
    return take_in(step, Table(COLUMNS, "code", "cylinder", _ready, _taken, _write))


def _ready(shop: Shop, row: dict[str, str]) -> tuple[Cylinder, Line | None]:
    facts: dict[str, Any] = {**row, **{mark: row.get(mark, "").lower() in {"yes", "true", "1"} for mark in MARKS}}
    made = cylinder_of(shop, facts)
    return made, opening_of(made, row["gross"]) if row.get("gross") else None


def _taken(shop: Shop, codes: Iterable[str]) -> Iterable[str]:
    return Cylinder.objects.filter(shop=shop, code__in=codes).values_list("code", flat=True)


def _write(shop: Shop, items: list[tuple[Cylinder, Line | None]], by: str) -> None:
    Cylinder.objects.bulk_create(row for row, _ in items)
    Movement.objects.bulk_create(movement_of(shop, f"open/{row.pk}", by, line) for row, line in items if line is not None)


def export_cylinders(shop: Shop) -> Iterator[str]:
    """The shop's cylinders as CSV in pieces, masses in kg, in the columns the import reads."""
    rows = Cylinder.objects.filter(shop=shop, gone="").order_by("kind", "code").iterator(chunk_size=500)
    return table(COLUMNS, (_cells(row, held[row.pk]) for some in chunked(rows, 500) for held in [contents_kg(some)] for row in some))


def _cells(row: Cylinder, net_kg: float) -> tuple[str, ...]:
    return (
        cell(row.code),
        row.kind,
        cell(row.refrigerant),
        cell(row.owner),
        f"{row.tare_kg:.4f} kg",
        "" if row.water_capacity_kg is None else f"{row.water_capacity_kg:.4f} kg",
        row.retest,
        f"{row.tare_kg + net_kg:.4f} kg",
        *("yes" if getattr(row, mark) else "" for mark in MARKS),
    )
