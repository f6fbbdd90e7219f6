"""Judging a job on the device: what is stored, with what waits to be sent put on top of it, in its order.

A question holds `job` and `version` (the document as the server keeps it), `traces` (logs of its instruments so far), `profile`
(the shop's, for a job that is pinned to none), `by` and `now`. What is refused here would be refused there.
"""

import dataclasses
import sys
import traceback
from collections.abc import Callable, Sequence
from datetime import datetime
from typing import Any

from yoshi_core import __version__
from yoshi_core.document import schema
from yoshi_core.document.model import Circuit, Fact, Job
from yoshi_core.errors import CoreError
from yoshi_core.findings.verdict import Problem
from yoshi_core.frozen import dataclass
from yoshi_core.job import closing, documents, live, visits, what_if
from yoshi_core.job.closed_steps import as_closed
from yoshi_core.job.entering import entered, tried
from yoshi_core.job.evaluate import Findings, Memo, evaluate
from yoshi_core.job.new_job import adopted, new_job
from yoshi_core.job.patches import Change, Saved
from yoshi_core.message import told
from yoshi_core.profile.profile import Profile
from yoshi_core.record import pages
from yoshi_core.record.record import label_data, record_data
from yoshi_core.steps.plan_change import case as retrofit_case
from yoshi_core.tight_and_dry.trace import Trace
from yoshi_core.units.display import System

Plain = dict[str, Any]


@dataclass(frozen=True)
class Kept:
    """A log of an open run, as the server had it when the device was last in reach."""

    step: str
    field: str
    trace: Trace


@dataclass(frozen=True)
class Known:
    """What is the same for every part of a question: the shop's profile, who asks, and when."""

    profile: Profile
    by: str
    now: datetime

    def profile_of(self, job: Job) -> Profile:
        """The one the job is pinned to, else the shop's."""
        return job.profile_events[-1].profile if job.profile_events else self.profile

    def judged(self, job: Job) -> Findings:
        """What the job says now; a defect in one step costs that step's findings only."""
        return evaluate(job, self.profile_of(job), self.now, defect=_defect, memo=_memo(job.id))


_memos: dict[str, Memo] = {}


def _memo(job_id: str) -> Memo:
    """Of the job that is open: one at a time is worked on."""
    if job_id not in _memos:
        _memos.clear()
        _memos[job_id] = Memo()
    return _memos[job_id]


def judge(question: Plain) -> Plain:
    """The job after its `queue`, and what it says with its `draft` entries tried on top.

    `queue` are batches of entries and acts in the order they were made, each with its `at`; `said` answers each: what was
    accepted and what not, or why the act is refused. A refused act changes nothing, and what follows it is still done.
    """
    known = _known(question)
    job, said = _after_queue(question, known)
    saved = tried(job, _changes(question.get("draft", [])), known.by, known.now, known.judged)
    return {**_state(saved.job, known), **_outcome(saved), "job": documents.dump_job(job), "said": said}


def new(question: Plain) -> Plain:
    """A new job of `kind` under the `code` the device gave it; `circuit` with its `facts` as the device has them from the server."""
    known = _known(question)
    circuit = schema.load(Circuit, question.get("circuit") or {}, "/circuit")
    change = question.get("change")
    planned = retrofit_case.planned(change["refrigerant"], change["conditions"], system_of(question)) if change else None
    title = str(question.get("title", "")).strip() or circuit.name or "New job"
    job = new_job(question["code"], question["kind"], title, circuit, known.profile, known.by, known.now, planned)
    facts = schema.load(tuple[Fact, ...], question.get("facts", []), "/facts")
    return _state(dataclasses.replace(job, facts=(*job.facts, *facts)), known)


def schools(question: Plain) -> Any:
    """What another school would change in the job."""
    known = _known(question)
    job = job_of(question, known)
    return schema.dump_full(what_if.other_schools(job, known.profile_of(job), known.now))


def export(question: Plain) -> str:
    """The job as a document with profile, moment and findings, as a text to save."""
    known = _known(question)
    job = job_of(question, known)
    return documents.export(job, known.profile_of(job), known.now)


def paper(question: Plain) -> str:
    """The `record` or the `label`, by `paper`, as a page that stands alone."""
    known = _known(question)
    job = job_of(question, known)
    findings, shop, face = known.judged(job), question["shop"], question.get("face", "")
    if question["paper"] == "label":
        return pages.label_page(label_data(job, findings, shop), face)
    return pages.record_page(record_data(job, findings, known.profile_of(job).name, system_of(question), known.now, shop), face)


