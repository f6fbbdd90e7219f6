"""Reading kits, readings and the logs a job lives from."""

import threading
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from functools import reduce
from operator import or_
from typing import Any

from django.db.models import Q, QuerySet

from accounts import clock
from accounts.models import Shop
from accounts.queries import profiles_of
from instruments.models import Gateway, Reading, Stream
from yoshi_core.document.model import Job as CoreJob
from yoshi_core.instruments import channels
from yoshi_core.instruments.make import Make, limit_at
from yoshi_core.job import live
from yoshi_core.profile.profile import Profile
from yoshi_core.tight_and_dry.trace import Trace

CATCH_UP = 1200
KEPT_JOBS = 128
MAKE = ("instrument__name", "instrument__resolution", "instrument__limit", "instrument__relative", "instrument__calibrated_on")
SHOWN = ("seq", "value", "at", "received_at", "instrument__channel", "instrument__battery")
Log = list[tuple[datetime, float]]


def gateways_of(shop: Shop) -> QuerySet[Gateway]:
    """Paired gateways, last paired first."""
    return Gateway.objects.filter(shop=shop, revoked_at=None).select_related("job").prefetch_related("instruments").order_by("-pk")


@dataclass
class _Kept:
    """The readings of a job as far as they were read: by channel in order of time, with the instrument's name."""

    seq: int = 0
    logs: dict[str, Log] = field(default_factory=dict)
    makes: dict[str, Make] = field(default_factory=dict)


_kept: OrderedDict[int, _Kept] = OrderedDict()
_lock = threading.Lock()


def logs_of(job_id: int) -> tuple[dict[str, Log], dict[str, Make]]:
    """Every reading of a job by channel, in order of time, and what each channel's instrument says of itself.

    A long log is read once and then only what its stream gained: the stream counts up in the transaction that writes.
    """
    with _lock:
        kept = _kept.pop(job_id, None) or _Kept()
        now = Stream.objects.filter(job_id=job_id).values_list("seq", flat=True).first() or 0
        if now < kept.seq:
            kept = _Kept()
        rows = Reading.objects.filter(job_id=job_id, seq__gt=kept.seq, seq__lte=now).order_by("at") if now > kept.seq else ()
        for channel, at, value, *make in rows.values_list("instrument__channel", "at", "value", *MAKE) if rows else ():
            log = kept.logs.setdefault(channel, [])
            late = bool(log) and at < log[-1][0]
            log.append((at, value))
            if late:
                log.sort()
            kept.makes[channel] = _make(*make)
        kept.seq = now
        _kept[job_id] = kept
        while len(_kept) > KEPT_JOBS:
            _kept.popitem(last=False)
        return {channel: list(log) for channel, log in kept.logs.items()}, dict(kept.makes)


def columns_of(job_id: int) -> dict[str, Any]:
    """The whole log of a job by channel, as seconds after its first reading and SI values; empty where nothing was read."""
    logs, makes = logs_of(job_id)
    begins = min((log[0][0] for log in logs.values() if log), default=None)
    return {
        "starts_at": begins,
        "channels": [
            {
                "channel": name,
                "label": channels.channel(name).label,
                "quantity": channels.channel(name).quantity,
                "instrument": makes[name].name,
                "seconds": [round((at - begins).total_seconds(), 3) for at, _ in log],
                "values": [value for _, value in log],
            }
            for name, log in logs.items()
            if log and begins is not None
        ],
    }


def live_traces(job_id: int | None, job: CoreJob, *, sealed: bool) -> dict[tuple[str, str], Trace]:
    """The logs of the open runs of a job, made of its readings so far; nothing where no kit is or was on it."""
    if job_id is None:
        return {}
    wanted = live.wanted(job)
    if not wanted or not Stream.objects.filter(job_id=job_id).exists():
        return {}
    logs, makes = logs_of(job_id)
    found = {}
    for log in wanted:
        channel = next((c for c in log.channels if logs.get(c)), None)
        rows = [row for row in logs[channel] if row[0] >= log.since] if channel else []
        made = live.as_trace(log, rows, makes[channel], sealed=sealed) if channel else None
        if made is not None:
            found[(log.step, log.field)] = made
    return found


def since_seq(places: Sequence[tuple[int, int]]) -> list[tuple[int, dict[str, Any]]]:
    """Readings after a number of each job's stream, at most the last `CATCH_UP` a job: `(job, reading)` in order.

    The ± of each is judged by the profile of the job's shop.
    """
    streams = Stream.objects.filter(job_id__in=[job for job, _ in places]).values_list("job_id", "seq", "job__shop_id")
    moved = {job: seq for job, seq, _ in streams}
    new = [Q(job_id=job, seq__gt=max(seq, moved[job] - CATCH_UP)) for job, seq in places if moved.get(job, 0) > seq]
    if not new:
        return []
    rows = Reading.objects.filter(reduce(or_, new)).order_by("job_id", "seq").values_list("job_id", *SHOWN, *MAKE)
    now = clock.now()
    of_shop = profiles_of({shop for _, _, shop in streams})
    profiles = {job: of_shop[shop] for job, _, shop in streams}
    return [
        (job, _shown(seq, value, at, received, channel, battery, now, _make(*make), profiles[job]))
        for job, seq, value, at, received, channel, battery, *make in rows
    ]


def _make(name: str, step: float, limit: float, relative: float, day: date | None) -> Make:
    return Make(name, step, limit, relative, day.isoformat() if day else "")


def _shown(
    seq: int,
    value: float,
    at: datetime,
    received: datetime,
    channel: str,
    battery: float | None,
    now: datetime,
    make: Make,
    profile: Profile,
) -> dict[str, Any]:
    """A reading as the browser gets it."""
    return {
        "seq": seq,
        "channel": channel,
        "instrument": make.name,
        "value": value,
        "at": at.isoformat(),
        "received": received.isoformat(),
        "limit": limit_at(make, value, now, profile),
        "battery": battery,
    }
