"""Setting the record and the label: HTML by template, PDF by WeasyPrint."""

import base64
from functools import lru_cache
from pathlib import Path
from typing import Any

from django.conf import settings
from django.template.loader import render_to_string
from django.utils import timezone

from accounts.models import Person
from accounts.queries import shop_of
from jobs.judging import judged
from jobs.models import Job
from jobs.store import profile_for, read
from yoshi_core.record.record import label_data, record_data

STYLE = Path(__file__).parent / "templates" / "records" / "record.css"


@lru_cache(maxsize=1)
def _style() -> str:
    """The sheet with the interface's typeface inside it: a record stands alone, saved or mailed."""
    face = settings.TYPEFACE
    if not face.exists():
        return STYLE.read_text(encoding="utf-8")
    data = base64.b64encode(face.read_bytes()).decode()
    source = f'url(data:font/woff2;base64,{data}) format("woff2")'
    rule = f'@font-face {{ font-family: "Archivo Variable"; font-weight: 100 900; src: {source}; }}\n'
    return rule + STYLE.read_text(encoding="utf-8")


def record_html(row: Job, person: Person) -> str:
    """The charge record of a job as a whole HTML page."""
    job = read(row)
    profile = profile_for(row, job)
    now = timezone.now()
    data: dict[str, Any] = record_data(
        job, judged(job, profile, now), profile.name, "si" if person.units == "si" else "us", now, shop_of(person).name
    )
    return render_to_string("records/record.html", {**data, "style": _style()})


def label_html(row: Job, person: Person) -> str:
    """The label for the unit, 100 × 60 mm."""
    job = read(row)
    data = label_data(job, judged(job, profile_for(row, job), timezone.now()), shop_of(person).name)
    return render_to_string("records/label.html", {**data, "style": _style()})


def to_pdf(html: str) -> bytes:
    """The page as PDF; nothing is fetched while it is set."""
    import weasyprint

    return bytes(weasyprint.HTML(string=html, url_fetcher=_only_inside).write_pdf())


def _only_inside(url: str, *args: Any, **options: Any) -> dict[str, Any]:
    if url.startswith("data:"):
        import weasyprint

        return dict(weasyprint.default_url_fetcher(url))
    raise ValueError(f"a record refers to nothing outside itself: {url}")
