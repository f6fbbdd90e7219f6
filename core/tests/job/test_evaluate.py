"""The one door: what a step reads, whose profile judges it, what a repair changes, and what is disputed."""

import dataclasses
import hashlib
import json
from typing import Any

import pytest

from tests.make import NOW, PLATE, RUNNING, WEIGHED, job, oz
from tests.make_closed import RECOVERED, REPAIRED, UNIT
from yoshi_core.document import schema
from yoshi_core.document.model import Circuit, Job
from yoshi_core.job import closing, documents
from yoshi_core.job.evaluate import evaluate, full_charge_kg, inputs_hash
from yoshi_core.job.patches import Change, save
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import plates


def test_the_seal_of_a_steps_inputs_is_written_out_by_hand() -> None:
    """Kept for ever in closed records: another writing of the same inputs would call every one of them changed."""
    lines = {"l2": {"length": "9 ft"}, "l1": {"length": "8 ft"}}
    subject = job({"serial": "Kühl 7", "lines": lines}, WEIGHED, circuit={"id": "A"})
    text = json.dumps(
        {"circuit": {"id": "A"}, "runs": {"identify": schema.dump(subject.steps["identify"].runs)}},
        sort_keys=True, separators=(",", ":"), ensure_ascii=False,
    )  # fmt: skip
    assert text.startswith('{"circuit":{"id":"A"},"runs":{"identify":[{"sheet":{"lines":{"l1":{"length":{')
    assert '"serial":"Kühl 7"' in text
    assert inputs_hash(subject, "identify") == hashlib.sha256(text.encode()).hexdigest()


@pytest.mark.parametrize(
    ("step", "changed"), [("identify", {"identify", "weigh_in", "verify", "close_out"}), ("verify", {"verify", "close_out"})]
)
def test_a_step_is_changed_by_what_it_reads_and_by_nothing_else(step: str, changed: set[str]) -> None:
    subject = job(PLATE, WEIGHED, RUNNING, sheets={"close_out": {"outcome": "proven"}})
    record = subject.steps[step]
    other = dataclasses.replace(record, runs=(*record.runs, dataclasses.replace(record.runs[-1], visit="v9")))
    after = dataclasses.replace(subject, steps={**subject.steps, step: other})
    assert {name for name in subject.steps if inputs_hash(subject, name) != inputs_hash(after, name)} == changed
    moved = dataclasses.replace(subject, circuit=Circuit(id="B"))
    assert all(inputs_hash(subject, name) != inputs_hash(moved, name) for name in subject.steps)


def test_the_full_charge_of_a_plate() -> None:
    plate = job(PLATE).steps["identify"].runs[0].sheet
    full = full_charge_kg(plate, Profile())
    assert full is not None
    assert oz(full) == pytest.approx(9 * 16 + 4 + 30 * 0.6 + 1.5)
    assert full_charge_kg(dataclasses.replace(plate, factory_charge=None), Profile()) is None
    longer = dataclasses.replace(plate, included_length=None)
    assert full_charge_kg(longer, Profile()) != full


def test_a_closed_step_is_judged_by_the_profile_it_was_closed_under() -> None:
    running = {**RUNNING, "run_in": "15 min"}
    patient = Profile(overrides={"verify.run_in": 3600.0})
    assert evaluate(job(PLATE, WEIGHED, running), patient, NOW).step("verify").verdict.word != "Holds"
    closed = closing.close_step(job(PLATE, WEIGHED, running), Profile(), "verify", "M. Orrin", NOW)
    assert evaluate(closed, patient, NOW).step("verify").verdict.word == "Holds"
    opened = closing.reopen_step(closed, "verify", "M. Orrin", NOW, "again")
    assert evaluate(opened, patient, NOW).step("verify").verdict.word != "Holds"


