"""Every operation, tried as everybody there is: nobody, each role, a colleague whose job it is not, and another shop."""

import json
import uuid
from collections.abc import Iterator
from typing import Any

import pytest
from django.db import transaction
from django.test import Client, override_settings
from pytest_django import DjangoDbBlocker

from accounts.actions.access import link_for
from accounts.models import Person, Shop, Trail
from api.permissions import OPERATIONS, RANK
from api.root import api
from cards.actions.merge import merge
from cards.models import CardEvent
from conftest import PLATE, QUICK, Api, make_person, signed_in_as
from cylinders.models import Movement
from instruments.actions.pair import begin_pairing, pair, put_on_job
from jobs.models import Job
from practice.actions.begin import begin
from practice.actions.exercises import keep
from systems.models import Circuit, Customer, Site, System
from tasks import queue
from tasks.models import Made
from yoshi_core.practice.exercise import shipped

pytestmark = pytest.mark.django_db
SHEET = "/steps/identify/runs/0/sheet"
CHANGE = {"changes": [{"path": f"{SHEET}/oil", "value": "POE"}]}
ROW = {
    "code": "N-2",
    "kind": "recovery",
    "tare": "25 lb",
    "water_capacity": "47 lb",
    "gross": "26 lb",
    "owner": "us",
    "refrigerant": "R-410A",
}
THINGS = (
    "{code}",
    "{username}",
    "{task}",
    "{circuit_id}",
    "{card}",
    "{event}",
    "{gateway_id}",
    "{instrument_id}",
    "{run}",
    "{exercise_id}",
)
ACTORS = ("technician", "colleague", "lead", "owner")
NEEDS_STATE = {  # what these change is in no state to be changed here; the role is asked before that
    "POST /jobs/{code}/steps/{step}/reopen",
    "POST /jobs/{code}/visits/start",
    "POST /jobs/{code}/adopt",
    "POST /jobs/{code}/profile",
    "POST /cylinders/{code}/prepare",
    "POST /cylinders/{code}/lines/{line}/take-back",
    "POST /me/second-factor/on",
    "POST /me/second-factor/off",
    "GET /systems/{circuit_id}/retrofit",
    "GET /jobs/{code}/fits",
    "GET /practice/file",
}


UNKEYED = {
    "POST /jobs/{code}/preview", "POST /jobs/{code}/papers", "POST /jobs/{code}/log", "POST /practice/exercises/check", "POST /practice/give",
    "POST /practice/exercises/{exercise_id}/put-away", "POST /practice/runs/{run}/clock", "POST /practice/runs/{run}/end",
    "POST /practice/runs/{run}/share",
}  # fmt: skip


