"""Hostile requests: every operation with every kind of odd value at every place of its path, query and body; none is answered with a 500."""

import copy
import json
import math
import os
import random
from collections.abc import Iterator
from typing import Any
from urllib.parse import quote

import pytest
from django.db import transaction
from django.test import Client

from accounts.models import Person
from api.root import api
from conftest import signed_in_as
from cylinders.models import Cylinder
from instruments.actions.pair import begin_pairing, pair
from jobs.models import Job
from systems.models import Circuit

pytestmark = pytest.mark.django_db
DEEP: Any = []
for _ in range(900):
    DEEP = [DEEP]
ODD: dict[str, Any] = {
    "surrogate": "\ud800",
    "nul": "a\x00b",
    "long": "x" * 70_000,
    "emoji": "🧊" * 30,
    "digits of another script": "٣٤",
    "superscript": "²",
    "huge": 10**400,
    "large": 2**63,
    "negative": -(2**63) - 1,
    "nan": math.nan,
    "infinite": math.inf,
    "tiny": 1e-320,
    "yes": True,
    "nothing": None,
    "list": [],
    "object": {},
    "keys": {"": {"~": {"/": 1}}},
    "deep": DEEP,
    "year 1": "0001-01-01T00:00:00Z",
    "year 1, far east": "0001-01-01T00:00:00+14:00",
    "year 9999": "9999-12-31T23:59:59Z",
    "year 9999, far west": "9999-12-31T23:59:59-14:00",
    "naive": "2026-11-29T10:00:00",
    "slash": "a/b",
    "lines": "a\r\nb",
    "reserved": "import",
    "formula": "@SUM(A1)",
    "number in words": "1e999",
    "pointer": "/steps/identify/runs/99999999999999999999/sheet/refrigerant",
    "pointer into nothing": "/steps/~0~1/x",
}
SAMPLES: dict[str, Any] = {
    "/api/gateway/readings": {
        "sent_at": "2026-11-29T10:00:00Z",
        "readings": [{"instrument": "v", "value": 500.0, "unit": "micron", "at": "2026-11-29T10:00:00Z", "battery": 0.5}],
    },
    "/api/gateway/pair": {
        "code": "000000",
        "name": "kit",
        "instruments": [
            {
                "key": "v",
                "channel": "vacuum",
                "unit": "micron",
                "resolution": 1.0,
                "limit": 5.0,
                "relative": 0.02,
                "calibrated_on": "2026-01-01",
            }
        ],
    },
    "/api/jobs/{code}/changes": {
        "key": "a-key-of-mine",
        "changes": [
            {"path": "/steps/identify/runs/0/sheet/refrigerant", "seen": None, "value": "R-22", "force": True},
            {
                "path": "/steps/identify/runs/0/sheet/factory_charge",
                "seen": None,
                "value": {"text": "8 lb", "unit": "lb", "limit": 0.1},
                "force": True,
            },
            {"path": "/acts/a1/at", "seen": None, "value": "2026-11-29T10:00:00Z", "force": True, "typed_at": "2026-11-29T10:00:00Z"},
        ],
    },
    "/api/cylinders/import": {"key": "a-key-of-mine", "text": "code,kind,refrigerant,tare,gross\nC-77,new,R-22,9 lb,30 lb\n"},
    "/api/systems/import": {"key": "a-key-of-mine", "text": "site,system,circuit,refrigerant\nNorth,Roof,RT-1,R-22\n"},
    "/api/jobs/{code}/log": {
        "key": "a-key-of-mine",
        "text": "instrument,channel,value,unit,at\nv,vacuum,500,micron,2026-11-29T10:00:00Z\n",
    },
}
SAMPLES["/api/jobs/{code}/preview"] = {"changes": SAMPLES["/api/jobs/{code}/changes"]["changes"]}
IN_TEST = 1200
WHOLE = bool(os.environ.get("YOSHI_WHOLE"))


@pytest.fixture
def owner(demo_world: None) -> Client:
    client = signed_in_as(Person.objects.get(username="hale"))
    client.raise_request_exception = False
    return client


