"""Closing and reopening a step: pure functions from job to job; nothing is erased."""

import dataclasses
from datetime import datetime

from yoshi_core import __version__
from yoshi_core.document import ledger, schema
from yoshi_core.document.model import Job, Run, StepEvent, StepRecord
from yoshi_core.document.plate import Plate
from yoshi_core.errors import InvalidInput
from yoshi_core.job.evaluate import evaluate, inputs_hash, last_event
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import plates, registry
from yoshi_core.steps.registry import STEPS

CLOSABLE = frozenset({"Holds", "Wait", "Stop"})


def close_step(job: Job, profile: Profile, step: str, by: str, at: datetime, reason: str = "") -> Job:
    """The job with the step closed: result as shown, hash of inputs, movements posted.

    A step that does not hold closes only with a reason, and no reason lifts a hard Stop. Raises `InvalidInput` when entries
    are missing, when it is closed already, or when the reason is.
    """
    record = _record(job, step)
    result = evaluate(job, profile, at).step(step)
    if result.state == "closed":
        raise InvalidInput("This step is closed already.", path=f"/steps/{step}")
    if result.verdict.word not in CLOSABLE or result.missing or result.problems:
        lacking = ", ".join(m.label for m in result.missing) or result.verdict.headline.show()
        raise InvalidInput(f"The step cannot close yet. Still open: {lacking}.", path=f"/steps/{step}")
    if result.questions:
        raise InvalidInput("The step cannot close while an entry is asked about.", path=result.questions[0].path)
    if step == "close_out" and result.verdict.word != "Holds":
        raise InvalidInput(f"The job cannot close: {result.verdict.headline.show()}", path="/steps/close_out")
    hard = next((r for r in result.verdict.reasons if r.word == "Stop" and r.role == "hard"), None)
    if hard is not None:
        raise InvalidInput(f"No reason lifts this: {hard.message.show()}", path=f"/steps/{step}")
    if result.verdict.word != "Holds" and not reason.strip():
        raise InvalidInput(f"The step says {result.verdict.word}. Closing it all the same needs a reason.", path=f"/steps/{step}")
    runs = record.runs
    if runs:
        runs = (*runs[:-1], dataclasses.replace(runs[-1], ended_at=at))
    seal = inputs_hash(_with_record(job, step, StepRecord(runs)), step)
    event = StepEvent("closed", at, by, reason.strip(), seal, profile, __version__, schema.dump_full(result))
    closed = _with_record(job, step, StepRecord(runs, (*record.events, event)))
    postings = ledger.settle(job.ledger, result.movements, f"{job.id}/{step}/", at, by)
    return dataclasses.replace(closed, ledger=(*job.ledger, *postings))


def reopen_step(job: Job, step: str, by: str, at: datetime, reason: str, *, new_run: bool = False) -> Job:
    """The job with a closed step open again; posts nothing. `new_run` starts the step over, the old run kept.

    Raises `InvalidInput` without a reason or when it is not closed.
    """
    record = _record(job, step)
    event = last_event(record)
    if event is None or event.kind == "reopened":
        raise InvalidInput("This step is open already.", path=f"/steps/{step}")
    if not reason.strip():
        raise InvalidInput("Reopening a closed step needs a reason; it stays in the record.", path=f"/steps/{step}")
    runs = record.runs
    if new_run:
        visit = job.visits[-1].id if job.visits else runs[-1].visit if runs else ""
        runs = (*runs, Run(STEPS[step].sheet(), visit=visit, started_at=at))
    reopened = StepEvent("reopened", at, by, reason.strip())
    return _with_record(job, step, StepRecord(runs, (*record.events, reopened)))


def not_applicable(job: Job, step: str, by: str, at: datetime, reason: str) -> Job:
    """The job with the step declared not applicable. Raises `InvalidInput` without a reason."""
    if not reason.strip():
        raise InvalidInput("A step is never skipped silently: give the reason.", path=f"/steps/{step}")
    record = _record(job, step)
    if registry.STEPS[step].must:
        raise InvalidInput(registry.STEPS[step].must, path=f"/steps/{step}")
    before = last_event(record)
    if before is not None and before.kind != "reopened":
        raise InvalidInput("This step is settled already; open it again first.", path=f"/steps/{step}")
    event = StepEvent("not_applicable", at, by, reason.strip())
    return _with_record(job, step, StepRecord(record.runs, (*record.events, event)))


def _record(job: Job, step: str) -> StepRecord:
    if step not in registry.order(job.kind):
        raise InvalidInput(f"This job has no step {step}.", path="/steps")
    return job.steps.get(step, StepRecord())


def circuit_lesson(job: Job, inside_kg: float | None = None) -> Plate | None:
    """The plate the circuit's record should take: corrected in this job, and accepted at close-out.

    After a change of refrigerant with `inside_kg` inside it is taken in any case: the old plate is no longer true.
    """
    if plates.changes_to(job) is not None and inside_kg is not None:
        return plates.left_plate(job, inside_kg)
    runs = job.steps.get("close_out", StepRecord()).runs
    accepted = bool(runs) and runs[-1].sheet.update_circuit is True
    return plates.repaired_plate(job) if accepted and plates.differences(job) else None


def _with_record(job: Job, step: str, record: StepRecord) -> Job:
    return dataclasses.replace(job, steps={**job.steps, step: record})
