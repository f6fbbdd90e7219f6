"""The door a device asks through: the same job, entries and acts as at the server, and what is refused there is refused here."""

import json
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest

from tests.make import NOW
from yoshi_core import __version__
from yoshi_core.device.door import ANSWERS, answer
from yoshi_core.document import schema
from yoshi_core.job import documents, what_if
from yoshi_core.job.evaluate import evaluate
from yoshi_core.profile.profile import Profile

EXAMPLES = Path(__file__).parents[3] / "examples"
CHARGE = json.loads((EXAMPLES / "01-control-room.json").read_text())
SHEET = "/steps/identify/runs/0/sheet"
AT = NOW.isoformat()


def ask(**question: Any) -> Any:
    return json.loads(answer(json.dumps(question)))


def judge(job: Any = None, **more: Any) -> Any:
    said = ask(ask="judge", job=job or CHARGE["job"], version=CHARGE["version"], by="M. Orrin", now=AT, **more)
    return said["said"]


def begun(kind: str = "charge") -> Any:
    return ask(ask="new", code="0123456789ab", kind=kind, title=" Basement ", by="M. Orrin", now=AT)["said"]


def change(path: str, value: Any, seen: Any = None) -> dict[str, Any]:
    return {"path": f"{SHEET}/{path}", "seen": seen, "value": value, "typed_at": AT}


def word(said: Any, step: str) -> str:
    found: str = next(result["verdict"]["word"] for result in said["findings"]["steps"] if result["step"] == step)
    return found


@pytest.mark.parametrize("path", sorted(EXAMPLES.glob("*.json")), ids=lambda path: path.stem)
def test_a_stored_job_says_what_evaluate_says(path: Path) -> None:
    plain = json.loads(path.read_text())
    said = ask(ask="judge", job=plain["job"], version=plain["version"], by="x", now=AT)["said"]
    job = documents.load(path.read_text())
    profile = job.profile_events[-1].profile if job.profile_events else Profile()
    assert said["findings"] == json.loads(json.dumps(schema.dump_full(evaluate(job, profile, NOW))))
    assert (said["core_version"], said["document_version"], said["said"]) == (__version__, documents.VERSION, [])


def test_the_shops_profile_judges_what_is_pinned_to_none() -> None:
    bare = {**CHARGE["job"], "profile_events": []}
    assert judge(bare, profile={"id": "ours", "revision": 7})["findings"]["profile_revision"] == 7


def test_a_new_job_is_named_pinned_and_open() -> None:
    made = begun()
    job = made["job"]
    assert (job["id"], made["title"], made["kind"]) == ("0123456789ab", "Basement", "charge")
    assert job["visits"][0] == {"id": "v1", "started_at": AT, "people": ["M. Orrin"]}
    assert len(job["profile_events"]) == 1


def test_a_new_job_takes_its_circuit_with_what_is_known_of_it() -> None:
    circuit = {"id": "A-1", "name": "Attic", "revision": 3, "plate": {"refrigerant": "R-410A"}}
    facts = [{"kind": "weighed_total", "key": "A-1", "as_of": AT, "source": "job x", "values": {"mass_kg": 4.2}}]
    said = ask(ask="new", code="0123456789ab", kind="service", circuit=circuit, facts=facts, by="x", now=AT)["said"]
    assert (said["title"], said["job"]["circuit"]["revision"], said["job"]["facts"]) == ("Attic", 3, facts)


def test_what_is_typed_counts_and_is_not_stored() -> None:
    made = begun()
    said = judge(made["job"], draft=[change("refrigerant", "r410a"), change("factory_charge", "7 lb 8 oz")])
    total = next(f for f in said["findings"]["steps"][0]["figures"] if f["id"] == "total")
    assert total["amount"]["value"] == pytest.approx(7.5 * 0.45359237)
    assert said["echoes"][f"{SHEET}/factory_charge"]["also"] == ["7.50 lb", "120.0 oz", "3.402 kg"]
    assert said["job"] == made["job"]


def test_what_waits_is_put_on_top_in_its_order_and_a_bad_entry_keeps_no_other_back() -> None:
    made = begun()
    batch = {"at": AT, "changes": [change("refrigerant", "R-410A"), change("factory_charge", "7 lb 17 oz"), change("oil", "POE")]}
    said = judge(made["job"], queue=[batch])
    assert said["job"]["steps"]["identify"]["runs"][0]["sheet"] == {"refrigerant": "R-410A", "oil": "POE"}
    [answered] = said["said"]
    assert [problem["path"] for problem in answered["problems"]] == [f"{SHEET}/factory_charge"]


def test_an_act_is_done_by_the_rules_or_refused_with_its_words_and_what_follows_is_still_done() -> None:
    made = begun()
    close = {"act": "close", "step": "identify", "reason": "", "at": AT}
    entry = {"at": AT, "changes": [change("oil", "POE")]}
    said = judge(made["job"], queue=[close, entry, {**close, "reason": "plate is gone"}])
    refused, taken, closed = said["said"]
    assert "Still needed" in refused["refused"]["message"]["text"]
    assert taken["problems"] == []
    assert closed == {}
    assert said["findings"]["steps"][0]["state"] == "closed"
    opened = {"act": "reopen", "step": "identify", "reason": "misread", "new_run": True, "at": AT}
    again = judge(said["job"], queue=[opened])
    assert (again["findings"]["steps"][0]["state"], len(again["job"]["steps"]["identify"]["runs"])) == ("open", 2)