def test_a_part_put_in_by_the_repair_joins_the_total_unless_the_repair_does_not_apply() -> None:
    repaired = {**REPAIRED, "parts": {"p1": {"label": "drier", "kind": "drier", "charge": "3 oz"}}}
    subject = job(UNIT, kind="service", sheets={"recover": RECOVERED, "repair": repaired})

    def total(of: Job) -> float:
        figure = evaluate(of, Profile(), NOW).step("identify").figure("total")
        assert figure is not None
        return oz(figure.amount.value)

    assert total(subject) == pytest.approx(6 * 16 + 3)
    left_out = closing.not_applicable(subject, "repair", "J. Pell", NOW, "nothing was opened")
    assert total(left_out) == pytest.approx(6 * 16)
    assert evaluate(subject, Profile(), NOW).step("identify").state == "open"
    shut = closing.close_step(
        job({**UNIT}, kind="service", sheets={"recover": RECOVERED, "repair": repaired}), Profile(), "identify", "M", NOW
    )
    assert evaluate(shut, Profile(), NOW).step("identify").state == "closed"
    assert total(shut) == pytest.approx(6 * 16 + 3)


def test_a_seen_caution_is_seen_over_all_runs() -> None:
    subject = job(PLATE, WEIGHED)
    cautions = evaluate(subject, Profile(), NOW).step("weigh_in").cautions
    assert cautions
    assert not any(caution.seen for caution in cautions)
    first = cautions[0].id
    seen = save(subject, [Change(f"/steps/weigh_in/runs/0/answers/safety:{first}", None, "seen")], "J. Pell", NOW).job
    opened = closing.reopen_step(closing.close_step(seen, Profile(), "weigh_in", "M", NOW), "weigh_in", "M", NOW, "again", new_run=True)
    after = evaluate(opened, Profile(), NOW).step("weigh_in").cautions
    assert {caution.id for caution in after if caution.seen} <= {first}
    other = save(subject, [Change(f"/steps/weigh_in/runs/0/answers/safety:{first}", None, "no")], "J. Pell", NOW).job
    assert not any(caution.seen for caution in evaluate(other, Profile(), NOW).step("weigh_in").cautions)


def test_a_hazard_is_read_once_a_job_whichever_step_warned_of_it() -> None:
    """Flammable refrigerant: read at Identify, it is not asked for again at Weigh in, where its own words still stand."""
    plate = {**PLATE, "refrigerant": "R-32", "listed": True}
    subject = job(plate, WEIGHED)
    seen = save(subject, [Change("/steps/identify/runs/0/answers/safety:flammable", None, "seen")], "J. Pell", NOW).job
    before, after = (evaluate(one, Profile(), NOW) for one in (subject, seen))
    for step in ("identify", "weigh_in"):
        said = {caution.id: caution for caution in after.step(step).cautions}
        assert said["flammable"].seen
        assert not {caution.id: caution for caution in before.step(step).cautions}["flammable"].seen
        assert [caution.id for caution in said.values() if caution.seen] == ["flammable"]


def test_a_disputed_plate_is_judged_both_ways() -> None:
    plain = documents.dump_job(job(PLATE, WEIGHED))
    dispute: dict[str, Any] = {"by": "J. Pell", "at": NOW.isoformat()}
    plain["disputes"] = [
        {**dispute, "path": "/steps/identify/runs/0/sheet/lines/l1/length", "value": {"value": 18.288, "text": "60 ft", "unit": "ft"}},
        {**dispute, "path": "/steps/identify/runs/0/sheet/lines/l2/length", "value": {"value": 3.048, "text": "10 ft", "unit": "ft"}},
        {**dispute, "path": "/steps/weigh_in/runs/0/sheet/scale_step", "value": "1 oz"},
        {**dispute, "path": "/title", "value": "T"},
    ]
    found = evaluate(documents.load_job(plain), Profile(), NOW)
    assert found.step("identify").verdict.word != "Stop"
    assert plates.current_plate(documents.load_job(plain)).lines["l1"].length is not None


def test_findings_say_who_judged_and_whether_anything_stops() -> None:
    found = evaluate(job(PLATE), Profile(id="ours", revision=4), NOW)
    assert (found.job_id, found.profile_id, found.profile_revision, found.now) == ("test-job", "ours", 4, NOW)
    assert not found.says_stop
    with pytest.raises(KeyError, match="dance"):
        found.step("dance")
    assert evaluate(job({**PLATE, "listed": False, "refrigerant": "R-290"}), Profile(), NOW).says_stop