class World:
    """Two shops with one of each thing, and somebody of every role."""

    def __init__(self) -> None:
        self.ours, self.theirs = Shop.objects.create(name="Ours"), Shop.objects.create(name="Theirs")
        self.people = {role: make_person(self.ours, role, "technician" if role == "colleague" else role) for role in ACTORS}
        self.people["foreign"] = make_person(self.theirs, "foreign", "owner")
        make_person(self.ours, "victim")
        system = System.objects.create(site=Site.objects.create(shop=self.ours, name="Ridge"), name="Lab")
        self.circuit = Circuit.objects.create(system=system, code="C-1", name="Lab circuit", plate={"refrigerant": "R-410A"})
        mine = Api(signed_in_as(self.people["technician"]))
        self.job = mine.new_job(kind="service", title="Ours alone", circuit_id=self.circuit.pk)["code"]
        mine.save(self.job, PLATE)
        assert mine.post("/cylinders", **{**ROW, "code": "N-1"}).status_code == 201
        self.gateway, self.token = pair(
            begin_pairing(self.people["technician"]).code, "van", [{"key": "g", "channel": "suction_pressure", "unit": "psig"}]
        )
        put_on_job(self.people["technician"], self.gateway.pk, Job.objects.get(code=self.job).pk)
        self.task = queue.add("import_systems", {}, shop_id=self.ours.pk, person_id=self.people["technician"].pk).pk
        Made.objects.create(task_id=self.task, name="ours.pdf", media_type="application/pdf", content=b"Ours alone")
        self.document = json.dumps(mine.get(f"/jobs/{self.job}/document").json())
        instrument = self.gateway.instruments.get()
        kept, gone, other = (Customer.objects.create(shop=self.ours, name=f"Ours alone {n}").pk for n in range(3))
        merge(self.people["lead"], "merged-before", "customer", kept, gone, once_only=False)
        self.path = {
            "code": self.job,
            "step": "leak_search",
            "username": "victim",
            "session": "others",
            "task": self.task,
            "name": "R-410A",
            "circuit_id": self.circuit.pk,
            "kind": "customer",
            "line": Movement.objects.get(to_cylinder__code="N-1").pk,
            "card": kept,
            "other": other,
            "event": CardEvent.objects.get(what="merged").pk,
            "gateway_id": self.gateway.pk,
            "instrument_id": instrument.pk,
            "run": begin(self.people["technician"], "a-run-of-ours", shipped("low-air"), {"shipped": "low-air"}, 1, test=False).code,
            "exercise_id": keep(self.people["lead"], "ours-to-practise", shipped("low-air"), None).pk,
        }

    def body(self, operation: str) -> dict[str, Any] | None:
        """A body this operation takes."""
        profile = {"seen_revision": 0, "name": "Ours", "overrides": {}, "choices": {}, "reason": "looked at"}
        bodies: dict[str, dict[str, Any]] = {
            "POST /session": {"username": "nobody", "password": "wrong"},
            "POST /password/forgotten": {"username": "victim"},
            "POST /password/link": {"token": link_for(Person.objects.get(username="victim"), "reset").partition("#")[2]},
            "POST /password": {
                "token": link_for(Person.objects.get(username="victim"), "reset").partition("#")[2],
                "password": "four words and a number 7",
            },
            "POST /session/confirm": {"password": "a-long-password"},
            "PATCH /me": {"units": "si"},
            "POST /me/password": {"old": "a-long-password", "new": "four words and a number 7"},
            "POST /me/second-factor": {"password": "a-long-password"},
            "POST /me/second-factor/on": {"code": "000000"},
            "POST /me/second-factor/off": {"password": "wrong"},
            "PUT /profile": profile,
            "POST /profile/effect": {"overrides": {}, "choices": {}},
            "POST /people": {"username": "newby", "name": "N. Newby", "role": "technician"},
            "PATCH /people/{username}": {"role": "lead"},
            "PATCH /shop": {"name": "Ours", "shortest_password": 12},
            "POST /jobs": {"kind": "charge", "title": "another"},
            "POST /jobs/work-order": {"kind": "charge", "system_id": self.circuit.system_id},
            "POST /jobs/import": {"document": self.document, "again": True},
            "POST /jobs/{code}/changes": CHANGE,
            "POST /jobs/{code}/preview": CHANGE,
            "POST /jobs/{code}/steps/{step}/close": {"reason": "nothing to look for"},
            "POST /jobs/{code}/steps/{step}/reopen": {"reason": "again"},
            "POST /jobs/{code}/steps/{step}/leave-out": {"reason": "nothing to look for"},
            "POST /jobs/{code}/visits/end": {"outcome": "left_safe", "reason": "waits for a part", "awaited": "a part"},
            "POST /jobs/{code}/hand-on": {"to": "victim"},
            "POST /jobs/{code}/profile": {"reason": "newer"},
            "POST /jobs/{code}/papers": {"paper": "label"},
            "POST /jobs/{code}/log": {"text": "at,instrument,unit,value\n2026-11-01T10:00:00Z,suction_pressure,psig,118\n"},
            "POST /cylinders": ROW,
            "POST /cylinders/import": {"text": "code,kind,tare,water_capacity\nN-3,recovery,25 lb,47 lb\n"},
            "POST /cylinders/{code}/weigh": {"gross": "25.9 lb", "reason": "looked"},
            "POST /cylinders/{code}/move": {"to_kind": "lost", "gross_after": "25.8 lb", "reason": "let off a hose"},
            "POST /jobs/{code}/rename": {"was": "Ours alone", "title": "Ours alone, renamed"},
            "POST /jobs/{code}/discard": {"discarded": False},
            "POST /cards/{kind}": {"fields": {"name": "Somebody"}},
            "POST /cards/{kind}/{card}/edit": {"edits": [{"name": "contact", "was": "", "now": "the porter"}]},
            "POST /cards/{kind}/{card}/archive": {"archived": True},
            "POST /cards/{kind}/{card}/merge": {"other": self.path["other"]},
            "POST /systems/import": {"text": "site,system,circuit\nRidge,Hall,C-9\n"},
            "POST /systems/{circuit_id}/past": {
                "kind": "opening",
                "mass": "9 lb",
                "at": "2026-01-01T00:00:00Z",
                "reason": "paper",
            },
            "POST /instruments/gateways/{gateway_id}/job": {"job": None},
            "POST /instruments/{instrument_id}/zero": {"zero": 0.0},
            "POST /practice/exercises": {"text": shipped("low-air")},
            "POST /practice/exercises/check": {"text": shipped("low-air")},
            "POST /practice/give": {"shipped": "low-air", "to": ["victim"]},
            "POST /practice/runs": {"shipped": "low-air"},
            "POST /practice/runs/{run}/acts": {"do": "look", "what": "filter"},
            "POST /practice/runs/{run}/clock": {"speed": 1},
            "POST /practice/runs/{run}/share": {"shared": True},
        }
        keyed = operation.startswith("POST") and not operation.startswith(
            (
                "POST /me",
                "POST /session",
                "POST /password",
                "POST /profile",
                "POST /people/",
                "POST /instruments",
                "POST /gateway",
                "POST /tasks",
            )
        )
        unkeyed = operation in UNKEYED
        body = bodies.get(operation, {} if keyed and operation not in UNKEYED else None)
        return {**body, "key": uuid.uuid4().hex} if body is not None and keyed and not unkeyed else body

    def ask(self, client: Client, operation: str) -> Any:
        method, path = operation.split(" ")
        place = {**self.path, "code": "N-1"} if path.startswith("/cylinders") else self.path
        body = self.body(operation)
        text = "" if body is None else json.dumps(body)
        return client.generic(method, "/api" + path.format(**place), text, content_type="application/json")


