"""Jobs over the API: saving, merging, closing, retrying; and that nothing is half-written."""

import json
import threading
from typing import Any

import pytest
from django.db import connection, connections
from django.test import Client

from accounts.models import AcceptedRequest, Person, Shop
from conftest import BASE, PLATE, Api, make_person
from jobs.models import Change, Job
from systems.models import Circuit, CircuitRevision, Site, System

pytestmark = pytest.mark.django_db

WEIGH = "/steps/weigh_in/runs/0/sheet"
VERIFY = "/steps/verify/runs/0/sheet"
CLOSE = "/steps/close_out/runs/0/sheet"


def figure(answer: dict[str, Any], step: str, name: str) -> float:
    result = next(s for s in answer["findings"]["steps"] if s["step"] == step)
    return next(f["amount"]["value"] for f in result["figures"] if f["id"] == name)


def test_a_whole_job_from_plate_to_close_out(api: Api) -> None:
    code = api.new_job(title="Control room")["code"]
    saved = api.save(code, PLATE).json()
    assert figure(saved, "identify", "total") == pytest.approx(4.7485, abs=1e-3)
    assert saved["echoes"][f"{BASE}/factory_charge"]["is_not"] == "not 9.4 lb, which is 9 lb 6.4 oz"
    assert api.post(f"/jobs/{code}/steps/identify/close").status_code == 200
    draw = {"gross_start": "31 lb 6.5 oz", "tare": "9 lb", "hose_loss": "0.6 oz", "gross_end": "20 lb 14.4 oz"}
    api.save(code, {f"{WEIGH}/system_state": "empty", **{f"{WEIGH}/draws/d1/{k}": v for k, v in draw.items()}})
    assert api.post(f"/jobs/{code}/steps/weigh_in/close").status_code == 200
    reading = {"suction_pressure": "128 psig", "suction_line": "54 °F", "liquid_pressure": "372 psig", "liquid_line": "102 °F"}
    conditions = {f"{VERIFY}/mode": "cooling", f"{VERIFY}/run_in": "15 min", f"{VERIFY}/filter_ok": True, f"{VERIFY}/coils_ok": True}
    api.save(code, {**conditions, **{f"{VERIFY}/readings/r1/{k}": v for k, v in reading.items()}})
    assert api.post(f"/jobs/{code}/steps/verify/close").status_code == 200
    api.save(code, {f"{CLOSE}/outcome": "proven", f"{CLOSE}/label_fixed": True})
    done = api.post(f"/jobs/{code}/steps/close_out/close").json()
    assert done["closed"] is True
    assert [j["code"] for j in api.get("/jobs", listed="closed").json()["jobs"]] == [code]
    assert len(done["job"]["ledger"]) == 2
    kinds = [line["kind"] for line in api.get(f"/jobs/{code}/history").json()]
    assert kinds == ["closed", "entries", "closed", "entries", "closed", "entries", "closed", "entries", "created"]


def test_the_same_request_twice_is_done_once_with_the_same_answer(api: Api) -> None:
    code = api.new_job()["code"]
    first = api.save(code, {"oil": "POE"}, key="the-very-same-key").json()
    again = api.save(code, {"oil": "POE"}, key="the-very-same-key").json()
    assert first == again
    assert Change.objects.filter(job__code=code).count() == 2
    other = api.save(code, {"oil": "mineral"}, key="the-very-same-key")
    assert other.status_code == 422
    assert other.json()["code"] == "key_reused"


def test_creating_twice_with_one_key_makes_one_job(api: Api) -> None:
    assert api.new_job(key="create-key-1")["code"] == api.new_job(key="create-key-1")["code"]
    assert Job.objects.count() == 1


def test_a_bad_entry_is_refused_alone_and_the_rest_is_stored(api: Api) -> None:
    code = api.new_job()["code"]
    answer = api.save(code, {"factory_charge": "9 lb 17 oz", "oil": "POE"}).json()
    assert list(answer["accepted"]) == [f"{BASE}/oil"]
    assert answer["problems"][0]["path"] == f"{BASE}/factory_charge"
    assert "16 oz are 1 lb" in answer["problems"][0]["message"]["text"]
    sheet = answer["job"]["steps"]["identify"]["runs"][0]["sheet"]
    assert sheet == {"oil": "POE"}


