"""A new job, from a circuit, from nothing, or from a document."""

import dataclasses
from typing import Any

from django.utils import timezone

from accounts.models import Person, Shop
from accounts.queries import profile_of, shop_of
from jobs.models import Job, new_code
from jobs.store import answer_of, once, write
from systems.models import Circuit
from systems.queries import circuits_of
from yoshi_core import documents, schema
from yoshi_core.errors import InvalidInput
from yoshi_core.model import Circuit as CoreCircuit
from yoshi_core.model import Job as CoreJob
from yoshi_core.model import Plate, ProfileEvent
from yoshi_core.new_job import new_job


def create_job(person: Person, key: str, kind: str, title: str, circuit_id: int | None) -> dict[str, Any]:
    """Create a job with its first visit; the circuit's plate is copied with its revision."""
    shop = shop_of(person)
    content = {"create": kind, "title": title, "circuit": circuit_id}

    def act(_: Job | None) -> dict[str, Any]:
        circuit = _circuit(shop, circuit_id)
        code, now = new_code(), timezone.now()
        job = new_job(
            code,
            "quick" if kind == "quick" else "charge",
            title.strip() or (circuit.name if circuit else "New job"),
            copied(circuit) if circuit else CoreCircuit(),
            profile_of(shop),
            person.shown_name,
            now,
        )
        return _store(shop, person, job, circuit, "created", content)

    return once(shop, key, content, lambda: _lock_shop(shop), act)


def import_job(person: Person, key: str, text: str) -> dict[str, Any]:
    """A job from a document, as a new job of this shop. Raises `DocumentError`; nothing is half-written."""
    shop = shop_of(person)
    export = documents.loads(text)

    def act(_: Job | None) -> dict[str, Any]:
        now = timezone.now()
        pinned = export.job.profile_events or (ProfileEvent(export.profile, now, person.shown_name, "taken over from a file"),)
        taken = Job.objects.filter(code=export.job.id).exists() or not 4 <= len(export.job.id) <= 20
        job = dataclasses.replace(export.job, id=new_code() if taken else export.job.id, profile_events=pinned)
        return _store(shop, person, job, None, "imported", {"original_id": export.job.id})

    return once(shop, key, {"import": text}, lambda: _lock_shop(shop), act)


def _store(shop: Shop, person: Person, job: CoreJob, circuit: Circuit | None, kind: str, payload: Any) -> dict[str, Any]:
    row = Job(
        code=job.id,
        shop=shop,
        circuit=circuit,
        technician=person.shown_name,
        created_at=timezone.now(),
        seq=0,
    )
    write(row, job, kind, payload, person)
    return answer_of(row)


def _lock_shop(shop: Shop) -> None:
    Shop.objects.select_for_update().get(pk=shop.pk)


def _circuit(shop: Shop, circuit_id: int | None) -> Circuit | None:
    if circuit_id is None:
        return None
    circuit = circuits_of(shop).filter(pk=circuit_id).first()
    if circuit is None:
        raise InvalidInput("There is no such circuit in this shop.", path="/circuit_id")
    return circuit


def copied(circuit: Circuit) -> CoreCircuit:
    """The circuit as a job copies it."""
    plate = schema.load(Plate, circuit.plate, "/plate")
    return CoreCircuit(circuit.code, circuit.name, circuit.system.name, circuit.system.site.name, circuit.revision, plate)
