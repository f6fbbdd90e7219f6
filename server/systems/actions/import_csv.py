"""Systems from a CSV file: read as a whole, refused as a whole or written in one transaction, with a report per row."""

import csv
import io
from typing import Any

from django.utils import timezone

from accounts.models import Person, Shop
from accounts.once import lock_shop, once
from accounts.queries import shop_of
from accounts.texts import alike, code_of, from_cell, one_line
from systems.models import Circuit, CircuitRevision, Site, System
from yoshi_core.document import schema
from yoshi_core.document.plate import Plate
from yoshi_core.errors import CoreError, InvalidInput

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
MOST_ROWS = 2000


def read_rows(text: str, columns: tuple[str, ...]) -> list[dict[str, str]]:
    """The rows of a CSV with these columns, in any order. Raises `InvalidInput` for a file that is none."""
    try:
        reader = csv.DictReader(io.StringIO(text.lstrip("\ufeff")), strict=True)
        names = [str(name).strip().lower() for name in reader.fieldnames or []]
        unknown = [name for name in names if name not in columns]
        if unknown or not names:
            raise InvalidInput(
                f"The first line names the columns. Known are {', '.join(columns)}; {', '.join(unknown) or 'none'} is not.", path="/text"
            )
        reader.fieldnames = names
        rows = [{k: from_cell((v or "").strip()) for k, v in row.items() if k} for row in reader]
    except csv.Error as error:
        raise InvalidInput(f"This is not a whole CSV file: {error}.", path="/text") from None
    if not rows:
        raise InvalidInput("There is no row under the first line.", path="/text")
    if len(rows) > MOST_ROWS:
        raise InvalidInput(f"At most {MOST_ROWS} rows at once; this file has {len(rows)}.", path="/text")
    return rows


def import_systems(person: Person, key: str, text: str) -> dict[str, Any]:
    """Add the systems and circuits of a file; nothing is written while one row is wrong."""
    shop = shop_of(person)
    rows = read_rows(text, COLUMNS)

    def act(_: Shop) -> dict[str, Any]:
        report = [_check(shop, row, rows[:n]) for n, row in enumerate(rows)]
        if any(line["problem"] for line in report):
            return {"written": 0, "rows": report}
        for row in rows:
            _write(shop, row, person.shown_name)
        return {"written": len(rows), "rows": report}

    return once(shop, key, {"systems": text}, lambda: lock_shop(shop), act)


def _plate(row: dict[str, str]) -> dict[str, Any]:
    skip = {"site", "system", "circuit", "name"}
    loaded = schema.load(Plate, {k: v for k, v in row.items() if k not in skip and v}, "/plate")
    plain: dict[str, Any] = schema.dump(loaded)
    return plain


def _check(shop: Shop, row: dict[str, str], before: list[dict[str, str]]) -> dict[str, str]:
    label = row.get("circuit") or row.get("system") or "?"
    try:
        for column, most in (("site", 120), ("system", 120), ("name", 120)):
            if not one_line(row.get(column, ""), most, f"/{column}", column.capitalize()) and column != "name":
                raise InvalidInput(f"{column} is empty.", path=f"/{column}")
        code_of(row.get("circuit", ""), 40, "/circuit", "Circuit")
    except CoreError as error:
        return {"label": label[:60], "problem": error.message}
    if any(alike(other.get("circuit", "")) == alike(row["circuit"]) for other in before):
        return {"label": label, "problem": "A circuit of this code stands twice in the file; each has its own in a shop."}
    taken = Circuit.objects.filter(system__site__shop=shop, code=row["circuit"])
    if taken.exists():
        return {"label": label, "problem": f"There is a circuit {row['circuit']} already."}
    try:
        _plate(row)
    except CoreError as error:
        return {"label": label, "problem": f"{error.path.rpartition('/')[2]}: {error.message}"}
    return {"label": label, "problem": ""}


def _write(shop: Shop, row: dict[str, str], by: str) -> None:
    site, _ = Site.objects.get_or_create(shop=shop, name=row["site"])
    system, _ = System.objects.get_or_create(site=site, name=row["system"])
    plate = _plate(row)
    circuit = Circuit.objects.create(system=system, code=row["circuit"], name=row.get("name") or row["system"], plate=plate)
    CircuitRevision.objects.create(circuit=circuit, revision=1, plate=plate, at=timezone.now(), by=by, reason="imported from a file")