def test_preview_stores_nothing_and_counts_a_bad_field_as_empty(api: Api) -> None:
    code = api.new_job()["code"]
    changes = [
        {"path": f"{BASE}/refrigerant", "value": "r410a"},
        {"path": f"{BASE}/factory_charge", "value": {"text": "9 l", "unit": "lb"}},
    ]
    answer = api.post(f"/jobs/{code}/preview", keyed=False, changes=changes).json()
    assert answer["accepted"][f"{BASE}/refrigerant"] == "R-410A"
    assert answer["problems"][0]["path"] == f"{BASE}/factory_charge"
    assert api.get(f"/jobs/{code}").json()["seq"] == 1


def test_two_people_on_different_fields_merge_and_on_one_field_are_asked(api: Api, shop: Shop) -> None:
    code = api.new_job()["code"]
    pell = Client()
    pell.force_login(make_person(shop, "pell", "lead"))
    other = Api(pell)
    api.save(code, {"oil": "POE"})
    other.save(code, {"serial": "QR-1"})
    api.save(code, {"lines/l1/length": "52 ft"})
    answer = other.save(code, {"lines/l1/length": "46 ft"}).json()
    assert answer["conflicts"][0]["theirs"]["text"] == "52 ft"
    assert answer["conflicts"][0]["by"] == "Orrin"
    sheet = answer["job"]["steps"]["identify"]["runs"][0]["sheet"]
    assert (sheet["oil"], sheet["serial"], sheet["lines"]["l1"]["length"]["text"]) == ("POE", "QR-1", "52 ft")
    assert answer["job"]["disputes"][0]["value"]["text"] == "46 ft"
    settled = other.save(code, {"lines/l1/length": "46 ft"}, change={"force": True}).json()
    assert settled["job"].get("disputes", []) == []


def test_an_old_value_patched_over_a_newer_one_is_not_stored(api: Api) -> None:
    code = api.new_job()["code"]
    api.save(code, {"oil": "POE"})
    stale = api.post(f"/jobs/{code}/changes", changes=[{"path": f"{BASE}/oil", "seen": "mineral", "value": "AB"}]).json()
    assert stale["conflicts"][0]["theirs"] == "POE"
    assert stale["job"]["steps"]["identify"]["runs"][0]["sheet"]["oil"] == "POE"


def test_a_closed_step_is_corrected_only_after_opening_it_with_a_reason(api: Api) -> None:
    code = api.new_job()["code"]
    api.save(code, PLATE)
    api.post(f"/jobs/{code}/steps/identify/close")
    refused = api.save(code, {"oil": "POE"}).json()
    assert refused["problems"][0]["code"] == "step_closed"
    assert api.post(f"/jobs/{code}/steps/identify/reopen", reason=" ").status_code == 422
    opened = api.post(f"/jobs/{code}/steps/identify/reopen", reason="length measured again").json()
    assert [e["kind"] for e in opened["job"]["steps"]["identify"]["events"]] == ["closed", "reopened"]
    assert api.save(code, {"oil": "POE"}).json()["accepted"]


def test_an_open_step_cannot_close_and_says_what_is_missing(api: Api) -> None:
    code = api.new_job()["code"]
    answer = api.post(f"/jobs/{code}/steps/identify/close")
    assert answer.status_code == 422
    assert "refrigerant" in answer.json()["detail"]
    assert answer.json()["path"] == "/steps/identify"


def test_a_quick_total_gives_the_mark_and_becomes_a_job(api: Api) -> None:
    code = api.new_job(kind="quick")["code"]
    plate = {k: v for k, v in PLATE.items() if k not in {"metering", "kind"}}
    saved = api.save(
        code,
        {
            **plate,
            f"{WEIGH}/draws/d1/gross_start": "31 lb 6.5 oz",
            f"{WEIGH}/draws/d1/tare": "9 lb",
            f"{WEIGH}/draws/d1/hose_loss": "0.6 oz",
        },
    ).json()
    assert figure(saved, "weigh_in", "close_at") == pytest.approx(334.4 * 0.028349523125, abs=1e-4)
    adopted = api.post(f"/jobs/{code}/adopt", title="Roof unit 3").json()
    assert (adopted["kind"], adopted["title"], len(adopted["findings"]["steps"])) == ("charge", "Roof unit 3", 4)
    assert figure(adopted, "identify", "total") == figure(saved, "identify", "total")
    assert api.post(f"/jobs/{code}/adopt").status_code == 422


