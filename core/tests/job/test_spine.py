"""The rules of the document: three documents go round the spine, and each rule is held."""

import dataclasses
import json
from datetime import timedelta
from typing import Any

import pytest

from tests.make import DRAW, NOW, PLATE, RUNNING, WEIGHED, job
from tests.make_closed import RECOVERED, REPAIRED, UNIT, hold_sheet
from yoshi_core.document import ledger
from yoshi_core.document.model import Circuit, Job, StepRecord
from yoshi_core.errors import DocumentError, InvalidInput
from yoshi_core.job import closing, documents
from yoshi_core.job.evaluate import evaluate, inputs_hash
from yoshi_core.job.new_job import new_job
from yoshi_core.job.patches import Change, save
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import plates, registry
from yoshi_core.steps.pressure_hold.sheet import HoldSheet

BASE = "/steps/identify/runs/0/sheet"
PROFILE = Profile()


def round_trip(subject: Job) -> Job:
    text = documents.dump(subject)
    again = documents.load(text)
    assert documents.dump(again) == text
    assert evaluate(again, PROFILE, NOW) == evaluate(subject, PROFILE, NOW)
    return again


def close(subject: Job, *step_ids: str, **more: Any) -> Job:
    for step in step_ids:
        subject = closing.close_step(subject, PROFILE, step, "M. Orrin", NOW, **more)
    return subject


def test_a_hold_that_failed_was_mended_and_held_over_two_visits() -> None:
    plain = {
        "id": "hold-job",
        "kind": "service",
        "visits": [
            {"id": "v1", "started_at": "2026-06-17T13:00:00+00:00", "ended_at": "2026-06-17T16:50:00+00:00", "people": ["J. Pell"], "outcome": "left_safe", "reason": "14 psi lost, under nitrogen overnight"},
            {"id": "v2", "started_at": "2026-06-18T08:00:00+00:00", "people": ["J. Pell", "M. Orrin"]},
        ],
        "steps": {
            "identify": {"runs": [{"sheet": UNIT}]},
            "recover": {"runs": [{"sheet": RECOVERED}]},
            "repair": {"runs": [{"sheet": REPAIRED}]},
            "pressure_hold": {
                "runs": [
                    {"visit": "v1", "sheet": hold_sheet([(15, 350, 70), (35, 336, 70)], NOW - timedelta(hours=24))},
                    {"visit": "v2", "sheet": hold_sheet([(15, 350, 64), (45, 350, 64)])},
                ]
            },
        },
    }  # fmt: skip
    subject = round_trip(documents.load_job(plain))
    runs = subject.steps["pressure_hold"].runs
    assert [run.visit for run in runs] == ["v1", "v2"]
    assert isinstance(runs[0].sheet, HoldSheet)
    assert subject.visits[0].outcome == "left_safe"
    assert "pressure_hold" not in registry.order("charge")
    assert evaluate(subject, PROFILE, NOW).step("pressure_hold").verdict.word == "Holds"
    first_only = dataclasses.replace(subject, steps={**subject.steps, "pressure_hold": StepRecord(runs[:1])})
    assert evaluate(first_only, PROFILE, NOW).step("pressure_hold").verdict.word == "Stop"


