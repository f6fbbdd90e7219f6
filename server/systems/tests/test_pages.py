"""Lists by pages: every row once and in order, found by its words, and what an import does to the shop's lock."""

import json
from itertools import pairwise
from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from accounts.models import Shop
from conftest import Api
from cylinders.models import Cylinder, Movement
from systems.actions.table import MOST_ROWS, PART
from systems.models import Circuit, CircuitRevision, Site, System
from tasks import queue
from tasks.models import Task

pytestmark = pytest.mark.django_db
UNITS = 123


@pytest.fixture
def many(shop: Shop) -> None:
    sites = Site.objects.bulk_create(Site(shop=shop, name=name) for name in ("Ridge", "ridge annex", "Älv", "Hut"))
    systems = System.objects.bulk_create(System(site=sites[n % 4], name=f"System {n % 3}") for n in range(12))
    Circuit.objects.bulk_create(
        Circuit(system=systems[n % 12], code=f"U-{n}", name=f"Unit {n}", plate={"refrigerant": "R-22" if n % 2 else "R-32"})
        for n in range(UNITS)
    )
    now = timezone.now()
    Cylinder.objects.bulk_create(
        Cylinder(
            shop=shop,
            code=f"B{n}",
            kind="new" if n % 2 else "recovery",
            refrigerant="R-22" if n % 3 else "",
            tare_kg=7.0,
            tare_text="7 kg",
            created_at=now,
        )
        for n in range(UNITS)
    )


def all_of(api: Api, path: str, **ask: Any) -> list[dict[str, Any]]:
    """Every page of a list, one after the other."""
    rows, after, pages = [], None, 0
    while True:
        page = api.get(path, **ask, **({} if after is None else {"after": after})).json()
        rows += page["rows"]
        after, pages = page["next"], pages + 1
        if after is None:
            assert len(page["rows"]) <= 50
            return rows
        assert pages < 20


@pytest.mark.parametrize("path", ["/systems", "/circuits"])
@pytest.mark.usefixtures("many")
def test_every_circuit_stands_on_one_page_in_order(api: Api, path: str) -> None:
    rows = all_of(api, path)
    assert len(rows) == len({row["id"] for row in rows}) == UNITS
    order = Circuit.objects.order_by("system__site__name", "system__name", "code", "id").values_list("id", flat=True)
    assert [row["id"] for row in rows] == list(order)


@pytest.mark.usefixtures("many")
def test_every_cylinder_stands_on_one_page_in_order(api: Api) -> None:
    rows = all_of(api, "/cylinders")
    order = Cylinder.objects.order_by("kind", "code").values_list("code", flat=True)
    assert [row["code"] for row in rows] == list(order)


@pytest.mark.usefixtures("many")
def test_rows_are_found_by_their_words_whatever_stands_in_which_column(api: Api) -> None:
    assert {row["site"] for row in all_of(api, "/systems", search="annex")} == {"ridge annex"}
    found = all_of(api, "/systems", search="unit ridge r-22 1")
    assert found
    assert all("1" in row["name"] + row["code"] + row["system"] and row["refrigerant"] == "R-22" for row in found)
    assert all_of(api, "/circuits", search="nothing of it") == []
    assert [row["code"] for row in all_of(api, "/circuits", code="U-7")] == ["U-7"]
    assert {row["refrigerant"] for row in all_of(api, "/cylinders", refrigerant="R-22")} == {"R-22"}
    assert {row["kind"] for row in all_of(api, "/cylinders", kind="recovery")} == {"recovery"}
    assert [row["code"] for row in all_of(api, "/cylinders", code="B12")] == ["B12"]
    assert len(all_of(api, "/cylinders", search="b12")) == 4


def test_a_sign_of_the_database_is_searched_as_itself(api: Api, shop: Shop) -> None:
    system = System.objects.create(site=Site.objects.create(shop=shop, name="100 % north"), name="S")
    Circuit.objects.create(system=system, code="U-1", name="under_score", plate={})
    for search, count in (("%", 1), ("_", 1), ("100 %", 1), ("%%", 0), ("\\", 0)):
        assert len(all_of(api, "/circuits", search=search)) == count, search


