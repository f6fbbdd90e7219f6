"""Signing in, the practice profile, health, headers."""

import json
from typing import Any

import pytest
from django.test import Client

from accounts.models import Person, ProfileRevision, Shop
from conftest import Api, make_person, signed_in_as

pytestmark = pytest.mark.django_db


def test_signing_in_and_out(person: Person) -> None:
    client = Client(enforce_csrf_checks=True)
    assert client.get("/api/me").status_code == 401
    body = json.dumps({"username": "orrin", "password": "a-long-password"})
    token = client.post("/api/session", body, content_type="application/json").cookies["csrftoken"].value
    signed = client.post("/api/session", body, content_type="application/json", headers={"x-csrftoken": token})
    assert signed.json()["name"] == "Orrin"
    assert client.get("/api/me").json()["shop"] == "Test Shop"
    token = client.cookies["csrftoken"].value
    assert client.delete("/api/session").status_code == 403
    assert client.delete("/api/session", headers={"x-csrftoken": token}).status_code == 204
    assert client.get("/api/me").status_code == 401


def test_a_wrong_password_is_said_without_saying_which(client: Client, person: Person) -> None:
    for username in ("orrin", "nobody"):
        body = json.dumps({"username": username, "password": "wrong"})
        answer = client.post("/api/session", body, content_type="application/json")
        assert answer.status_code == 401
        assert answer.json()["detail"] == "That name and password do not belong together."


def test_every_route_but_signing_in_wants_a_session(client: Client, db: None) -> None:
    for path in ("/api/jobs", "/api/circuits", "/api/profile", "/api/refrigerants", "/api/jobs/x/record"):
        assert client.get(path).status_code == 401, path


def test_units_are_the_persons(api: Api) -> None:
    answer = api.client.patch("/api/me", json.dumps({"units": "si"}), content_type="application/json")
    assert answer.json()["units"] == "si"
    assert api.client.patch("/api/me", json.dumps({"units": "stone"}), content_type="application/json").status_code == 422


def test_the_profile_is_revised_with_history_and_a_reason(owner: Api) -> None:
    def put(**body: object) -> Any:
        whole = {"seen_revision": 0, "name": "Ours", "overrides": {}, "choices": {}, "reason": "because", **body}
        return owner.send("PUT", "/profile", **whole)

    assert put(overrides={"verify.run_in": "15 min", "trim.step_share": ""}).json()["overrides"] == {"verify.run_in": 900.0}
    assert put(seen_revision=0).status_code == 422
    assert put(seen_revision=1, overrides={"verify.run_in": "9 h"}).json()["path"] == "/overrides/verify.run_in"
    assert put(seen_revision=1, overrides={"verify.run_in": "a while"}).json()["path"] == "/overrides/verify.run_in"
    assert put(seen_revision=1, overrides={"verify.luck": "7"}).json()["path"] == "/overrides/verify.luck"
    assert put(seen_revision=1, choices={"charge.set_by": "magic"}).status_code == 422
    assert put(seen_revision=1, reason=" ").status_code == 422
    assert put(seen_revision=1, choices={"line.shorter_than_included": "deduct"}).json()["revision"] == 2
    assert [r.revision for r in ProfileRevision.objects.all()] == [2, 1]
    kept = put(seen_revision=2, overrides={"trim.cap_share": "8 %"}).json()
    assert kept["overrides"] == {"verify.run_in": 900.0, "trim.cap_share": pytest.approx(0.08)}
    assert kept["choices"] == {"line.shorter_than_included": "deduct"}
    assert put(seen_revision=3, overrides={"verify.run_in": ""}).json()["overrides"] == {"trim.cap_share": pytest.approx(0.08)}


def test_a_technician_and_a_lead_read_the_profile_and_do_not_change_it(api: Api, shop: Shop) -> None:
    assert api.get("/profile").json()["revision"] == 1
    body = {"seen_revision": 0, "name": "x", "overrides": {}, "choices": {}, "reason": "x"}
    assert api.send("PUT", "/profile", **body).status_code == 403
    assert Api(signed_in_as(make_person(shop, "vesk", "lead"))).send("PUT", "/profile", **body).status_code == 403


def test_health_and_headers(client: Client, db: None) -> None:
    answer = client.get("/api/health")
    assert answer.json()["database"] is True
    policy = dict(directive.split(" ", 1) for directive in answer["Content-Security-Policy"].split("; "))
    assert policy["script-src"] == "'self' 'wasm-unsafe-eval'"  # Python in the browser; a text never becomes a script by it
    own = {"default-src", "connect-src", "worker-src", "form-action"}
    assert {name for name, sources in policy.items() if sources == "'self'"} == own
    assert {name for name, sources in policy.items() if sources == "'none'"} == {"object-src", "base-uri", "frame-ancestors"}
    assert {name for name, sources in policy.items() if "unsafe-inline" in sources or "'unsafe-eval'" in sources} == {"style-src"}
    assert answer["X-Content-Type-Options"] == "nosniff"


@pytest.mark.parametrize("kind", ["multipart/form-data", "application/x-www-form-urlencoded", "text/xml", "application/octet-stream"])
def test_a_body_no_route_reads_is_refused_in_words(signed_in: Client, kind: str) -> None:
    answer = signed_in.post("/api/jobs", b"x=1", content_type=kind)
    assert answer.status_code == 415
    assert answer["Content-Type"] == "application/problem+json"
    assert answer.json()["detail"] == f"The body is {kind}; send application/json or text/csv."
    assert signed_in.post("/api/jobs", b"", content_type=kind).status_code == 422
