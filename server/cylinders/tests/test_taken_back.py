"""A line written by hand is taken back by its reversal, and only while nothing stands on it."""

import pytest

from conftest import Api
from cylinders.models import Cylinder, Movement
from cylinders.tests.test_cylinders import LB, NEW, READY, add, held_lb

pytestmark = pytest.mark.django_db


def last_line(api: Api, code: str) -> int:
    return int(api.get(f"/cylinders/{code}").json()["lines"][0]["id"])


def test_a_movement_by_mistake_is_taken_back_by_a_line_of_its_own_and_both_stay(api: Api) -> None:
    add(api, NEW)
    add(api, READY)
    assert api.post("/cylinders/14/move", to_kind="cylinder", to="R3", mass="2 lb").status_code == 200
    line = last_line(api, "14")
    assert api.get("/cylinders/14").json()["lines"][0]["can_go"] is True
    for _ in range(2):
        back = api.post(f"/cylinders/14/lines/{line}/take-back", key="the-same-key")
        assert back.status_code == 200, back.content
    assert [(entry["kind"], round(entry["moved_kg"] / LB, 3)) for entry in back.json()["lines"]] == [
        ("reversal", 2.0),
        ("combine", -2.0),
        ("opening", 25.0),
    ]
    assert (held_lb("14"), held_lb("R3")) == pytest.approx((25.0, 0.0))
    assert Cylinder.objects.get(code="R3").refrigerant == "", "it was empty until then, and may take any refrigerant again"
    assert not any(entry["can_go"] for entry in back.json()["lines"])


def test_a_cylinder_sent_for_reclaim_by_mistake_is_here_again(api: Api) -> None:
    add(api, {**READY, "refrigerant": "R-22", "gross": "36 lb 11 oz", "evacuated": False})
    assert api.post("/cylinders/R3/move", to_kind="reclaim").status_code == 200
    assert api.get("/cylinders").json()["rows"] == []
    assert api.post(f"/cylinders/R3/lines/{last_line(api, 'R3')}/take-back").status_code == 200
    assert [row["code"] for row in api.get("/cylinders").json()["rows"]] == ["R3"]
    assert held_lb("R3") == pytest.approx(10.0)


def test_what_later_lines_stand_on_stays_and_a_jobs_line_is_corrected_in_the_job(api: Api) -> None:
    add(api, NEW)
    add(api, READY)
    assert api.post("/cylinders/14/move", to_kind="cylinder", to="R3", mass="2 lb").status_code == 200
    line = last_line(api, "14")
    assert api.post("/cylinders/R3/weigh", gross="28 lb 11 oz").status_code == 200
    refused = api.post(f"/cylinders/14/lines/{line}/take-back")
    assert (refused.status_code, "Later lines of R3 stand on it" in refused.json()["detail"]) == (422, True)
    assert api.post(f"/cylinders/14/lines/{last_line(api, 'R3')}/take-back").status_code == 404, "another cylinder's line"
    Movement.objects.filter(pk=line).update(job_code="abcd")
    assert "Correct it there" in api.post(f"/cylinders/14/lines/{line}/take-back").json()["detail"]
    opening = Movement.objects.get(kind="opening", to_cylinder__code="14").pk
    assert "cannot be taken back" in api.post(f"/cylinders/14/lines/{opening}/take-back").json()["detail"]
