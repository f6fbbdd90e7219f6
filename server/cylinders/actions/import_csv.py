"""Cylinders from a CSV file, and to one: open formats in and out."""

import csv
import io
from typing import Any

from django.db import transaction

from accounts.models import Person, Shop
from accounts.once import lock_shop, once
from accounts.queries import shop_of
from accounts.texts import cell
from cylinders.actions.book import make_cylinder, mass_of, opening
from cylinders.queries import accounts, cylinders_of
from systems.actions.import_csv import read_rows
from yoshi_core.errors import CoreError

COLUMNS = ("code", "kind", "refrigerant", "owner", "tare", "water_capacity", "retest", "gross", "evacuated", "oily", "mixed")
MARKS = ("evacuated", "oily", "mixed")


class _Undo(Exception):
    """Leaves the trial of a row without a trace."""


def import_cylinders(person: Person, key: str, text: str) -> dict[str, Any]:
    """Add the cylinders of a file; nothing is written while one row is wrong."""
    shop = shop_of(person)
    rows = read_rows(text, COLUMNS)

    def act(_: Shop) -> dict[str, Any]:
        report: list[dict[str, str]] = []
        try:
            with transaction.atomic():
                report += [{"label": row.get("code") or "?", "problem": _write(shop, row, person.shown_name)} for row in rows]
                if any(line["problem"] for line in report):
                    raise _Undo
        except _Undo:
            return {"written": 0, "rows": report}
        return {"written": len(rows), "rows": report}

    return once(shop, key, {"cylinders": text}, lambda: lock_shop(shop), act)


def _write(shop: Shop, row: dict[str, str], by: str) -> str:
    facts: dict[str, Any] = {**row, **{mark: row.get(mark, "").lower() in {"yes", "true", "1"} for mark in MARKS}}
    try:
        with transaction.atomic():
            made = make_cylinder(shop, facts)
            if row.get("gross"):
                opening(made, mass_of(row["gross"], "/gross"), row["gross"], by)
    except CoreError as error:
        return f"{error.path.rpartition('/')[2]}: {error.message}"
    return ""


def export_cylinders(shop: Shop) -> str:
    """The shop's cylinders as CSV, masses in kg, in the columns the import reads."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS)
    for row, held in accounts(shop, cylinders_of(shop)):
        water = "" if row.water_capacity_kg is None else f"{row.water_capacity_kg:.4f} kg"
        gross = f"{held.gross_kg:.4f} kg"
        writer.writerow(
            (
                cell(row.code),
                row.kind,
                cell(row.refrigerant),
                cell(row.owner),
                f"{row.tare_kg:.4f} kg",
                water,
                row.retest,
                gross,
                *("yes" if getattr(row, mark) else "" for mark in MARKS),
            )
        )
    return out.getvalue()
