"""Between the rows and the core: reading a job's document, writing it back with its findings."""

import hashlib
import json
from collections.abc import Callable
from typing import Any

from django.db import OperationalError, transaction
from django.utils import timezone

from accounts.models import Person, Shop
from accounts.queries import profile_of
from jobs.models import AcceptedRequest, Change, Job
from yoshi_core import documents, schema
from yoshi_core.errors import InvalidInput
from yoshi_core.job import Findings, evaluate
from yoshi_core.model import Job as CoreJob
from yoshi_core.profile import Profile

DEADLOCK, LOCK_TIMEOUT = 1213, 1205
TRIES = 4


class KeyReused(InvalidInput):
    """A request key that came before with another content."""

    code = "key_reused"


def read(row: Job) -> CoreJob:
    """The job's document, migrated to the present version."""
    envelope = {"format": documents.FORMAT, "version": row.document_version, "job": row.document}
    return documents.load_plain(envelope).job


def profile_for(row: Job, job: CoreJob) -> Profile:
    """The profile the job is pinned to, else the shop's present one."""
    return job.profile_events[-1].profile if job.profile_events else profile_of(row.shop)


def write(row: Job, job: CoreJob, kind: str, payload: Any, person: Person) -> None:
    """Store the document, its findings and one line of history; call inside the transaction that locked the row."""
    profile = profile_for(row, job)
    now = timezone.now()
    findings = evaluate(job, profile, now)
    row.document = documents.dump_job(job)
    row.document_version = documents.VERSION
    row.profile_revision = profile.revision
    row.kind, row.title = job.kind, job.title
    row.seq += 1
    row.updated_at = now
    _summarize(row, findings)
    row.save()
    Change.objects.create(job=row, seq=row.seq, kind=kind, payload=payload, at=now, by=person)


def _summarize(row: Job, findings: Findings) -> None:
    row.findings = schema.dump_full(findings)
    standing = [r for r in findings.steps if r.state in {"open", "changed"}]
    current = standing[0] if standing else findings.steps[-1]
    row.closed = findings.steps[-1].step == "close_out" and findings.steps[-1].state == "closed"
    current = findings.steps[-1] if row.closed else current
    row.step, row.word = current.step, current.verdict.word
    row.headline = schema.dump_full(current.verdict.headline)


def answer_of(row: Job, **extra: Any) -> dict[str, Any]:
    """What the API says about a job."""
    return {
        "code": row.code,
        "seq": row.seq,
        "kind": row.kind,
        "title": row.title,
        "closed": row.closed,
        "updated_at": row.updated_at.isoformat(),
        "job": row.document,
        "findings": row.findings,
        **extra,
    }


def once(
    person_shop: Shop, key: str, content: Any, lock: Callable[[], Job | None], act: Callable[[Job | None], dict[str, Any]]
) -> dict[str, Any]:
    """Do a write once: lock its root, look up the key, act, keep the answer.

    The same key again gives the same answer; the same key with other content is refused. Deadlocks
    and lock waits are tried again outside the transaction.
    """
    digest = hashlib.sha256(json.dumps(content, sort_keys=True, default=str).encode()).hexdigest()
    for attempt in range(TRIES):
        try:
            with transaction.atomic():
                row = lock()
                before = AcceptedRequest.objects.filter(shop=person_shop, key=key).first()
                if before is not None:
                    if before.digest != digest:
                        raise KeyReused("This request's key was used for something else; nothing was changed.", path="/key")
                    answer: dict[str, Any] = before.answer
                    return answer
                answer = act(row)
                AcceptedRequest.objects.create(shop=person_shop, key=key, digest=digest, answer=answer)
                return answer
        except OperationalError as error:
            if error.args[:1] not in ((DEADLOCK,), (LOCK_TIMEOUT,)) or attempt == TRIES - 1:
                raise
    raise AssertionError("unreachable")
