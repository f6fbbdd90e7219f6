"""What a device takes along to work without signal: which jobs, and the circuits a new job may be begun on there."""

from typing import Any

from django.db.models import Q, QuerySet

from accounts.models import Person
from accounts.queries import profile_of, shop_of
from cylinders.queries import movements_of
from jobs.actions.create_job import copied, facts_of_circuit
from jobs.actions.reservations import all_coming
from jobs.models import AT_WORK, Job
from jobs.queries import jobs_of
from systems.models import Circuit
from systems.queries import listed_circuits
from yoshi_core import __version__
from yoshi_core.document import schema
from yoshi_core.document.model import Fact
from yoshi_core.job import documents

MOST_JOBS, MOST_CIRCUITS = 60, 40


def taken_along(person: Person) -> dict[str, Any]:
    """The person's open jobs and those of the same work orders, last touched first, by code and number; circuits as a new job copies them."""
    shop = shop_of(person)
    jobs = list(_jobs(person)[:MOST_JOBS])
    circuits, coming = _circuits(person, jobs), all_coming(shop)
    moved = movements_of(circuits)
    return {
        "core_version": __version__,
        "document_version": documents.VERSION,
        "jobs": [{"code": row.code, "seq": row.seq} for row in jobs],
        "circuits": [
            _circuit(circuit, (*facts_of_circuit(circuit, moved[circuit.pk]), *coming.get(circuit.code, ()))) for circuit in circuits
        ],
        "profile": schema.dump(profile_of(shop)),
    }


def _jobs(person: Person) -> QuerySet[Job]:
    mine = jobs_of(shop_of(person)).filter(listed__in=AT_WORK, people=person).values("pk")
    with_them = jobs_of(shop_of(person)).filter(listed__in=AT_WORK, work_order__jobs__in=mine).values("pk")
    either = Q(pk__in=mine) | Q(pk__in=with_them)
    return jobs_of(shop_of(person)).filter(either).defer("document", "findings").order_by("-updated_at", "-id")


def _circuits(person: Person, jobs: list[Job]) -> list[Circuit]:
    """Those of the jobs first; then others of the shop, as far as there is room."""
    listed = listed_circuits(shop_of(person))
    theirs = list(listed.filter(pk__in={row.circuit_id for row in jobs if row.circuit_id})[:MOST_CIRCUITS])
    more = MOST_CIRCUITS - len(theirs)
    return theirs + list(listed.exclude(pk__in=[circuit.pk for circuit in theirs])[:more])


def _circuit(circuit: Circuit, facts: tuple[Fact, ...]) -> dict[str, Any]:
    return {
        "id": circuit.pk,
        "code": circuit.code,
        "name": circuit.name,
        "system": circuit.system.name,
        "site": circuit.system.site.name,
        "circuit": schema.dump(copied(circuit)),
        "facts": schema.dump(facts),
    }
