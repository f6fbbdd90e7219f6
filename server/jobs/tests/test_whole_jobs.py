"""The whole job over the API: steps left out, visits, work orders, what a circuit hands on, and a transfer told to its receiver."""

from typing import Any

import pytest

from accounts.models import Person, ProfileRevision, Shop
from accounts.queries import shop_of
from conftest import BASE, Api
from cylinders.models import Movement
from jobs.models import Job, WorkOrder
from systems.models import Circuit, CircuitRevision, Site, System
from yoshi_core.document import schema
from yoshi_core.document.plate import Plate

pytestmark = pytest.mark.django_db
LB = 0.45359237
RECOVER = "/steps/recover/runs/0/sheet"
VERIFY = "/steps/verify/runs/0/sheet"
WEIGH = "/steps/weigh_in/runs/0/sheet"
CLOSE = "/steps/close_out/runs/0/sheet"


def machine(shop: Shop, *codes: str, **plate: Any) -> list[Circuit]:
    site, _ = Site.objects.get_or_create(shop=shop, name="Quillon Ridge")
    system = System.objects.create(site=site, name="Dome chiller")
    given = {
        "refrigerant": "R-134a",
        "factory_charge": "18 lb",
        "kind": "packaged",
        "metering": "txv",
        "pairing_proven": True,
        "pairing_by": "label",
    }
    facts = {**given, **plate}
    plain = schema.dump(schema.load(Plate, facts, "/plate"))
    return [Circuit.objects.create(system=system, code=code, name=f"Circuit {code}", plate=plain) for code in codes]


def step(answer: dict[str, Any], name: str) -> dict[str, Any]:
    return next(dict(s) for s in answer["findings"]["steps"] if s["step"] == name)


def sheet(path: str, **values: Any) -> dict[str, Any]:
    return {f"{path}/{key}": value for key, value in values.items()}


def keep_all(api: Api, code: str) -> None:
    """Answer every question about an unusual figure: it is right."""
    answer = api.get(f"/jobs/{code}").json()
    questions = [(s["step"], q["id"]) for s in answer["findings"]["steps"] for q in s["questions"]]
    escaped = {f"/steps/{name}/runs/0/answers/{q.replace('~', '~0').replace('/', '~1')}": "kept" for name, q in questions}
    if escaped:
        assert not api.save(code, escaped).json()["problems"]


def test_a_step_is_left_out_with_its_reason_and_opened_again(api: Api) -> None:
    code = api.new_job(kind="service")["code"]
    assert api.post(f"/jobs/{code}/steps/as_found/leave-out", reason=" ").status_code == 422
    left = api.post(f"/jobs/{code}/steps/as_found/leave-out", reason="does not run").json()
    assert step(left, "as_found")["state"] == "not_applicable"
    assert step(left, "as_found")["verdict"]["headline"]["words"] == {"reason": "does not run"}
    assert api.post(f"/jobs/{code}/steps/as_found/leave-out", reason="again").status_code == 422
    again = api.post(f"/jobs/{code}/steps/as_found/reopen", reason="it runs after all").json()
    assert step(again, "as_found")["state"] == "open"
    assert api.post(f"/jobs/{code}/steps/close_out/leave-out", reason="tired").status_code == 422


def test_a_visit_ends_and_the_list_says_how(api: Api) -> None:
    code = api.new_job(kind="service", title="Lab")["code"]
    refused = api.post(f"/jobs/{code}/visits/end", outcome="running_not_proven", reason="no coil")
    assert (refused.status_code, refused.json()["path"]) == (422, "/awaited")
    body = {"outcome": "running_not_proven", "reason": "no coil", "awaited": "coil", "return_on": "2030-07-01"}
    ended = api.post(f"/jobs/{code}/visits/end", **body).json()
    assert ended["job"]["visits"][0]["awaited"] == "coil"
    row = api.get("/jobs").json()["jobs"][0]
    assert (row["visit"], row["return_on"]) == ("running_not_proven", "2030-07-01")
    assert api.post(f"/jobs/{code}/visits/end", **body).status_code == 422
    begun = api.post(f"/jobs/{code}/visits/start").json()
    assert [v["id"] for v in begun["job"]["visits"]] == ["v1", "v2"]
    assert api.get("/jobs").json()["jobs"][0]["visit"] == "going_on"
    kinds = [line["kind"] for line in api.get(f"/jobs/{code}/history").json()]
    assert kinds == ["visit_started", "visit_ended", "created"]


