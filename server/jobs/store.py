"""Between the rows and the core: reading a job's document, writing it back with its findings."""

from dataclasses import fields
from typing import Any

from accounts import clock
from accounts.models import Person
from accounts.queries import profile_of
from instruments.queries import live_traces
from jobs.judging import judged
from jobs.models import Change, Job
from yoshi_core import __version__
from yoshi_core.document import schema
from yoshi_core.document.model import Job as CoreJob
from yoshi_core.job import documents, live, what_if
from yoshi_core.job.closed_steps import as_closed
from yoshi_core.job.evaluate import Findings
from yoshi_core.job.standing import standing_sentence
from yoshi_core.practice.opinion import opinion
from yoshi_core.profile.profile import Profile
from yoshi_core.tight_and_dry.trace import Trace
from yoshi_core.units.text import parse

SHAPE = {field.name for field in fields(Findings)}


def read(row: Job, *, sealed: bool = False) -> CoreJob:
    """The job's document, migrated to the present version, its open runs with what the instruments gave so far.

    `sealed` seals those logs, as they are to be kept.
    """
    job = _stored(row)
    traces = live_traces(row.pk, job, sealed=sealed)
    return live.with_traces(job, traces) if traces else job


def _stored(row: Job) -> CoreJob:
    envelope = {"format": documents.FORMAT, "version": row.document_version, "job": row.document}
    return documents.load_plain(envelope).job


def profile_for(row: Job, job: CoreJob) -> Profile:
    """The profile the job is pinned to, else the shop's present one."""
    return job.profile_events[-1].profile if job.profile_events else profile_of(row.shop)


def write(row: Job, job: CoreJob, kind: str, payload: Any, person: Person) -> None:
    """Store the document, its findings and one line of history; call inside the transaction that locked the row."""
    profile = profile_for(row, job)
    now = clock.now()
    findings = judged(job, profile, now)
    row.document = documents.dump_job(job)
    row.document_version = documents.VERSION
    row.profile_revision = profile.revision
    row.kind, row.title = job.kind, job.title
    _summarize(row, job, findings)
    record(row, kind, payload, person)


def record(row: Job, kind: str, payload: Any, person: Person) -> None:
    """Store the row under its next number, and what happened to it as one line of history."""
    row.seq += 1
    row.updated_at = clock.now()
    row.save()
    Change.objects.create(job=row, seq=row.seq, kind=kind, payload=payload, at=row.updated_at, by=person)


def _summarize(row: Job, job: CoreJob, findings: Findings) -> None:
    row.findings = schema.dump_full(findings)
    standing = [r for r in findings.steps if r.state in {"open", "changed"}]
    current = standing[0] if standing else findings.steps[-1]
    row.closed = findings.steps[-1].step == "close_out" and findings.steps[-1].state == "closed"
    current = findings.steps[-1] if row.closed else current
    last = job.visits[-1] if job.visits else None
    row.visit, row.return_on = (last.outcome or "going_on", last.return_on) if last else ("", "")
    row.step, row.word = current.step, current.verdict.word
    row.headline = schema.dump_full(current.verdict.headline)
    carried = standing_sentence(findings.claims)
    row.carried = None if carried is None else schema.dump_full(carried)


def _lives(row: Job) -> bool:
    """Whether a kit is on the job and one of its open steps lives from its log."""
    return not row.closed and row.step in live.LOGGED and row.gateways.exists()


def other_schools_of(row: Job) -> list[dict[str, Any]]:
    """What another school would change in this job, as plain data."""
    job = read(row)
    return [schema.dump_full(change) for change in what_if.other_schools(job, profile_for(row, job), clock.now())]


def opinion_on(row: Job, add: str) -> dict[str, Any]:
    """Which made-up units would read as this job's last reading, as plain data. Raises `InvalidInput` where too little was read."""
    job = read(row)
    added_kg = parse("mass", add).value if add else 0.0
    found: dict[str, Any] = schema.dump_full(opinion(job, profile_for(row, job), clock.now(), added_kg))
    return found


def siblings(row: Job) -> list[dict[str, str]]:
    """The other jobs of the same work order."""
    if row.work_order_id is None:
        return []
    others = Job.objects.filter(work_order=row.work_order_id).exclude(pk=row.pk).order_by("pk")
    return [{"code": code, "title": title, "word": word} for code, title, word in others.values_list("code", "title", "word")]


def present(row: Job) -> Any:
    """The document as this version writes it."""
    if row.document_version == documents.VERSION:
        return row.document
    return documents.migrate({"format": documents.FORMAT, "version": row.document_version, "job": row.document})["job"]


def answer_of(row: Job, **extra: Any) -> dict[str, Any]:
    """What the API says about a job; findings of an earlier core, or of another shape, are made anew, never shown half-known."""
    findings = row.findings
    kept = row.kept.first() if row.closed else None
    if kept is not None:
        findings = kept.content["findings"]  # as it was closed, whatever today's rules would say
    traces: dict[tuple[str, str], Trace] = {}
    if findings.keys() != SHAPE or (kept is None and findings.get("core_version") != __version__) or _lives(row):
        job = _stored(row)
        traces = live_traces(row.pk, job, sealed=False)
        job = live.with_traces(job, traces)
        fresh = schema.dump_full(judged(job, profile_for(row, job), clock.now()))
        findings = fresh if kept is None else {**fresh, **findings}
    document = present(row)
    findings, otherwise = (findings, []) if kept is not None else as_closed(document, findings)
    return {
        "code": row.code,
        "seq": row.seq,
        "kind": row.kind,
        "title": row.title,
        "closed": row.closed,
        "discarded": row.discarded,
        "updated_at": row.updated_at.isoformat(),
        "siblings": siblings(row),
        "people": list(row.people.order_by("shown_name").values_list("shown_name", flat=True)),
        "document_version": documents.VERSION,
        "job": document,
        "traces": [{"step": step, "field": name, "trace": schema.dump(trace)} for (step, name), trace in traces.items()],
        "findings": findings,
        "otherwise": otherwise,
        **extra,
    }