def _after_queue(question: Plain, known: Known) -> tuple[Job, list[Plain]]:
    """The stored job after what waits, and what is said of each of that."""
    job, said = _stored(question), []
    for item in question.get("queue", []):
        job, answer = _done(job, item, dataclasses.replace(known, now=schema.load(datetime, item["at"], "/at")))
        said.append(answer)
    return job, said


def _done(job: Job, item: Plain, known: Known) -> tuple[Job, Plain]:
    """The job after one item of the queue, and what is to be said of that item."""
    if "changes" in item:
        saved = entered(job, _changes(item["changes"]), known.by, known.now, known.judged)
        return saved.job, _outcome(saved)
    try:
        return _ACTS[item["act"]](job, item, known), {}
    except CoreError as error:
        return job, {"refused": schema.dump_full(Problem(error.path, error.code, told(error)))}


def _close(job: Job, item: Plain, known: Known) -> Job:
    return closing.close_step(job, known.profile_of(job), item["step"], known.by, known.now, item["reason"])


def _leave_out(job: Job, item: Plain, known: Known) -> Job:
    return closing.not_applicable(job, item["step"], known.by, known.now, item["reason"], profile=known.profile_of(job))


def _reopen(job: Job, item: Plain, known: Known) -> Job:
    return closing.reopen_step(job, item["step"], known.by, known.now, item["reason"], new_run=item["new_run"])


def _start_visit(job: Job, _: Plain, known: Known) -> Job:
    return visits.start_visit(job, known.by, known.now)


def _end_visit(job: Job, item: Plain, known: Known) -> Job:
    ending = visits.Ending(item["outcome"], item["reason"], item["awaited"], item["return_on"])
    return visits.end_visit(job, known.judged(job), ending, known.by, known.now)


def _adopt(job: Job, item: Plain, _: Known) -> Job:
    return adopted(job, item["title"], schema.load(Circuit, item["circuit"], "/circuit") if item.get("circuit") else None)


_ACTS: dict[str, Callable[[Job, Plain, Known], Job]] = {
    "close": _close,
    "leave_out": _leave_out,
    "reopen": _reopen,
    "start_visit": _start_visit,
    "end_visit": _end_visit,
    "adopt": _adopt,
}


def _known(question: Plain) -> Known:
    profile = schema.load(Profile, question.get("profile") or {}, "/profile")
    return Known(profile, question["by"], schema.load(datetime, question["now"], "/now"))


def job_of(question: Plain, known: Known | None = None) -> Job:
    """The job of a question with all that waits and is typed put into it. Raises `DocumentError`."""
    known = known or _known(question)
    job, _ = _after_queue(question, known)
    return tried(job, _changes(question.get("draft", [])), known.by, known.now, known.judged).job


def _stored(question: Plain) -> Job:
    """The job as the server has it, its open runs with the logs the device has."""
    envelope = {"format": documents.FORMAT, "version": question["version"], "job": question["job"]}
    job = documents.load_plain(envelope).job
    kept = schema.load(tuple[Kept, ...], question.get("traces", []), "/traces")
    wanted = {(log.step, log.field) for log in live.wanted(job)}
    return live.with_traces(job, {(row.step, row.field): row.trace for row in kept if (row.step, row.field) in wanted})


def _changes(rows: Sequence[Plain]) -> list[Change]:
    return [
        Change(
            row["path"],
            row.get("seen"),
            row.get("value"),
            row.get("force", False),
            schema.load(datetime | None, row.get("typed_at"), "/typed_at"),
            schema.load(datetime | None, row.get("device_at"), "/device_at"),
        )
        for row in rows
    ]


def _state(job: Job, known: Known) -> Plain:
    """A job as the server answers with it, as far as a device can know."""
    plain = documents.dump_job(job)
    findings, otherwise = as_closed(plain, schema.dump_full(known.judged(job)))
    return {
        "job": plain,
        "document_version": documents.VERSION,
        "kind": job.kind,
        "title": job.title,
        "findings": findings,
        "otherwise": otherwise,
        "core_version": __version__,
    }


def _outcome(saved: Saved) -> Plain:
    return {
        "accepted": dict(saved.accepted),
        "problems": schema.dump_full(saved.problems),
        "conflicts": schema.dump_full(saved.conflicts),
        "echoes": schema.dump_full(saved.echoes()),
    }


def system_of(question: Plain) -> System:
    """The units the person reads."""
    return "si" if question.get("units") == "si" else "us"


def _defect(step: str, error: Exception) -> None:
    sys.stderr.write(f"{step} could not be judged\n{''.join(traceback.format_exception(error))}")
