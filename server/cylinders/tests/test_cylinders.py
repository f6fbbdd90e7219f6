"""The cylinder book: contents are sums, differences are named, and nothing is made or destroyed, also by two at once."""

import threading
from typing import Any

import pytest
from django.db import connection, connections
from django.test import Client

from accounts.models import Person, Shop
from conftest import BASE, Api, make_person
from cylinders.models import Cylinder, Movement
from cylinders.queries import contents_kg, net_kg
from jobs.models import Job
from systems.models import Circuit, Site, System

LB = 0.45359237
NEW = {
    "code": "14",
    "kind": "new",
    "refrigerant": "R-410A",
    "owner": "Brindlewick",
    "tare": "6 lb 6.5 oz",
    "water_capacity": "29.7 lb",
    "gross": "31 lb 6.5 oz",
}
READY = {
    "code": "R3",
    "kind": "recovery",
    "tare": "26 lb 11 oz",
    "water_capacity": "47.7 lb",
    "retest": "2099-03",
    "gross": "26 lb 11 oz",
    "evacuated": True,
}


def add(api: Api, facts: dict[str, Any], **more: Any) -> dict[str, Any]:
    answer = api.post("/cylinders", **{**facts, **more})
    assert answer.status_code == 201, answer.json()
    return dict(answer.json())


def held_lb(code: str) -> float:
    return net_kg(Cylinder.objects.get(code=code)) / LB


@pytest.mark.django_db
def test_a_cylinder_opens_with_a_balance_and_its_ledger_reads_like_the_scale(api: Api) -> None:
    state = add(api, NEW)
    assert state["account"]["net_kg"] / LB == pytest.approx(25.0)
    assert state["account"]["badge"] == "In use"
    # 29.7 lb of water is 13.5 L; R-410A vapour at 77 °F is about 66 kg/m³ (from memory)
    assert state["account"]["heel_kg"] == pytest.approx(0.0135 * 66.0, rel=0.05)
    moved = api.post("/cylinders/14/move", to_kind="lost", mass="2 lb", reason="hose burst").json()
    assert [(line["what"], round(line["moved_kg"] / LB, 3), round(line["gross_kg"] / LB, 3)) for line in moved["lines"]] == [
        ("lost", -2.0, 29.406),
        ("came with", 25.0, 31.406),
    ]


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("more", "path"),
    [
        ({"code": " "}, "/code"),
        ({"code": "R/3"}, "/code"),
        ({"tare": "heavy"}, "/tare"),
        ({"tare": "0 lb"}, "/tare"),
        ({"gross": "5 lb"}, "/gross"),
        ({"refrigerant": ""}, "/refrigerant"),
        ({"retest": "2029-13"}, "/retest"),
    ],
)
def test_a_cylinder_that_cannot_be_is_refused_at_its_field(api: Api, more: dict[str, str], path: str) -> None:
    answer = api.post("/cylinders", **{**NEW, **more})
    assert (answer.status_code, answer.json()["path"]) == (422, path)
    assert not Cylinder.objects.exists()
    assert not Movement.objects.exists()


@pytest.mark.django_db
def test_weighing_takes_the_scales_word_and_asks_for_the_reason_of_a_difference(api: Api) -> None:
    add(api, NEW)
    refused = api.post("/cylinders/14/weigh", gross="28 lb")
    assert refused.status_code == 422
    assert refused.json()["path"] == "/reason"
    assert "3 lb 6.5 oz less than the book" in refused.json()["detail"]
    assert Movement.objects.count() == 1
    state = api.post("/cylinders/14/weigh", gross="28 lb", reason="cannot be explained").json()
    assert state["account"]["gross_kg"] / LB == pytest.approx(28.0)
    same = api.post("/cylinders/14/weigh", gross="28 lb").json()
    assert same["lines"][0]["moved_kg"] == pytest.approx(0.0)
    assert api.post("/cylinders/14/weigh", gross="5 lb", reason="x").json()["path"] == "/gross"


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("target", "body", "said"),
    [
        ({**READY, "code": "R2", "retest": "2020-05"}, {"to": "R2"}, "retest was due 2020-05"),
        ({**READY, "code": "R5", "refrigerant": "R-22", "gross": "40 lb"}, {"to": "R5"}, "must not be mixed"),
        ({**READY, "code": "R6", "evacuated": False}, {"to": "R6"}, "was not evacuated"),
        ({**READY, "code": "R8", "water_capacity": ""}, {"to": "R8"}, "No limit can be worked out"),
        ({**READY, "code": "R9", "water_capacity": "20 lb"}, {"to": "R9", "mass": "20 lb"}, "does not fit"),
        ({**NEW, "code": "15"}, {"to": "15"}, "one-way"),
        (READY, {"to": "R3", "mass": "30 lb"}, "holds 25 lb 0.0 oz by its book"),
        (READY, {"to": "R3", "mass": "-1 lb"}, "below zero"),
        (READY, {"to": "R3", "at": "2020-01-01T10:00:00Z"}, "A movement before that cannot be added"),
        (READY, {"to": "R3", "at": "2090-01-01T10:00:00Z"}, "in the future"),
        (READY, {"to": "nowhere"}, "no such cylinder"),
        (READY, {"to_kind": "lost"}, "Say how it was lost"),
    ],
)
def test_what_must_not_be_moved_is_refused_in_words_and_nothing_is_half_booked(
    api: Api, target: dict[str, Any], body: dict[str, Any], said: str
) -> None:
    add(api, NEW)
    add(api, target)
    before = Movement.objects.count()
    answer = api.post("/cylinders/14/move", **{"to_kind": "cylinder", "mass": "5 lb", **body})
    assert answer.status_code == 422, answer.json()
    assert said.lower() in answer.json()["detail"].lower()
    assert Movement.objects.count() == before
    assert held_lb("14") == pytest.approx(25.0)