def test_a_work_order_makes_a_job_for_each_circuit_once(api: Api, shop: Shop) -> None:
    circuits = machine(shop, "DC-1", "DC-2")
    for _ in range(2):
        answer = api.post("/jobs/work-order", key="one-order-only", kind="service", system_id=circuits[0].system_id)
        assert answer.status_code == 201
    assert WorkOrder.objects.count() == 1
    assert Job.objects.count() == 2
    assert [s["title"] for s in answer.json()["siblings"]] == ["Circuit DC-2"]
    assert {row["work_order"] for row in api.get("/jobs").json()["jobs"]} == {"Dome chiller"}
    assert api.post("/jobs/work-order", kind="service", system_id=999).status_code == 422


def test_a_surplus_is_booked_to_the_other_circuit_and_its_open_job_is_told(api: Api, shop: Shop) -> None:
    donor, receiver = machine(shop, "DC-1", "DC-2", factory_charge="318 lb")
    tank = {"code": "T1", "kind": "recovery", "tare": "300 lb", "water_capacity": "1000 lb", "evacuated": True, "owner": "Quillon Ridge"}
    assert api.post("/cylinders", **tank).status_code == 201
    other = api.new_job(kind="service", circuit_id=receiver.pk)["code"]
    code = api.new_job(kind="service", circuit_id=donor.pk)["code"]
    cylinder = {
        "cylinder": "T1",
        "contents": "evacuated",
        "tare": "300 lb",
        "water_capacity": "1000 lb",
        "gross_start": "300 lb",
        "gross_now": "656 lb",
    }
    facts = {
        "way": "cylinder",
        "fan_on": True,
        "valves_open": True,
        "finished": True,
        "end_pressure": "-8 psig",
        "waited": "6 min",
        "risen_to": "-7.5 psig",
        "use": "other_circuit",
        "burnout": False,
        "same_owner": True,
        "to_circuit": "DC-2",
        "to_circuit_mass": "38 lb",
    }
    saved = api.save(code, {**sheet(RECOVER, **facts), **{f"{RECOVER}/cylinders/c1/{k}": v for k, v in cylinder.items()}}).json()
    assert not saved["problems"], saved["problems"]
    keep_all(api, code)
    machine(shop, "XX-1", refrigerant="R-22")
    for wrong, said in (("NO-1", "There is no circuit NO-1"), ("XX-1", "takes R-22, not R-134a")):
        api.save(code, {f"{RECOVER}/to_circuit": wrong}, change={"force": True})
        refused = api.post(f"/jobs/{code}/steps/recover/close")
        assert (refused.status_code, said in refused.json()["detail"]) == (422, True)
        assert not Movement.objects.filter(kind="recover").exists()
    api.save(code, {f"{RECOVER}/to_circuit": "DC-2"}, change={"force": True})
    closed = api.post(f"/jobs/{code}/steps/recover/close")
    assert closed.status_code == 200, closed.json()
    books = {m.kind: (m.from_cylinder, m.to_circuit, m.mass_kg / LB) for m in Movement.objects.exclude(kind="opening")}
    assert books["recover"][2] == pytest.approx(356.0)
    assert books["transfer"][1] == receiver
    assert books["transfer"][2] == pytest.approx(38.0)
    told = api.get(f"/jobs/{other}").json()["job"]["facts"]
    assert [(f["kind"], round(f["values"]["mass_kg"] / LB, 3), f["values"]["from"]) for f in told] == [("transfer_in", 38.0, "DC-1")]
    events = {c.code: [(e["kind"], round(e["kg"] / LB)) for e in api.get(f"/systems/{c.pk}").json()["events"]] for c in (donor, receiver)}
    assert events == {"DC-1": [("recovered", 356)], "DC-2": [("added", 38)]}


