"""Pairing a gateway by a code, putting its kit on a job, setting zeros, and sending it away."""

import hashlib
import secrets
from collections.abc import Mapping, Sequence
from datetime import date, timedelta
from typing import Any

from django.db import transaction
from django.db.models import F, Max, Min
from django.utils import timezone

from accounts import trail
from accounts.models import Person
from accounts.queries import shop_of
from accounts.retry import again_when_met
from instruments.models import Gateway, Instrument, PairingCode, Reading, Stream
from yoshi_core.errors import InvalidInput, OutOfRange
from yoshi_core.instruments import channels
from yoshi_core.units.quantities import QUANTITIES

GOOD_FOR = timedelta(minutes=10)
LETTERS = "ABCDEFGHJKMNPQRSTUVWXYZ23456789"
MOST_INSTRUMENTS = 40
ADOPTED = timedelta(hours=2)
MOST_DAYS = 20 * 365


def digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


@again_when_met
@transaction.atomic
def begin_pairing(person: Person) -> PairingCode:
    """A fresh code for the person's shop; codes that ran out are swept away."""
    trail.note_asked(shop_of(person))
    now = timezone.now()
    PairingCode.objects.filter(expires_at__lt=now).delete()
    code = "".join(secrets.choice(LETTERS) for _ in range(6))
    return PairingCode.objects.create(shop=shop_of(person), code=code, by=person, expires_at=now + GOOD_FOR)


@again_when_met
@transaction.atomic
def pair(code: str, name: str, instruments: Sequence[Mapping[str, Any]]) -> tuple[Gateway, str]:
    """A gateway with its instruments, and the token it will post with. Raises `InvalidInput` for a code that is not good."""
    found = PairingCode.objects.select_for_update().filter(code=code.strip().upper(), expires_at__gte=timezone.now()).first()
    if found is None:
        raise InvalidInput("This code is not good, or ran out. Ask for a new one in Yoshi.", path="/code")
    if not 1 <= len(instruments) <= MOST_INSTRUMENTS:
        raise InvalidInput(
            "A gateway brings 1 to {most_instruments} instruments, not {count}.",
            words={"most_instruments": MOST_INSTRUMENTS, "count": len(instruments)},
            path="/instruments",
        )
    token = secrets.token_urlsafe(32)
    gateway = Gateway.objects.create(
        shop=found.shop,
        name=name.strip()[:80] or "Gateway",
        token_digest=digest(token),
        paired_by=found.by.shown_name,
        paired_at=timezone.now(),
    )
    keys = set()
    for n, plain in enumerate(instruments):
        made = _instrument(gateway, plain, f"/instruments/{n}")
        if made.key in keys:
            raise InvalidInput("Two instruments are called {key}.", words={"key": made.key}, path=f"/instruments/{n}/key")
        keys.add(made.key)
        made.save()
    found.delete()
    return gateway, token


def _instrument(gateway: Gateway, plain: Mapping[str, Any], path: str) -> Instrument:
    """One instrument as the gateway describes it: figures in the unit it names, as differences, so without an offset."""
    try:
        facts = channels.channel(str(plain["channel"]))
    except InvalidInput as error:
        raise error.at(f"{path}/channel") from None
    symbol = str(plain.get("unit") or QUANTITIES[facts.quantity].shown("us").symbol)
    unit = QUANTITIES[facts.quantity].unit(symbol)
    if unit is None:
        raise InvalidInput("{symbol} is not a unit of {label}.", words={"symbol": f"{symbol!r}", "label": facts.label}, path=f"{path}/unit")
    figures = {}
    for name, otherwise in (("resolution", facts.resolution), ("limit", facts.limit)):
        given = plain.get(name)
        figures[name] = otherwise if given is None else float(given) * unit.factor
        if not 0.0 < figures[name] < facts.high - facts.low:
            raise OutOfRange(
                "The {name} of {label} must be above zero and below its range.",
                words={"name": name, "label": facts.label},
                path=f"{path}/{name}",
                value=given,
            )
    relative = plain.get("relative")
    return Instrument(
        gateway=gateway,
        key=str(plain["key"])[:40],
        name=str(plain.get("name") or facts.label)[:80],
        channel=facts.id,
        relative=facts.relative if relative is None else float(relative),
        calibrated_on=_day(plain.get("calibrated_on"), f"{path}/calibrated_on"),
        **figures,
    )


def _day(text: Any, path: str) -> date | None:
    if not text:
        return None
    try:
        day = date.fromisoformat(str(text))
    except ValueError:
        raise InvalidInput("Write the day of calibration as year-month-day.", path=path) from None
    if not 0 <= (timezone.now().date() - day).days <= MOST_DAYS:
        raise InvalidInput("The day of calibration is in the future, or very long ago.", path=path)
    return day


@again_when_met
@transaction.atomic
def put_on_job(person: Person, gateway_id: int, job_id: int | None) -> None:
    """Say on which job of the shop a kit is: its readings are that job's, and those of the last hours that were nobody's."""
    gateway = Gateway.objects.select_for_update().get(shop=shop_of(person), pk=gateway_id, revoked_at=None)
    gateway.job_id = job_id
    gateway.save(update_fields=["job"])
    trail.note_asked(gateway.shop, kit=gateway.name, job=gateway.job.code if gateway.job else "")
    if job_id is not None:
        _adopt(gateway, job_id)


def _adopt(gateway: Gateway, job_id: int) -> None:
    """Readings that came before the kit was put anywhere join the job's stream, numbered in the order they came."""
    rows = Reading.objects.filter(instrument__gateway=gateway, job=None, at__gte=timezone.now() - ADOPTED)
    span = rows.aggregate(first=Min("pk"), last=Max("pk"))
    if span["first"] is None:
        return
    Stream.objects.get_or_create(job_id=job_id)
    stream = Stream.objects.select_for_update().get(job_id=job_id)
    rows.update(job=job_id, seq=F("id") + (stream.seq + 1 - span["first"]))
    stream.seq += span["last"] - span["first"] + 1
    stream.save(update_fields=["seq"])


@again_when_met
@transaction.atomic
def set_zero(person: Person, instrument_id: int, zero: float) -> Instrument:
    """Keep what an instrument reads at nothing; it is taken off every reading from now on."""
    instrument = Instrument.objects.select_related("gateway").get(gateway__shop=shop_of(person), pk=instrument_id)
    facts = channels.channel(instrument.channel)
    if abs(zero) > max(20.0 * instrument.limit, 0.02 * (facts.high - facts.low)):
        raise OutOfRange(
            "A zero that is this far off is a broken {label}, not a zero.", words={"label": facts.label}, path="/zero", value=zero
        )
    instrument.zero = zero
    instrument.save(update_fields=["zero"])
    trail.note_asked(instrument.gateway.shop, instrument=instrument.name, zero=zero)
    return instrument


@again_when_met
@transaction.atomic
def revoke(person: Person, gateway_id: int) -> None:
    """The gateway's token is no good any more; its readings stay."""
    gateway = Gateway.objects.get(shop=shop_of(person), pk=gateway_id)
    gateway.revoked_at, gateway.job = timezone.now(), None
    gateway.save(update_fields=["revoked_at", "job"])
    trail.note_asked(gateway.shop, kit=gateway.name)
