"""Reading kits, readings and the logs a job lives from."""

import threading
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from functools import reduce
from operator import or_
from typing import Any

from django.db.models import Q, QuerySet

from accounts.models import Shop
from instruments.models import Gateway, Reading, Stream
from yoshi_core import live
from yoshi_core.model import Job as CoreJob
from yoshi_core.trace import Trace

CATCH_UP = 1200
KEPT_JOBS = 128
Log = list[tuple[datetime, float]]


def gateways_of(shop: Shop) -> QuerySet[Gateway]:
    """Paired gateways, last paired first."""
    return Gateway.objects.filter(shop=shop, revoked_at=None).select_related("job").prefetch_related("instruments").order_by("-pk")


@dataclass
class _Kept:
    """The readings of a job as far as they were read: by channel in order of time, with the instrument's name."""

    seq: int = 0
    logs: dict[str, Log] = field(default_factory=dict)
    names: dict[str, tuple[str, float]] = field(default_factory=dict)


_kept: OrderedDict[int, _Kept] = OrderedDict()
_lock = threading.Lock()


def logs_of(job_id: int) -> tuple[dict[str, Log], dict[str, tuple[str, float]]]:
    """Every reading of a job by channel, in order of time, and name and display step of each channel's instrument.

    A long log is read once and then only what its stream gained: the stream counts up in the transaction that writes.
    """
    with _lock:
        kept = _kept.pop(job_id, None) or _Kept()
        now = Stream.objects.filter(job_id=job_id).values_list("seq", flat=True).first() or 0
        if now < kept.seq:
            kept = _Kept()
        rows = Reading.objects.filter(job_id=job_id, seq__gt=kept.seq, seq__lte=now).order_by("at") if now > kept.seq else ()
        wanted = ("instrument__channel", "instrument__name", "instrument__resolution", "at", "value")
        for channel, name, step, at, value in rows.values_list(*wanted) if rows else ():
            log = kept.logs.setdefault(channel, [])
            late = bool(log) and at < log[-1][0]
            log.append((at, value))
            if late:
                log.sort()
            kept.names[channel] = (name, step)
        kept.seq = now
        _kept[job_id] = kept
        while len(_kept) > KEPT_JOBS:
            _kept.popitem(last=False)
        return {channel: list(log) for channel, log in kept.logs.items()}, dict(kept.names)


def live_traces(job_id: int | None, job: CoreJob, *, sealed: bool) -> dict[tuple[str, str], Trace]:
    """The logs of the open runs of a job, made of its readings so far; nothing where no kit is or was on it."""
    if job_id is None:
        return {}
    wanted = live.wanted(job)
    if not wanted or not Stream.objects.filter(job_id=job_id).exists():
        return {}
    logs, names = logs_of(job_id)
    found = {}
    for log in wanted:
        channel = next((c for c in log.channels if logs.get(c)), None)
        rows = [row for row in logs[channel] if row[0] >= log.since] if channel else []
        name, step = names.get(channel or "", ("", 0.0))
        made = live.as_trace(log, rows, name, step, sealed=sealed)
        if made is not None:
            found[(log.step, log.field)] = made
    return found


SHOWN = (
    "job_id",
    "seq",
    "value",
    "at",
    "received_at",
    "instrument__channel",
    "instrument__name",
    "instrument__limit",
    "instrument__relative",
)


def since_seq(places: Sequence[tuple[int, int]]) -> list[tuple[int, dict[str, Any]]]:
    """Readings after a number of each job's stream, at most the last `CATCH_UP` a job: `(job, reading)` in order."""
    moved = dict(Stream.objects.filter(job_id__in=[job for job, _ in places]).values_list("job_id", "seq"))
    new = [Q(job_id=job, seq__gt=max(seq, moved[job] - CATCH_UP)) for job, seq in places if moved.get(job, 0) > seq]
    if not new:
        return []
    rows = Reading.objects.filter(reduce(or_, new)).order_by("job_id", "seq").values_list(*SHOWN)
    return [(row[0], _shown(*row[1:])) for row in rows]


def _shown(
    seq: int, value: float, at: datetime, received: datetime, channel: str, name: str, limit: float, relative: float
) -> dict[str, Any]:
    """A reading as the browser gets it."""
    return {
        "seq": seq,
        "channel": channel,
        "instrument": name,
        "value": value,
        "at": at.isoformat(),
        "received": received.isoformat(),
        "limit": max(limit, relative * abs(value)),
    }
