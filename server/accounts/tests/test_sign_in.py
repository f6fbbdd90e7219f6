"""Guessing costs ever more time, whatever address it claims to come from, and costs nobody else anything."""

import json
from datetime import timedelta
from typing import Any

import pytest
from django.conf import settings
from django.contrib.auth.hashers import Argon2PasswordHasher
from django.test import Client, RequestFactory
from django.utils import timezone

from accounts.actions import sign_in
from accounts.actions.sign_in import AT_ONCE, FREE, LONGEST_S
from accounts.asking import address_of
from accounts.models import Person, Shop, SignInTries
from conftest import make_person
from yoshi_server import settings as shipped

pytestmark = pytest.mark.django_db
RIGHT = "a-long-password"


def tried(client: Client, password: str, name: str = "orrin", address: str = "10.0.0.1", **headers: str) -> Any:
    body = json.dumps({"username": name, "password": password})
    return client.post("/api/session", body, content_type="application/json", REMOTE_ADDR=address, headers=headers)


def failed(times: int, client: Client | None = None, **more: Any) -> None:
    for _ in range(times):
        tried(client or Client(), "wrong", **more)
        SignInTries.objects.update(next_at=timezone.now())  # waited


def test_each_failure_beyond_the_first_doubles_the_wait(person: Person) -> None:
    failed(FREE["account"])
    waits = []
    for _ in range(4):
        assert tried(Client(), "wrong").status_code == 401
        refused = tried(Client(), RIGHT)
        assert refused.status_code == 429
        assert refused.headers["Retry-After"] == str(refused.json()["params"]["wait_s"])
        waits.append(refused.json()["params"]["wait_s"])
        SignInTries.objects.update(next_at=timezone.now())
    assert waits == [2, 4, 8, 16]
    SignInTries.objects.update(failures=60)
    tried(Client(), "wrong")
    assert tried(Client(), RIGHT).json()["params"]["wait_s"] == LONGEST_S


def test_a_forged_address_passes_nothing(person: Person) -> None:
    for n in range(FREE["account"] + 1):
        tried(Client(), "wrong", **{"x-forwarded-for": f"203.0.113.{n}"})
    assert tried(Client(), RIGHT, **{"x-forwarded-for": "203.0.113.77"}).status_code == 429


def test_one_address_at_its_limit_stops_no_colleague_who_was_here_before(person: Person, shop: Shop) -> None:
    make_person(shop, "pell")
    known = Client()
    assert tried(known, RIGHT, "pell").status_code == 200
    known.delete("/api/session", headers={"x-csrftoken": known.cookies["csrftoken"].value})
    for n in range(FREE["address"] + 2):
        failed(1, name=f"nobody-{n}")
    tried(Client(), "wrong", "nobody")
    assert tried(Client(), RIGHT, "orrin").status_code == 429
    assert tried(known, RIGHT, "pell").status_code == 200
    assert tried(Client(), RIGHT, "orrin", "10.0.0.2").status_code == 200


def test_who_guesses_a_name_elsewhere_locks_its_own_device_out_of_nothing(person: Person) -> None:
    own = Client()
    assert tried(own, RIGHT).status_code == 200
    failed(FREE["account"] + 3)
    tried(Client(), "wrong")
    assert tried(Client(), RIGHT).status_code == 429
    assert tried(own, RIGHT).status_code == 200


def test_a_known_device_is_counted_too(person: Person) -> None:
    own = Client()
    tried(own, RIGHT)
    failed(FREE["device"] + 1, own)
    assert tried(own, "wrong").status_code == 401
    assert tried(own, RIGHT).status_code == 429


def test_a_mark_of_ones_own_making_makes_no_known_device(person: Person) -> None:
    failed(FREE["account"] + 1)
    tried(Client(), "wrong")
    for mark in ("x", "e30:1:x", '{"id": "1", "names": ["orrin"]}'):
        forged = Client()
        forged.cookies[sign_in.DEVICE] = mark
        assert tried(forged, RIGHT).status_code == 429


def test_signing_in_forgets_the_account_and_a_day_forgets_all(person: Person) -> None:
    failed(FREE["account"] - 1)
    assert tried(Client(), RIGHT).status_code == 200
    assert not SignInTries.objects.filter(key__startswith="account").exists()
    failed(FREE["account"] + 2)
    SignInTries.objects.update(last_at=timezone.now() - timedelta(days=2))
    tried(Client(), "wrong")
    assert SignInTries.objects.get(key__startswith="account").failures == 1


def test_no_name_and_no_address_is_kept_in_the_clear(person: Person) -> None:
    failed(1, name="orrin", address="198.51.100.7")
    assert not any("orrin" in row.key or "198.51" in row.key for row in SignInTries.objects.all())


def test_a_session_takes_its_token_and_the_refusal_hands_one_out(person: Person) -> None:
    client = Client(enforce_csrf_checks=True)
    assert tried(client, RIGHT).json()["code"] == "no_token"
    token = client.cookies["csrftoken"].value
    assert tried(client, RIGHT, **{"x-csrftoken": "x" * len(token)}).status_code == 403
    assert tried(client, RIGHT, **{"x-csrftoken": token, "origin": "https://elsewhere.example"}).status_code == 403
    assert tried(client, RIGHT, **{"x-csrftoken": token}).status_code == 200


@pytest.mark.parametrize(
    ("proxies", "said", "seen"),
    [
        (0, "1.1.1.1", "9.9.9.9"),
        (1, "1.1.1.1, 2.2.2.2", "2.2.2.2"),
        (2, "0.0.0.0, 1.1.1.1, 2.2.2.2", "1.1.1.1"),
        (2, "1.1.1.1", "1.1.1.1"),
        (1, "", "9.9.9.9"),
    ],
)
def test_as_many_proxies_are_believed_as_are_configured(monkeypatch: pytest.MonkeyPatch, proxies: int, said: str, seen: str) -> None:
    monkeypatch.setattr(settings, "PROXIES", proxies)
    request = RequestFactory().get("/", REMOTE_ADDR="9.9.9.9", headers={"x-forwarded-for": said})
    assert address_of(request) == seen


def test_no_more_hashes_are_reckoned_at_once_than_there_is_memory_for(person: Person, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sign_in, "WAITS_S", 0.01)
    taken = 0
    while AT_ONCE.acquire(blocking=False):
        taken += 1
    try:
        assert tried(Client(), RIGHT).status_code == 429
    finally:
        for _ in range(taken):
            AT_ONCE.release()
    assert tried(Client(), RIGHT).status_code == 200


def test_passwords_are_hashed_by_argon2() -> None:
    assert shipped.PASSWORD_HASHERS[0].endswith("Argon2PasswordHasher")
    assert Argon2PasswordHasher().verify(RIGHT, Argon2PasswordHasher().encode(RIGHT, "some-salt"))
