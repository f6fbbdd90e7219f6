"""What a run's instruments posted is not kept: a run is its exercise, its seed and its acts, and can be played again."""

from datetime import timedelta

from django.utils import timezone

from instruments.models import Reading
from practice.models import Run

KEPT = timedelta(days=1)
AT_ONCE = 5_000


def prune() -> int:
    """Take away the readings of runs that ended a day ago, in bites; how many."""
    gone = 0
    ended = Run.objects.filter(state="ended", ended_at__lt=timezone.now() - KEPT).exclude(job=None)
    rows = Reading.objects.filter(job__in=ended.values("job"))
    while some := list(rows.values_list("pk", flat=True)[:AT_ONCE]):
        gone += Reading.objects.filter(pk__in=some).delete()[0]
    return gone
