"""Reading the jobs a person may see: a technician those they are named on, everybody else their shop's."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from django.db.models import Count, Q, QuerySet

from accounts.models import Person, Shop
from accounts.paging import MOST_WORDS, holds_words
from accounts.queries import shop_of
from jobs.models import AT_WORK, Change, Job
from systems.models import Circuit
from systems.queries import circuits_of

PAGE = 50
CIRCUIT_NAMES = ("code", "name", "system__name", "system__site__name")


class NotYours(PermissionError):
    """A job of the same shop that somebody else is named on."""


def jobs_of(shop: Shop) -> QuerySet[Job]:
    return Job.objects.filter(shop=shop)


def seen_by(person: Person) -> QuerySet[Job]:
    """The jobs a person may read and work on."""
    rows = jobs_of(shop_of(person))
    return rows.filter(people=person) if person.role == "technician" else rows


@dataclass(frozen=True)
class Wanted:
    """Which jobs a list is to hold; what is empty is not asked. `whose` is the username of somebody named on them."""

    listed: str = "open"
    search: str = ""
    step: str = ""
    word: str = ""
    whose: str = ""
    by_name: bool = False


Marker = tuple[datetime, int] | tuple[str, int]


def job_page(person: Person, wanted: Wanted, before: Marker | None = None) -> list[Job]:
    """One page of jobs, last touched first or by name, by key and not by offset; documents stay unread.

    The page's ids are read from the list's index alone, so that the index is sought from `before`
    and not walked from its start; then the rows of those ids.
    """
    rows = seen_by(person).filter(_holds_words(shop_of(person), wanted.search), listed=wanted.listed)
    exactly = {"step": wanted.step, "word": wanted.word, "people__username": wanted.whose}
    rows = rows.filter(**{column: value for column, value in exactly.items() if value})
    order = ("title", "id") if wanted.by_name else ("-updated_at", "-id")
    if before is not None:
        value, row_id = before
        rows = rows.filter(
            Q(title__gte=value) & (Q(title__gt=value) | Q(id__gt=row_id))
            if wanted.by_name
            else Q(updated_at__lte=value) & (Q(updated_at__lt=value) | Q(id__lt=row_id))
        )
    ids = list(rows.order_by(*order).values_list("id", flat=True)[: PAGE + 1])
    page = Job.objects.filter(id__in=ids).defer("document", "findings").select_related("circuit__system__site", "work_order")
    return list(page.order_by(*order))


def how_many(person: Person) -> dict[str, int]:
    """How many jobs a person sees stand in each list, and how many of the open ones stand at which word."""
    rows = seen_by(person).filter(listed__in=AT_WORK)
    counted = rows.values_list("listed", "word").annotate(Count("id")).order_by()
    found = {"open": 0, "quick": 0, "stopped": 0}
    for listed, word, many in counted:
        found[listed] += many
        found["stopped"] += many if (listed, word) == ("open", "Stop") else 0
    return found


def _holds_words(shop: Shop, search: str) -> Q:
    """Each word in the job's name or number, or in its circuit's, system's or site's name; circuits are few, and looked up apart."""
    found = Q()
    for word in search.split()[:MOST_WORDS]:
        there = circuits_of(shop).filter(holds_words(word, CIRCUIT_NAMES)).order_by()
        found &= holds_words(word, ("title", "code")) | Q(circuit__in=there.values("id"))
    return found


def one_job(person: Person, code: str) -> Job:
    """The job of this code. Raises `Job.DoesNotExist` for another shop's, `NotYours` for a colleague's."""
    return _one(person, code, seen_by(person).select_related("circuit__system__site"))


def one_document(person: Person, code: str) -> Job:
    """The same job with nothing read but its document: for an answer on every key that is pressed."""
    return _one(person, code, seen_by(person).only("code", "seq", "document", "document_version"))


def _one(person: Person, code: str, rows: QuerySet[Job]) -> Job:
    row = rows.filter(code=code).first()
    if row is None:
        refuse_others(person, code)
        raise Job.DoesNotExist
    row.shop = shop_of(person)
    return row


def refuse_others(person: Person, code: str) -> None:
    """Raise `NotYours` where the job is this shop's and not this person's."""
    if jobs_of(shop_of(person)).filter(code=code).exists() and not seen_by(person).filter(code=code).exists():
        raise NotYours("This job is somebody else's. The lead can hand it to you.")


def history(job: Job) -> list[Change]:
    return list(job.changes.select_related("by")[:200])


def jobs_on(person: Person, circuit: Circuit) -> list[Job]:
    """The jobs of a circuit a person may see, last first; documents stay unread."""
    return list(seen_by(person).filter(circuit=circuit, discarded=False).defer("document", "findings").order_by("-updated_at")[:50])


def open_jobs(shop: Shop, most: int) -> list[Job]:
    """Open jobs with their documents, last touched first."""
    return list(jobs_of(shop).filter(listed__in=AT_WORK).select_related("shop").order_by("-updated_at")[:most])


def retrofits_among(shop: Shop, codes: Iterable[str]) -> set[str]:
    """Those of these jobs that change a refrigerant, by code."""
    return set(jobs_of(shop).filter(code__in=set(codes), kind="retrofit").values_list("code", flat=True))
