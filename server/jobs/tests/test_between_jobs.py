"""What one job tells another, and what it leaves on record: reservations seen coming, units made at closing, the sentence a list carries."""

import pytest

from accounts.models import Shop
from conftest import Api
from cylinders.models import Movement
from cylinders.queries import circuit_movements
from jobs.models import Job
from jobs.tests.test_whole_jobs import machine
from systems.models import Circuit, CircuitRevision
from yoshi_core.document import schema
from yoshi_core.message import Message

pytestmark = pytest.mark.django_db
CLOSE = "/steps/close_out/runs/0/sheet"
SPLIT = {
    "refrigerant": "R-410A",
    "factory_charge": "6 lb",
    "kind": "split",
    "metering": "orifice",
    "orifice": "0.059",
    "included_length": "15 ft",
    "subcooling_target": "10 °F",
    "lines/l1/length": "35 ft",
    "lines/l1/allowance": "0.6 oz/ft",
    "pairing_proven": True,
    "pairing_by": "switched",
}


def coming(api: Api, code: str) -> list[tuple[str, str]]:
    facts = api.get(f"/jobs/{code}").json()["job"].get("facts", [])
    return [(f["values"]["from"], f["values"]["on"]) for f in facts if f["kind"] == "coming"]


def test_the_receiving_job_sees_a_reservation_coming_until_it_is_done(api: Api, shop: Shop) -> None:
    """Told 350 to 360 lb: the surplus is planned for tomorrow. Nothing moves, the other circuit's job sees it, and a new one does too."""
    donor, receiver = machine(shop, "DC-1", "DC-2", factory_charge="318 lb")
    other = api.new_job(kind="service", circuit_id=receiver.pk)["code"]
    code = api.new_job(kind="service", circuit_id=donor.pk)["code"]
    planned = {"kind": "out", "circuit": "DC-2", "planned_for": "2026-12-01", "mass": "32 lb", "at_most": "42 lb"}
    api.save(code, {f"/acts/a1/{key}": value for key, value in planned.items()})
    assert coming(api, other) == [("Circuit DC-1", "2026-12-01")]
    said = api.get(f"/jobs/{other}").json()["findings"]
    reasons = [
        schema.load(Message, r["message"]).show()
        for s in said["steps"]
        for r in s["verdict"]["reasons"]
        if r["rule_id"] == "weigh_in.coming"
    ]
    assert reasons == ["32 lb 0.0 oz, at most 42 lb 0.0 oz, may come from Circuit DC-1 on 2026-12-01. It counts once it is weighed."]
    assert said["inside"]["rows"] == []
    later = api.new_job(kind="service", circuit_id=receiver.pk)["code"]
    assert coming(api, later) == [("Circuit DC-1", "2026-12-01")]
    assert not Movement.objects.filter(job_code=code).exists()
    api.save(code, {"/acts/a1/planned_for": "2026-12-02"}, change={"force": True})
    assert coming(api, other) == [("Circuit DC-1", "2026-12-02")]
    (third,) = machine(shop, "DC-3", factory_charge="318 lb")
    elsewhere = api.new_job(kind="service", circuit_id=third.pk)["code"]
    api.save(code, {"/acts/a1/circuit": "DC-3"}, change={"force": True})
    assert (coming(api, other), coming(api, elsewhere)) == ([], [("Circuit DC-1", "2026-12-02")])
    api.save(code, {"/acts/a1/done": True})
    assert coming(api, elsewhere) == []


def test_a_unit_not_on_record_is_put_on_record_when_its_job_closes(api: Api, shop: Shop) -> None:
    """Site, system and circuit, with lines, target and orifice; the next job on it starts from them."""
    code = api.new_job(kind="service", title="Gift shop split")["code"]
    api.save(code, SPLIT)
    ending = {"outcome": "handed_over", "reason": "sold", "site": "Quillon Ridge", "system": "Gift shop, east"}
    api.save(code, {f"{CLOSE}/{key}": value for key, value in ending.items()})
    assert not Circuit.objects.filter(system__site__shop=shop).exists()
    closed = api.post(f"/jobs/{code}/steps/close_out/close")
    assert closed.status_code == 200, closed.json()
    (circuit,) = Circuit.objects.filter(system__site__shop=shop)
    assert (circuit.system.site.name, circuit.system.name, circuit.code) == ("Quillon Ridge", "Gift shop, east", code)
    assert circuit.plate["lines"]["l1"]["length"]["text"] == "35 ft"
    assert (circuit.plate["orifice"], circuit.plate["subcooling_target"]["text"]) == ("0.059", "10 °F")
    assert CircuitRevision.objects.get(circuit=circuit).reason == f"first job {code} closed"
    assert Job.objects.get(code=code).circuit == circuit
    following = api.new_job(kind="service", circuit_id=circuit.pk)["job"]["circuit"]
    assert following["plate"]["refrigerant"] == "R-410A"


