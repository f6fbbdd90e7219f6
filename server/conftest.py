"""Fixtures for the server's tests: a shop, its people, a signed-in client."""

import json
import uuid
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from django.core.management import call_command
from django.db import transaction
from django.test import Client, override_settings
from django.utils import timezone
from pytest_django import DjangoDbBlocker, Settings

from accounts.actions.sign_in import CONFIRMED
from accounts.models import Person, Shop
from tasks.queue import run_all

QUICK = ["django.contrib.auth.hashers.MD5PasswordHasher"]
BASE = "/steps/identify/runs/0/sheet"
Send = Callable[..., Any]


def make_person(shop: Shop, username: str, role: str = "technician") -> Person:
    person = Person(username=username, shown_name=username.title(), role=role, shop=shop)
    person.set_password("a-long-password")
    person.save()
    return person


@pytest.fixture(autouse=True)
def _quick_passwords(settings: Settings) -> None:
    settings.PASSWORD_HASHERS = QUICK


@pytest.fixture(scope="module")
def demo_world(django_db_setup: None, django_db_blocker: DjangoDbBlocker) -> Iterator[None]:
    """The demo world, loaded once for a module's tests, in a transaction around all of them that is rolled back after the last."""
    with django_db_blocker.unblock(), transaction.atomic(), override_settings(PASSWORD_HASHERS=QUICK):
        call_command("load_demo", verbosity=0)
        with django_db_blocker.block():
            yield
        transaction.set_rollback(True)


@pytest.fixture
def shop(db: None) -> Shop:
    return Shop.objects.create(name="Test Shop")


@pytest.fixture
def person(shop: Shop) -> Person:
    return make_person(shop, "orrin")


def signed_in_as(person: Person) -> Client:
    """A client of somebody who has just said who they are."""
    client = Client()
    client.force_login(person)
    session = client.session
    session[CONFIRMED] = timezone.now().timestamp()
    session.save()
    return client


@pytest.fixture
def owner(shop: Shop) -> "Api":
    return Api(signed_in_as(make_person(shop, "hale", "owner")))


@pytest.fixture
def signed_in(client: Client, person: Person) -> Client:
    client.force_login(person)
    return client


class Api:
    """A client that speaks JSON and makes its own request keys."""

    def __init__(self, client: Client) -> None:
        self.client = client

    def get(self, path: str, **query: Any) -> Any:
        return self.client.get(f"/api{path}", query)

    def post(self, path: str, *, keyed: bool = True, **body: Any) -> Any:
        if keyed:
            body.setdefault("key", uuid.uuid4().hex)
        return self.client.post(f"/api{path}", json.dumps(body), content_type="application/json")

    def send(self, method: str, path: str, **body: Any) -> Any:
        return self.client.generic(method, f"/api{path}", json.dumps(body), content_type="application/json")

    def take_in(self, path: str, text: str) -> dict[str, Any]:
        """Have a table taken in by its task, and what came of it."""
        return taken_in(self.client, f"{path}/import", key=uuid.uuid4().hex, text=text)

    def new_job(self, **body: Any) -> dict[str, Any]:
        answer = self.post("/jobs", kind=body.pop("kind", "charge"), **body)
        assert answer.status_code == 201, answer.content
        found: dict[str, Any] = answer.json()
        return found

    def save(self, code: str, values: dict[str, Any], **more: Any) -> Any:
        """Save typed values by path below the identify sheet, or by whole pointers."""
        changes = [
            {"path": path if path.startswith("/") else f"{BASE}/{path}", "seen": None, "value": value, **more.pop("change", {})}
            for path, value in values.items()
        ]
        return self.post(f"/jobs/{code}/changes", changes=changes, **more)


def taken_in(client: Client, path: str, **body: Any) -> dict[str, Any]:
    """What came of the task that takes a file in."""
    answer = client.post(f"/api{path}", json.dumps(body), content_type="application/json")
    assert answer.status_code == 202, answer.content
    run_all()
    task = client.get(f"/api/tasks/{answer.json()['id']}").json()
    assert task["state"] == "done", task
    result: dict[str, Any] = task["result"]
    return result


@pytest.fixture
def api(signed_in: Client) -> Api:
    return Api(signed_in)


PLATE = {
    "refrigerant": "R-410A",
    "factory_charge": "9 lb 4 oz",
    "included_length": "25 ft",
    "metering": "txv",
    "kind": "split",
    "lines/l1/length": "55 ft",
    "lines/l1/allowance": "0.6 oz/ft",
    "parts/p1/charge": "1.5 oz",
}
