"""Instruments: pairing by code, what gateways post, which kit is on which job."""

from datetime import datetime
from typing import Any

from django.http import HttpRequest, StreamingHttpResponse
from django.utils import timezone
from ninja import Router, Schema, Status
from ninja.security import HttpBearer
from pydantic import Field

from accounts.queries import profile_of
from api.files import csv_file
from api.flood import Bucket
from api.moments import moment_at
from api.routes_tasks import TaskRow, own_task, task_row
from api.shapes import Strict
from api.strict_json import NotJson, loads
from api.who import asking_shop, person_of
from instruments.actions.ingest import ingest, rows_of_csv
from instruments.actions.log_csv import export_log, import_log
from instruments.actions.pair import begin_pairing, digest, pair, put_on_job, revoke, set_zero
from instruments.models import Gateway, Instrument
from instruments.queries import columns_of, gateways_of
from jobs.queries import one_job
from yoshi_core.errors import InvalidInput
from yoshi_core.instruments import channels, make
from yoshi_core.profile.profile import Profile

router = Router()
gateway_router = Router()
log_router = Router()
flood = Bucket(burst=20_000, a_second=400)


class ByToken(HttpBearer):
    """A gateway shows the token it got when it was paired."""

    def authenticate(self, request: HttpRequest, token: str) -> Gateway | None:
        return Gateway.objects.filter(token_digest=digest(token), revoked_at=None).select_related("job").first()


class PairingCodeState(Schema):
    code: str
    expires_at: datetime


class InstrumentRow(Schema):
    id: int
    key: str
    name: str
    channel: str
    label: str
    quantity: str
    resolution: float
    limit: float
    relative: float
    zero: float
    calibrated_on: str
    calibration_due: bool
    battery: float | None


class GatewayRow(Schema):
    id: int
    name: str
    job: str
    job_title: str
    paired_by: str
    paired_at: datetime
    seen_at: datetime | None
    clock_off_s: float
    refused: int
    last_refusal: str
    instruments: list[InstrumentRow]


class KitState(Schema):
    gateways: list[GatewayRow]


class PutOnJob(Strict):
    job: str | None


class SetZero(Strict):
    zero: float


class Paired(Schema):
    token: str
    gateway: str
    instruments: list[str]


class LogIn(Strict):
    text: str = Field(max_length=20_000_000)


class LogChannel(Schema):
    channel: str
    label: str
    quantity: str
    instrument: str
    seconds: list[float]
    values: list[float]


class LogColumns(Schema):
    code: str
    title: str
    starts_at: datetime | None
    channels: list[LogChannel]


class TakenIn(Schema):
    accepted: int
    repeated: int
    refused_count: int
    refused: list[dict[str, Any]]
    clock_off_s: float
    job: str


@router.get("", response=KitState)
def kit(request: HttpRequest) -> dict[str, Any]:
    """Every paired kit with its instruments and where it is."""
    shop = asking_shop(request)
    profile = profile_of(shop)
    return {"gateways": [_row(gateway, profile) for gateway in gateways_of(shop)]}


@router.post("/pairing-code", response=PairingCodeState)
def pairing_code(request: HttpRequest) -> dict[str, Any]:
    """A code to read out to a gateway."""
    made = begin_pairing(person_of(request))
    return {"code": made.code, "expires_at": made.expires_at}


@router.post("/gateways/{gateway_id}/job", response=KitState)
def put(request: HttpRequest, gateway_id: int, body: PutOnJob) -> dict[str, Any]:
    """Put a kit on a job, or take it off."""
    person = person_of(request)
    job = one_job(person, body.job) if body.job else None
    put_on_job(person, gateway_id, job.pk if job else None)
    return kit(request)


@router.post("/gateways/{gateway_id}/revoke", response=KitState)
def send_away(request: HttpRequest, gateway_id: int) -> dict[str, Any]:
    """The gateway may not post any more."""
    revoke(person_of(request), gateway_id)
    return kit(request)


@router.post("/{instrument_id}/zero", response=KitState)
def zero(request: HttpRequest, instrument_id: int, body: SetZero) -> dict[str, Any]:
    """Keep what the instrument reads at nothing."""
    set_zero(person_of(request), instrument_id, body.zero)
    return kit(request)


