"""Who may do what: every operation with the least role it takes. What is not in here nobody may do.

Whose job it is decides beside this, in `jobs.queries`: a technician works on those they are named on. `trail` is what a
line of the trail says of it, `again` asks who it is once more when that was some minutes ago.
"""

import re
from dataclasses import dataclass, replace
from typing import Literal

from django.http import HttpRequest
from ninja.security import SessionAuth

from accounts import asking
from accounts.actions.sign_in import confirmed
from accounts.models import Person
from practice.models import Run
from practice.queries import as_player, asked_by_task, asked_for, moment_of

Role = Literal["anybody", "kit", "technician", "lead", "owner"]
PARAMETER = re.compile(r"<(?:[a-z]+:)?([a-z_]+)>")
RANK = {"technician": 0, "lead": 1, "owner": 2}


@dataclass(frozen=True)
class Allowed:
    role: Role
    trail: str = ""
    again: bool = False


ANYBODY, READS = Allowed("anybody"), Allowed("technician")
OPERATIONS: dict[str, Allowed] = {
    "GET /health": ANYBODY,
    "GET /health/live": ANYBODY,
    "GET /health/ready": ANYBODY,
    "GET /forms": ANYBODY,
    "POST /session": ANYBODY,
    "POST /password/forgotten": ANYBODY,
    "POST /password/link": ANYBODY,
    "POST /password": ANYBODY,
    "POST /gateway/pair": ANYBODY,
    "POST /gateway/readings": Allowed("kit"),
    "DELETE /session": READS,
    "POST /session/confirm": READS,
    "GET /me": READS,
    "PATCH /me": READS,
    "GET /me/key": READS,
    "GET /me/account": READS,
    "POST /me/password": READS,
    "POST /me/second-factor": READS,
    "POST /me/second-factor/on": READS,
    "POST /me/second-factor/off": READS,
    "POST /me/sessions/{session}/end": READS,
    "GET /circuits": READS,
    "GET /profile": READS,
    "PUT /profile": Allowed("owner", "changed the practice profile", again=True),
    "POST /profile/effect": Allowed("owner"),
    "GET /people": READS,
    "POST /people": Allowed("owner", "invited", again=True),
    "PATCH /people/{username}": Allowed("owner", "changed an account", again=True),
    "POST /people/{username}/link": Allowed("owner", "gave a new link", again=True),
    "PATCH /shop": Allowed("owner", "changed the shop", again=True),
    "GET /trail": Allowed("owner"),
    "GET /trail.csv": Allowed("owner"),
    "GET /tasks": READS,
    "GET /tasks/{task}": READS,
    "GET /tasks/{task}/file": READS,
    "POST /tasks/{task}/cancel": Allowed("technician", "cancelled a task"),
    "GET /jobs": READS,
    "POST /jobs": Allowed("technician", "made a job"),
    "POST /jobs/work-order": Allowed("technician", "made a work order"),
    "POST /jobs/import": Allowed("technician", "took over a job"),
    "GET /jobs/{code}": READS,
    "POST /jobs/{code}/changes": Allowed("technician", "entered"),
    "POST /jobs/{code}/preview": READS,
    "POST /jobs/{code}/steps/{step}/close": Allowed("technician", "closed a step"),
    "POST /jobs/{code}/steps/{step}/reopen": Allowed("technician", "reopened a step"),
    "POST /jobs/{code}/steps/{step}/leave-out": Allowed("technician", "left a step out"),
    "POST /jobs/{code}/visits/end": Allowed("technician", "ended a visit"),
    "POST /jobs/{code}/visits/start": Allowed("technician", "began a visit"),
    "POST /jobs/{code}/rename": Allowed("technician", "renamed a job"),
    "POST /jobs/{code}/discard": Allowed("technician", "discarded a job, or took it back"),
    "POST /jobs/{code}/adopt": Allowed("technician", "made a quick total a job"),
    "POST /jobs/{code}/profile": Allowed("technician", "judged a job by the present profile"),
    "POST /jobs/{code}/hand-on": Allowed("lead", "handed a job on"),
    "GET /jobs/{code}/history": READS,
    "GET /jobs/{code}/schools": READS,
    "GET /jobs/{code}/fits": READS,
    "GET /jobs/{code}/document": READS,
    "GET /jobs/{code}/record": READS,
    "GET /jobs/{code}/label": READS,
    "POST /jobs/{code}/papers": READS,
    "GET /jobs/{code}/log": READS,
    "POST /jobs/{code}/log": Allowed("technician", "took in a log"),
    "GET /jobs/{code}/log/columns": READS,
    "GET /device": READS,
    "GET /refrigerants": READS,
    "GET /refrigerants/{name}/chart": READS,
    "GET /refrigerants/{name}/saturation": READS,
    "GET /cylinders": READS,
    "POST /cylinders": Allowed("technician", "added a cylinder"),
    "POST /cylinders/import": Allowed("technician", "took in a list of cylinders"),
    "GET /cylinders/all/held": READS,
    "GET /cylinders/export.csv": READS,
    "GET /cylinders/{code}": READS,
    "POST /cylinders/{code}/weigh": Allowed("technician", "weighed a cylinder"),
    "POST /cylinders/{code}/move": Allowed("technician", "booked a movement"),
    "POST /cylinders/{code}/lines/{line}/take-back": Allowed("technician", "took back a line of a cylinder"),
    "POST /cylinders/{code}/prepare": Allowed("technician", "prepared a cylinder"),
    "GET /cards/{kind}": READS,
    "GET /cards/{kind}/blank": READS,
    "POST /cards/{kind}": Allowed("technician", "added a card"),
    "GET /cards/{kind}/{card}": READS,
    "POST /cards/{kind}/{card}/edit": Allowed("technician", "changed a card"),
    "POST /cards/{kind}/{card}/archive": Allowed("lead", "archived a card, or restored it"),
    "GET /cards/{kind}/{card}/merge/{other}": READS,
    "POST /cards/{kind}/{card}/merge": Allowed("lead", "merged two cards"),
    "POST /cards/merges/{event}/undo": Allowed("lead", "undid a merge"),
    "GET /systems": READS,
    "POST /systems/import": Allowed("technician", "took in a list of systems"),
    "GET /systems/all/overview": READS,
    "GET /systems/{circuit_id}": READS,
    "GET /systems/{circuit_id}/retrofit": READS,
    "POST /systems/{circuit_id}/past": Allowed("technician", "entered an earlier charge"),
    "GET /instruments": READS,
    "POST /instruments/pairing-code": Allowed("technician", "asked for a pairing code"),
    "POST /instruments/gateways/{gateway_id}/job": Allowed("technician", "put a kit on a job"),
    "POST /instruments/gateways/{gateway_id}/revoke": Allowed("technician", "sent a kit away"),
    "POST /instruments/{instrument_id}/zero": Allowed("technician", "zeroed an instrument"),
    "GET /day": READS,
    "GET /practice": READS,
    "GET /practice/file": READS,
    "GET /practice/schema": READS,
    "POST /practice/exercises": Allowed("technician", "kept an exercise"),
    "POST /practice/exercises/check": READS,
    "POST /practice/exercises/{exercise_id}/put-away": Allowed("lead", "put an exercise away"),
    "POST /practice/give": Allowed("lead", "gave an exercise"),
    "GET /practice/team": Allowed("lead"),
    "POST /practice/runs": READS,
    "GET /practice/runs/{run}": READS,
    "POST /practice/runs/{run}/acts": READS,
    "POST /practice/runs/{run}/clock": READS,
    "POST /practice/runs/{run}/end": READS,
    "POST /practice/runs/{run}/share": READS,
    "GET /practice/runs/{run}/debrief": READS,
}
BOOKS = (
    "/jobs/",
    "/cylinders",
    "/circuits",
    "/systems",
    "/instruments",
    "/profile",
    "/refrigerants/",
)  # what a practice run has of its own
WHO = {"lead": "the lead or the owner", "owner": "the owner"}


