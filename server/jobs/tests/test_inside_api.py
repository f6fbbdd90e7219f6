"""What is inside over the API: when a row was first typed, a second round, and findings that fail or are of another shape."""

from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

import pytest
from django.utils import timezone

from conftest import BASE, PLATE, Api
from jobs.models import Job
from jobs.tests.test_jobs_api import WEIGH, figure
from yoshi_core.steps.registry import STEPS

pytestmark = pytest.mark.django_db


def test_a_row_keeps_the_moment_its_device_first_typed_it(api: Api) -> None:
    code = api.new_job()["code"]
    path = f"{WEIGH}/draws/d1/gross_start"
    then = timezone.now() - timedelta(hours=2)
    typed = {"path": path, "value": "30 lb", "typed_at": then.astimezone(timezone.get_fixed_timezone(120)).isoformat()}
    begun = api.post(f"/jobs/{code}/changes", changes=[typed]).json()["job"]["begun"]
    assert begun[f"{WEIGH}/draws/d1"]["by"] == "Orrin"
    again = {"path": path, "seen": None, "value": "31 lb", "force": True, "typed_at": (then + timedelta(hours=1)).isoformat()}
    assert api.post(f"/jobs/{code}/changes", changes=[again]).json()["job"]["begun"] == begun
    naive = api.post(f"/jobs/{code}/changes", changes=[{**typed, "typed_at": "2026-06-18T13:20:00"}])
    assert naive.status_code == 422


def test_what_a_device_showed_whose_clock_is_off_stands_in_the_history(api: Api) -> None:
    code = api.new_job()["code"]
    path, then = f"{WEIGH}/draws/d1/gross_start", timezone.now() - timedelta(minutes=5)
    shown = then + timedelta(hours=1)
    off = {"path": path, "value": "30 lb", "typed_at": then.isoformat(), "device_at": shown.isoformat()}
    begun = api.post(f"/jobs/{code}/changes", changes=[off]).json()["job"]["begun"][f"{WEIGH}/draws/d1"]
    assert [datetime.fromisoformat(begun[name]) for name in ("at", "device_at")] == [then, shown]
    api.post(f"/jobs/{code}/changes", changes=[{"path": f"{BASE}/serial", "value": "QR-1"}])
    plain, before = [line["payload"] for line in api.get(f"/jobs/{code}/history").json()[:2]]
    assert "device_clock" not in plain
    assert list(before["device_clock"]) == [path]


def test_what_was_typed_half_a_year_ago_is_shown_before_it_is_taken(api: Api) -> None:
    code = api.new_job()["code"]
    old = (timezone.now() - timedelta(days=181)).isoformat()
    changes = [{"path": f"{BASE}/oil", "value": "POE", "typed_at": old}, {"path": f"{BASE}/serial", "value": "QR-1"}]
    answer = api.post(f"/jobs/{code}/changes", changes=changes).json()
    assert [(problem["path"], problem["code"]) for problem in answer["problems"]] == [(f"{BASE}/oil", "long_ago")]
    assert list(answer["accepted"]) == [f"{BASE}/serial"]
    fresh = {"path": f"{BASE}/oil", "value": "POE", "typed_at": timezone.now().isoformat()}
    assert api.post(f"/jobs/{code}/changes", changes=[fresh]).json()["accepted"] == {f"{BASE}/oil": "POE"}


def test_a_second_round_in_one_job_starts_from_empty(api: Api) -> None:
    """A pound goes in, all comes out, the whole charge goes in: the book has three movements, the account 40 oz."""
    plate = {
        "refrigerant": "R-410A",
        "factory_charge": "40 oz",
        "kind": "ductless",
        "metering": "eev",
        "pairing_proven": True,
        "pairing_by": "switched",
    }
    recover = "/steps/recover/runs/0/sheet"
    first = {"gross_start": "30 lb", "gross_end": "29 lb", "tare": "9 lb", "cylinder": "14"}
    taken = {
        "cylinder": "R-5",
        "contents": "evacuated",
        "tare": "13 lb",
        "gross_start": "13 lb",
        "gross_now": "14 lb 2 oz",
        "water_capacity": "26.2 lb",
    }
    code = api.new_job(kind="service")["code"]
    api.save(code, plate)
    api.save(code, {f"{WEIGH}/draws/d1/{key}": value for key, value in first.items()})
    topped = api.save(code, {f"{recover}/way": "cylinder"}).json()["findings"]["inside"]
    assert topped["now"]["text"] == "not known, at least {low}"
    api.save(code, {**{f"{recover}/cylinders/c1/{key}": value for key, value in taken.items()}, f"{recover}/finished": True})
    second = {"gross_start": "29 lb", "gross_end": "26 lb 8 oz", "tare": "9 lb", "cylinder": "14"}
    whole = {f"{WEIGH}/system_state": "empty", **{f"{WEIGH}/draws/d2/{key}": value for key, value in second.items()}}
    found = api.save(code, whole).json()["findings"]
    assert [row["text"]["text"] for row in found["inside"]["rows"]] == ["Put in", "Taken out", "Emptied", "Put in"]
    assert found["inside"]["low"]["value"] == pytest.approx(40 * 0.028349523125, abs=1e-6)


def test_a_defect_in_one_step_costs_that_step_only_and_is_in_the_log(
    api: Api, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    def judge(_: Any) -> Any:
        raise ZeroDivisionError

    code = api.new_job(kind="service")["code"]
    monkeypatch.setitem(STEPS.loaded, "evacuate", replace(STEPS["evacuate"], judge=judge))
    saved = api.save(code, PLATE)
    assert saved.status_code == 200
    steps = {step["step"]: step for step in saved.json()["findings"]["steps"]}
    assert steps["evacuate"]["summary"]["text"] == "cannot be judged"
    assert figure(saved.json(), "identify", "total") > 0.0
    assert api.get(f"/jobs/{code}").status_code == 200
    assert f"{code}: evacuate could not be judged" in caplog.text


@pytest.mark.parametrize("lost", ["inside", "core_version"])
def test_findings_stored_in_another_shape_are_made_anew(api: Api, lost: str) -> None:
    code = api.new_job(kind="service")["code"]
    api.save(code, PLATE)
    whole = api.get(f"/jobs/{code}").json()["findings"]
    row = Job.objects.get(code=code)
    row.findings = {name: value for name, value in row.findings.items() if name != lost}
    row.save()
    found = api.get(f"/jobs/{code}").json()["findings"]
    assert {**found, "now": None} == {**whole, "now": None}