@gateway_router.post("/pair", response=Paired, auth=None)
def post_pair(request: HttpRequest) -> dict[str, Any]:
    """Pair a gateway: `{code, name, instruments: [{key, channel, unit, resolution, limit, relative, calibrated_on}]}`."""
    flood.spend(f"pair {request.META.get('REMOTE_ADDR')}", 1_000)
    body = _json(request)
    instruments = body.get("instruments")
    if not isinstance(instruments, list) or not all(isinstance(i, dict) and i.get("key") and i.get("channel") for i in instruments):
        raise InvalidInput("Each instrument has at least a key and a channel.", path="/instruments")
    gateway, token = pair(str(body.get("code", "")), str(body.get("name", "")), instruments)
    return {"token": token, "gateway": gateway.name, "instruments": [i["key"] for i in instruments]}


@gateway_router.post("/readings", response=TakenIn, auth=ByToken())
def post_readings(request: HttpRequest) -> dict[str, Any]:
    """Readings as JSON `{sent_at, readings: [{instrument, value, unit, at, battery?}]}`, or as CSV with those columns."""
    gateway: Gateway = request.auth  # type: ignore[attr-defined]
    sent_at: datetime | None = None
    if (request.content_type or "").startswith("text/csv"):
        rows = rows_of_csv(request.body.decode("utf-8", "replace"))
        sent_at = _sent(request.headers.get("X-Sent-At"))
    else:
        body = _json(request)
        rows = body.get("readings")  # type: ignore[assignment]
        sent_at = _sent(body.get("sent_at"))
    if not isinstance(rows, list) or not all(isinstance(row, dict) for row in rows):
        raise InvalidInput("Readings come as a list of objects.", path="/readings")
    flood.spend(f"gateway {gateway.pk}", len(rows))
    taken = ingest(gateway, rows, sent_at)
    job = gateway.job
    return {
        "accepted": taken.accepted,
        "repeated": taken.repeated,
        "refused_count": taken.refused_count,
        "refused": taken.refused,
        "clock_off_s": taken.clock_off_s,
        "job": job.code if job else "",
    }


@log_router.get("/{code}/log", response={200: Any})
def get_log(request: HttpRequest, code: str) -> StreamingHttpResponse:
    """Every reading of the job as CSV."""
    return csv_file(export_log(one_job(person_of(request), code).pk), f"{code}-log")


@log_router.get("/{code}/log/columns", response=LogColumns)
def get_columns(request: HttpRequest, code: str) -> dict[str, Any]:
    """Every reading of the job by channel, for drawing."""
    row = one_job(person_of(request), code)
    return {"code": row.code, "title": row.title, **columns_of(row.pk)}


@log_router.post("/{code}/log", response={202: TaskRow})
def post_log(request: HttpRequest, code: str, body: LogIn) -> Status[dict[str, Any]]:
    """Readings from a CSV file; nothing is written while one row is wrong. The task that does it."""
    person = person_of(request)
    row = one_job(person, code)
    return Status(202, task_row(own_task(person, import_log(person, row.pk, row.code, body.text))))


def _json(request: HttpRequest) -> dict[str, Any]:
    try:
        body = loads(request.body)
    except NotJson as error:
        raise InvalidInput("{error} Nothing was taken in.", words={"error": error}, path="/") from None
    if not isinstance(body, dict):
        raise InvalidInput("An object is expected, with its readings in it.", path="/")
    return body


def _sent(text: Any) -> datetime | None:
    if not text:
        return None
    return moment_at(str(text), "/sent_at")


def _row(gateway: Gateway, profile: Profile) -> dict[str, Any]:
    return {
        "id": gateway.pk,
        "name": gateway.name,
        "job": gateway.job.code if gateway.job else "",
        "job_title": gateway.job.title if gateway.job else "",
        "paired_by": gateway.paired_by,
        "paired_at": gateway.paired_at,
        "seen_at": gateway.seen_at,
        "clock_off_s": gateway.clock_off_s,
        "refused": gateway.refused,
        "last_refusal": gateway.last_refusal,
        "instruments": [_instrument(instrument, profile) for instrument in gateway.instruments.all()],
    }


def _instrument(instrument: Instrument, profile: Profile) -> dict[str, Any]:
    facts = channels.channel(instrument.channel)
    day = instrument.calibrated_on
    return {
        "id": instrument.pk,
        "key": instrument.key,
        "name": instrument.name,
        "channel": instrument.channel,
        "label": facts.label,
        "quantity": facts.quantity,
        "resolution": instrument.resolution,
        "limit": instrument.limit,
        "relative": instrument.relative,
        "zero": instrument.zero,
        "calibrated_on": day.isoformat() if day else "",
        "calibration_due": day is None or make.overdue(day.isoformat(), timezone.now().date(), profile),
        "battery": instrument.battery,
    }
