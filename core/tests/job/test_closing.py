"""Closing, reopening and leaving out a step: what is refused and where, and what the record keeps."""

from dataclasses import replace
from datetime import timedelta
from typing import Any

import pytest

from tests.make import DRAW, NOW, PLATE, RUNNING, WEIGHED, job
from tests.make_closed import RECOVERED, UNIT
from yoshi_core import __version__
from yoshi_core.document.model import Job, Run, StepEvent, StepRecord
from yoshi_core.document.plate import Plate
from yoshi_core.errors import InvalidInput
from yoshi_core.job import closing, documents
from yoshi_core.job.evaluate import evaluate, inputs_hash, last_event
from yoshi_core.message import worded
from yoshi_core.profile.profile import Profile
from yoshi_core.rows import in_a_row
from yoshi_core.steps.registry import STEPS

PROFILE = Profile(revision=7)
LATER = NOW + timedelta(hours=1)


def close(subject: Job, step: str, reason: str = "") -> Job:
    return closing.close_step(subject, PROFILE, step, "M. Orrin", NOW, reason)


def refusal(act: Any) -> tuple[str, str]:
    with pytest.raises(InvalidInput) as refused:
        act()
    return refused.value.path, refused.value.message


def test_what_a_closed_step_keeps() -> None:
    subject = close(job(PLATE, WEIGHED), "identify")
    (event,) = subject.steps["identify"].events
    assert (event.kind, event.at, event.by, event.reason) == ("closed", NOW, "M. Orrin", "")
    assert (event.profile, event.core_version) == (PROFILE, __version__)
    assert event.inputs_hash == inputs_hash(subject, "identify")
    assert event.shown["verdict"]["word"] == "Holds"
    assert [run.ended_at for run in subject.steps["identify"].runs] == [NOW]
    assert subject.steps["weigh_in"] == job(PLATE, WEIGHED).steps["weigh_in"]
    assert evaluate(subject, PROFILE, LATER).step("identify").state == "closed"


def test_only_the_last_run_of_a_step_ends_with_it() -> None:
    plain = documents.dump_job(job(PLATE, WEIGHED))
    plain["steps"]["identify"]["runs"] = [
        {"sheet": {"refrigerant": "R-22"}, "ended_at": "2026-06-01T08:00:00+00:00"},
        {"sheet": {"refrigerant": "R-32"}},
        *plain["steps"]["identify"]["runs"],
    ]
    subject = documents.load_job(plain)
    runs = close(subject, "identify").steps["identify"].runs
    assert [run.sheet.refrigerant for run in runs] == ["R-22", "R-32", "R-410A"]
    assert [run.ended_at for run in runs] == [subject.steps["identify"].runs[0].ended_at, None, NOW]


def test_a_step_that_does_not_hold_closes_with_a_reason_and_keeps_it() -> None:
    dirty = {**RUNNING, "coils_ok": False}
    subject = job(PLATE, WEIGHED, dirty)
    word = evaluate(subject, PROFILE, NOW).step("verify").verdict.word
    assert word == "Wait"
    said = ("/steps/verify", "The step says Wait. Closing it all the same needs a reason.")
    assert refusal(lambda: close(subject, "verify")) == said
    assert refusal(lambda: close(subject, "verify", "   ")) == said
    event = last_event(close(subject, "verify", " coil cleaner is on order ").steps["verify"])
    assert event is not None
    assert event.reason == "coil cleaner is on order"


def test_what_is_missing_is_named() -> None:
    path, said = refusal(lambda: close(job({"refrigerant": "R-410A"}), "identify"))
    assert path == "/steps/identify"
    missing = evaluate(job({"refrigerant": "R-410A"}), PROFILE, NOW).step("identify").missing
    assert said == f"Still needed: {in_a_row([worded(entry.label) for entry in missing])}. Closing it all the same needs a reason."
    assert len(missing) > 1


def test_whatever_is_missing_a_reason_closes_and_answers_for_it() -> None:
    subject = close(job(UNIT, kind="service"), "evacuate", "four ports, end of day")
    found = evaluate(subject, PROFILE, NOW)
    assert found.step("evacuate").state == "closed"
    assert found.step("evacuate").missing


def test_no_reason_stands_in_for_an_answer_a_hard_stop_asks_for() -> None:
    subject = job(UNIT, kind="service", sheets={"recover": RECOVERED, "pressure_hold": {"test_pressure": "200 psig"}})
    path, said = refusal(lambda: close(subject, "pressure_hold", "always done so"))
    assert (path, said) == ("/steps/pressure_hold/runs/0/sheet/gas", "A reason is not enough for this: test gas.")


