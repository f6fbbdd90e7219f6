"""Setting the record and the label: HTML by the core's pages, PDF by WeasyPrint."""

import base64
from functools import lru_cache
from typing import Any

from django.conf import settings

from accounts import clock
from accounts.models import Person
from accounts.queries import shop_of
from jobs.judging import judged
from jobs.models import Job
from jobs.store import profile_for, read
from yoshi_core.record import pages
from yoshi_core.record.record import label_data, moment_text, record_data
from yoshi_core.units.display import System

WEIGHTS = "font-weight: 100 900; "  # a browser needs them for one face of every weight; WeasyPrint finds them in the file, and complains


@lru_cache(maxsize=1)
def _face() -> str:
    """The interface's typeface itself: a record stands alone, saved or mailed."""
    face = settings.TYPEFACE
    if not face.exists():
        return ""
    return f'url(data:font/woff2;base64,{base64.b64encode(face.read_bytes()).decode()}) format("woff2")'


def _kept(row: Job) -> dict[str, Any] | None:
    """What a closed job printed when it was closed; None for an open one, and for one closed before that was kept."""
    kept = row.kept.first() if row.closed else None
    return kept.content if kept is not None else None


def record_html(row: Job, person: Person) -> str:
    """The charge record of a job as a whole HTML page; of a closed one with the words and figures it was closed with."""
    system: System = "si" if person.units == "si" else "us"
    now, kept = clock.now(), _kept(row)
    if kept is not None:
        data: dict[str, Any] = {**kept["record"][system], "printed": moment_text(now)}
    else:
        job = read(row)
        profile = profile_for(row, job)
        data = record_data(job, judged(job, profile, now), profile.name, system, now, shop_of(person).name)
    return pages.record_page(data, _face())


def label_html(row: Job, person: Person) -> str:
    """The label for the unit, 100 × 60 mm."""
    kept = _kept(row)
    if kept is not None:
        data: dict[str, Any] = kept["label"]
    else:
        job = read(row)
        data = label_data(job, judged(job, profile_for(row, job), clock.now()), shop_of(person).name)
    return pages.label_page(data, _face())


def to_pdf(html: str) -> bytes:
    """The page as PDF; it refers to nothing outside itself, and nothing is fetched while it is set."""
    import weasyprint
    from weasyprint.urls import URLFetcher

    inside = URLFetcher(allowed_protocols=("data",), fail_on_errors=True)
    return bytes(weasyprint.HTML(string=html.replace(WEIGHTS, "", 1), url_fetcher=inside).write_pdf())