@pytest.mark.django_db
def test_combining_gives_an_empty_cylinder_its_refrigerant_and_conserves_mass(api: Api) -> None:
    add(api, NEW)
    add(api, READY)
    api.post("/cylinders/14/move", to_kind="cylinder", to="R3", gross_after="11 lb 6.5 oz")
    assert (held_lb("14"), held_lb("R3")) == (pytest.approx(5.0), pytest.approx(20.0))
    row = Cylinder.objects.get(code="R3")
    assert (row.refrigerant, row.owner) == ("R-410A", "Brindlewick")
    other = add(api, {**READY, "code": "R4", "owner": "Somebody", "refrigerant": "R-410A", "gross": "30 lb"})
    assert other["account"]["badge"] == "Room"
    refused = api.post("/cylinders/R4/move", to_kind="cylinder", to="R3", mass="1 lb")
    assert "two owners" in refused.json()["detail"]


@pytest.mark.django_db
def test_the_same_move_twice_is_done_once(api: Api) -> None:
    add(api, NEW)
    add(api, READY)
    for _ in range(2):
        answer = api.post("/cylinders/14/move", key="one-and-the-same", to_kind="cylinder", to="R3", mass="5 lb")
        assert answer.status_code == 200
    assert held_lb("R3") == pytest.approx(5.0)


@pytest.mark.django_db
def test_an_empty_refillable_cylinder_is_prepared_and_then_takes_another_refrigerant(api: Api) -> None:
    add(api, {**READY, "refrigerant": "R-22", "gross": "30 lb", "evacuated": False})
    assert "not empty" in api.post("/cylinders/R3/prepare").json()["detail"]
    api.post("/cylinders/R3/move", to_kind="lost", mass="3 lb 5 oz", reason="test")
    state = api.post("/cylinders/R3/prepare").json()
    assert (state["refrigerant"], state["account"]["badge"]) == ("", "Ready")


@pytest.mark.django_db
def test_a_circuit_of_the_same_owner_and_refrigerant_may_get_it(api: Api, shop: Shop) -> None:
    add(api, {**READY, "owner": "Quillon Ridge", "refrigerant": "R-410A", "gross": "36 lb 11 oz"})
    circuit = make_circuit(shop, "CR-1", {"refrigerant": "R-410A"})
    other = make_circuit(shop, "CR-2", {"refrigerant": "R-22"})
    assert "takes R-22" in api.post("/cylinders/R3/move", to_kind="circuit", to=other.code, mass="1 lb").json()["detail"]
    far = make_circuit(shop, "EL-1", {"refrigerant": "R-410A"}, site="Elsewhere")
    assert "only through reclaim" in api.post("/cylinders/R3/move", to_kind="circuit", to=far.code, mass="1 lb").json()["detail"]
    api.post("/cylinders/R3/move", to_kind="circuit", to=circuit.code, mass="1 lb")
    told = api.get(f"/systems/{circuit.pk}").json()
    assert [(e["kind"], round(e["kg"] / LB, 3), e["cylinder"]) for e in told["events"]] == [("added", 1.0, "R3")]