def make_circuit(shop: Shop) -> Circuit:
    system = System.objects.create(site=Site.objects.create(shop=shop, name="Site"), name="System")
    plate = {"refrigerant": "R-410A", "factory_charge": {"value": 4.0823, "text": "9 lb 0 oz", "unit": "lb oz"}}
    return Circuit.objects.create(system=system, code="C-1", name="Circuit 1", plate=plate)


def test_a_job_copies_the_plate_and_teaches_it_back_only_when_accepted(api: Api, shop: Shop) -> None:
    circuit = make_circuit(shop)
    code = api.new_job(circuit_id=circuit.pk)["code"]
    assert api.get(f"/jobs/{code}").json()["job"]["circuit"]["plate"]["factory_charge"]["text"] == "9 lb 0 oz"
    api.save(code, {**PLATE, "factory_charge": "9 lb 0 oz", "oil": "POE"})
    ending = {f"{CLOSE}/outcome": "left_safe", f"{CLOSE}/reason": "no cylinder on the van"}
    api.save(code, ending)
    unanswered = api.post(f"/jobs/{code}/steps/close_out/close")
    assert unanswered.status_code == 422
    assert "put this plate on the circuit's record" in unanswered.json()["detail"]
    api.save(code, {f"{CLOSE}/update_circuit": False})
    assert api.post(f"/jobs/{code}/steps/close_out/close").json()["closed"] is True
    circuit.refresh_from_db()
    assert circuit.revision == 1
    assert circuit.fingerprint is not None
    assert circuit.fingerprint["job"] == code
    assert not CircuitRevision.objects.exists()
    api.post(f"/jobs/{code}/steps/close_out/reopen", reason="take the plate over")
    api.save(code, {f"{CLOSE}/update_circuit": True}, change={"seen": False})
    api.post(f"/jobs/{code}/steps/close_out/close")
    circuit.refresh_from_db()
    assert (circuit.revision, circuit.plate["oil"]) == (2, "POE")
    assert CircuitRevision.objects.get().revision == 2


def test_an_unknown_circuit_is_refused(api: Api, shop: Shop) -> None:
    assert api.post("/jobs", kind="charge", circuit_id=99).json()["path"] == "/circuit_id"


def test_documents_go_out_and_come_back(api: Api) -> None:
    code = api.new_job(title="Out and back")["code"]
    api.save(code, PLATE)
    text = api.get(f"/jobs/{code}/document").content.decode()
    back = api.post("/jobs/import", document=text, again=True)
    assert back.status_code == 201
    assert back.json()["code"] != code
    first, second = (j["findings"]["steps"] for j in (json.loads(text), back.json()))
    assert [s["figures"] for s in first] == [s["figures"] for s in second]


@pytest.mark.parametrize(
    "text", ["", "{", '{"format":"yoshi-job","version":99}', '{"format":"yoshi-job","version":2,"job":{"id":"x","no":1}}']
)
def test_what_is_no_document_is_refused_whole(api: Api, text: str) -> None:
    answer = api.post("/jobs/import", document=text)
    assert answer.status_code == 422
    assert answer["Content-Type"] == "application/problem+json"
    assert not Job.objects.exists()
    assert not AcceptedRequest.objects.exists()


@pytest.mark.parametrize(
    ("path", "body", "status"),
    [
        ("/jobs", {"kind": "dance"}, 422),
        ("/jobs", {"kind": "charge", "surprise": 1}, 422),
        ("/jobs", {"kind": "charge", "key": "short"}, 422),
        ("/jobs/nothing/changes", {"changes": []}, 404),
        ("/jobs/nothing/steps/identify/close", {}, 404),
    ],
)
def test_bad_requests_are_problems_never_500(api: Api, path: str, body: dict[str, Any], status: int) -> None:
    answer = api.post(path, **body)
    assert answer.status_code == status
    assert set(answer.json()) == {"type", "title", "status", "code", "detail", "path", "params"}


