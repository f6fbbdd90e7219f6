"""The API against its own description, by requests drawn from it: never a 500, every answer as described (schemathesis).

A fixed small share; an owner of a shop with a job, a cylinder and a circuit asks, within a transaction that is rolled back.
"""

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
import schemathesis
from django.core.signals import request_finished, request_started
from django.core.wsgi import get_wsgi_application
from django.db import close_old_connections
from django.test import Client
from hypothesis import HealthCheck, settings
from schemathesis import GenerationMode
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import content_type_conformance, response_schema_conformance, status_code_conformance

from accounts.models import Shop
from conftest import make_person
from cylinders.actions.book import add_cylinder
from cylinders.models import Movement
from instruments.actions.pair import begin_pairing, pair
from jobs.actions.create_job import create_job
from practice.actions.begin import begin
from practice.actions.exercises import keep
from systems.models import Circuit, Site, System
from yoshi_core.practice.exercise import shipped

DESCRIPTION = json.loads((Path(__file__).resolve().parents[3] / "docs" / "formats" / "openapi.json").read_text())
CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
schema = schemathesis.openapi.from_dict(DESCRIPTION)
schema.config.generation.update(modes=[GenerationMode.POSITIVE, GenerationMode.NEGATIVE])
schema.app = get_wsgi_application()


PLATE = {"refrigerant": "R-410A", "factory_charge": {"value": 4.0, "text": "4 kg", "unit": "kg"}, "kind": "split"}
THERE: dict[str, Any] = {}


@schema.hook
def map_path_parameters(context: Any, path_parameters: dict[str, Any] | None) -> dict[str, Any] | None:
    """What the path names is there: a request for nothing ends at its 404 and tries nothing."""
    if not path_parameters:
        return path_parameters
    known = THERE | {"code": THERE["cylinder" if "/cylinders/" in context.operation.path else "job"]}
    return {name: known.get(name, value) for name, value in path_parameters.items()}


@pytest.fixture
def session(db: None) -> Iterator[dict[str, Any]]:
    """An owner's session with a job, a cylinder and a circuit; requests share the transaction and must not close its connection."""
    client = Client()
    shop = Shop.objects.create(name="Fuzzed")
    owner = make_person(shop, "owner", "owner")
    client.force_login(owner)
    site = Site.objects.create(shop=shop, name="Here")
    circuit = Circuit.objects.create(system=System.objects.create(site=site, name="Split"), code="A", name="A", plate=PLATE)
    job = create_job(owner, "fuzz-job", "service", "Fuzzed", circuit.pk)["code"]
    add_cylinder(owner, "fuzz-cylinder", {"code": "R1", "kind": "recovery", "tare": "27 lb", "water_capacity": "47.7 lb", "gross": "27 lb"})
    gateway, _ = pair(begin_pairing(owner).code, "kit", [{"key": "s", "channel": "scale", "unit": "lb"}])
    run = begin(owner, "fuzz-run", shipped("low-air"), {"shipped": "low-air"}, 1, test=False).code
    exercise = keep(owner, "fuzz-exercise", shipped("low-air"), None).pk
    THERE.update(
        job=job, cylinder="R1", circuit_id=circuit.pk, gateway_id=gateway.pk, instrument_id=gateway.instruments.get().pk, step="identify",
        run=run, exercise_id=exercise, name="R-410A", username="owner", kind="circuit", card=circuit.pk, other=circuit.pk, line=Movement.objects.get(shop=shop).pk,
    )  # fmt: skip
    for signal in (request_started, request_finished):
        signal.disconnect(close_old_connections)
    token = "a" * 32
    yield {
        "cookies": {name: morsel.value for name, morsel in client.cookies.items()} | {"csrftoken": token},
        "headers": {"X-CSRFToken": token, "Accept-Encoding": "identity"},
    }
    for signal in (request_started, request_finished):
        signal.connect(close_old_connections)


@schema.parametrize()
@settings(max_examples=3, deadline=None, derandomize=True, database=None, suppress_health_check=list(HealthCheck))
def test_every_answer_is_as_described(case: Any, session: dict[str, Any]) -> None:
    case.call_and_validate(checks=CHECKS, **session)