@pytest.mark.parametrize("path", ["/systems", "/circuits", "/cylinders"])
def test_a_marker_of_another_shop_is_none(api: Api, path: str) -> None:
    site = Site.objects.create(shop=Shop.objects.create(name="Other"), name="Theirs")
    circuit = Circuit.objects.create(system=System.objects.create(site=site, name="S"), code="A", name="A", plate={})
    bottle = Cylinder.objects.create(shop=site.shop, code="A", kind="new", tare_kg=7.0, tare_text="7 kg", created_at=timezone.now())
    assert api.get(path, after=(bottle if path == "/cylinders" else circuit).pk).status_code == 404


def test_jobs_are_found_by_name_number_unit_and_site(api: Api, shop: Shop) -> None:
    system = System.objects.create(site=Site.objects.create(shop=shop, name="North lodge"), name="Rack")
    circuit = Circuit.objects.create(system=system, code="LT-4", name="Freezer", plate={})
    on_it = api.new_job(title="Alarm", circuit_id=circuit.pk)["code"]
    other = api.new_job(title="Noise")["code"]
    for search, codes in (("lodge", [on_it]), ("lt-4 alarm", [on_it]), ("nois", [other]), (other, [other]), ("lodge noise", [])):
        assert [row["code"] for row in api.get("/jobs", search=search).json()["jobs"]] == codes, search


def test_what_is_held_is_the_sum_of_the_movements_of_cylinders_that_are_here(api: Api, shop: Shop) -> None:
    now = timezone.now()

    def bottle(code: str, **facts: Any) -> Cylinder:
        return Cylinder.objects.create(
            shop=shop, code=code, tare_kg=7.0, tare_text="7 kg", created_at=now, **{"kind": "new", "refrigerant": "R-32", **facts}
        )

    rows = [bottle("1"), bottle("2"), bottle("3", kind="recovery"), bottle("4", gone="reclaim"), bottle("5", refrigerant="")]

    def moved(key: str, kg: float, **sides: Cylinder) -> None:
        Movement.objects.create(shop=shop, key=key, kind="x", at=now, by="x", refrigerant="R-32", mass_kg=kg, provenance="weighed", **sides)

    for n, row in enumerate(rows):
        moved(f"in{n}", 2.0**n, to_cylinder=row)
    moved("out", 0.25, from_cylinder=rows[0])
    moved("over", 0.5, from_cylinder=rows[1], to_cylinder=rows[2])
    assert api.get("/cylinders/all/held").json()["rows"] == [
        {"refrigerant": "R-32", "kind": "new", "net_kg": 1.0 - 0.25 + 2.0 - 0.5},
        {"refrigerant": "R-32", "kind": "recovery", "net_kg": 4.5},
    ]


def test_what_is_held_is_summed_anew_whoever_writes(api: Api) -> None:
    def held() -> list[float]:
        return [round(row["net_kg"], 6) for row in api.get("/cylinders/all/held").json()["rows"]]

    assert held() == []
    api.post("/cylinders", code="R1", kind="recovery", refrigerant="R-22", tare="10 kg", water_capacity="20 kg", gross="15 kg")
    assert held() == [5.0]
    api.post("/cylinders/R1/weigh", gross="14 kg", reason="hose")
    assert held() == [4.0]
    api.take_in("/cylinders", "code,kind,refrigerant,tare,gross\nR2,new,R-22,3 kg,13 kg\n")
    assert held() == [10.0, 4.0]
    api.post("/cylinders/R1/move", to_kind="lost", mass="1 kg", reason="blown")
    assert held() == [10.0, 3.0]


