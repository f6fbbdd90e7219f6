"""A new job, from a circuit, from nothing, or from a document."""

import dataclasses
import re
from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any

from django.db.models import Q

from accounts import asking, clock
from accounts.models import Person, Shop
from accounts.once import lock_shop, once
from accounts.queries import profile_of, shop_of
from cylinders.queries import Moved, movements_of
from jobs.actions.reservations import coming_to
from jobs.models import Job, WorkOrder, new_code
from jobs.naming import name_on
from jobs.queries import one_job
from jobs.store import answer_of, write
from systems.models import Circuit
from systems.queries import circuits_of, goes_on, listed_circuits
from yoshi_core.document import schema
from yoshi_core.document.model import PRACTICE, Fact, JobKind, Posting, ProfileEvent
from yoshi_core.document.model import Circuit as CoreCircuit
from yoshi_core.document.model import Job as CoreJob
from yoshi_core.document.plate import Plate
from yoshi_core.errors import InvalidInput
from yoshi_core.job import documents
from yoshi_core.job.entering import LONGEST_AWAY
from yoshi_core.job.new_job import new_job
from yoshi_core.steps.plan_change import case as retrofit_case
from yoshi_core.steps.plan_change.sheet import PlanChangeSheet
from yoshi_core.units.display import show

Chosen = tuple[str, dict[str, str]]
CODE = re.compile(r"[0-9a-zA-Z_-]{4,20}")  # what may stand in an address; another document's id gives way to a new one


@dataclasses.dataclass(frozen=True)
class Begun:
    """What a device says of a job it began without signal: the code it goes by there, and when that was."""

    code: str = ""
    at: datetime | None = None


def create_job(
    person: Person, key: str, kind: str, title: str, circuit_id: int | None, chosen: Chosen | None = None, begun: Begun | None = None
) -> dict[str, Any]:
    """Create a job with its first visit; the circuit's plate is copied with its revision.

    `chosen` is the refrigerant a retrofit changes to, with the conditions it was compared at, as typed. Raises `InvalidInput`
    for a code that is a job's already.
    """
    shop, begun = shop_of(person), begun or Begun()
    content = {"create": kind, "title": title, "circuit": circuit_id, **({"change": list(chosen)} if chosen else {})}
    content |= {"code": begun.code} if begun.code else {}
    if kind == "retrofit" and circuit_id is None:
        raise InvalidInput("A change of refrigerant needs the circuit it is made in.", path="/circuit_id")
    change = retrofit_case.planned(*chosen, "si" if person.units == "si" else "us") if chosen and kind == "retrofit" else None

    def act(_: Shop) -> dict[str, Any]:
        if begun.code and Job.objects.filter(code=begun.code).exists():
            raise InvalidInput("Another job goes by the number {code}.", words={"code": begun.code}, path="/code")
        return {"code": _create(person, shop, kind, title, circuit_to_work_on(shop, circuit_id), None, content, change, begun).code}

    return _made(person, once(shop, key, content, lambda: lock_shop(shop), act))


def _made(person: Person, said: dict[str, Any]) -> dict[str, Any]:
    """The answer about a job that was made; kept for a repeated request is its code alone."""
    return answer_of(one_job(person, said["code"]))


def create_work_order(person: Person, key: str, kind: str, system_id: int) -> dict[str, Any]:
    """One errand at one machine: a job for each of its circuits. Answers as its first job does."""
    shop = shop_of(person)
    content = {"work_order": system_id, "kind": kind}

    def act(_: Shop) -> dict[str, Any]:
        circuits = list(listed_circuits(shop).filter(system_id=system_id))
        if not circuits:
            raise InvalidInput("There is no such system in this shop, or it has no circuit.", path="/system_id")
        system = circuits[0].system
        order = WorkOrder.objects.create(shop=shop, title=system.name, system=system)
        rows = [_create(person, shop, kind, circuit.name, circuit, order, content) for circuit in circuits]
        return {"code": rows[0].code}

    return _made(person, once(shop, key, content, lambda: lock_shop(shop), act))


def _create(
    person: Person,
    shop: Shop,
    kind: str,
    title: str,
    circuit: Circuit | None,
    order: WorkOrder | None,
    payload: Any,
    change: PlanChangeSheet | None = None,
    begun: Begun | None = None,
) -> Job:
    kinds: dict[str, JobKind] = {"quick": "quick", "service": "service", "retrofit": "retrofit"}
    begun, now = begun or Begun(), clock.now()
    job = new_job(
        begun.code or new_code(),
        kinds.get(kind, "charge"),
        title.strip() or (circuit.name if circuit else "New job"),
        copied(circuit) if circuit else CoreCircuit(),
        profile_of(shop),
        person.shown_name,
        begun.at if begun.at and timedelta(0) <= now - begun.at <= LONGEST_AWAY else now,
        change,
    )
    if circuit is not None:
        job = dataclasses.replace(job, facts=(*facts_of_circuit(circuit, movements_of([circuit])[circuit.pk]), *coming_to(shop, circuit)))
    return _store(shop, person, job, circuit, "created", payload, order)


