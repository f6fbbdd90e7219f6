"""Jobs: list, create, read, save, preview, close, reopen, documents, record and label."""

from typing import Annotated, Any, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status
from pydantic import Field

from api.core_types import CoreOpinion, CoreSchoolChange
from api.moments import named_after, page_after
from api.routes_tasks import TaskRow, own_task, task_row
from api.shapes import (
    Adopt,
    Changes,
    CloseStep,
    Code,
    Discard,
    EndVisit,
    HandOn,
    HistoryLine,
    ImportJob,
    JobPage,
    JobSaved,
    JobState,
    LeaveOut,
    NewJob,
    NewWorkOrder,
    PaperIn,
    Preview,
    Previewed,
    Rename,
    ReopenStep,
    Search,
    StartVisit,
)
from api.who import person_of
from jobs import queries
from jobs.actions.change_job import (
    adopt,
    close_step,
    document_of,
    end_visit,
    leave_out,
    preview,
    reopen_step,
    save_changes,
    start_visit,
)
from jobs.actions.create_job import Begun, create_job, create_work_order, import_job
from jobs.actions.hand_on import hand_on
from jobs.actions.tidy import discard, rename
from jobs.models import Job
from jobs.store import answer_of, opinion_on, other_schools_of
from records import papers
from records.render import label_html, record_html
from yoshi_core.job.patches import Change

router = Router()


@router.get("", response=JobPage)
def list_jobs(
    request: HttpRequest,
    listed: Literal["open", "quick", "closed", "discarded"] = "open",
    after: Annotated[str, Field(max_length=240)] = "",
    search: Search = "",
    step: Code = "",
    word: Code = "",
    whose: Annotated[str, Field(max_length=150)] = "",
    sort: Literal["touched", "name"] = "touched",
) -> dict[str, Any]:
    """A page of the jobs of a list that hold every word searched for, last touched first or by name; `after` is the `next` of the page before.

    `step`, `word` and `whose` (a username) leave out all others where they are given.
    """
    by_name = sort == "name"
    wanted = queries.Wanted(listed, search, step, word, whose, by_name)
    rows = queries.job_page(person_of(request), wanted, named_after(after) if by_name else page_after(after))
    page, more = rows[: queries.PAGE], len(rows) > queries.PAGE
    last = page[-1] if more else None
    mark = None if last is None else f"{last.title if by_name else last.updated_at.isoformat()}~{last.pk}"
    return {"jobs": [_row(job) for job in page], "next": mark, **queries.how_many(person_of(request))}


def _row(job: Job) -> dict[str, Any]:
    circuit = job.circuit
    return {
        "code": job.code,
        "kind": job.kind,
        "title": job.title,
        "circuit": circuit.name if circuit else "",
        "site": circuit.system.site.name if circuit else "",
        "technician": job.technician,
        "step": job.step,
        "word": job.word,
        "headline": job.headline,
        "carried": job.carried,
        "closed": job.closed,
        "discarded": job.discarded,
        "visit": job.visit,
        "return_on": job.return_on,
        "work_order": job.work_order.title if job.work_order else "",
        "updated_at": job.updated_at,
    }


@router.post("", response={201: JobState})
def create(request: HttpRequest, body: NewJob) -> Status[dict[str, Any]]:
    """A new job or quick total."""
    begun = Begun(body.code or "", body.made_at)
    return Status(201, create_job(person_of(request), body.key, body.kind, body.title, body.circuit_id, _change(body), begun))


def _change(body: NewJob) -> tuple[str, dict[str, str]] | None:
    return (body.change.refrigerant, body.change.conditions) if body.change else None


@router.post("/work-order", response={201: JobState})
def create_order(request: HttpRequest, body: NewWorkOrder) -> Status[dict[str, Any]]:
    """A job for every circuit of a machine, under one work order."""
    return Status(201, create_work_order(person_of(request), body.key, body.kind, body.system_id))


@router.post("/import", response={201: JobState})
def take_over(request: HttpRequest, body: ImportJob) -> Status[dict[str, Any]]:
    """A job from a document."""
    return Status(201, import_job(person_of(request), body.key, body.document, again=body.again))


@router.get("/{code}", response=JobState)
def read_job(request: HttpRequest, code: str) -> dict[str, Any]:
    """The whole job as it stands."""
    return answer_of(queries.one_job(person_of(request), code))


@router.post("/{code}/changes", response=JobSaved)
def post_changes(request: HttpRequest, code: str, body: Changes) -> dict[str, Any]:
    """Save entries, field by field."""
    return save_changes(person_of(request), code, body.key, [Change(**c.dict()) for c in body.changes])


@router.post("/{code}/preview", response=Previewed)
def post_preview(request: HttpRequest, code: str, body: Preview) -> dict[str, Any]:
    """What the job would say with these entries."""
    return preview(person_of(request), code, [Change(**c.dict()) for c in body.changes])


