"""Reading jobs of a shop."""

from datetime import datetime

from django.db.models import Q, QuerySet

from accounts.models import Shop
from jobs.models import Change, Job
from systems.models import Circuit

PAGE = 50


def jobs_of(shop: Shop) -> QuerySet[Job]:
    return Job.objects.filter(shop=shop)


def job_page(shop: Shop, closed: bool, before: tuple[datetime, int] | None) -> list[Job]:
    """One page of jobs, last touched first, by key and not by offset; documents stay unread.

    The page's ids are read from the list's index alone, so that the index is sought from `before`
    and not walked from its start; then the rows of those ids.
    """
    rows = jobs_of(shop).filter(closed=closed)
    if before is not None:
        moment, row_id = before
        rows = rows.filter(Q(updated_at__lte=moment), Q(updated_at__lt=moment) | Q(id__lt=row_id))
    ids = list(rows.order_by("-updated_at", "-id").values_list("id", flat=True)[: PAGE + 1])
    page = Job.objects.filter(id__in=ids).defer("document", "findings").select_related("circuit__system__site", "work_order")
    return list(page.order_by("-updated_at", "-id"))


def one_job(shop: Shop, code: str) -> Job:
    """The job of this code; `Job.DoesNotExist` for another shop's."""
    return jobs_of(shop).select_related("shop", "circuit__system__site").get(code=code)


def history(job: Job) -> list[Change]:
    return list(job.changes.select_related("by")[:200])


def jobs_on(circuit: Circuit) -> list[Job]:
    """The jobs of a circuit, last first; documents stay unread."""
    return list(Job.objects.filter(circuit=circuit).defer("document", "findings").order_by("-updated_at")[:50])


def open_jobs(shop: Shop, most: int) -> list[Job]:
    """Open jobs with their documents, last touched first."""
    return list(jobs_of(shop).filter(closed=False).select_related("shop").order_by("-updated_at")[:most])


def retrofits_of(shop: Shop) -> set[str]:
    """Codes of the shop's jobs that change a refrigerant."""
    return set(jobs_of(shop).filter(kind="retrofit").values_list("code", flat=True))
