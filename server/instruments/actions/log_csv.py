"""A job's log from a CSV file, and to one: open formats in and out."""

import secrets
from collections.abc import Iterator
from datetime import datetime
from typing import Any

from django.db import transaction

from accounts import clock, trail
from accounts.models import Person, Shop
from accounts.queries import shop_of
from accounts.retry import again_when_met
from accounts.texts import cell, table
from instruments.actions.ingest import moment_of, rows_of_csv, write_rows
from instruments.actions.pair import digest
from instruments.models import Gateway, Instrument, Reading
from tasks import queue
from tasks.queue import Step, packed, unpacked
from yoshi_core.errors import CoreError, InvalidInput
from yoshi_core.instruments import channels

IMPORTED = "Imported logs"
KIND = "import_log"
MOST_ROWS = 200_000
SHOWN = 50
PART = 5_000  # rows checked, and rows written, at once
CHECKING = 0.5  # the share of the work that is checking
Row = tuple[str, float, datetime]


def import_log(person: Person, job_id: int, job_code: str, text: str) -> int:
    """Add the readings of a file to a job, by a task; nothing is written while one row is wrong. The task's number.

    Columns: instrument (a channel), value, unit, at. A moment of an instrument comes once, however often it is taken in.
    """
    shop = shop_of(person)
    count = len(rows_of_csv(text))
    if count > MOST_ROWS:
        raise InvalidInput("A log takes up to {most_rows} rows; split it.", words={"most_rows": MOST_ROWS}, path="/text")
    given = {"text": packed(text), "job": job_id, "code": job_code}

    @again_when_met
    @transaction.atomic
    def put() -> int:
        trail.note_asked(shop, rows=count)
        return queue.add(KIND, given, shop_id=shop.pk, person_id=person.pk).pk

    return put()


def work(step: Step) -> dict[str, Any]:
    """The task itself."""
    rows = rows_of_csv(unpacked(step.given["text"]))
    good: list[Row] = []
    wrong: list[dict[str, str]] = []
    now = clock.now()
    for number, row in enumerate(rows, 1):
        if number % PART == 0:
            step.keep(CHECKING * number / len(rows))
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
    instruments = _instruments(Shop.objects.get(pk=step.shop_id or 0), step.given["code"], {channel for channel, _, _ in good})
    for first in range(0, len(good), PART):
        part = [(instruments[channel], value, at) for channel, value, at in good[first : first + PART]]
        write_rows(step.given["job"], part, now)
        step.keep(CHECKING + (1.0 - CHECKING) * (first + len(part)) / len(good), written=first + len(part))
    return {"written": len(good), "rows": []}


@again_when_met
@transaction.atomic
def _instruments(shop: Shop, job_code: str, wanted: set[str]) -> dict[str, int]:
    """An instrument for each channel of the file, by its channel."""
    now = clock.now()
    gateway, _ = Gateway.objects.get_or_create(
        shop=shop,
        name=IMPORTED,
        defaults={"token_digest": digest(secrets.token_urlsafe(32)), "paired_by": "", "paired_at": now, "revoked_at": now},
    )
    found = {}
    for channel in wanted:
        facts = channels.channel(channel)
        made = {"name": f"{facts.label}, imported", "channel": channel, "resolution": facts.resolution, "limit": facts.limit}
        instrument, _ = Instrument.objects.get_or_create(
            gateway=gateway, key=f"{job_code}:{channel}"[:40], defaults={**made, "relative": facts.relative}
        )
        found[channel] = instrument.pk
    return found


def export_log(job_id: int) -> Iterator[str]:
    """Every reading of a job as CSV in pieces, in SI, in the columns the import reads."""
    rows = Reading.objects.filter(job_id=job_id).order_by("at", "seq").select_related("instrument")
    return table(("instrument", "value", "unit", "at", "received", "name"), map(_cells, rows.iterator(chunk_size=5000)))


def _cells(row: Reading) -> tuple[str, ...]:
    channel = channels.channel(row.instrument.channel)
    return (
        channel.id,
        repr(row.value),
        channels.si_unit(channel),
        row.at.isoformat(),
        row.received_at.isoformat(),
        cell(row.instrument.name),
    )
