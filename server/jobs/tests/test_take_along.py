"""What a device takes along, and what comes back from it."""

from datetime import timedelta
from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from accounts.models import Shop
from conftest import PLATE, Api, make_person, signed_in_as
from jobs.models import Job, WorkOrder
from systems.models import Circuit, Site, System
from yoshi_core import __version__
from yoshi_core.job import documents

pytestmark = pytest.mark.django_db


def codes(api: Api) -> list[str]:
    return [row["code"] for row in api.get("/device").json()["jobs"]]


@pytest.fixture
def circuit(shop: Shop) -> Circuit:
    system = System.objects.create(site=Site.objects.create(shop=shop, name="Quillon Ridge"), name="Attic unit")
    return Circuit.objects.create(system=system, code="A-1", name="Attic, circuit 1", plate={"refrigerant": "R-410A"})


def test_the_open_jobs_of_a_person_and_of_their_work_orders_come_along(api: Api, shop: Shop) -> None:
    mine = api.new_job(title="mine")["code"]
    pell = Api(signed_in_as(make_person(shop, "pell")))
    theirs = pell.new_job(title="theirs")["code"]
    beside = pell.new_job(title="beside mine")["code"]
    order = WorkOrder.objects.create(shop=shop, title="one machine")
    Job.objects.filter(code__in=[mine, beside]).update(work_order=order)
    closed = api.new_job(title="closed")["code"]
    Job.objects.filter(code=closed).update(closed=True)
    assert set(codes(api)) == {mine, beside}
    assert theirs in codes(pell)


def test_each_job_comes_with_the_number_of_its_last_change(api: Api) -> None:
    code = api.new_job()["code"]
    before = api.get("/device").json()["jobs"][0]["seq"]
    api.save(code, PLATE)
    along = api.get("/device").json()
    assert along["jobs"] == [{"code": code, "seq": before + 1}]
    assert (along["core_version"], along["document_version"]) == (__version__, documents.VERSION)


def test_a_circuit_comes_as_a_new_job_copies_it(api: Api, circuit: Circuit) -> None:
    [along] = api.get("/device").json()["circuits"]
    made = api.new_job(circuit_id=circuit.pk)
    assert (along["id"], along["site"]) == (circuit.pk, "Quillon Ridge")
    assert along["circuit"] == made["job"]["circuit"]
    assert along["facts"] == made["job"].get("facts", [])


def test_more_circuits_take_no_more_queries(api: Api, circuit: Circuit, django_assert_max_num_queries: Any) -> None:
    with CaptureQueriesContext(connection) as one:
        api.get("/device")
    for n in range(2, 12):
        Circuit.objects.create(system=circuit.system, code=f"A-{n}", name=f"Attic, circuit {n}", plate={})
    with django_assert_max_num_queries(len(one)):
        assert len(api.get("/device").json()["circuits"]) == 11


def test_a_job_begun_on_a_device_keeps_its_number_and_its_time(api: Api) -> None:
    begun = timezone.now() - timedelta(hours=5)
    made = api.new_job(code="0123456789ab", made_at=begun.isoformat(), title="Basement")
    assert (made["code"], made["title"], made["seq"]) == ("0123456789ab", "Basement", 1)
    assert made["job"]["visits"][0]["started_at"] == begun.isoformat()


def test_a_number_that_is_another_jobs_is_refused_and_nothing_made(api: Api) -> None:
    api.new_job(code="0123456789ab")
    answer = api.post("/jobs", kind="charge", code="0123456789ab")
    assert answer.status_code == 422
    assert answer.json()["path"] == "/code"
    assert Job.objects.count() == 1


def test_the_same_job_sent_twice_is_made_once(api: Api) -> None:
    body = {"kind": "charge", "code": "0123456789ab", "key": "k" * 20}
    first, again = (api.post("/jobs", keyed=False, **body) for _ in range(2))
    assert (first.status_code, again.status_code) == (201, 201)
    assert first.json()["code"] == again.json()["code"]
    assert Job.objects.count() == 1


@pytest.mark.parametrize("code", ["0123456789AB", "0123", "../0123456789", "0123456789abcd"])
def test_a_number_no_device_makes_is_refused(api: Api, code: str) -> None:
    assert api.post("/jobs", kind="charge", code=code).status_code == 422


@pytest.mark.parametrize("hours", [-2, 24 * 200])
def test_a_clock_that_is_ahead_or_long_behind_is_not_believed(api: Api, hours: int) -> None:
    before = timezone.now()
    made = api.new_job(made_at=(before - timedelta(hours=hours)).isoformat())
    assert made["job"]["visits"][0]["started_at"] >= before.isoformat()


def test_how_long_a_device_works_on_is_the_shops(api: Api, shop: Shop) -> None:
    assert api.get("/me").json()["offline_days"] == 14
    owner = Api(signed_in_as(make_person(shop, "hale", "owner")))
    owner.post("/session/confirm", keyed=False, password="a-long-password", code="")
    facts = {"name": shop.name, "shortest_password": 15}
    assert owner.send("PATCH", "/shop", **facts, offline_days=3).json()["offline_days"] == 3
    assert owner.send("PATCH", "/shop", **facts).json()["offline_days"] == 3
    refused = owner.send("PATCH", "/shop", **facts, offline_days=61)
    assert (refused.status_code, refused.json()["path"]) == (422, "/offline_days")
    assert api.get("/me").json()["offline_days"] == 3