def test_a_step_is_left_out_and_a_visit_ended_and_begun() -> None:
    made = begun("service")
    left = {"act": "leave_out", "step": "recover", "reason": "the charge stays in", "at": AT}
    ended = {"act": "end_visit", "outcome": "left_safe", "reason": "dusk", "awaited": "", "return_on": "", "at": AT}
    said = judge(made["job"], queue=[left, ended, {"act": "start_visit", "at": (NOW + timedelta(hours=1)).isoformat()}])
    assert said["said"] == [{}, {}, {}]
    assert [visit["id"] for visit in said["job"]["visits"]] == ["v1", "v2"]
    assert next(s["state"] for s in said["findings"]["steps"] if s["step"] == "recover") == "not_applicable"


def test_a_quick_total_becomes_a_job_once() -> None:
    made = begun("quick")
    adopt = {"act": "adopt", "title": "Attic", "circuit": {"id": "A-1", "name": "Attic"}, "at": AT}
    said = judge(made["job"], queue=[adopt, adopt])
    assert (said["kind"], said["title"], said["job"]["circuit"]["id"]) == ("charge", "Attic", "A-1")
    assert said["said"][1]["refused"]["message"]["text"] == "This is a job already."


def test_the_papers_hold_what_waits_and_what_is_typed() -> None:
    made = begun()
    waits = [{"at": AT, "changes": [change("refrigerant", "R-410A"), change("factory_charge", "7 lb 8 oz")]}]
    more = {"job": made["job"], "version": documents.VERSION, "by": "x", "now": AT, "queue": waits, "shop": "Brindlewick"}
    record = ask(ask="paper", paper="record", units="us", draft=[change("serial", "QR-11")], **more)["said"]
    assert record.startswith("<!doctype html>")
    assert "Basement" in record
    assert "QR-11" in record
    assert "7 lb 8.0 oz" in record
    label = ask(ask="paper", paper="label", face="url(/face.woff2)", **more)["said"]
    assert "R-410A" in label
    assert "src: url(/face.woff2);" in label


def test_a_title_is_text_on_paper_and_nothing_else() -> None:
    made = ask(ask="new", code="0123456789ab", kind="charge", title="<b>x</b>", by="x", now=AT)["said"]
    more = {"job": made["job"], "version": documents.VERSION, "by": "x", "now": AT, "shop": "<i>y</i>"}
    record = ask(ask="paper", paper="record", **more)["said"]
    assert "<b>x</b>" not in record
    assert "<i>y</i>" not in record
    assert "&lt;b&gt;x&lt;/b&gt;" in record


def test_a_document_to_keep_reads_back_with_what_waits() -> None:
    made = begun()
    entry = {"at": AT, "changes": [change("oil", "POE")]}
    text = ask(ask="export", job=made["job"], version=documents.VERSION, by="x", now=AT, queue=[entry])["said"]
    assert documents.load(text).steps["identify"].runs[0].sheet.oil == "POE"


def test_logs_of_open_runs_are_judged_though_they_are_in_no_document() -> None:
    made = begun("service")
    before = (NOW - timedelta(hours=1)).isoformat()
    pump = {"path": "/steps/evacuate/runs/0/sheet/events/e1", "value": {"at": before, "do": "pump"}}
    pumped = judge(made["job"], queue=[{"at": before, "changes": [pump]}])["job"]
    trace = {"starts_at": before, "seconds": [0.0, 600.0], "values": [9000.0, 40.0], "rows": 2}
    known = {"step": "evacuate", "field": "trace", "trace": trace}
    without, said = judge(pumped), judge(pumped, traces=[known, {**known, "step": "pressure_hold"}])
    [bare, read] = [next(s for s in one["findings"]["steps"] if s["step"] == "evacuate") for one in (without, said)]
    assert bare["figures"] != read["figures"]
    assert "trace" not in said["job"]["steps"]["pressure_hold"]["runs"][0]["sheet"]


def test_a_document_of_a_later_version_is_refused_and_says_so() -> None:
    said = ask(ask="judge", job=CHARGE["job"], version=documents.VERSION + 1, by="x", now=AT)
    assert said["refused"]["path"] == "/version"
    assert "Update Yoshi" in said["refused"]["detail"]


def test_look_ups_refuse_in_the_units_of_who_asks() -> None:
    typed = {"pressure": "", "temperature": "", "altitude": "0 m", "units": "si"}
    assert ask(ask="saturation", name="R-32", gauge="vented", **typed)["said"]["refrigerant"] == "R-32"
    assert ask(ask="saturation", name="R-32", gauge="neither", **typed)["refused"]["detail"] == "A gauge is vented or sealed."
    assert ask(ask="chart", name="R-0", units="us")["refused"]["code"]
    table = ask(ask="compare", plate={"refrigerant": "R-22"}, asked={}, units="us")["said"]
    assert table["refrigerant"] == "R-22"
    assert len(ask(ask="refrigerants")["said"]) == len(table["rows"]) + 1


def test_other_schools_are_tried() -> None:
    plain = json.loads((EXAMPLES / "02-staff-quarters-trim.json").read_text())
    said = ask(ask="schools", job=plain["job"], version=plain["version"], by="x", now=AT)["said"]
    job = documents.load_job(plain["job"])
    there = what_if.other_schools(job, job.profile_events[-1].profile if job.profile_events else Profile(), NOW)
    assert said == json.loads(json.dumps(schema.dump_full(there)))


def test_a_question_that_is_none_is_the_programs_mistake() -> None:
    assert len(ANSWERS) == 9
    with pytest.raises(KeyError):
        answer('{"ask": "everything"}')