@pytest.mark.django_db
def test_another_shop_sees_none_of_it(api: Api, client: Client) -> None:
    add(api, NEW)
    stranger = make_person(Shop.objects.create(name="Other"), "stranger")
    client.force_login(stranger)
    assert Api(client).get("/cylinders").json() == {"rows": [], "next": None}
    assert Api(client).get("/cylinders/all/held").json() == {"rows": []}
    assert Api(client).get("/cylinders/14").status_code == 404


@pytest.mark.django_db
def test_ten_thousand_movements_take_as_many_queries_as_ten(api: Api, shop: Shop, django_assert_num_queries: Any) -> None:
    add(api, NEW)
    row = Cylinder.objects.get(code="14")

    def fill(first: int, last: int) -> None:
        common = {
            "shop": shop,
            "kind": "weigh",
            "at": row.created_at,
            "by": "x",
            "refrigerant": "R-410A",
            "mass_kg": 0.001,
            "provenance": "weighed",
        }
        pairs = [Movement(key=f"k{n}", **common, **{("to_cylinder" if n % 2 else "from_cylinder"): row}) for n in range(first, last)]
        Movement.objects.bulk_create(pairs, batch_size=2000)

    with django_assert_num_queries(10) as few:
        assert api.get("/cylinders/14").status_code == 200
    fill(0, 10_000)
    with django_assert_num_queries(len(few.captured_queries)):
        state = api.get("/cylinders/14").json()
    assert state["account"]["net_kg"] / LB == pytest.approx(25.0)
    assert len(state["lines"]) == 40
    older = api.get("/cylinders/14", before=state["next"]).json()["lines"]
    assert older[0]["gross_kg"] == pytest.approx(state["lines"][-1]["gross_kg"] - state["lines"][-1]["moved_kg"])


@pytest.mark.django_db
def test_cylinders_come_and_go_as_csv_with_a_report_per_row(api: Api) -> None:
    text = "code,kind,refrigerant,tare,water_capacity,retest,gross\nA1,recovery,R-22,26 lb,47.7 lb,2030-01,40 lb\nA2,recovery,,26 lb,47.7 lb,soon,26 lb\n"
    report = api.take_in("/cylinders", text)
    assert report["written"] == 0
    said = "retest: Write the retest date as year and month, such as 2029-03."
    assert report["rows"] == [{"row": 2, "label": "A2", "problem": said}]
    assert not Cylinder.objects.exists()
    good = api.take_in("/cylinders", text.replace("soon", "2031-02"))
    assert good["written"] == 2
    out = b"".join(api.get("/cylinders/export.csv").streaming_content).decode()
    assert out.splitlines()[1].startswith("A1,recovery,R-22,,11.7934 kg,21.6364 kg,2030-01,18.1437 kg")
    assert api.post("/cylinders/import", text="code;tare\n1;2\n").json()["path"] == "/text"


@pytest.mark.django_db
def test_an_export_comes_back_in_as_it_went_out(api: Api) -> None:
    text = (
        "code,kind,refrigerant,owner,tare,water_capacity,retest,gross,evacuated,oily,mixed\n"
        "A1,recovery,R-22,Ridge,26 lb,47.7 lb,2030-01,40 lb,,yes,\n"
        "A2,recovery,,,26 lb,47.7 lb,2031-02,26 lb,yes,,\n"
        "A3,recovery,R-22,,27 lb,47.7 lb,,35 lb,,,yes\n"
        "A4,new,R-410A,,6 lb 6.5 oz,,,31 lb 6.5 oz,,,\n"
    )
    assert api.take_in("/cylinders", text)["written"] == 4
    out = b"".join(api.get("/cylinders/export.csv").streaming_content).decode()
    before = {
        row.code: (row.kind, row.refrigerant, row.owner, row.retest, row.evacuated, row.oily, row.mixed) for row in Cylinder.objects.all()
    }
    Movement.objects.all().delete()
    Cylinder.objects.all().delete()
    assert api.take_in("/cylinders", out)["written"] == 4
    after = {
        row.code: (row.kind, row.refrigerant, row.owner, row.retest, row.evacuated, row.oily, row.mixed) for row in Cylinder.objects.all()
    }
    assert after == before
    assert b"".join(api.get("/cylinders/export.csv").streaming_content).decode() == out
    assert (before["A1"][5], before["A3"][6]) == (True, True)


def make_circuit(shop: Shop, code: str, plate: dict[str, Any], site: str = "Quillon Ridge") -> Circuit:
    place, _ = Site.objects.get_or_create(shop=shop, name=site)
    return Circuit.objects.create(system=System.objects.create(site=place, name=code), code=code, name=code, plate=plate)


