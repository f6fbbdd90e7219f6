"""Odd cylinders: refused whole, named where they are kept all the same, and told apart as the database tells them apart."""

from datetime import timedelta

import pytest
from django.utils import timezone

from accounts.models import Shop
from conftest import Api
from cylinders.models import Cylinder

pytestmark = pytest.mark.django_db
ODD_CYLINDERS = [
    ({"water_capacity": "0 lb"}, "/water_capacity"),
    ({"water_capacity": "0.01 lb"}, "/water_capacity"),
    ({"water_capacity": "90000 lb"}, "/water_capacity"),
    ({"code": "a/b"}, "/code"),
    ({"code": "import"}, "/code"),
    ({"code": "export.csv"}, "/code"),
    ({"code": "a?b"}, "/code"),
    ({"code": "a\nb"}, "/code"),
    ({"owner": "a\x00b"}, "/owner"),
]


@pytest.mark.parametrize(("odd", "path"), ODD_CYLINDERS)
def test_nothing_of_a_refused_cylinder_is_kept(api: Api, shop: Shop, odd: dict[str, str], path: str) -> None:
    facts = {"code": "C-9", "kind": "recovery", "tare": "26 lb", "water_capacity": "26.2 lb", **odd}
    refused = api.post("/cylinders", **facts)
    assert (refused.status_code, refused.json()["path"]) == (422, path)
    assert not Cylinder.objects.filter(shop=shop).exists()


def test_a_cylinder_kept_with_what_cannot_be_right_takes_no_list_down(api: Api, shop: Shop) -> None:
    """However it came there: it is named, it is not filled, and the others are read as ever."""
    for code in ("C-1", "C-2"):
        api.post("/cylinders", code=code, kind="recovery", tare="26 lb", water_capacity="26.2 lb", refrigerant="R-22", gross="28 lb")
    Cylinder.objects.filter(code="C-1").update(water_capacity_kg=0.0)
    listed = api.get("/cylinders")
    assert listed.status_code == 200
    by_code = {row["code"]: row["account"] for row in listed.json()["rows"]}
    assert (by_code["C-1"]["word"], by_code["C-1"]["badge"]) == ("Stop", "Not as stamped")
    assert by_code["C-2"]["badge"] != "Not as stamped"
    assert api.get("/cylinders/C-1").status_code == 200
    assert api.get("/cylinders/export.csv").status_code == 200


def test_codes_the_database_takes_for_the_same_are_refused_in_words(api: Api, shop: Shop) -> None:
    assert api.post("/cylinders", code="🧊", kind="recovery", tare="26 lb").status_code == 201
    same = api.post("/cylinders", code="🔥", kind="recovery", tare="26 lb")
    assert (same.status_code, same.json()["path"]) == (422, "/code")
    table = "code,kind,tare\nÄ-1,recovery,26 lb\na-1,recovery,26 lb\n"
    report = api.take_in("/cylinders", table)
    assert report["written"] == 0
    assert [row["row"] for row in report["rows"]] == [2]


def test_a_table_takes_no_cell_for_a_formula_and_reads_it_back(api: Api, shop: Shop) -> None:
    assert api.post("/cylinders", code="=1+1", kind="recovery", tare="26 lb", owner="@SUM(A1)").status_code == 201
    text = b"".join(api.get("/cylinders/export.csv").streaming_content).decode()
    assert "'=1+1" in text
    assert "'@SUM(A1)" in text
    Cylinder.objects.filter(shop=shop).delete()
    back = api.take_in("/cylinders", text)
    assert back["written"] == 1, back
    assert Cylinder.objects.get(shop=shop).code == "=1+1"


@pytest.mark.parametrize("column", ["code", "owner", "refrigerant", "tare", "water_capacity"])
def test_a_cell_longer_than_its_place_is_named(api: Api, shop: Shop, column: str) -> None:
    row = {
        "code": "C-1",
        "kind": "recovery",
        "refrigerant": "R-22",
        "owner": "us",
        "tare": "26 lb",
        "water_capacity": "26.2 lb",
        column: "9" * 500,
    }
    report = api.take_in("/cylinders", f"{','.join(row)}\n{','.join(row.values())}\n")
    assert report["rows"][0]["problem"].startswith(column)


def test_a_server_s_clock_that_was_set_back_refuses_no_movement_of_now(api: Api, shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    api.post("/cylinders", code="C-1", kind="recovery", refrigerant="R-22", tare="26 lb", water_capacity="47 lb", gross="40 lb")
    weighed = api.get("/cylinders/C-1").json()["lines"][0]["at"]
    back = timezone.now() - timedelta(days=3)
    monkeypatch.setattr("cylinders.actions.book.clock.now", lambda: back)
    moved = api.post("/cylinders/C-1/move", to_kind="lost", mass="1 lb", reason="a hose")
    assert moved.status_code == 200, moved.content
    assert moved.json()["lines"][0]["at"] == weighed, "it stands behind what it followed"
    dated = api.post("/cylinders/C-1/move", to_kind="lost", mass="1 lb", reason="a hose", at=(back - timedelta(hours=1)).isoformat())
    assert dated.json()["path"] == "/at"
