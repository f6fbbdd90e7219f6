"""A job taken over from a file: what its ledger brought along is its history, and none of this shop's book."""

import json

import pytest

from accounts.models import Shop
from conftest import Api
from cylinders.models import Movement
from cylinders.tests.test_cylinders import NEW, WEIGH, add, charge_job, held_lb, make_circuit
from jobs.models import Job

pytestmark = pytest.mark.django_db


def test_what_a_document_brought_along_is_never_booked_again(api: Api, shop: Shop) -> None:
    """One's own job opened from its file: its old movements, and what corrects them, stay out of the book; what is new goes in."""
    add(api, NEW)
    code = charge_job(api, make_circuit(shop, "CR-1", {}), "14", "31 lb 6.5 oz", "26 lb 6.5 oz")
    api.post(f"/jobs/{code}/steps/weigh_in/close")
    text = api.get(f"/jobs/{code}/document").content.decode()
    refused = api.post("/jobs/import", document=text)
    assert (refused.status_code, refused.json()["code"], refused.json()["params"]["job"]) == (422, "taken_before", code)
    assert Job.objects.filter(shop=shop).count() == 1
    copy = api.post("/jobs/import", document=text, again=True).json()["code"]
    assert copy != code
    assert api.post("/jobs/import", document=text).json()["code"] == "taken_before"
    booked = Movement.objects.count()
    assert api.post(f"/jobs/{copy}/steps/close_out/close", reason="copied").status_code in {200, 422}
    assert api.post(f"/jobs/{copy}/steps/weigh_in/reopen", reason="read again").status_code == 200
    api.save(copy, {f"{WEIGH}/draws/d1/gross_end": "26 lb 7 oz"}, change={"force": True})
    assert api.post(f"/jobs/{copy}/steps/weigh_in/close").status_code == 200
    assert Movement.objects.count() == booked
    assert held_lb("14") == pytest.approx(20.0)
    act = {"kind": "in", "cylinder": "14", "gross_before": "26 lb 7 oz", "gross_after": "25 lb 7 oz", "done": True}
    assert not api.save(copy, {f"/acts/a1/{name}": value for name, value in act.items()}, change={"force": True}).json()["problems"]
    assert api.post(f"/jobs/{copy}/visits/end", outcome="left_safe", reason="dark").status_code == 200
    assert Movement.objects.count() == booked + 1
    assert held_lb("14") == pytest.approx(19.0)


def test_an_id_that_is_no_address_gives_way_to_a_new_one(api: Api) -> None:
    text = api.get(f"/jobs/{api.new_job(title='x')['code']}/document").content.decode()
    plain = json.loads(text)
    for name in ("../../etc", "a/b/c", "import me", "long" * 30, "ab"):
        plain["job"]["id"] = name
        made = api.post("/jobs/import", document=json.dumps(plain), again=True)
        assert made.status_code == 201, made.json()
        assert api.get(f"/jobs/{made.json()['code']}").status_code == 200