WEIGH = "/steps/weigh_in/runs/0/sheet"


def charge_job(api: Api, circuit: Circuit, cylinder: str, start: str, end: str) -> str:
    code: str = api.new_job(circuit_id=circuit.pk)["code"]
    api.save(
        code, {f"{BASE}/factory_charge": "5 lb", f"{BASE}/metering": "txv", f"{BASE}/kind": "packaged", f"{BASE}/refrigerant": "R-410A"}
    )
    draw = {"cylinder": cylinder, "gross_start": start, "tare": "6 lb 6.5 oz", "gross_end": end}
    saved = api.save(code, {f"{WEIGH}/system_state": "empty", **{f"{WEIGH}/draws/d1/{k}": v for k, v in draw.items()}}).json()
    assert not saved["problems"]
    return code


@pytest.mark.django_db
def test_a_closed_weigh_in_is_in_the_book_and_a_correction_reverses_it(api: Api, shop: Shop) -> None:
    add(api, NEW)
    circuit = make_circuit(shop, "CR-1", {})
    code = charge_job(api, circuit, "14", "31 lb 6.5 oz", "26 lb 6.5 oz")
    assert api.post(f"/jobs/{code}/steps/weigh_in/close").status_code == 200
    assert held_lb("14") == pytest.approx(20.0)
    api.post(f"/jobs/{code}/steps/weigh_in/reopen", reason="read again")
    api.save(code, {f"{WEIGH}/draws/d1/gross_end": "26 lb 7 oz"}, change={"force": True})
    api.post(f"/jobs/{code}/steps/weigh_in/close")
    assert held_lb("14") == pytest.approx(20.0 + 0.5 / 16)
    events = api.get(f"/systems/{circuit.pk}").json()["events"]
    assert [e["kg"] / LB for e in events] == [pytest.approx(5.0 - 0.5 / 16)]
    assert Movement.objects.filter(kind="reversal").count() == 1


@pytest.mark.django_db
def test_a_weighed_draw_is_booked_though_the_book_held_less(api: Api, shop: Shop) -> None:
    add(api, NEW, gross="9 lb")
    code = charge_job(api, make_circuit(shop, "CR-1", {}), "14", "31 lb 6.5 oz", "26 lb 6.5 oz")
    assert api.post(f"/jobs/{code}/steps/weigh_in/close").status_code == 200
    assert held_lb("14") == pytest.approx(0.0)
    named = Movement.objects.get(kind="weigh")
    assert named.reason == "the scale gave more than the book held"


@pytest.mark.django_db(transaction=True)
def test_two_drawing_at_once_never_make_or_destroy_an_ounce(shop: Shop, person: Person) -> None:
    client = Client()
    client.force_login(person)
    api = Api(client)
    add(api, NEW)
    for code in ("R1", "R2"):
        add(api, READY, code=code)
    codes = [charge_job(api, make_circuit(shop, f"C-{n}", {}), "14", "31 lb 6.5 oz", "26 lb 6.5 oz") for n in range(2)]
    answers: list[int] = []
    gate = threading.Barrier(6)

    def work(path: str, body: dict[str, Any]) -> None:
        try:
            own = Client()
            own.force_login(person)
            gate.wait()
            answers.append(Api(own).post(path, **body).status_code)
        finally:
            connections.close_all()

    tasks: list[tuple[str, dict[str, Any]]] = [(f"/jobs/{code}/steps/weigh_in/close", {}) for code in codes]
    tasks += [("/cylinders/14/move", {"to_kind": "cylinder", "to": f"R{n % 2 + 1}", "mass": "5 lb"}) for n in range(4)]
    threads = [threading.Thread(target=work, args=task) for task in tasks]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert connection.vendor == "mysql"
    rows = list(Cylinder.objects.all())
    held = contents_kg(rows)
    named = Movement.objects.filter(kind="weigh").first()
    difference = named.mass_kg if named else 0.0
    into_circuits = sum(m.mass_kg for m in Movement.objects.exclude(to_circuit=None))
    assert sum(held.values()) + into_circuits == pytest.approx(25.0 * LB + difference, abs=1e-9)
    assert into_circuits / LB == pytest.approx(10.0)
    assert all(mass >= -1e-9 for mass in held.values())
    moved = answers.count(200) - 2
    assert held[Cylinder.objects.get(code="R1").pk] + held[Cylinder.objects.get(code="R2").pk] == pytest.approx(moved * 5 * LB)
    assert set(answers) <= {200, 422}
    assert Job.objects.count() == 2
