"""Whose job it is: named when it is made, with its work order, handed on by the lead."""

import pytest

from accounts.models import Person, Shop
from conftest import Api, make_person, signed_in_as
from jobs.models import Job
from jobs.naming import name_missing
from systems.models import Circuit, Site, System

pytestmark = pytest.mark.django_db


@pytest.fixture
def lead(shop: Shop) -> Api:
    return Api(signed_in_as(make_person(shop, "vesk", "lead")))


@pytest.fixture
def pell(shop: Shop) -> Api:
    return Api(signed_in_as(make_person(shop, "pell")))


def listed(api: Api) -> set[str]:
    return {row["code"] for row in api.get("/jobs").json()["jobs"]}


def test_a_technician_sees_their_own_and_the_lead_sees_all(api: Api, pell: Api, lead: Api) -> None:
    mine, theirs = api.new_job()["code"], pell.new_job()["code"]
    assert (listed(api), listed(pell), listed(lead)) == ({mine}, {theirs}, {mine, theirs})
    refused = pell.get(f"/jobs/{mine}")
    assert refused.status_code == 403
    assert refused.json()["detail"] == "This job is somebody else's. The lead can hand it to you."
    assert pell.get("/refrigerants/R-410A/chart", job=mine).status_code == 403
    assert {job["code"] for job in pell.get("/day").json()["jobs"]} <= {theirs}


def test_a_job_is_handed_on_with_its_work_order(api: Api, pell: Api, lead: Api, shop: Shop) -> None:
    system = System.objects.create(site=Site.objects.create(shop=shop, name="Ridge"), name="Chiller")
    for code in ("A", "B"):
        Circuit.objects.create(system=system, code=code, name=f"Circuit {code}")
    first = api.post("/jobs/work-order", kind="charge", system_id=system.pk).json()["code"]
    both = {job.code for job in Job.objects.all()}
    assert listed(api) == both
    assert lead.post(f"/jobs/{first}/hand-on", to="nobody").json()["path"] == "/to"
    assert lead.post(f"/jobs/{first}/hand-on", to="pell", stays=True).status_code == 200
    assert (listed(api), listed(pell)) == (both, both)
    lead.post(f"/jobs/{first}/hand-on", to="pell")
    assert (listed(api), listed(pell)) == (set(), both)
    assert api.get(f"/jobs/{first}").status_code == 403
    line = lead.get(f"/jobs/{first}/history").json()[0]
    assert (line["kind"], line["by"]) == ("handed_on", "Vesk")


def test_nothing_is_handed_to_an_account_that_is_ended(api: Api, pell: Api, lead: Api) -> None:
    code = api.new_job()["code"]
    Person.objects.filter(username="pell").update(is_active=False)
    assert lead.post(f"/jobs/{code}/hand-on", to="pell").json()["path"] == "/to"


def test_who_begins_a_visit_is_named(api: Api, lead: Api) -> None:
    code = api.new_job()["code"]
    api.post(f"/jobs/{code}/visits/end", outcome="left_safe", reason="part", awaited="a valve")
    lead.post(f"/jobs/{code}/visits/start")
    assert set(Job.objects.get(code=code).people.values_list("username", flat=True)) == {"orrin", "vesk"}


def test_a_job_that_names_nobody_is_given_to_those_who_worked_on_it(api: Api) -> None:
    code = api.new_job()["code"]
    Job.objects.get(code=code).people.clear()
    assert listed(api) == set()
    assert name_missing() == 1
    assert listed(api) == {code}
    assert name_missing() == 0
