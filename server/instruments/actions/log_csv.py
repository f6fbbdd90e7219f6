"""A job's log from a CSV file, and to one: open formats in and out."""

import csv
import io
import secrets
from datetime import datetime
from typing import Any

from django.db import transaction
from django.utils import timezone

from accounts import trail
from accounts.models import Shop
from accounts.retry import again_when_met
from accounts.texts import cell
from instruments.actions.ingest import moment_of, rows_of_csv, write_rows
from instruments.actions.pair import digest
from instruments.models import Gateway, Instrument, Reading
from yoshi_core.errors import CoreError, InvalidInput
from yoshi_core.instruments import channels

IMPORTED = "Imported logs"
MOST_ROWS = 200_000
SHOWN = 50


def import_log(shop: Shop, job_id: int, job_code: str, text: str) -> dict[str, Any]:
    """Add the readings of a file to a job; nothing is written while one row is wrong. Columns: instrument (a channel), value, unit, at."""
    rows = rows_of_csv(text)
    if len(rows) > MOST_ROWS:
        raise InvalidInput(f"A log takes up to {MOST_ROWS} rows; split it.", path="/text")
    good: list[tuple[str, float, datetime]] = []
    wrong: list[dict[str, str]] = []
    now = timezone.now()
    for number, row in enumerate(rows, 1):
        try:
            at = moment_of(row.get("at"))
            if at > now:
                raise InvalidInput("This reading is from the future.")
            channel = str(row.get("instrument", "")).strip()
            good.append((channel, channels.read(channel, row.get("value"), str(row.get("unit", ""))), at))
        except CoreError as error:
            wrong.append({"label": f"row {number}", "problem": error.message})
    if wrong or not good:
        return {"written": 0, "rows": wrong[:SHOWN] or [{"label": "file", "problem": "There is no row in it."}]}
    _keep(shop, job_id, job_code, good, now)
    return {"written": len(good), "rows": []}


@again_when_met
@transaction.atomic
def _keep(shop: Shop, job_id: int, job_code: str, good: list[tuple[str, float, datetime]], now: datetime) -> None:
    _insert(shop, job_id, job_code, good, now)
    trail.note_asked(shop, rows=len(good))


def _insert(shop: Shop, job_id: int, job_code: str, good: list[tuple[str, float, datetime]], now: datetime) -> None:
    gateway, _ = Gateway.objects.get_or_create(
        shop=shop,
        name=IMPORTED,
        defaults={"token_digest": digest(secrets.token_urlsafe(32)), "paired_by": "", "paired_at": now, "revoked_at": now},
    )
    instruments: dict[str, Instrument] = {}
    for channel in {channel for channel, _, _ in good}:
        facts = channels.channel(channel)
        made = {"name": f"{facts.label}, imported", "channel": channel, "resolution": facts.resolution, "limit": facts.limit}
        instruments[channel], _ = Instrument.objects.get_or_create(
            gateway=gateway, key=f"{job_code}:{channel}"[:40], defaults={**made, "relative": facts.relative}
        )
    write_rows(job_id, [(instruments[channel].pk, value, at) for channel, value, at in good], now)


def export_log(job_id: int) -> str:
    """Every reading of a job as CSV, in SI, in the columns the import reads."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(("instrument", "value", "unit", "at", "received", "name"))
    rows = Reading.objects.filter(job_id=job_id).order_by("at", "seq").select_related("instrument")
    for row in rows.iterator(chunk_size=5000):
        channel = channels.channel(row.instrument.channel)
        writer.writerow(
            (
                channel.id,
                repr(row.value),
                channels.si_unit(channel),
                row.at.isoformat(),
                row.received_at.isoformat(),
                cell(row.instrument.name),
            )
        )
    return out.getvalue()