def test_a_unit_nobody_named_goes_by_its_job(api: Api, shop: Shop) -> None:
    code = api.new_job(kind="service", title="Van in the yard")["code"]
    api.save(code, {"refrigerant": "R-134a", "kind": "vehicle", "metering": "orifice", "factory_charge": "700 g"})
    api.save(code, {f"{CLOSE}/outcome": "left_safe", f"{CLOSE}/reason": "no parts"})
    assert api.post(f"/jobs/{code}/steps/close_out/close").status_code == 200
    (circuit,) = Circuit.objects.filter(system__site__shop=shop)
    assert (circuit.system.site.name, circuit.name) == ("Site not named", "Van in the yard")


def test_a_quick_total_is_never_put_on_record(api: Api, shop: Shop) -> None:
    code = api.new_job(kind="quick")["code"]
    api.save(code, SPLIT)
    assert not Circuit.objects.filter(system__site__shop=shop).exists()


def test_a_list_carries_what_somebody_answers_for(api: Api) -> None:
    code = api.new_job(kind="service")["code"]
    api.save(code, SPLIT)
    rows = {row["code"]: row for row in api.get("/jobs").json()["jobs"]}
    assert rows[code]["carried"] is None
    api.save(code, {"/steps/repair/runs/0/sheet/parts/p1/label": "coil", "/steps/repair/runs/0/sheet/parts/p1/kind": "coil"})
    assert api.post(f"/jobs/{code}/steps/evacuate/close", reason="dusk").status_code == 200
    rows = {row["code"]: row for row in api.get("/jobs").json()["jobs"]}
    assert schema.load(Message, rows[code]["carried"]).show().startswith("Dry: Not evacuated. Orrin answers for it: dusk.")


def test_a_closed_step_takes_the_answer_another_one_asks_for(api: Api) -> None:
    code = api.new_job(kind="service")["code"]
    api.save(code, {key: value for key, value in SPLIT.items() if not key.startswith("pairing")})
    path = "/steps/identify/runs/0/sheet/pairing_proven"
    assert api.post(f"/jobs/{code}/steps/identify/close", reason="no room to look").status_code == 200
    answer = api.save(code, {path: True}).json()
    assert (answer["problems"], list(answer["accepted"])) == ([], [path])
    step = next(s for s in answer["findings"]["steps"] if s["step"] == "identify")
    assert step["state"] in {"closed", "changed"}
    assert [p["code"] for p in api.save(code, {path: False}, change={"force": True}).json()["problems"]] == ["step_closed"]


def test_an_act_to_a_circuit_nobody_has_is_refused_by_name_and_the_rest_of_it_kept(api: Api) -> None:
    """Else the visit could not end: nothing can be booked to it."""
    code = api.new_job(kind="service")["code"]
    answer = api.save(code, {"/acts/a1/kind": "out", "/acts/a1/circuit": "the other one", "/acts/a1/mass": "2 lb"}).json()
    assert [(p["path"], p["code"]) for p in answer["problems"]] == [("/acts/a1/circuit", "no_circuit")]
    assert answer["job"]["acts"]["a1"]["kind"] == "out"
    assert "circuit" not in answer["job"]["acts"]["a1"]


def test_what_earlier_visits_moved_names_the_circuit_its_unit_is_put_on_record_as(api: Api, shop: Shop) -> None:
    """Refrigerant that went in on the first visit is in the charge history of the circuit the second one makes."""
    code = api.new_job(kind="service", title="Gift shop split")["code"]
    api.save(code, SPLIT)
    api.save(
        code, {"/acts/a1/kind": "in", "/acts/a1/cylinder": "can", "/acts/a1/mass": {"text": "12 oz", "unit": "oz"}, "/acts/a1/done": True}
    )
    ended = api.post(f"/jobs/{code}/visits/end", outcome="left_safe", reason="dark")
    assert ended.status_code == 200, ended.json()
    (moved,) = Movement.objects.filter(job_code=code)
    assert (moved.to_circuit, moved.from_circuit) == (None, None)
    assert api.post(f"/jobs/{code}/visits/start").status_code == 200
    api.save(code, {f"{CLOSE}/outcome": "handed_over", f"{CLOSE}/reason": "sold"})
    closed = api.post(f"/jobs/{code}/steps/close_out/close")
    assert closed.status_code == 200, closed.json()
    (circuit,) = Circuit.objects.filter(system__site__shop=shop)
    after = Movement.objects.get(pk=moved.pk)
    assert (after.to_circuit, after.from_circuit, after.at, after.mass_kg) == (circuit, None, moved.at, moved.mass_kg)
    assert [row.pk for row in circuit_movements(circuit)] == [moved.pk]