def test_a_weigh_in_with_two_cylinders_reopened_and_closed_again() -> None:
    first = {"cylinder": "14", "gross_start": "14 lb", "tare": "9 lb", "gross_end": "9 lb 2 oz"}
    second = {"cylinder": "15", "gross_start": "30 lb", "tare": "9 lb", "gross_end": "24 lb 6.5 oz"}
    weigh = {"system_state": "empty", "draws": {"d1": first, "d2": second}}
    subject = close(round_trip(job(PLATE, weigh)), "identify", "weigh_in")
    keys = {p.movement.key: p for p in subject.ledger}
    assert set(keys) == {"test-job/weigh_in/0/d1/1", "test-job/weigh_in/0/d2/1"}
    assert ledger.balance_kg(subject.ledger, "circuit:test-job") == pytest.approx(4.7485, abs=1e-3)

    opened = closing.reopen_step(subject, "weigh_in", "M. Orrin", NOW, "second cylinder read again")
    assert opened.ledger == subject.ledger
    path = "/steps/weigh_in/runs/0/sheet/draws/d2/gross_end"
    corrected = save(opened, [Change(path, None, "24 lb 7.0 oz", force=True)], "M. Orrin", NOW).job
    again = round_trip(close(corrected, "weigh_in"))
    assert [p.kind for p in again.ledger] == ["movement", "movement", "reversal", "movement"]
    assert again.ledger[2].movement.key == "test-job/weigh_in/0/d2/1"
    assert ledger.standing(again.ledger)["test-job/weigh_in/0/d1/1"] == subject.ledger[0].movement
    assert [e.kind for e in again.steps["weigh_in"].events] == ["closed", "reopened", "closed"]
    assert again.steps["weigh_in"].events[0].shown["verdict"]["word"] == "Holds"


def test_two_circuits_with_a_transfer() -> None:
    movement = {
        "key": "donor/recover/0/t1",
        "kind": "transfer",
        "source": "circuit:A",
        "destination": "circuit:B",
        "refrigerant": "R-410A",
        "mass_kg": 0.9,
        "provenance": "weighed",
    }
    donor = documents.load_job(
        {
            "id": "donor",
            "circuit": {"id": "A"},
            "steps": {"recover": {"runs": [{"sheet": {"use": "other_circuit", "to_circuit": "B", "to_circuit_mass": "900 g"}}]}},
            "ledger": [{"kind": "movement", "movement": movement, "at": NOW.isoformat()}],
        }
    )
    receiver = documents.load_job(
        {
            "id": "receiver",
            "circuit": {"id": "B"},
            "facts": [
                {"kind": "transfer_in", "key": movement["key"], "as_of": NOW.isoformat(), "source": "job donor", "values": {"mass_kg": 0.9}}
            ],
        }
    )
    assert ledger.balance_kg(round_trip(donor).ledger, "circuit:A") == -0.9
    assert ledger.balance_kg(donor.ledger, "circuit:B") == 0.9
    assert round_trip(receiver).facts[0].key == movement["key"]


def test_the_last_run_judges_and_the_charge_inside_sums_over_all() -> None:
    plain = documents.dump_job(job(PLATE, WEIGHED))
    low = {**DRAW, "gross_end": "24 lb 0 oz"}
    rest = {"cylinder": "15", "gross_start": "24 lb", "tare": "9 lb", "gross_end": "20 lb 15 oz"}
    plain["steps"]["weigh_in"] = {
        "runs": [{"sheet": {"system_state": "empty", "draws": {"d1": low}}}, {"sheet": {"system_state": "empty", "draws": {"d1": rest}}}]
    }
    found = evaluate(documents.load_job(plain), PROFILE, NOW).step("weigh_in")
    inside = found.figure("inside")
    assert inside is not None
    assert inside.amount.value == pytest.approx((502.5 - 384 - 0.6 + 384 - 335) * 0.028349523125, abs=1e-6)
    assert {m.key for m in found.movements} == {"test-job/weigh_in/0/d1/1", "test-job/weigh_in/0/d1/2", "test-job/weigh_in/1/d1/1"}


