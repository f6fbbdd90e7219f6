"""Systems from a CSV file."""

from collections.abc import Iterable
from typing import Any

from accounts import clock
from accounts.models import Person, Shop
from accounts.texts import alike, code_of, one_line
from systems.actions.table import Table, begin, take_in
from systems.models import Circuit, CircuitRevision, Site, System
from systems.queries import sites_called
from tasks.queue import Step
from yoshi_core.document import schema
from yoshi_core.document.plate import Plate
from yoshi_core.errors import InvalidInput

KIND = "import_systems"
COLUMNS = (
    "site",
    "system",
    "circuit",
    "name",
    "refrigerant",
    "factory_charge",
    "kind",
    "metering",
    "included_length",
    "altitude",
    "serial",
    "oil",
)
NAMES = ("site", "system", "circuit", "name")
Row = tuple[dict[str, str], dict[str, Any]]


def import_systems(person: Person, key: str, text: str) -> int:
    """Add the systems and circuits of a file; nothing is written while one row is wrong. The number of its task."""
    return begin(person, key, KIND, COLUMNS, text)


def work(step: Step) -> dict[str, Any]:
    """The task itself."""
    return take_in(step, Table(COLUMNS, "circuit", "circuit", _ready, _taken, _write))


def _ready(_: Shop, row: dict[str, str]) -> Row:
    for column in ("site", "system", "name"):
        if not one_line(row.get(column, ""), 120, "", column.capitalize()) and column != "name":
            raise InvalidInput("{column} is empty.", words={"column": column})
    code_of(row.get("circuit", ""), 40, "", "Circuit")
    plate: dict[str, Any] = schema.dump(schema.load(Plate, {k: v for k, v in row.items() if k not in NAMES and v}, "/plate"))
    return row, plate


def _taken(shop: Shop, codes: Iterable[str]) -> Iterable[str]:
    return Circuit.objects.filter(system__site__shop=shop, code__in=codes).values_list("code", flat=True)


def _write(shop: Shop, items: list[Row], by: str) -> None:
    now = clock.now()
    named = {alike(row["site"]): row["site"] for row, _ in items}
    sites = sites_called(shop, named.values())
    new = Site.objects.bulk_create(Site(shop=shop, name=name, created_at=now) for key, name in named.items() if key not in sites)
    sites |= {alike(site.name): site for site in new}
    machines = {(sites[alike(row["site"])].pk, alike(row["system"])): row["system"] for row, _ in items}
    there = System.objects.filter(site__in=sites.values(), name__in=machines.values(), archived_at=None)
    systems = {(system.site_id, alike(system.name)): system for system in there}
    made = System.objects.bulk_create(System(site_id=key[0], name=name) for key, name in machines.items() if key not in systems)
    systems |= {(system.site_id, alike(system.name)): system for system in made}
    circuits = Circuit.objects.bulk_create(
        Circuit(
            system=systems[sites[alike(row["site"])].pk, alike(row["system"])],
            code=row["circuit"],
            name=row.get("name") or row["system"],
            plate=plate,
        )
        for row, plate in items
    )
    CircuitRevision.objects.bulk_create(
        CircuitRevision(circuit=circuit, revision=1, plate=circuit.plate, at=now, by=by, reason="imported from a file")
        for circuit in circuits
    )
