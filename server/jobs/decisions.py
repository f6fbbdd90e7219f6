"""What waits for somebody: jobs that stopped on a question, and jobs between two visits with what was awaited."""

from typing import Any

from django.db.models import Q, QuerySet

from jobs.models import Job

MOST = 30
BETWEEN = ("left_safe", "running_not_proven", "handed_over")


def decisions(rows: QuerySet[Job]) -> list[dict[str, Any]]:
    """Of these open jobs, those that go on only once somebody decided, or came back; by what they said last, stopped ones first."""
    found = rows.filter(Q(word="Stop") | Q(visit__in=BETWEEN)).order_by("return_on", "-updated_at")[:MOST]
    return sorted((_row(row) for row in found), key=lambda row: not row["stopped"])


def _row(row: Job) -> dict[str, Any]:
    visits = row.document.get("visits") or [{}]
    between = row.visit in BETWEEN
    return {
        "code": row.code,
        "title": row.title,
        "step": row.step,
        "stopped": row.word == "Stop",
        "what": row.headline,
        "visit": row.visit if between else "",
        "awaited": str(visits[-1].get("awaited") or "") if between else "",
        "return_on": row.return_on if between else "",
        "technician": row.technician,
    }