def test_a_changed_input_shows_on_the_closed_step_and_stops_closing_out() -> None:
    outcome = {"outcome": "proven", "label_fixed": True}
    subject = close(job(PLATE, WEIGHED, RUNNING, sheets={"close_out": outcome}), "identify", "weigh_in", "verify")
    assert {r.state for r in evaluate(subject, PROFILE, NOW).steps[:3]} == {"closed"}
    shut = save(subject, [Change(f"{BASE}/lines/l1/length", None, "60 ft", force=True)], "J. Pell", NOW)
    assert shut.problems[0].code == "step_closed"
    subject = closing.reopen_step(subject, "identify", "J. Pell", NOW, "line measured again")
    moved = save(subject, [Change(f"{BASE}/lines/l1/length", None, "60 ft", force=True)], "J. Pell", NOW).job
    states = {r.step: r.state for r in evaluate(moved, PROFILE, NOW).steps}
    assert (states["identify"], states["weigh_in"], states["verify"]) == ("open", "changed", "changed")
    assert {m.rule_id for m in evaluate(moved, PROFILE, NOW).step("close_out").verdict.reasons} >= {"close_out.changed"}
    with pytest.raises(InvalidInput, match="The job cannot close"):
        close(moved, "close_out")


def test_closing_stores_the_result_as_shown_and_evaluate_never_reads_it() -> None:
    subject = close(job(PLATE), "identify")
    event = subject.steps["identify"].events[-1]
    assert event.inputs_hash == inputs_hash(subject, "identify")
    forged = dataclasses.replace(event, shown={"verdict": {"word": "Stop"}})
    record = dataclasses.replace(subject.steps["identify"], events=(forged,))
    tampered = dataclasses.replace(subject, steps={**subject.steps, "identify": record})
    assert evaluate(tampered, PROFILE, NOW).steps == evaluate(subject, PROFILE, NOW).steps


def test_a_profile_switch_leaves_closed_steps_as_they_were_judged() -> None:
    subject = close(job(PLATE, WEIGHED, RUNNING), "identify", "weigh_in", "verify")
    strict = Profile(revision=2, overrides={"verify.run_in": 3600.0})
    assert evaluate(subject, strict, NOW).step("verify").verdict.word == "Holds"
    opened = closing.reopen_step(subject, "verify", "T. Vesk", NOW, "tighter practice")
    assert evaluate(opened, strict, NOW).step("verify").verdict.word == "Wait"


def test_reopening_needs_a_reason_and_can_start_over_keeping_the_old_run() -> None:
    subject = close(job(PLATE, WEIGHED), "identify", "weigh_in")
    with pytest.raises(InvalidInput, match="needs a reason"):
        closing.reopen_step(subject, "weigh_in", "M. Orrin", NOW, "  ")
    over = closing.reopen_step(subject, "weigh_in", "M. Orrin", NOW, "valve left open", new_run=True)
    assert len(over.steps["weigh_in"].runs) == 2
    assert over.steps["weigh_in"].runs[0].sheet == subject.steps["weigh_in"].runs[0].sheet


def test_a_step_that_does_not_hold_closes_only_with_a_reason() -> None:
    short = {"system_state": "empty", "draws": {"d1": {**DRAW, "gross_end": "22 lb"}}}
    subject = close(job(PLATE, short), "identify")
    with pytest.raises(InvalidInput, match="needs a reason"):
        close(subject, "weigh_in")
    closed = close(subject, "weigh_in", reason="cylinder ran out, rest tomorrow")
    assert closed.steps["weigh_in"].events[-1].reason.startswith("cylinder ran out")
    with pytest.raises(InvalidInput, match="closed already"):
        close(closed, "weigh_in")


def test_an_open_step_does_not_close() -> None:
    with pytest.raises(InvalidInput, match="Still needed: refrigerant"):
        close(job({}), "identify")


def test_not_applicable_needs_its_reason() -> None:
    with pytest.raises(InvalidInput):
        closing.not_applicable(job(PLATE), "verify", "M. Orrin", NOW, "")
    done = closing.not_applicable(job(PLATE), "verify", "M. Orrin", NOW, "no power on site today")
    assert evaluate(done, PROFILE, NOW).step("verify").state == "not_applicable"