class TestALongImport:
    """Checked without the shop's lock, written in few statements."""

    TEXT = "site,system,circuit,name,refrigerant,factory_charge,kind\n" + "".join(
        f"Site {n % 400},System {n % 900},LC-{n},Unit {n},R-410A,9 lb 4 oz,split\n" for n in range(MOST_ROWS)
    )
    BOTTLES = "code,kind,refrigerant,tare,water_capacity,gross\n" + "".join(
        f"LB-{n},recovery,R-22,26 lb,47.7 lb,40 lb\n" for n in range(MOST_ROWS)
    )

    @pytest.mark.parametrize(("path", "text"), [("/systems", TEXT), ("/cylinders", BOTTLES)])
    def test_whole_it_asks_few_questions_while_the_shop_is_locked(self, api: Api, path: str, text: str) -> None:
        api.post(f"{path}/import", text=text)
        with CaptureQueriesContext(connection) as asked:
            queue.run_all()
        statements = [query["sql"] for query in asked.captured_queries]
        locked = [n for n, sql in enumerate(statements) if "SET `turn`" in sql]
        assert len(locked) == MOST_ROWS // PART
        assert max(after - before for before, after in pairwise([*locked, len(statements)])) < 25
        made = Circuit if path == "/systems" else Cylinder
        assert made.objects.count() == MOST_ROWS
        assert (CircuitRevision if path == "/systems" else Movement).objects.count() == MOST_ROWS

    def test_stopped_while_it_is_checked_nothing_is_written(self, api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
        answer = api.post("/systems/import", text=self.TEXT).json()
        keep = queue.Step.keep

        def stopped(step: queue.Step, progress: float, **done: Any) -> None:
            if progress > 0.3:
                api.post(f"/tasks/{answer['id']}/cancel", keyed=False)
            keep(step, progress, **done)

        monkeypatch.setattr(queue.Step, "keep", stopped)
        queue.run_all()
        assert api.get(f"/tasks/{answer['id']}").json()["state"] == "cancelled"
        assert not Circuit.objects.exists()

    @pytest.mark.parametrize("kept", [True, False], ids=["after what was written was kept", "before"])
    def test_killed_while_it_is_written_it_goes_on_behind_the_last_part(
        self, api: Api, kept: bool, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        number = api.post("/systems/import", text=self.TEXT).json()["id"]
        keep = queue.Step.keep

        def killed(step: queue.Step, progress: float, **done: Any) -> None:
            if kept or not done.get("written"):
                keep(step, progress, **done)
            if done.get("written") == 3 * PART:
                raise KeyboardInterrupt

        monkeypatch.setattr(queue.Step, "keep", killed)
        with pytest.raises(KeyboardInterrupt):
            queue.run_all()
        assert Circuit.objects.count() == 3 * PART
        monkeypatch.undo()
        Task.objects.filter(pk=number).update(taken_until=timezone.now() - queue.LEASE)
        queue.run_all()
        assert api.get(f"/tasks/{number}").json()["result"] == {"written": MOST_ROWS, "wrong": 0, "rows": []}
        assert Circuit.objects.count() == MOST_ROWS

    def test_a_code_used_meanwhile_is_told_and_the_rest_written(self, api: Api, shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
        number = api.post("/systems/import", text=self.TEXT).json()["id"]
        keep = queue.Step.keep

        def meanwhile(step: queue.Step, progress: float, **done: Any) -> None:
            keep(step, progress, **done)
            if done.get("written") == PART:
                system = System.objects.create(site=Site.objects.create(shop=shop, name="Another"), name="S")
                Circuit.objects.create(system=system, code="lc-500", name="S", plate={})

        monkeypatch.setattr(queue.Step, "keep", meanwhile)
        queue.run_all()
        report = api.get(f"/tasks/{number}").json()["result"]
        assert (report["written"], report["wrong"]) == (MOST_ROWS - 1, 1)
        assert report["rows"] == [{"row": 501, "label": "LC-500", "problem": "There is a circuit LC-500 already."}]

    def test_stopped_while_it_is_written_it_says_how_far_it_came(self, api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
        number = api.post("/systems/import", text=self.TEXT).json()["id"]
        keep = queue.Step.keep

        def stopped(step: queue.Step, progress: float, **done: Any) -> None:
            if done.get("written") == 2 * PART:
                api.post(f"/tasks/{number}/cancel", keyed=False)
            keep(step, progress, **done)

        monkeypatch.setattr(queue.Step, "keep", stopped)
        queue.run_all()
        task = api.get(f"/tasks/{number}").json()
        assert (task["state"], task["done"]["written"]) == ("cancelled", 2 * PART)
        assert Circuit.objects.count() == 2 * PART

    def test_only_so_many_wrong_rows_are_told(self, api: Api) -> None:
        report = api.take_in("/systems", self.TEXT.replace("9 lb 4 oz", "some"))
        assert (report["written"], report["wrong"], len(report["rows"])) == (0, MOST_ROWS, 200)
        assert len(json.dumps(report)) < 60_000
