"""What is done to a job that exists: save entries, close and reopen a step, make a quick total a job.

Each locks the job, acts through a pure function of the core, and writes document, findings and
history in one transaction.
"""

import dataclasses
from collections.abc import Callable, Mapping, Sequence
from datetime import datetime
from typing import Any

from accounts import clock
from accounts.models import Person
from accounts.once import lock_shop, once
from accounts.queries import shop_of
from cylinders.actions.post import post_ledger
from jobs.actions.create_job import circuit_to_work_on, copied
from jobs.actions.keep_record import keep_record
from jobs.actions.on_record import lessons, put_on_record
from jobs.actions.reservations import tell_coming, unknown_circuits
from jobs.judging import judged
from jobs.models import Job
from jobs.naming import name_on
from jobs.queries import one_document, one_job, refuse_others
from jobs.store import answer_of, present, profile_for, read, write
from systems.models import Circuit, CircuitRevision
from yoshi_core.document import schema
from yoshi_core.document.model import Fact
from yoshi_core.document.model import Job as CoreJob
from yoshi_core.document.plate import Plate
from yoshi_core.errors import InvalidInput
from yoshi_core.job import closing, documents, visits
from yoshi_core.job.closed_steps import as_closed
from yoshi_core.job.entering import entered, tried
from yoshi_core.job.evaluate import Findings
from yoshi_core.job.new_job import adopted
from yoshi_core.job.patches import Change, Saved
from yoshi_core.units.display import Amount


def save_changes(person: Person, code: str, key: str, changes: Sequence[Change]) -> dict[str, Any]:
    """Save entries field by field; what cannot be stored comes back with its reason."""

    def act(row: Job) -> dict[str, Any]:
        job, now = read(row), clock.now()
        saved = entered(job, changes, person.shown_name, now, _judging(row, now), unknown_circuits(row.shop, changes))
        if saved.accepted or saved.conflicts:
            payload = {"accepted": saved.accepted, "conflicts": schema.dump_full(saved.conflicts), **_device_clock(changes)}
            write(row, saved.job, "entries", payload, person)
            if saved.job.acts != job.acts:
                tell_coming(row, job, saved.job, person)
        return _outcome(saved)

    acts = any(change.path.startswith("/acts/") for change in changes)  # may tell other jobs: locked as what books is
    return on_job(person, code, key, {"changes": [dataclasses.asdict(c) for c in changes]}, act, books=acts)


def preview(person: Person, code: str, changes: Sequence[Change]) -> dict[str, Any]:
    """What the job would say with these entries; nothing is stored, bad entries count as empty."""
    row = one_document(person, code)
    now = clock.now()
    saved = tried(read(row), changes, person.shown_name, now, _judging(row, now))
    findings = _judging(row, now)(saved.job)
    return {"seq": row.seq, "findings": as_closed(present(row), schema.dump_full(findings))[0], **_outcome(saved)}


def _device_clock(changes: Sequence[Change]) -> dict[str, Any]:
    """What a device whose clock went wrong showed when each of these was typed, beside when that was."""
    off = [change for change in changes if change.device_at is not None and change.typed_at is not None]
    moments = {change.path: {"at": schema.dump(change.typed_at), "device_at": schema.dump(change.device_at)} for change in off}
    return {"device_clock": moments} if moments else {}


def _judging(row: Job, now: datetime) -> Callable[[CoreJob], Findings]:
    return lambda job: judged(job, profile_for(row, job), now)


def close_step(person: Person, code: str, key: str, step: str, reason: str) -> dict[str, Any]:
    """Close a step: the result as shown, its inputs' hash and its movements go into the record."""

    def act(row: Job) -> dict[str, Any]:
        job = read(row, sealed=True)
        closed = closing.close_step(job, profile_for(row, job), step, person.shown_name, clock.now(), reason)
        write(row, closed, "closed", {"step": step, "reason": reason}, person)
        if row.closed and row.circuit is None and job.kind in {"service", "charge"}:
            put_on_record(row, closed, _inside(row, closed), person)
        elif row.closed and row.circuit is not None:
            _teach_circuit(row.circuit, closed, row, person)
        _book(row, closed, person)
        if row.closed:
            now, profile = clock.now(), profile_for(row, closed)
            keep_record(row, closed, judged(closed, profile, now), profile, now)
        return {}

    return on_job(person, code, key, {"close": step, "reason": reason}, act, books=True)


def _book(row: Job, job: CoreJob, person: Person) -> None:
    """Post what the ledger gained, and tell the open jobs of a circuit that was given refrigerant."""
    for movement in post_ledger(row.shop, row.code, row.circuit, job.ledger, row.history_lines):
        if movement.kind != "transfer" or movement.to_circuit is None:
            continue
        for receiver in Job.objects.select_for_update().filter(shop=row.shop, circuit=movement.to_circuit, closed=False).exclude(pk=row.pk):
            told = read(receiver)
            values = {"mass_kg": movement.mass_kg, "from": row.circuit.code if row.circuit else row.code}
            fact = Fact("transfer_in", movement.core_key, movement.at, f"job {row.code}", values)
            write(receiver, dataclasses.replace(told, facts=(*told.facts, fact)), "fact", {"transfer_in": values}, person)


