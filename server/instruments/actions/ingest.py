"""Taking readings in: each checked by the core, all good ones written at once, the bad ones named."""

import csv
import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from functools import partial
from typing import Any

from django.db import connection, transaction
from django.db.models import F

from accounts import clock
from accounts.retry import again
from instruments.models import Gateway, Instrument, Stream
from instruments.news import announce
from yoshi_core.errors import CoreError, InvalidInput
from yoshi_core.instruments import channels

MOST_ROWS = 20_000
SHOWN_REFUSALS = 20
CLOCK_S = 5.0
HEARD_S = 5.0
TOLD = 0.01
COUNT_UP = "UPDATE instruments_stream SET seq = LAST_INSERT_ID(seq + %s) WHERE job_id = %s"
INSERT = "INSERT IGNORE INTO instruments_reading (instrument_id, job_id, seq, value, at, received_at) VALUES (%s, %s, %s, %s, %s, %s)"


@dataclass
class Taken:
    """What became of a batch: rows accepted, rows that had come before, rows refused with the reason."""

    accepted: int = 0
    repeated: int = 0
    refused: list[dict[str, Any]] = field(default_factory=list)
    refused_count: int = 0
    clock_off_s: float = 0.0

    def refuse(self, row: int, reason: str) -> None:
        self.refused_count += 1
        if len(self.refused) < SHOWN_REFUSALS:
            self.refused.append({"row": row, "reason": reason})


def ingest(gateway: Gateway, rows: Sequence[Mapping[str, Any]], sent_at: datetime | None) -> Taken:
    """Write a batch. A gateway that sends its own time has its clock's error taken off every reading."""
    now = clock.now()
    taken = Taken()
    if sent_at is not None and abs((now - sent_at).total_seconds()) > CLOCK_S:
        taken.clock_off_s = (sent_at - now).total_seconds()
    shift = timedelta(seconds=-taken.clock_off_s)
    known = {instrument.key: instrument for instrument in gateway.instruments.all()}
    good: list[tuple[int, float, datetime]] = []
    for number, row in enumerate(rows):
        if number >= MOST_ROWS:
            raise InvalidInput(
                "A batch holds at most {most_rows} readings; send the rest in another.", words={"most_rows": MOST_ROWS}, path="/readings"
            )
        try:
            good.append(_read(row, known, shift, now))
        except CoreError as error:
            taken.refuse(number, error.message)
    taken.accepted = write_rows(gateway.job_id, good, now)
    taken.repeated = len(good) - taken.accepted
    _note(gateway, taken, now)
    _batteries(rows, known)
    return taken


def _batteries(rows: Sequence[Mapping[str, Any]], known: Mapping[str, Instrument]) -> None:
    """Keep the last share of full that an instrument told of its battery; what is no share is not believed."""
    told = {str(row.get("instrument")): row["battery"] for row in rows if type(row.get("battery")) in (int, float)}
    for key, share in told.items():
        instrument = known.get(key)
        if instrument is not None and 0.0 <= share <= 1.0 and (instrument.battery is None or abs(instrument.battery - share) >= TOLD):
            Instrument.objects.filter(pk=instrument.pk).update(battery=share)


def _note(gateway: Gateway, taken: Taken, now: datetime) -> None:
    """Write down that the gateway was heard, not at every post where nothing else is to be said."""
    lately = gateway.seen_at is not None and (now - gateway.seen_at).total_seconds() < HEARD_S
    if lately and not taken.refused_count and abs(gateway.clock_off_s - taken.clock_off_s) < CLOCK_S:
        return
    refusal = taken.refused[-1]["reason"][:300] if taken.refused else gateway.last_refusal
    Gateway.objects.filter(pk=gateway.pk).update(
        seen_at=now, clock_off_s=taken.clock_off_s, refused=F("refused") + taken.refused_count, last_refusal=refusal
    )


def _read(row: Mapping[str, Any], known: Mapping[str, Instrument], shift: timedelta, now: datetime) -> tuple[int, float, datetime]:
    instrument = known.get(str(row.get("instrument", "")))
    if instrument is None:
        raise InvalidInput("There is no instrument {named} on this gateway.", words={"named": f"{str(row.get('instrument'))[:40]!r}"})
    value = channels.read(instrument.channel, row.get("value"), str(row.get("unit", "")))
    try:
        at = moment_of(row.get("at")) + shift
    except OverflowError:
        raise InvalidInput("{typed} is no time of ours.", words={"typed": f"{str(row.get('at'))[:40]!r}"}) from None
    channels.check_moment(at, now)
    return instrument.pk, value - instrument.zero, at


def moment_of(plain: Any) -> datetime:
    """A moment with its offset, as posted. Raises `InvalidInput` for what is none."""
    if isinstance(plain, datetime):
        return plain
    try:
        moment = datetime.fromisoformat(str(plain))
    except ValueError:
        raise InvalidInput("{plain} is no time; write 2026-06-18T15:11:00Z.", words={"plain": f"{str(plain)[:40]!r}"}) from None
    if moment.tzinfo is None:
        raise InvalidInput("A time needs its offset from UTC, such as 2026-06-18T15:11:00Z.")
    return moment


def write_rows(job_id: int | None, rows: Sequence[tuple[int, float, datetime]], now: datetime) -> int:
    """Insert `(instrument, SI value, moment)` that are new, numbered in the stream of the job; how many rows that were."""
    if not rows:
        return 0
    received = now.astimezone(UTC).replace(tzinfo=None)
    return again(lambda: _insert(job_id, rows, received))  # a moment of an instrument comes once, however often it is written


def _insert(job_id: int | None, rows: Sequence[tuple[int, float, datetime]], received: datetime) -> int:
    with transaction.atomic(), connection.cursor() as cursor:
        first = 0
        if job_id is not None:
            if not cursor.execute(COUNT_UP, (len(rows), job_id)):
                Stream.objects.get_or_create(job_id=job_id)
                cursor.execute(COUNT_UP, (len(rows), job_id))
            first = int(cursor.lastrowid) - len(rows) + 1
            transaction.on_commit(partial(announce, job_id))
        values = [
            (instrument, job_id, first + n if job_id is not None else 0, value, at.astimezone(UTC).replace(tzinfo=None), received)
            for n, (instrument, value, at) in enumerate(rows)
        ]
        cursor.executemany(INSERT, values)
        return int(cursor.rowcount)


def rows_of_csv(text: str) -> list[dict[str, Any]]:
    """Readings from CSV with the columns instrument, value, unit, at. Raises `InvalidInput` for another head."""
    reader = csv.DictReader(io.StringIO(text))
    wanted = {"instrument", "value", "unit", "at"}
    if not wanted <= set(reader.fieldnames or ()):
        raise InvalidInput("The first line must name the columns {known}.", words={"known": tuple(sorted(wanted))}, path="/csv")
    rows: list[dict[str, Any]] = []
    for row in reader:
        try:
            value: Any = float(row["value"])
        except (TypeError, ValueError):
            value = row["value"]
        rows.append({**row, "value": value})
    return rows