@pytest.fixture(scope="module")
def world(django_db_setup: None, django_db_blocker: DjangoDbBlocker) -> Iterator[World]:
    with django_db_blocker.unblock(), transaction.atomic(), override_settings(PASSWORD_HASHERS=QUICK):
        yield World()
        transaction.set_rollback(True)


def operations() -> set[str]:
    paths = api.get_openapi_schema()["paths"]
    return {f"{method.upper()} {path.removeprefix('/api')}" for path, methods in paths.items() for method in methods}


def test_every_operation_has_its_row_and_no_row_is_of_nothing() -> None:
    assert operations() == set(OPERATIONS)


@pytest.mark.parametrize("operation", sorted(OPERATIONS))
def test_who_may(operation: str, world: World) -> None:
    allowed = OPERATIONS[operation]
    nobody = world.ask(Client(), operation)
    if allowed.role == "anybody":
        assert nobody.status_code != 403
        assert nobody.status_code != 401 or operation == "POST /session"
        return
    assert nobody.status_code == 401
    if allowed.role == "kit":
        assert world.ask(signed_in_as(world.people["owner"]), operation).status_code == 401
        return
    of_a_job = operation.partition(" ")[2].startswith("/jobs/{code}")
    for actor in ACTORS:
        with transaction.atomic():
            answer = world.ask(signed_in_as(world.people[actor]), operation)
            role = "technician" if actor == "colleague" else actor
            if RANK[role] < RANK[allowed.role] or (of_a_job and actor == "colleague"):
                assert answer.status_code == 403, (actor, answer.content)
                assert answer.json()["detail"]
            elif ("/tasks/{task}" in operation and actor == "colleague") or ("{run}" in operation and actor != "technician"):
                assert answer.status_code == 404
            elif operation in NEEDS_STATE:
                assert answer.status_code in {200, 422}, (actor, answer.content)
            else:
                assert answer.status_code in {200, 201, 202, 204}, (actor, answer.content)
                _noted(operation, world.people[actor])
            transaction.set_rollback(True)


def _noted(operation: str, person: Person) -> None:
    """What was changed stands in the trail, with who did it."""
    words = OPERATIONS[operation].trail
    lines = Trail.objects.filter(person=person, what=words)
    assert lines.exists() == bool(words)


@pytest.mark.parametrize("operation", sorted(OPERATIONS))
def test_another_shop_finds_nothing(operation: str, world: World) -> None:
    answer = world.ask(signed_in_as(world.people["foreign"]), operation)
    place = operation.partition(" ")[2]
    if any(part in place for part in THINGS):
        assert answer.status_code == 404, answer.content
    elif operation in {"POST /jobs/work-order", "POST /practice/give"}:
        assert answer.status_code == 422
    elif operation == "POST /jobs/import":
        assert answer.status_code == 201, "a document is whoever's who has it"
        assert answer.json()["code"] != world.job
    elif not getattr(answer, "streaming", False):
        said = answer.content.decode()
        assert not any(mark in said for mark in ("Ours alone", world.job, "N-1", "C-1", '"victim"')) or "/password" in place
    else:
        assert "Ours" not in b"".join(answer.streaming_content).decode()


@pytest.mark.parametrize("operation", sorted(name for name, allowed in OPERATIONS.items() if allowed.again))
def test_only_an_owner_who_said_who_they_are_of_late(operation: str, world: World) -> None:
    client = Client()
    client.force_login(world.people["owner"])
    answer = world.ask(client, operation)
    assert answer.status_code == 403
    assert answer.json()["code"] == "confirm_first"
    assert Api(client).post("/session/confirm", keyed=False, password="no").json()["code"] == "wrong_sign_in"
    assert Api(client).post("/session/confirm", keyed=False, password="a-long-password").status_code == 204
    assert world.ask(client, operation).status_code == 200