def test_a_closed_job_hands_its_total_and_fingerprint_to_the_next(api: Api, shop: Shop) -> None:
    (circuit,) = machine(shop, "CR-1", refrigerant="R-410A", factory_charge="6 lb", subcooling_target="10 °F", altitude="0 m")
    code = api.new_job(circuit_id=circuit.pk)["code"]
    draw = {"cylinder": "14", "gross_start": "20 lb", "tare": "9 lb", "gross_end": "14 lb"}
    api.save(code, {f"{BASE}/serial": "X", **sheet(WEIGH, system_state="empty"), **{f"{WEIGH}/draws/d1/{k}": v for k, v in draw.items()}})
    run = {"mode": "cooling", "run_in": "15 min", "filter_ok": True, "coils_ok": True}
    reading = {
        "suction_pressure": "118 psig",
        "suction_line": "50 °F",
        "liquid_pressure": "317.6 psig",
        "liquid_line": "90 °F",
        "outdoor": "88 °F",
    }
    api.save(code, {**sheet(VERIFY, **run), **{f"{VERIFY}/readings/r1/{k}": v for k, v in reading.items()}})
    for name in ("identify", "weigh_in", "verify"):
        assert api.post(f"/jobs/{code}/steps/{name}/close").status_code == 200
    api.save(code, sheet(CLOSE, outcome="proven", label_fixed=True, update_circuit=True))
    assert api.post(f"/jobs/{code}/steps/close_out/close").json()["closed"] is True
    after = api.new_job(kind="service", circuit_id=circuit.pk)["job"]["facts"]
    by_kind = {f["kind"]: f["values"] for f in after}
    assert by_kind["weighed_total"]["mass_kg"] / LB == pytest.approx(6.0)
    assert set(by_kind["fingerprint"]) == {"suction_gauge_pa", "liquid_gauge_pa", "outdoor_k", "superheat_k", "subcooling_k"}
    assert by_kind["visit"]["text"].startswith("6 lb 0.0 oz added")
    assert CircuitRevision.objects.get(circuit=circuit).reason == f"job {code} closed"


def test_a_circuit_met_with_a_charge_opens_with_a_balance_once(api: Api, shop: Shop) -> None:
    (circuit,) = machine(shop, "CR-1")
    url = f"/systems/{circuit.pk}/past"
    line = {"kind": "opening", "mass": "18 lb", "at": "2023-05-01T10:00:00Z", "reason": "label"}
    assert api.post(url, **line).json()["history"]["balance"]["value"] / LB == pytest.approx(18.0)
    for body, path in (
        (line, "/kind"),
        ({**line, "kind": "added", "at": "2090-01-01T00:00:00Z"}, "/at"),
        ({**line, "kind": "added", "reason": " "}, "/reason"),
        ({**line, "kind": "added", "mass": "lots"}, "/mass"),
    ):
        refused = api.post(url, **body)
        assert (refused.status_code, refused.json()["path"]) == (422, path)
    added = api.post(url, **{**line, "kind": "added", "mass": "2 lb", "at": "2025-05-01T10:00:00Z"}).json()
    assert [(e["kind"], round(e["kg"] / LB, 2)) for e in added["events"]] == [("added", 18.0), ("added", 2.0)]
    assert added["history"]["rate"]["value"] == pytest.approx(2 / 18, rel=1e-6)