def test_a_wrong_figure_keeps_a_step_open_whatever_its_word() -> None:
    subject = job(PLATE, {"system_state": "empty", "draws": {"d1": DRAW, "d2": {"gross_start": "9 lb", "gross_end": "30 lb"}}})
    result = evaluate(subject, PROFILE, NOW).step("weigh_in")
    assert result.problems
    path, said = refusal(lambda: close(subject, "weigh_in", "a reason"))
    assert path == result.problems[0].path
    assert said == f"The step cannot close yet: {result.problems[0].message.show()}"


def test_a_stop_with_something_missing_stays_open_whatever_the_reason() -> None:
    subject = job({"refrigerant": "R-290", "listed": False, "kind": "reach_in"})
    result = evaluate(subject, PROFILE, NOW).step("identify")
    assert result.verdict.word == "Stop"
    assert result.missing
    path, said = refusal(lambda: close(subject, "identify", "a reason"))
    assert (path, said) == ("/steps/identify", f"A reason does not lift this: {result.verdict.headline.show()}")


def test_an_entry_asked_about_keeps_a_step_open() -> None:
    record = {"circuit": {"id": "C", "name": "C", "plate": {"lines": {"l1": {"length": "17 ft"}}}}}
    subject = job({**PLATE, "pairing_proven": True, "pairing_by": "only"}, WEIGHED, **record)
    result = evaluate(subject, PROFILE, NOW).step("identify")
    assert result.questions
    assert not result.missing
    path, said = refusal(lambda: close(subject, "identify", "a reason"))
    assert (path, said) == (result.questions[0].path, "The step cannot close while an entry is asked about.")


def test_no_reason_lifts_a_hard_stop() -> None:
    """What came out of one owner's unit does not go into another's; no reason changes whose it is."""
    out = {**RECOVERED, "use": "other_circuit", "same_owner": False, "to_circuit": "B", "to_circuit_mass": "1 lb"}
    subject = job(UNIT, kind="service", sheets={"recover": out})
    result = evaluate(subject, PROFILE, NOW).step("recover")
    hard = next(r for r in result.verdict.reasons if r.role == "hard")
    assert hard.word == "Stop"
    said = f"A reason does not lift this: {hard.message.show()}"
    assert refusal(lambda: close(subject, "recover", "the boss says so")) == ("/steps/recover", said)


def test_a_job_closes_out_only_when_it_holds_and_says_why_not() -> None:
    subject = job(PLATE, WEIGHED, sheets={"close_out": {"outcome": "proven", "label_fixed": True}})
    path, said = refusal(lambda: close(subject, "close_out", "in a hurry"))
    assert path == "/steps/close_out"
    headline = evaluate(subject, PROFILE, NOW).step("close_out").verdict.headline.show()
    assert said == f"The job cannot close: {headline}"


def test_a_closed_step_is_not_closed_again_until_it_is_opened() -> None:
    subject = close(job(PLATE, WEIGHED), "identify")
    assert refusal(lambda: close(subject, "identify")) == ("/steps/identify", "This step is closed already.")
    opened = closing.reopen_step(subject, "identify", "J. Pell", LATER, "  line measured again ")
    event = last_event(opened.steps["identify"])
    assert event == StepEvent("reopened", LATER, "J. Pell", "line measured again")
    assert opened.steps["identify"].runs == subject.steps["identify"].runs
    assert last_event(close(opened, "identify").steps["identify"]) is not None
    assert evaluate(opened, PROFILE, NOW).step("identify").state == "open"


def test_what_a_reopening_needs() -> None:
    subject = job(PLATE, WEIGHED)
    said = ("/steps/identify", "This step is open already.")
    assert refusal(lambda: closing.reopen_step(subject, "identify", "J. Pell", NOW, "why not")) == said
    closed = close(subject, "identify")
    for reason in ("", "  "):
        assert refusal(lambda reason=reason: closing.reopen_step(closed, "identify", "J. Pell", NOW, reason)) == (
            "/steps/identify",
            "Reopening a closed step needs a reason; it stays in the record.",
        )
    opened = closing.reopen_step(closed, "identify", "J. Pell", NOW, "again")
    assert refusal(lambda: closing.reopen_step(opened, "identify", "J. Pell", NOW, "again")) == said