def test_broken_json_and_wrong_paths_are_problems(api: Api) -> None:
    code = api.new_job()["code"]
    broken = api.client.post(f"/api/jobs/{code}/changes", "{", content_type="application/json")
    assert broken.status_code == 400
    for path in (
        "/id",
        "",
        "x",
        f"{BASE}/colour",
        "/steps/verify/runs/0/sheet/readings//outdoor",
        "/steps/identify/runs/99999999999999999999/sheet/oil",
    ):
        answer = (
            api.save(code, {path or "/": "x"})
            if path.startswith("/") or not path
            else api.post(f"/jobs/{code}/changes", changes=[{"path": path, "value": "x"}])
        )
        assert answer.status_code in {200, 422}, (path, answer.content)
        assert answer.status_code == 422 or answer.json()["problems"], path
    assert api.post(f"/jobs/{code}/steps/dance/close").status_code == 422
    assert api.get("/jobs", after="nonsense").status_code == 422


def test_another_shop_sees_nothing(api: Api) -> None:
    code = api.new_job()["code"]
    stranger = Client()
    stranger.force_login(make_person(Shop.objects.create(name="Other"), "stranger"))
    other = Api(stranger)
    assert other.get(f"/jobs/{code}").status_code == 404
    assert other.get("/jobs").json()["jobs"] == []
    assert other.save(code, {"oil": "x"}).status_code == 404
    for paper in ("record", "label", "document", "history"):
        assert other.get(f"/jobs/{code}/{paper}").status_code == 404


def test_lists_are_keyset_pages_with_a_fixed_number_of_queries(api: Api, django_assert_num_queries: Any) -> None:
    template = Job.objects.get(code=api.new_job()["code"])
    rows = []
    for n in range(119):
        row = Job.objects.get(pk=template.pk)
        row.pk, row.code = None, f"copy-{n}"
        rows.append(row)
    Job.objects.bulk_create(rows)
    for row in Job.objects.exclude(pk=template.pk):
        row.people.add(*template.people.all())
    seen: list[str] = []
    after = ""
    while True:
        with django_assert_num_queries(6):
            page = api.get("/jobs", after=after).json()
        seen += [j["code"] for j in page["jobs"]]
        after = page["next"]
        if not after:
            break
    assert len(seen) == len(set(seen)) == 120


@pytest.mark.django_db(transaction=True)
def test_four_writers_on_one_job_lose_nothing(api: Api, person: Person) -> None:
    code = api.new_job()["code"]
    failures: list[Any] = []

    def write(number: int) -> None:
        client = Client()
        client.force_login(person)
        for turn in range(5):
            answer = Api(client).save(code, {f"parts/p{number}-{turn}/label": f"part {number}.{turn}"})
            if answer.status_code != 200 or not answer.json()["accepted"]:
                failures.append(answer.content)
        connections.close_all()

    threads = [threading.Thread(target=write, args=(n,)) for n in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert not failures
    parts = api.get(f"/jobs/{code}").json()["job"]["steps"]["identify"]["runs"][0]["sheet"]["parts"]
    assert len(parts) == 20
    assert list(Change.objects.filter(job__code=code).order_by("seq").values_list("seq", flat=True)) == list(range(1, 22))
    connection.close()


def test_a_changed_practice_judges_new_jobs_and_leaves_the_ones_begun(api: Api, owner: Api) -> None:
    begun = api.new_job()["code"]
    api.save(begun, PLATE)
    body = {"seen_revision": 0, "name": "Ours", "overrides": {"plate.limit": "4 oz"}, "choices": {}, "reason": "plates here are worn"}
    assert owner.send("PUT", "/profile", **body).status_code == 200
    fresh = api.new_job()["code"]
    api.save(fresh, PLATE)
    spread = []
    for code in (begun, fresh):
        steps = api.get(f"/jobs/{code}").json()["findings"]["steps"]
        spread.append(next(f for f in steps[0]["figures"] if f["id"] == "total")["amount"]["u"])
    assert spread[1] > 2 * spread[0]


def test_what_another_school_would_change_is_said_and_nothing_is_saved(api: Api) -> None:
    code = api.new_job()["code"]
    api.save(code, {**PLATE, "included_length": "50 ft", "lines/l1/length": "30 ft", "lines/l1/allowance": "0.6 oz/ft"})
    before = Job.objects.get(code=code)
    found = api.get(f"/jobs/{code}/schools").json()
    deduct = next(change for change in found if (change["choice"], change["option"]) == ("line.shorter_than_included", "deduct"))
    [total] = [f for step in deduct["steps"] for f in step["figures"] if f["label"] == "total charge"]
    assert total["after"]["value"] == pytest.approx(total["before"]["value"] - 12 * 0.028349523)
    after = Job.objects.get(code=code)
    assert (after.seq, after.findings) == (before.seq, before.findings)