def test_systems_come_from_csv_as_a_whole_or_not_at_all(api: Api, shop: Shop) -> None:
    head = "site,system,circuit,refrigerant,factory_charge,kind\n"
    bad = (
        head + "Hut,Split,H-1,R-32,2 lb,split\nHut,Split,H-1,R-32,2 lb,split\nHut,Split,,R-32,2 lb,split\nHut,Split,H-2,R-32,2 lb,balloon\n"
    )
    report = api.take_in("/systems", bad)
    assert report["written"] == 0
    assert [row["row"] for row in report["rows"]] == [2, 3, 4]
    assert report["rows"][2]["problem"].startswith("kind:")
    assert not Circuit.objects.exists()
    good = api.take_in("/systems", head + "Hut,Split,H-1,R-32,2 lb,split\n")
    assert good["written"] == 1
    assert [(c["code"], c["site"]) for c in api.get("/systems").json()["rows"]] == [("H-1", "Hut")]
    assert "already" in api.take_in("/systems", head + "Hut,Split,H-1,R-32,2 lb,split\n")["rows"][0]["problem"]


def test_the_effect_of_a_profile_is_said_before_it_is_saved_and_a_job_is_switched_with_a_reason(
    api: Api, owner: Api, person: Person
) -> None:
    code = api.new_job(kind="service", title="Lab")["code"]
    found = {"running": "settled", "run_time": "15 min", "mode": "cooling", "suction_pressure": "101 psig", "suction_line": "62 °F"}
    api.save(code, {f"{BASE}/refrigerant": "R-410A", **sheet("/steps/as_found/runs/0/sheet", **found)})
    asked = {"overrides": {"as_found.run_in": "30 min"}, "choices": {}}
    effect = owner.post("/profile/effect", keyed=False, **asked).json()
    assert [row["code"] for row in effect] == [code]
    assert "readings count after 30 min" in effect[0]["changes"][0]
    assert not ProfileRevision.objects.exists()
    assert owner.post("/profile/effect", keyed=False, overrides={"as_found.run_in": "-1 min"}, choices={}).status_code == 422
    assert api.post(f"/jobs/{code}/profile", reason="newer practice").status_code == 422
    ProfileRevision.objects.create(
        shop=shop_of(person),
        revision=2,
        name="x",
        overrides={"as_found.run_in": 1800.0},
        choices={},
        reason="r",
        at="2026-01-01T00:00:00Z",
        by="x",
    )
    switched = api.post(f"/jobs/{code}/profile", reason="newer practice").json()
    assert step(switched, "as_found")["verdict"]["word"] == "Wait"
    assert len(switched["job"]["profile_events"]) == 2


def test_every_other_refrigerant_in_a_circuit_and_open_assumptions(api: Api, shop: Shop) -> None:
    plate = {"factory_charge": "8 lb 12 oz", "metering": "orifice", "oil": "mineral", "design_high": "300 psig", "altitude": "2100 m"}
    (circuit,) = machine(shop, "OS-1", refrigerant="R-22", kind="packaged", **plate)
    found = api.get(f"/systems/{circuit.pk}/retrofit").json()
    rows = {row["name"]: row for row in found["rows"]}
    assert rows["R-410A"]["stops"]
    assert not rows["R-407C"]["stops"]
    assert rows["R-407C"]["start"]["value"] / LB == pytest.approx(7 + 7.4 / 16, abs=0.01)
    assert found["lacks"] == []
    milder = {row["name"]: row for row in api.get(f"/systems/{circuit.pk}/retrofit?outdoor=60F").json()["rows"]}
    assert not milder["R-410A"]["stops"]
    refused = api.get(f"/systems/{circuit.pk}/retrofit?condensing=warm")
    assert refused.status_code == 422
    assert refused.json()["path"] == "/condensing"
    assert "condensing, mean" in refused.json()["detail"]
    backwards = api.get(f"/systems/{circuit.pk}/retrofit?condensing=30F")
    assert (backwards.status_code, "Condensing must be warmer" in backwards.json()["detail"]) == (422, True)


def test_without_tables_nothing_is_compared(api: Api, shop: Shop) -> None:
    (circuit,) = machine(shop, "ZZ-1", refrigerant="R-9999")
    refused = api.get(f"/systems/{circuit.pk}/retrofit")
    assert refused.status_code == 422
    assert "no tables for R-9999" in refused.json()["detail"]