def leave_out(person: Person, code: str, key: str, step: str, reason: str) -> dict[str, Any]:
    """Declare a step not applicable, with its reason."""

    def act(row: Job) -> dict[str, Any]:
        job = read(row)
        left = closing.not_applicable(job, step, person.shown_name, clock.now(), reason, profile=profile_for(row, job))
        write(row, left, "not_applicable", {"step": step, "reason": reason}, person)
        return {}

    return on_job(person, code, key, {"leave_out": step, "reason": reason}, act)


def end_visit(person: Person, code: str, key: str, ending: Mapping[str, str]) -> dict[str, Any]:
    """End the visit with its outcome; the job stays open unless it is closed out."""

    def act(row: Job) -> dict[str, Any]:
        job, now = read(row, sealed=True), clock.now()
        found = judged(job, profile_for(row, job), now)
        ended = visits.end_visit(job, found, visits.Ending(**ending), person.shown_name, now)  # type: ignore[arg-type]
        write(row, ended, "visit_ended", dict(ending), person)
        _book(row, ended, person)
        return {}

    return on_job(person, code, key, {"end_visit": dict(ending)}, act, books=True)


def start_visit(person: Person, code: str, key: str) -> dict[str, Any]:
    """A new visit on a job that waits."""

    def act(row: Job) -> dict[str, Any]:
        write(row, visits.start_visit(read(row), person.shown_name, clock.now()), "visit_started", {}, person)
        name_on(row, person)
        return {}

    return on_job(person, code, key, {"start_visit": True}, act)


def reopen_step(person: Person, code: str, key: str, step: str, reason: str, new_run: bool) -> dict[str, Any]:
    """Open a closed step again, with its reason; `new_run` keeps the old run and starts another."""

    def act(row: Job) -> dict[str, Any]:
        opened = closing.reopen_step(read(row), step, person.shown_name, clock.now(), reason, new_run=new_run)
        write(row, opened, "reopened", {"step": step, "reason": reason, "new_run": new_run}, person)
        return {}

    return on_job(person, code, key, {"reopen": step, "reason": reason, "new_run": new_run}, act)


def adopt(person: Person, code: str, key: str, title: str, circuit_id: int | None) -> dict[str, Any]:
    """Make a quick total a job, on a circuit where one is named."""

    def act(row: Job) -> dict[str, Any]:
        circuit = circuit_to_work_on(row.shop, circuit_id)
        changed = adopted(read(row), title, copied(circuit) if circuit else None)
        row.circuit = circuit
        write(row, changed, "adopted", {"title": title, "circuit": circuit_id}, person)
        return {}

    return on_job(person, code, key, {"adopt": title, "circuit": circuit_id}, act)


def on_job(
    person: Person, code: str, key: str, content: Any, act: Callable[[Job], dict[str, Any]], *, books: bool = False
) -> dict[str, Any]:
    """Lock, act once, answer with the job as it stands and what `act` says beside it, which alone is kept for a repeated request.

    What writes the cylinder book (`books`) locks the shop first, as every movement does.
    """
    shop = shop_of(person)
    rows: list[Job] = []

    def lock() -> Job:
        if books:
            lock_shop(shop)
        refuse_others(person, code)
        return Job.objects.select_for_update().get(shop=shop, code=code)

    def acted(row: Job) -> dict[str, Any]:
        if row.discarded and "discard" not in content:
            raise InvalidInput("This job was discarded. Take it back before anything is entered.", path="/discarded")
        said = act(row)
        rows[:] = [row]
        return said

    said = once(shop, key, {"job": code, **content}, lock, acted)
    return answer_of(rows[0] if rows else one_job(person, code), **said)


def _outcome(saved: Saved) -> dict[str, Any]:
    return {
        "accepted": dict(saved.accepted),
        "problems": schema.dump_full(saved.problems),
        "conflicts": schema.dump_full(saved.conflicts),
        "echoes": schema.dump_full(saved.echoes()),
    }


def _teach_circuit(circuit: Circuit, job: CoreJob, row: Job, person: Person) -> None:
    """At close-out the circuit keeps the fingerprint of the proof, and the corrected plate where that was accepted."""
    fresh = Circuit.objects.select_for_update().get(pk=circuit.pk)
    inside = _inside(row, job)
    fresh.fingerprint = lessons(job, inside)
    lesson = closing.circuit_lesson(job, None if inside is None else inside.value)
    if lesson is not None:
        fresh.revision += 1
        fresh.plate = schema.dump(lesson)
        CircuitRevision.objects.create(
            circuit=fresh,
            revision=fresh.revision,
            plate=fresh.plate,
            at=clock.now(),
            by=person.shown_name,
            reason=f"job {job.id} closed{_changed(circuit, lesson)}",
        )
    fresh.save()


def _inside(row: Job, job: CoreJob) -> Amount | None:
    return judged(job, profile_for(row, job), clock.now()).standing.inside


def _changed(circuit: Circuit, lesson: Plate) -> str:
    """Words for a revision that put another refrigerant in."""
    was, now = circuit.plate.get("refrigerant"), lesson.refrigerant
    return f": changed from {was} to {now}" if was and now and was != now else ""


def document_of(person: Person, code: str) -> str:
    """The job as a document with profile, moment and findings."""
    row = one_job(person, code)
    job = read(row)
    return documents.export(job, profile_for(row, job), clock.now())
