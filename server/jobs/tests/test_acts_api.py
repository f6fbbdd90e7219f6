"""Refrigerant in or out over the API: kept beside the sheets, in the book once the visit is over, restated when it is weighed later."""

import pytest

from conftest import BASE, Api
from cylinders.models import Movement
from cylinders.tests.test_cylinders import NEW, add
from yoshi_core.units.quantities import OZ_KG

pytestmark = pytest.mark.django_db
END = {"outcome": "running_not_proven", "reason": "parts ordered", "awaited": "a valve"}
PLATE = {"refrigerant": "R-410A", "factory_charge": "28 oz", "kind": "packaged", "metering": "txv"}


def booked() -> list[tuple[str, float]]:
    return [(m.kind, round(m.mass_kg / OZ_KG, 2)) for m in Movement.objects.filter(job_code__gt="").order_by("pk")]


def test_an_act_is_in_the_book_when_the_visit_ends_and_a_later_weight_restates_it(api: Api) -> None:
    """Some went in, nobody weighed it: no movement. Weighed on the next visit it is booked once; corrected, it is reversed and booked anew."""
    add(api, NEW)
    code = api.new_job(kind="service")["code"]
    api.save(code, PLATE)
    said = api.save(code, {"/acts/a1/kind": "in", "/acts/a1/cylinder": "14", "/acts/a1/done": True}).json()["findings"]["inside"]
    assert (said["now"]["text"], said["rows"][0]["known"], said["rows"][0]["step"]) == ("not known", "not said", "")
    assert api.post(f"/jobs/{code}/visits/end", **END).status_code == 200
    assert booked() == []
    api.post(f"/jobs/{code}/visits/start")
    api.save(code, {"/acts/a1/gross_before": "20 lb", "/acts/a1/gross_after": "19 lb 6 oz"})
    assert api.post(f"/jobs/{code}/visits/end", **END).status_code == 200
    assert booked() == [("charge", 10.0)]
    api.post(f"/jobs/{code}/visits/start")
    api.save(code, {"/acts/a1/gross_after": "19 lb 8 oz"}, change={"force": True})
    assert api.post(f"/jobs/{code}/visits/end", **END).status_code == 200
    assert booked() == [("charge", 10.0), ("reversal", 10.0), ("charge", 8.0)]
    again = api.get(f"/jobs/{code}").json()
    assert again["job"]["begun"]["/acts/a1"]["visit"] == "v1"


def test_what_was_let_off_is_a_loss_in_the_book(api: Api) -> None:
    code = api.new_job(kind="service")["code"]
    api.save(code, PLATE)
    api.save(code, {"/acts/a1/kind": "lost", "/acts/a1/mass": "2 oz", "/acts/a1/empties": True, "/acts/a1/done": True})
    assert api.post(f"/jobs/{code}/visits/end", **END).status_code == 200
    assert booked() == [("lost", 2.0)]


def test_a_reservation_moves_nothing(api: Api) -> None:
    code = api.new_job(kind="service")["code"]
    api.save(code, PLATE)
    api.save(code, {"/acts/a1/kind": "in", "/acts/a1/circuit": "DC-1", "/acts/a1/mass": "35 lb", "/acts/a1/planned_for": "2026-12-01"})
    assert api.post(f"/jobs/{code}/visits/end", **END).status_code == 200
    assert booked() == []


def test_a_bad_act_is_refused_by_name(api: Api) -> None:
    code = api.new_job(kind="service")["code"]
    answer = api.save(code, {"/acts/a1/kind": "thrown", "/acts/a1/mass": "some"}).json()
    assert {problem["path"] for problem in answer["problems"]} == {"/acts/a1/kind", "/acts/a1/mass"}
    mixed = api.save(code, {"/acts/a1/nothing": "x", "/acts/a1/kind": "in", "/steps/nowhere/x": 1, "no pointer": 1})
    assert mixed.status_code == 200
    assert {problem["path"] for problem in mixed.json()["problems"]} == {"/acts/a1/nothing", "/steps/nowhere/x", f"{BASE}/no pointer"}
    assert "/acts/a1/kind" in mixed.json()["accepted"]