@router.post("/{code}/steps/{step}/close", response=JobState)
def post_close(request: HttpRequest, code: str, step: str, body: CloseStep) -> dict[str, Any]:
    """Close a step."""
    return close_step(person_of(request), code, body.key, step, body.reason)


@router.post("/{code}/steps/{step}/reopen", response=JobState)
def post_reopen(request: HttpRequest, code: str, step: str, body: ReopenStep) -> dict[str, Any]:
    """Open a closed step again, with its reason."""
    return reopen_step(person_of(request), code, body.key, step, body.reason, body.new_run)


@router.post("/{code}/steps/{step}/leave-out", response=JobState)
def post_leave_out(request: HttpRequest, code: str, step: str, body: LeaveOut) -> dict[str, Any]:
    """Declare a step not applicable, with its reason."""
    return leave_out(person_of(request), code, body.key, step, body.reason)


@router.post("/{code}/visits/end", response=JobState)
def post_end_visit(request: HttpRequest, code: str, body: EndVisit) -> dict[str, Any]:
    """End the visit with its outcome."""
    ending = {"outcome": body.outcome, "reason": body.reason, "awaited": body.awaited, "return_on": body.return_on}
    return end_visit(person_of(request), code, body.key, ending)


@router.post("/{code}/visits/start", response=JobState)
def post_start_visit(request: HttpRequest, code: str, body: StartVisit) -> dict[str, Any]:
    """Come back: a new visit on the job."""
    return start_visit(person_of(request), code, body.key)


@router.post("/{code}/hand-on", response=JobState)
def post_hand_on(request: HttpRequest, code: str, body: HandOn) -> dict[str, Any]:
    """Hand a job, with the others of its work order, to somebody else of the shop."""
    return hand_on(person_of(request), code, body.key, body.to, stays=body.stays)


@router.post("/{code}/adopt", response=JobState)
def post_adopt(request: HttpRequest, code: str, body: Adopt) -> dict[str, Any]:
    """Make a quick total a job."""
    return adopt(person_of(request), code, body.key, body.title, body.circuit_id)


@router.post("/{code}/rename", response=JobState)
def post_rename(request: HttpRequest, code: str, body: Rename) -> dict[str, Any]:
    """Call an open job otherwise."""
    return rename(person_of(request), code, body.key, body.was, body.title)


@router.post("/{code}/discard", response=JobState)
def post_discard(request: HttpRequest, code: str, body: Discard) -> dict[str, Any]:
    """Discard a job that was begun for nothing, or take it back."""
    return discard(person_of(request), code, body.key, body.discarded)


@router.get("/{code}/history", response=list[HistoryLine])
def get_history(request: HttpRequest, code: str) -> list[dict[str, Any]]:
    """Everything that happened to the job, last first."""
    rows = queries.history(queries.one_job(person_of(request), code))
    return [{"seq": r.seq, "kind": r.kind, "at": r.at, "by": r.by.shown_name, "payload": r.payload} for r in rows]


@router.get("/{code}/schools", response=list[CoreSchoolChange])
def get_schools(request: HttpRequest, code: str) -> list[dict[str, Any]]:
    """What another school would change in this job; nothing is saved."""
    return other_schools_of(queries.one_job(person_of(request), code))


@router.get("/{code}/fits", response=CoreOpinion)
def get_fits(request: HttpRequest, code: str, add: Annotated[str, Field(max_length=40)] = "") -> dict[str, Any]:
    """The rig's opinion: which units would read as this job's last reading, and what they would read with so much more in them."""
    return opinion_on(queries.one_job(person_of(request), code), add)


@router.get("/{code}/document", response={200: Any})
def get_document(request: HttpRequest, code: str) -> HttpResponse:
    """The job as a document, to keep or to open elsewhere."""
    text = document_of(person_of(request), code)
    return HttpResponse(
        text, content_type="application/json", headers={"Content-Disposition": f'attachment; filename="{code}.yoshi-job.json"'}
    )


@router.get("/{code}/record", response={200: Any})
def get_record(request: HttpRequest, code: str) -> HttpResponse:
    """The charge record, as a page."""
    return _page(record_html(queries.one_job(person_of(request), code), person_of(request)))


@router.get("/{code}/label", response={200: Any})
def get_label(request: HttpRequest, code: str) -> HttpResponse:
    """The label for the unit, as a page."""
    return _page(label_html(queries.one_job(person_of(request), code), person_of(request)))


@router.post("/{code}/papers", response={202: TaskRow})
def post_paper(request: HttpRequest, code: str, body: PaperIn) -> Status[dict[str, Any]]:
    """The record or the label as a PDF: the task that sets it, whose file it becomes."""
    person = person_of(request)
    return Status(202, task_row(own_task(person, papers.ask(person, queries.one_job(person, code), body.paper))))


def _page(html: str) -> HttpResponse:
    return HttpResponse(html, content_type="text/html; charset=utf-8")