def resolved(node: Any, document: dict[str, Any]) -> Any:
    while isinstance(node, dict) and "$ref" in node:
        node = document["components"]["schemas"][node["$ref"].rpartition("/")[2]]
    return node


def sample(node: Any, document: dict[str, Any], depth: int = 0) -> Any:
    """Something the schema would take, where that can be told from it."""
    node = resolved(node, document)
    if not isinstance(node, dict) or depth > 6:
        return "x"
    if "default" in node and depth:
        return node["default"]
    for union in ("anyOf", "oneOf", "allOf"):
        if union in node:
            return sample(node[union][0], document, depth + 1)
    if "enum" in node:
        return node["enum"][0]
    if "const" in node:
        return node["const"]
    kind = node.get("type")
    if kind == "object":
        return {key: sample(part, document, depth + 1) for key, part in node.get("properties", {}).items()}
    if kind == "array":
        return [sample(node.get("items", {}), document, depth + 1)]
    return {"integer": 1, "number": 1.0, "boolean": False, "null": None}.get(str(kind), "sample-text-1")


def mutants(body: Any) -> Iterator[tuple[str, Any]]:
    """The body with one place of it replaced by each odd value."""
    for name, odd in ODD.items():
        yield f"whole: {name}", odd
        for path in places(body):
            changed = copy.deepcopy(body)
            place = changed
            for key in path[:-1]:
                place = place[key]
            place[path[-1]] = odd
            yield f"{'/'.join(map(str, path))}: {name}", changed