def facts_of_circuit(circuit: Circuit, movements: Sequence[Moved]) -> tuple[Fact, ...]:
    """What is known of a circuit from before: its fingerprint, its last weighed total, what was done, each with its time.

    `movements` are its own, oldest first.
    """
    found = []
    kept = circuit.fingerprint or {}
    if kept.get("at"):
        as_of, source = datetime.fromisoformat(kept["at"]), f"job {kept['job']}"
        if kept.get("figures"):
            found.append(Fact("fingerprint", circuit.code, as_of, source, kept["figures"]))
        if kept.get("inside_kg"):
            found.append(Fact("weighed_total", circuit.code, as_of, source, {"mass_kg": kept["inside_kg"]}))
    for movement in movements[-6:]:
        added = movement.to_circuit_id == circuit.pk
        text = f"{show(movement.mass_kg, 'mass')} {'added' if added else 'taken out'} by {movement.by}"
        found.append(
            Fact("visit", f"{circuit.code}/{movement.pk}", movement.at, "cylinder book", {"text": text, "mass_kg": movement.mass_kg})
        )
    return tuple(found)


class TakenBefore(InvalidInput):
    """A job that is here already, or was taken over before."""

    code = "taken_before"


def import_job(person: Person, key: str, text: str, *, again: bool = False) -> dict[str, Any]:
    """A job from a document, as a new job of this shop; what its ledger says happened elsewhere, and is not booked here.

    Raises `DocumentError`, and `TakenBefore` for one that is here already unless it is wanted `again`; nothing is half-written.
    """
    shop = shop_of(person)
    export = documents.loads(text)
    if export.job.id.startswith(PRACTICE):
        raise InvalidInput("This is a practice job; no unit was there. It stays with its run, in Practice.", path="/document")

    def act(_: Shop) -> dict[str, Any]:
        now = clock.now()
        here = Job.objects.filter(Q(code=export.job.id[:20]) | Q(original=export.job.id[:60]), shop=shop).order_by("pk").first()
        if here is not None and not again:
            raise TakenBefore(
                "This job is here already: {title}. Taken over again it is another one beside it.",
                words={"title": here.title},
                path="/document",
                job=here.code,
            )
        pinned = export.job.profile_events or (ProfileEvent(export.profile, now, person.shown_name, "taken over from a file"),)
        taken = not CODE.fullmatch(export.job.id) or Job.objects.filter(code=export.job.id).exists()
        code = new_code() if taken else export.job.id
        ledger = tuple(_renamed(posting, export.job.id, code) for posting in export.job.ledger)
        job = dataclasses.replace(export.job, id=code, ledger=ledger, profile_events=pinned)
        return {"code": _store(shop, person, job, None, "imported", {"original_id": export.job.id}, None, export.job.id).code}

    return _made(person, once(shop, key, {"import": text, "again": again}, lambda: lock_shop(shop), act))


def _renamed(posting: Posting, old: str, new: str) -> Posting:
    """A ledger line under the job's new code, so that what moved before is known to have moved."""
    movement = posting.movement
    source, destination = (f"circuit:{new}" if place == f"circuit:{old}" else place for place in (movement.source, movement.destination))
    key = f"{new}{movement.key[len(old) :]}" if movement.key.startswith(f"{old}/") else movement.key
    return dataclasses.replace(posting, movement=dataclasses.replace(movement, key=key, source=source, destination=destination))


def _store(
    shop: Shop, person: Person, job: CoreJob, circuit: Circuit | None, kind: str, payload: Any, order: WorkOrder | None, original: str = ""
) -> Job:
    row = Job(
        original=original[:60],
        history_lines=len(job.ledger) if original else 0,
        code=job.id,
        shop=shop,
        circuit=circuit,
        work_order=order,
        technician=person.shown_name,
        created_at=clock.now(),
        seq=0,
    )
    write(row, job, kind, payload, person)
    name_on(row, person)
    asking.tell(row.code)
    return row


def circuit_to_work_on(shop: Shop, circuit_id: int | None) -> Circuit | None:
    if circuit_id is None:
        return None
    found = circuits_of(shop).filter(pk=circuit_id).first()
    if found is None:
        raise InvalidInput("There is no such circuit in this shop.", path="/circuit_id")
    circuit = goes_on(found)
    if not listed_circuits(shop).filter(pk=circuit.pk).exists():
        raise InvalidInput("{name} is archived. Restore it before work begins on it.", words={"name": circuit.name}, path="/circuit_id")
    return circuit


def copied(circuit: Circuit) -> CoreCircuit:
    """The circuit as a job copies it."""
    plate = schema.load(Plate, circuit.plate, "/plate")
    return CoreCircuit(circuit.code, circuit.name, circuit.system.name, circuit.system.site.name, circuit.revision, plate)
