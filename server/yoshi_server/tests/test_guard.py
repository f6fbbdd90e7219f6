"""What computes without end is broken off, frees its worker, and changes nothing; what ends in time never notices."""

import time
from typing import Any

import pytest
from django.test import Client

from accounts.models import Person, Shop
from conftest import Api
from jobs.actions import change_job
from yoshi_server import guard as guards
from yoshi_server import middleware
from yoshi_server.guard import Guard, TookTooLong


def busy_for(guard: Guard, limit_s: float) -> None:
    """Compute for much longer than it may."""
    until = time.monotonic() + 20.0
    with guard.watching(limit_s):
        while time.monotonic() < until:
            sum(range(1000))


def test_a_thread_is_broken_off_and_goes_on_unharmed(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(guards, "LOOK_S", 0.02)
    guard = Guard()
    began = time.monotonic()
    with pytest.raises(TookTooLong):
        busy_for(guard, 0.1)
    assert time.monotonic() - began < 10.0
    for _ in range(50):
        with guard.watching(5.0):
            sum(range(1000))
    time.sleep(0.1)


def test_an_exception_that_comes_too_late_is_taken_back(monkeypatch: pytest.MonkeyPatch) -> None:
    """Over many ends close to the limit: either it is broken off inside, or nothing comes after."""
    monkeypatch.setattr(guards, "LOOK_S", 0.001)
    guard, broken = Guard(), 0
    for n in range(60):
        try:
            with guard.watching(0.002):
                until = time.monotonic() + 0.001 * (n % 5)
                while time.monotonic() < until:
                    pass
        except TookTooLong:
            broken += 1
    for _ in range(2000):
        pass
    assert broken < 60


@pytest.mark.django_db
def test_a_request_without_end_is_answered_and_nothing_is_changed(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    code = api.new_job()["code"]
    seq = api.get(f"/jobs/{code}").json()["seq"]
    monkeypatch.setattr(guards, "LOOK_S", 0.02)
    monkeypatch.setattr(middleware, "LIMIT_S", 0.3)
    monkeypatch.setattr(middleware, "guard", Guard())

    def endless(*_: Any, **__: Any) -> Any:
        while True:
            sum(range(1000))

    monkeypatch.setattr(change_job, "entered", endless)
    answer = api.save(code, {"oil": "PAG"})
    assert answer.status_code == 503
    assert answer.json()["code"] == "took_too_long"
    monkeypatch.undo()
    assert api.get(f"/jobs/{code}").json()["seq"] == seq
    assert api.save(code, {"oil": "POE"}).status_code == 200
    assert Client().get("/api/health").status_code == 200
    assert Person.objects.count() == Shop.objects.count() == 1