def test_a_proven_job_teaches_the_circuit_only_what_was_accepted() -> None:
    circuit = {"id": "CR-1", "plate": {**PLATE, "factory_charge": "9 lb 0 oz"}}
    sheet = {"factory_charge": "9 lb 4 oz"}
    outcome = {"outcome": "proven", "label_fixed": True}
    subject = job(sheet, WEIGHED, RUNNING, sheets={"close_out": outcome}, circuit=circuit)
    said = [message.show() for message in plates.differences(subject)]
    assert "Factory charge: on record 9 lb 0.0 oz, in this job 9 lb 4.0 oz." in said
    assert [m.label for m in evaluate(subject, PROFILE, NOW).step("close_out").missing] == ["put this plate on the circuit's record"]
    assert closing.circuit_lesson(subject) is None
    accepted = save(subject, [Change("/steps/close_out/runs/0/sheet/update_circuit", None, True)], "M. Orrin", NOW).job
    lesson = closing.circuit_lesson(accepted)
    assert lesson is not None
    assert lesson.factory_charge is not None
    assert lesson.factory_charge.text == "9 lb 4 oz"


def test_different_fields_merge_and_the_same_field_keeps_both_values() -> None:
    start = job(PLATE)
    seen = documents.dump_job(start)["steps"]["identify"]["runs"][0]["sheet"]["lines"]["l1"]["length"]
    orrin = save(start, [Change(f"{BASE}/lines/l1/length", seen, "52 ft")], "M. Orrin", NOW)
    assert not orrin.conflicts
    other = save(
        orrin.job,
        [Change(f"{BASE}/oil", None, "POE"), Change(f"{BASE}/lines/l1/length", seen, "46 ft")],
        "J. Pell",
        NOW + timedelta(minutes=3),
    )
    assert other.job.steps["identify"].runs[0].sheet.oil == "POE"
    (conflict,) = other.conflicts
    assert (conflict.theirs["text"], conflict.yours["text"], conflict.by) == ("52 ft", "46 ft", "M. Orrin")
    assert other.job.disputes[0].value["text"] == "46 ft"
    chosen = save(other.job, [Change(f"{BASE}/lines/l1/length", None, "46 ft", force=True)], "M. Orrin", NOW)
    assert not chosen.job.disputes
    assert chosen.job.steps["identify"].runs[0].sheet.lines["l1"].length.text == "46 ft"


def test_saying_the_same_thing_twice_is_no_conflict() -> None:
    start = save(job(PLATE), [Change(f"{BASE}/oil", None, "POE")], "M. Orrin", NOW).job
    assert not save(start, [Change(f"{BASE}/oil", None, "POE")], "J. Pell", NOW).conflicts


@pytest.mark.parametrize(
    "path",
    [
        "/id",
        "/steps/identify/runs/0/sheet",
        "/steps/nothing/runs/0/sheet/x",
        f"{BASE}/colour",
        "/ledger/0",
        f"{BASE}/lines/l1/length/value",
        "/steps/identify/runs/7/sheet/oil",
    ],
)
def test_only_fields_of_sheets_can_be_saved(path: str) -> None:
    before = job(PLATE)
    try:
        saved = save(before, [Change(path, None, "x", force=True)], "M. Orrin", NOW)
    except DocumentError:
        return
    assert saved.problems
    assert saved.job == before


def test_a_new_job_is_empty_and_open() -> None:
    subject = new_job("n", "charge", "New", Circuit(), PROFILE, "M. Orrin", NOW)
    found = evaluate(round_trip(subject), PROFILE, NOW)
    assert [r.verdict.word for r in found.steps] == ["Open"] * 4
    quick = new_job("q", "quick", "Quick", Circuit(), PROFILE, "M. Orrin", NOW)
    assert [r.step for r in evaluate(quick, PROFILE, NOW).steps] == ["identify", "weigh_in"]


def test_an_export_carries_findings_that_evaluate_gives_again() -> None:
    text = documents.export(job(PLATE, WEIGHED, RUNNING), PROFILE, NOW)
    export = documents.loads(text)
    assert export.now == NOW
    again = json.loads(documents.export(export.job, export.profile, export.now))
    assert again["findings"] == json.loads(text)["findings"]
