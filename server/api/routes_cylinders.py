"""Cylinders: list, ledger, add, weigh, move, prepare, CSV in and out."""

from datetime import datetime
from typing import Any, Literal

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Router, Schema, Status
from pydantic import Field

from api.core_types import CoreAccount
from api.files import csv_file
from api.moments import Moment
from api.routes_tasks import TaskRow, own_task, task_row
from api.shapes import Code, Key, Search, Strict
from api.who import asking_shop, person_of
from cylinders import queries
from cylinders.actions.book import UNDONE, add_cylinder, move, prepare, take_back, weigh
from cylinders.actions.import_csv import export_cylinders, import_cylinders
from cylinders.models import Cylinder
from cylinders.queries import Line
from yoshi_core.books.cylinder import Account
from yoshi_core.document import schema

router = Router()


class BookRow(Schema):
    id: int
    code: str
    kind: Literal["new", "recovery"]
    refrigerant: str
    owner: str
    tare_kg: float
    tare_text: str
    water_capacity_kg: float | None
    retest: str
    evacuated: bool
    account: CoreAccount


class HeldRow(Schema):
    refrigerant: str
    kind: Literal["new", "recovery"]
    net_kg: float


class HeldRows(Schema):
    rows: list[HeldRow]


class BookPage(Schema):
    rows: list[BookRow]
    next: int | None


class LedgerLine(Schema):
    id: int
    kind: str
    at: datetime
    by: str
    what: str
    moved_kg: float
    gross_kg: float
    reason: str
    job: str
    can_go: bool


class BookState(BookRow):
    lines: list[LedgerLine]
    next: int | None


class NewCylinder(Strict):
    key: str = Key
    code: str = Field(max_length=40)
    kind: Literal["new", "recovery"]
    refrigerant: str = Field("", max_length=40)
    owner: str = Field("", max_length=120)
    tare: str = Field(max_length=40)
    water_capacity: str = Field("", max_length=40)
    retest: str = Field("", max_length=10)
    gross: str = Field("", max_length=40)
    evacuated: bool = False
    oily: bool = False


class WeighCylinder(Strict):
    key: str = Key
    gross: str = Field(max_length=40)
    reason: str = Field("", max_length=300)


class MoveOut(Strict):
    key: str = Key
    to_kind: Literal["cylinder", "circuit", "reclaim", "lost"]
    to: str = Field("", max_length=60)
    mass: str = Field("", max_length=40)
    gross_after: str = Field("", max_length=40)
    reason: str = Field("", max_length=300)
    at: Moment | None = None


class TakeBack(Strict):
    key: str = Key
    reason: str = Field("", max_length=300)


class Keyed(Strict):
    key: str = Key


class CsvIn(Strict):
    key: str = Key
    text: str = Field(max_length=2_000_000)


def _row(row: Cylinder, held: Account) -> dict[str, Any]:
    return {
        "id": row.pk,
        "code": row.code,
        "kind": row.kind,
        "refrigerant": row.refrigerant,
        "owner": row.owner,
        "tare_kg": row.tare_kg,
        "tare_text": row.tare_text,
        "water_capacity_kg": row.water_capacity_kg,
        "retest": row.retest,
        "evacuated": row.evacuated,
        "account": schema.dump_full(held),
    }


def _line(line: Line, *, last: bool) -> dict[str, Any]:
    movement = line.movement
    names = {
        "opening": "came with",
        "weigh": "weighed again",
        "prepare": "evacuated and purged",
        "reclaim": "sent for reclaim",
        "lost": "lost",
    }
    circuit = movement.to_circuit or movement.from_circuit
    other = movement.to_cylinder if line.moved_kg <= 0 else movement.from_cylinder
    what = names.get(movement.kind) or (circuit.name if circuit else f"cylinder {other.code}" if other else movement.place)
    if movement.kind == "reversal":
        what = f"taken back: {what}"
    return {
        "id": movement.pk,
        "kind": movement.kind,
        "at": movement.at,
        "by": movement.by,
        "what": what,
        "moved_kg": line.moved_kg,
        "gross_kg": line.gross_kg,
        "reason": movement.reason,
        "job": movement.job_code,
        "can_go": last and movement.kind in UNDONE and not movement.job_code,
    }