class Forbidden(PermissionError):
    """A role that is not enough."""


class AnotherPerson(Exception):
    """The request was made for somebody else than who is signed in now."""


class ConfirmFirst(Exception):
    """Only an owner may do this, and it is a while since this one said who they are."""


def operation_of(request: HttpRequest) -> str:
    """The operation a request asks for, by method and path as the API describes it."""
    route = request.resolver_match.route if request.resolver_match else ""
    path = PARAMETER.sub(r"{\1}", route).removeprefix("api")
    return f"{request.method} {path}"


def owner_of(person: Person) -> str:
    """Whose a device's entries are: a person of a shop."""
    return f"{person.shop_id}-{person.pk}"


class Guard(SessionAuth):
    """A session, and the role its operation takes; asked before anything else of the request is read."""

    def authenticate(self, request: HttpRequest, key: str | None) -> Person | None:
        person = super().authenticate(request, key)
        if not isinstance(person, Person):
            return None
        meant = request.headers.get("X-Yoshi-Owner", "")
        if meant and meant != owner_of(person):
            raise AnotherPerson
        asked = operation_of(request)
        allowed = OPERATIONS.get(asked)
        if allowed is None or allowed.role not in RANK:
            raise Forbidden("Nobody may do this.")
        if RANK[person.role] < RANK[allowed.role]:
            raise Forbidden(f"This is for {WHO[allowed.role]} of the shop.")
        if allowed.again and not confirmed(request):
            raise ConfirmFirst
        kwargs = request.resolver_match.kwargs if request.resolver_match else {}
        about = " ".join(str(value) for value in kwargs.values())
        run = _practising(request, person, asked, str(kwargs.get("code", "")))
        if run is not None:
            person = request.user = as_player(run, person)
        moment = None if run is None else moment_of(run)
        asking.now.set(replace(asking.now.get(), person_id=person.pk, what=allowed.trail, about=about, moment=moment))
        return person


def _practising(request: HttpRequest, person: Person, asked: str, job: str) -> Run | None:
    """The practice run a request is about: by its job's number, or said in its head for the books beside it."""
    path = asked.partition(" ")[2]
    if path.startswith("/tasks/{task}"):
        number = str(request.resolver_match.kwargs["task"]) if request.resolver_match else ""
        return asked_by_task(person, int(number)) if re.fullmatch(r"[0-9]{1,18}", number) else None
    if not path.startswith(BOOKS):
        return None
    job = job if path.startswith("/jobs/") else request.GET.get("job", "")
    run = asked_for(person, job, request.headers.get("X-Yoshi-Practice", ""))
    if run is not None and RANK[OPERATIONS[asked].role] > RANK["technician"]:
        raise Forbidden("This is not done in practice.")
    return run
