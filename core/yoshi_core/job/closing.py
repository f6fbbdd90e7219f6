"""Closing and reopening a step: pure functions from job to job; nothing is erased."""

import dataclasses
from collections.abc import Sequence
from datetime import datetime
from typing import Any

from yoshi_core import __version__
from yoshi_core.document import ledger, schema
from yoshi_core.document.model import Job, Run, StepEvent, StepRecord
from yoshi_core.document.plate import Plate
from yoshi_core.errors import InvalidInput
from yoshi_core.findings.result import StepResult
from yoshi_core.job.evaluate import Findings, deciding, evaluate, inputs_hash, last_event
from yoshi_core.message import Message
from yoshi_core.profile.profile import Profile
from yoshi_core.steps import plates, registry
from yoshi_core.steps.registry import STEPS
from yoshi_core.steps.step_entries import touched


def close_step(job: Job, profile: Profile, step: str, by: str, at: datetime, reason: str = "") -> Job:
    """The job with the step closed: result as shown, hash of inputs, movements posted.

    Whatever is missing, a name and a reason close it, and answer for what the step does not show; no reason lifts a hard
    Stop or gives the answer one asks for. Closing out needs its way open. Raises `InvalidInput`.
    """
    record = _record(job, step)
    findings = evaluate(job, profile, at)
    result = findings.step(step)
    if result.state == "closed" and not (reason.strip() and _unanswered(findings, step)):
        raise InvalidInput("This step is closed already.", path=f"/steps/{step}")
    _closable(result, findings, step, reason.strip(), done=touched(job, step))
    runs = record.runs
    if runs:
        runs = (*runs[:-1], dataclasses.replace(runs[-1], ended_at=at))
    seal = inputs_hash(_with_record(job, step, StepRecord(runs)), step)
    said = deciding(result, findings.claims)
    event = StepEvent("closed", at, by, reason.strip(), seal, profile, __version__, schema.dump_full(result), said)
    closed = _with_record(job, step, StepRecord(runs, (*record.events, event)))
    if step == "close_out":
        return posted(closed, findings, at, by)
    postings = ledger.settle(job.ledger, result.movements, f"{job.id}/{step}/", at, by)
    return dataclasses.replace(closed, ledger=(*job.ledger, *postings))


def _closable(result: StepResult, findings: Findings, step: str, reason: str, *, done: bool) -> None:
    """Raises `InvalidInput`. Where nothing was `done` in a step, what must not be done there does not hold it open."""
    path = f"/steps/{step}"
    if result.problems:
        raise InvalidInput(
            "The step cannot close yet: {message}", words={"message": result.problems[0].message}, path=result.problems[0].path
        )
    if result.questions:
        raise InvalidInput("The step cannot close while an entry is asked about.", path=result.questions[0].path)
    if step == "close_out" and (result.verdict.word != "Holds" or result.missing):
        raise InvalidInput("The job cannot close: {headline}", words={"headline": result.verdict.headline}, path=path)
    stop = hard_stop(result) if done else None
    if stop is not None:
        raise InvalidInput("A reason does not lift this: {stop}", words={"stop": stop}, path=path)
    asked = next((m for m in result.missing if m.hard and done), None)
    if asked is not None:
        raise InvalidInput("A reason is not enough for this: {label}.", words={"label": asked.label}, path=asked.path)
    if reason:
        return
    if result.missing:
        lacking = tuple(m.label for m in result.missing)
        raise InvalidInput("Still needed: {lacking}. Closing it all the same needs a reason.", words={"lacking": lacking}, path=path)
    if result.verdict.word != "Holds":
        raise InvalidInput("The step says {word}. Closing it all the same needs a reason.", words={"word": result.verdict.word}, path=path)
    claim = next((c for c in findings.claims if c.step == step), None)
    if claim is not None and not claim.settled and not claim.awaits:
        raise InvalidInput(
            "{label} is not shown: {said} Closing it all the same needs a reason.",
            words={"label": claim.label, "said": claim.words},
            path=path,
        )


def _unanswered(findings: Findings, step: str) -> bool:
    """Whether what the step was to show is still not shown, and nobody answers for it."""
    return any(claim.step == step and claim.standing == "not_yet" for claim in findings.claims)


def hard_stop(result: StepResult) -> Message | None:
    """What no reason lifts in this step, in words; None where nothing does."""
    return next((r.message for r in result.verdict.reasons if r.word == "Stop" and r.role == "hard"), None)


def posted(job: Job, findings: Findings, at: datetime, by: str) -> Job:
    """The job with every movement of its account in the book: a visit or the job is over, and what was done is done."""
    moved = [*findings.movements, *(movement for result in findings.steps for movement in result.movements)]
    return dataclasses.replace(job, ledger=(*job.ledger, *ledger.settle(job.ledger, moved, f"{job.id}/", at, by)))


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
        runs = (*runs, Run(_as_set_up(step, runs), visit=visit, started_at=at))
    reopened = StepEvent("reopened", at, by, reason.strip())
    return _with_record(job, step, StepRecord(runs, (*record.events, reopened)))


def _as_set_up(step: str, runs: Sequence[Run]) -> Any:
    """The sheet of another run: empty but for what the step keeps from the run before."""
    made = STEPS[step].sheet()
    if not runs:
        return made
    return dataclasses.replace(made, **{name: getattr(runs[-1].sheet, name) for name in STEPS[step].keeps})


def not_applicable(job: Job, step: str, by: str, at: datetime, reason: str, *, profile: Profile | None = None) -> Job:
    """The job with the step left out: the same answer as closing it with a reason, and no way round a hard Stop.

    Raises `InvalidInput` without a reason, or where something was entered that no reason lifts.
    """
    if not reason.strip():
        raise InvalidInput("A step is never skipped silently: give the reason.", path=f"/steps/{step}")
    record = _record(job, step)
    if registry.STEPS[step].must:
        raise InvalidInput(registry.STEPS[step].must, path=f"/steps/{step}")
    before = last_event(record)
    if before is not None and before.kind != "reopened":
        raise InvalidInput("This step is done already; open it again first.", path=f"/steps/{step}")
    stop = hard_stop(evaluate(job, profile or Profile(), at).step(step)) if touched(job, step) else None
    if stop is not None:
        raise InvalidInput("A reason does not lift this: {stop}", words={"stop": stop}, path=f"/steps/{step}")
    event = StepEvent("not_applicable", at, by, reason.strip())
    return _with_record(job, step, StepRecord(record.runs, (*record.events, event)))


def _record(job: Job, step: str) -> StepRecord:
    if step not in registry.order(job.kind):
        raise InvalidInput("This job has no step {step}.", words={"step": step}, path="/steps")
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