def places(node: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    rows = node.items() if isinstance(node, dict) else enumerate(node) if isinstance(node, list) else ()
    for key, part in rows:
        yield (*path, key)
        yield from places(part, (*path, key))


def addresses(path: str, known: dict[str, str]) -> Iterator[tuple[str, str]]:
    """The path with what is there, and with each odd value at each of its places."""
    names = [part.strip("{}") for part in path.split("/") if part.startswith("{")]
    plain = path
    for name in names:
        plain = plain.replace("{" + name + "}", known.get(name, "1"))
    yield "", plain
    for name in names:
        for odd in ("²", "٣", "%00", "-1", "9" * 40, "🧊", "a b", "x" * 300, "..", "import"):
            other = path.replace("{" + name + "}", quote(odd))
            for rest in names:
                other = other.replace("{" + rest + "}", known.get(rest, "1"))
            yield f"{name}={odd[:12]}", other


def every(document: dict[str, Any], known: dict[str, str], cylinder: str) -> Iterator[tuple[str, str, str, Any]]:
    """Operation, what is odd in it, its address and its body."""
    for path, operations in document["paths"].items():
        codes = {**known, "code": cylinder} if path.startswith("/api/cylinders") else known
        for method, operation in operations.items():
            if path.endswith("/session") and method == "delete":
                continue
            content = operation.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema")
            body = SAMPLES[path] if path in SAMPLES else sample(content, document) if content is not None else {}
            queries = [p["name"] for p in operation.get("parameters", []) if p["in"] == "query"]
            for label, address in addresses(path, codes):
                yield f"{method} {path}", label, address, body
                if label:
                    continue
                for name, odd in ODD.items():
                    asked = quote(str(odd)[:2000].encode("utf-8", "replace"))
                    yield from ((f"{method} {path}", f"?{q}={name}", f"{address}?{q}={asked}", body) for q in queries)
                if content is not None or path in SAMPLES:
                    yield from ((f"{method} {path}", name, address, changed) for name, changed in mutants(body))


@pytest.fixture
def kit(owner: Client) -> tuple[dict[str, str], str, str]:
    """What there is to be named in an address, a cylinder's code, and a kit's token."""
    gateway, token = pair(
        begin_pairing(Person.objects.get(username="orrin")).code, "kit", [{"key": "v", "channel": "vacuum", "unit": "micron"}]
    )
    job, circuit, instrument, cylinder = (
        Job.objects.filter(closed=False).first(),
        Circuit.objects.first(),
        gateway.instruments.first(),
        Cylinder.objects.first(),
    )
    assert job
    assert circuit
    assert instrument
    assert cylinder
    known = {"code": job.code, "circuit_id": str(circuit.pk), "gateway_id": str(gateway.pk), "instrument_id": str(instrument.pk)}
    return {**known, "step": "identify", "name": "R-410A"}, cylinder.code, token


def asked(client: Client, method: str, address: str, body: str | bytes, token: str, kind: str = "application/json") -> int:
    """The answer's status; each alone: what one request wrote, or broke, is nothing to the next."""
    headers = {"authorization": f"Bearer {token}"} if "/gateway/" in address else {}
    with transaction.atomic():
        answer = client.generic(method.upper(), address, body, content_type=kind, headers=headers)
        transaction.set_rollback(True)
    return int(answer.status_code)


def test_no_operation_fails_over_an_odd_value(owner: Client, kit: tuple[dict[str, str], str, str]) -> None:
    """A fixed share of all cases; all of them with YOSHI_WHOLE set."""
    known, cylinder, token = kit
    cases = list(every(dict(api.get_openapi_schema()), known, cylinder))
    chosen = cases if WHOLE else random.Random(19).sample(cases, IN_TEST)
    failed = [
        f"{operation} [{odd}]"
        for operation, odd, address, body in chosen
        if asked(owner, operation.split()[0], address, json.dumps(body), token) >= 500 and "/health" not in operation
    ]
    print(f"{len(chosen)} of {len(cases)} asked")
    assert failed == [], f"{len(failed)} of {len(chosen)}:\n" + "\n".join(failed[:200])


BODIES: dict[str, tuple[str, bytes]] = {
    "nested without end": ("application/json", b"[" * 200_000 + b"]" * 200_000),
    "objects without end": ("application/json", b'{"a":' * 50_000 + b"1" + b"}" * 50_000),
    "half a character": ("application/json", b'{"key":"a-key-of-mine","title":"\\ud800"}'),
    "no number": ("application/json", b'{"key":"a-key-of-mine","limit":NaN}'),
    "endless": ("application/json", b'{"key":"a-key-of-mine","limit":1e999}'),
    "many digits": ("application/json", b'{"key":' + b"9" * 10_000 + b"}"),
    "not UTF-8": ("application/json", b'{"key":"\xff\xfe"}'),
    "another UTF": ("application/json", '{"key":"a"}'.encode("utf-16")),
    "a mark of order": ("application/json", b"\xef\xbb\xbf{}"),
    "the same key twice": ("application/json", b'{"key":"a-key-of-mine","key":1}'),
    "nothing": ("application/json", b""),
    "a form": ("application/x-www-form-urlencoded", b"key=a&key=b"),
    "a form in parts": ("multipart/form-data; boundary=x", b'--x\r\nContent-Disposition: form-data; name="key"\r\n\r\na\r\n--x--\r\n'),
    "a form of no parts": ("multipart/form-data", b"--x"),
    "a kind of its own": ("application/\u00e9", b"{}"),
    "text": ("text/plain", b"hello"),
    "a table": ("text/csv", b"instrument,value\r\n\x00,\xff\r\n"),
    "too long": ("application/json", b'{"key":"' + b"x" * 5_100_000 + b'"}'),
}


@pytest.mark.parametrize("name", sorted(BODIES))
def test_no_body_of_any_kind_ends_in_a_failure(owner: Client, kit: tuple[dict[str, str], str, str], name: str) -> None:
    known, cylinder, token = kit
    kind, body = BODIES[name]
    failed = []
    for path, operations in dict(api.get_openapi_schema())["paths"].items():
        for method, operation in operations.items():
            address = path
            for key, value in {**known, **({"code": cylinder} if path.startswith("/api/cylinders") else {})}.items():
                address = address.replace("{" + key + "}", value)
            if method != "get" and not path.endswith("/session"):
                status = asked(owner, method, address, body, token, kind)
                if status >= 500 or (name == "too long" and status != 413 and "requestBody" in operation):
                    failed.append(f"{method} {path}: {status}")
    assert failed == []
