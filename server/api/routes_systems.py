"""Systems: sites, machines and circuits with their charge history; CSV in; work orders."""

from datetime import datetime
from typing import Any, Literal

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from accounts import clock
from accounts.queries import profile_of
from api.core_types import CoreHistory, CorePlate, CoreRetrofitTable
from api.moments import Moment
from api.routes_cylinders import CsvIn
from api.routes_tasks import TaskRow, own_task, task_row
from api.shapes import Code, Key, Search, Strict
from api.who import asking_shop, person_of
from cylinders.actions.past import record_past
from cylinders.queries import circuit_movements
from jobs.histories import events_of, histories, history_of, overview
from jobs.queries import jobs_on, retrofits_among
from systems.actions.import_csv import import_systems
from systems.models import Circuit
from systems.queries import WantedCircuits, circuit_page, circuits_of, goes_on, listed_circuits, revisions_of
from yoshi_core.books.circuit import History
from yoshi_core.document import schema
from yoshi_core.document.plate import Plate
from yoshi_core.views import retrofit as retrofit_view

router = Router()
CARDS = 25  # a card takes the lines of years of its circuit


class CircuitCard(Schema):
    id: int
    code: str
    name: str
    system: str
    system_id: int
    site: str
    site_id: int
    customer: str
    customer_id: int | None
    refrigerant: str
    kind: str
    history: CoreHistory


class CardPage(Schema):
    rows: list[CircuitCard]
    next: int | None


class OverviewOut(Schema):
    """The first of each, and how many there are in all; `over_limit` counts those that lose more than they may."""

    due: list[CircuitCard]
    due_count: int
    losing: list[CircuitCard]
    over_limit: int


class ChargeEvent(Schema):
    at: datetime
    kind: str
    kg: float
    by: str
    job: str
    cylinder: str
    refrigerant: str


class JobLink(Schema):
    code: str
    title: str
    closed: bool
    word: str
    visit: str
    updated_at: datetime


class CircuitState(CircuitCard):
    in_system: int
    archived: bool
    plate: CorePlate
    revision: int
    revisions: list[dict[str, Any]]
    events: list[ChargeEvent]
    jobs: list[JobLink]


class PastLine(Strict):
    key: str = Key
    kind: Literal["opening", "added", "recovered"]
    mass: str = Field(max_length=40)
    at: Moment
    reason: str = Field(max_length=300)


def _card(circuit: Circuit, history: History) -> dict[str, Any]:
    return {
        "id": circuit.pk,
        "code": circuit.code,
        "name": circuit.name,
        "system": circuit.system.name,
        "system_id": circuit.system_id,
        "site": circuit.system.site.name,
        "site_id": circuit.system.site_id,
        "customer": circuit.system.site.customer.name if circuit.system.site.customer else "",
        "customer_id": circuit.system.site.customer_id,
        "refrigerant": circuit.plate.get("refrigerant", ""),
        "kind": circuit.plate.get("kind", ""),
        "history": schema.dump_full(history),
    }


@router.get("", response=CardPage)
def list_systems(
    request: HttpRequest,
    search: Search = "",
    kind: Code = "",
    refrigerant: Code = "",
    sort: Literal["site", "name"] = "site",
    after: int | None = None,
) -> dict[str, Any]:
    """A page of the shop's circuits with what their history says, by site or by their own name."""
    shop = asking_shop(request)
    wanted = WantedCircuits(search, kind=kind, refrigerant=refrigerant, by_name=sort == "name")
    page, following = circuit_page(shop, wanted, after, CARDS)
    rows = [_card(circuit, history) for circuit, history in histories(shop, page, clock.now().date())]
    return {"rows": rows, "next": following}


@router.get("/all/overview", response=OverviewOut)
def read_overview(request: HttpRequest) -> dict[str, Any]:
    """What is due for a leak check, and what loses most, over all circuits."""
    found = overview(asking_shop(request), clock.now().date())
    return {
        "due": [_card(circuit, history) for circuit, history in found.due],
        "due_count": found.due_count,
        "losing": [_card(circuit, history) for circuit, history in found.losing],
        "over_limit": found.over_limit,
    }


@router.post("/import", response={202: TaskRow})
def post_import(request: HttpRequest, body: CsvIn) -> Status[dict[str, Any]]:
    """Systems from a CSV file: all of them, or none with what is wrong with each row. The task that does it."""
    person = person_of(request)
    return Status(202, task_row(own_task(person, import_systems(person, body.key, body.text))))


@router.get("/{circuit_id}", response=CircuitState)
def read_circuit(request: HttpRequest, circuit_id: int) -> dict[str, Any]:
    """One circuit: plate, revisions, every change of its charge, its jobs."""
    shop = asking_shop(request)
    circuit = goes_on(circuits_of(shop).get(pk=circuit_id))
    movements = circuit_movements(circuit)
    events = events_of(movements, circuit, retrofits_among(shop, (row.job_code for row in movements)))
    history = history_of(circuit, [event for event, _ in events], profile_of(shop), clock.now().date())
    return {
        **_card(circuit, history),
        "archived": not listed_circuits(shop).filter(pk=circuit.pk).exists(),
        "in_system": circuit.system.circuits.count(),
        "plate": circuit.plate,
        "revision": circuit.revision,
        "revisions": [{"revision": r.revision, "at": r.at.isoformat(), "by": r.by, "reason": r.reason} for r in revisions_of(circuit)[:20]],
        "events": [
            {
                "at": event.at,
                "kind": event.kind,
                "kg": event.kg,
                "by": movement.by,
                "job": movement.job_code,
                "cylinder": next((c.code for c in (movement.from_cylinder, movement.to_cylinder) if c), movement.place),
                "refrigerant": movement.refrigerant,
            }
            for event, movement in events
        ],
        "jobs": [
            {"code": j.code, "title": j.title, "closed": j.closed, "word": j.word, "visit": j.visit, "updated_at": j.updated_at}
            for j in jobs_on(person_of(request), circuit)
        ],
    }


@router.get("/{circuit_id}/retrofit", response=CoreRetrofitTable)
def compare_refrigerants(
    request: HttpRequest,
    circuit_id: int,
    evaporating: str = "",
    condensing: str = "",
    superheat: str = "",
    subcooling: str = "",
    efficiency: str = "",
    outdoor: str = "",
    duty: str = "",
) -> dict[str, Any]:
    """Every other refrigerant in this circuit; what is left empty is usual for its kind. Nothing is saved."""
    shop = asking_shop(request)
    plate = schema.load(Plate, circuits_of(shop).get(pk=circuit_id).plate, "/plate")
    asked = {
        "evaporating": evaporating, "condensing": condensing, "superheat": superheat, "subcooling": subcooling,
        "efficiency": efficiency, "outdoor": outdoor, "duty": duty,
    }  # fmt: skip
    found: dict[str, Any] = schema.dump_full(
        retrofit_view.table_of(plate, profile_of(shop), asked, "si" if person_of(request).units == "si" else "us")
    )
    return found


@router.post("/{circuit_id}/past", response=CircuitState)
def post_past(request: HttpRequest, circuit_id: int, body: PastLine) -> dict[str, Any]:
    """A line from an earlier record: the opening balance, or what was added or recovered before this book."""
    record_past(person_of(request), body.key, circuit_id, body.kind, body.mass, body.at, body.reason)
    return read_circuit(request, circuit_id)