def _state(request: HttpRequest, code: str, before: int | None = None) -> dict[str, Any]:
    shop = asking_shop(request)
    row = queries.one_cylinder(shop, code)
    [(_, held)] = queries.accounts(shop, [row])
    lines, following = queries.ledger(row, before)
    return {**_row(row, held), "lines": [_line(line, last=before is None and n == 0) for n, line in enumerate(lines)], "next": following}


@router.get("", response=BookPage)
def list_cylinders(
    request: HttpRequest,
    search: Search = "",
    kind: Literal["", "new", "recovery"] = "",
    refrigerant: Code = "",
    code: Code = "",
    sort: Literal["number", "refrigerant", "retest"] = "number",
    after: int | None = None,
) -> dict[str, Any]:
    """A page of the shop's cylinders with their accounts."""
    shop = asking_shop(request)
    page, following = queries.cylinder_page(shop, search, {"kind": kind, "refrigerant": refrigerant, "code": code}, after, sort)
    rows = [_row(row, held) for row, held in queries.accounts(shop, page)]
    return {"rows": rows, "next": following}


@router.get("/all/held", response=HeldRows)
def list_held(request: HttpRequest) -> dict[str, Any]:
    """What the shop's cylinders hold, by refrigerant and kind."""
    return {"rows": queries.held(asking_shop(request))}


@router.post("", response={201: BookState})
def post_cylinder(request: HttpRequest, body: NewCylinder) -> Status[dict[str, Any]]:
    """A new cylinder, with what is in it now."""
    facts = body.dict()
    done = add_cylinder(person_of(request), facts.pop("key"), facts)
    return Status(201, _state(request, done["code"]))


@router.post("/import", response={202: TaskRow})
def post_import(request: HttpRequest, body: CsvIn) -> Status[dict[str, Any]]:
    """Cylinders from a CSV file: all of them, or none with what is wrong with each row. The task that does it."""
    person = person_of(request)
    return Status(202, task_row(own_task(person, import_cylinders(person, body.key, body.text))))


@router.get("/export.csv", response={200: Any})
def get_export(request: HttpRequest) -> StreamingHttpResponse:
    """The shop's cylinders as CSV."""
    return csv_file(export_cylinders(asking_shop(request)), "cylinders")


@router.get("/{code}", response=BookState)
def read_cylinder(request: HttpRequest, code: str, before: int | None = None) -> dict[str, Any]:
    """One cylinder with a page of its ledger, last first."""
    return _state(request, code, before)


@router.post("/{code}/weigh", response=BookState)
def post_weigh(request: HttpRequest, code: str, body: WeighCylinder) -> dict[str, Any]:
    """Weigh it: the book takes the scale's word and names the difference."""
    weigh(person_of(request), body.key, code, body.gross, body.reason)
    return _state(request, code)


@router.post("/{code}/move", response=BookState)
def post_move(request: HttpRequest, code: str, body: MoveOut) -> dict[str, Any]:
    """Move what is in it: to a cylinder, a circuit of its owner, for reclaim, or lost."""
    facts = body.dict()
    move(person_of(request), facts.pop("key"), code, facts)
    return _state(request, code)


@router.post("/{code}/lines/{line}/take-back", response=BookState)
def post_take_back(request: HttpRequest, code: str, line: int, body: TakeBack) -> dict[str, Any]:
    """Take back the last line written by hand, by its reversal."""
    take_back(person_of(request), body.key, code, line, body.reason)
    return _state(request, code)


@router.post("/{code}/prepare", response=BookState)
def post_prepare(request: HttpRequest, code: str, body: Keyed) -> dict[str, Any]:
    """It was evacuated and purged: it may take a refrigerant again."""
    prepare(person_of(request), body.key, code)
    return _state(request, code)