def test_a_step_is_begun_anew_in_the_visit_it_was_in() -> None:
    plain = documents.dump_job(job(PLATE, WEIGHED))
    plain["steps"]["identify"]["runs"][0]["visit"] = "v3"
    closed = close(documents.load_job(plain), "identify")
    first, second = closing.reopen_step(closed, "identify", "J. Pell", LATER, "another unit", new_run=True).steps["identify"].runs
    assert first == closed.steps["identify"].runs[0]
    assert second == Run(Plate(), visit="v3", started_at=LATER)
    never = closing.not_applicable(Job("j", "service"), "as_found", "J. Pell", NOW, "not today")
    (run,) = closing.reopen_step(never, "as_found", "J. Pell", LATER, "today", new_run=True).steps["as_found"].runs
    assert (run.visit, run.started_at) == ("", LATER)


def test_a_second_hold_or_pull_keeps_how_it_is_set_up_and_nothing_that_was_read_or_sworn() -> None:
    """What the rig is made of stands; what was seen, and what somebody vouched for, is asked again."""
    hold = {
        "gas": "nitrogen",
        "regulator": True,
        "test_pressure": "350 psig",
        "volume": "12 L",
        "stamps": {"s1": {"label": "low side", "pressure": "400 psig"}},
        "readings": {"r1": {"at": "2026-06-18T13:00:00Z", "pressure": "350 psig"}},
    }
    pull = {
        "method": "single",
        "volume": "12 L",
        "hose_bore": "3/8 in",
        "readings": {"r1": {"at": "2026-06-18T13:00:00Z", "vacuum": "400 micron"}},
    }
    subject = job(PLATE, kind="service", sheets={"pressure_hold": hold, "evacuate": pull})
    for step in ("pressure_hold", "evacuate"):
        before = subject.steps[step].runs[0]
        closed = replace(subject, steps={**subject.steps, step: StepRecord((before,), (StepEvent("closed", NOW, "M. Orrin", ""),))})
        first, second = closing.reopen_step(closed, step, "M. Orrin", LATER, "again", new_run=True).steps[step].runs
        kept = STEPS[step].keeps
        assert first == before
        assert {name: getattr(second.sheet, name) for name in kept} == {name: getattr(before.sheet, name) for name in kept}
        assert (
            replace(second.sheet, **{name: None for name in kept if name != "stamps"}, **({"stamps": {}} if "stamps" in kept else {}))
            == STEPS[step].sheet()
        )
        assert not second.sheet.readings
    assert not {"regulator", "from_low"} & set(STEPS["pressure_hold"].keeps)


def test_a_step_is_left_out_with_a_reason_once() -> None:
    subject = job(PLATE, kind="service")
    out = closing.not_applicable(subject, "as_found", "J. Pell", NOW, "  does not run ")
    assert out.steps["as_found"] == StepRecord((), (StepEvent("not_applicable", NOW, "J. Pell", "does not run"),))
    result = evaluate(out, PROFILE, NOW).step("as_found")
    assert (result.state, result.verdict.word, result.verdict.headline.show()) == (
        "not_applicable",
        "Holds",
        "Not applicable: does not run",
    )
    assert (result.summary.show(), result.missing, result.questions) == ("does not apply", (), ())
    for reason in ("", "  "):
        assert refusal(lambda reason=reason: closing.not_applicable(subject, "as_found", "J. Pell", NOW, reason)) == (
            "/steps/as_found",
            "A step is never skipped silently: give the reason.",
        )
    settled = ("/steps/as_found", "This step is done already; open it again first.")
    assert refusal(lambda: closing.not_applicable(out, "as_found", "J. Pell", NOW, "twice")) == settled
    opened = closing.reopen_step(out, "as_found", "J. Pell", NOW, "it runs after all")
    again = closing.not_applicable(opened, "as_found", "J. Pell", NOW, "tripped again")
    assert [event.kind for event in again.steps["as_found"].events] == ["not_applicable", "reopened", "not_applicable"]


def test_what_must_be_done_is_not_left_out_and_what_is_no_step_is_none() -> None:
    subject = job(PLATE, kind="service")
    path, said = refusal(lambda: closing.not_applicable(subject, "identify", "J. Pell", NOW, "no time"))
    assert path == "/steps/identify"
    assert said
    for act in (
        lambda: closing.not_applicable(subject, "dance", "J. Pell", NOW, "no time"),
        lambda: closing.reopen_step(subject, "dance", "J. Pell", NOW, "no time"),
        lambda: close(subject, "dance"),
    ):
        assert refusal(act) == ("/steps", "This job has no step dance.")
    charge = job(PLATE)
    assert refusal(lambda: closing.not_applicable(charge, "repair", "J. Pell", NOW, "none")) == ("/steps", "This job has no step repair.")
