"""Who is named on a job: a work order's people are those of all its jobs."""

from accounts.models import Person
from jobs.models import Change, Job


def name_on(row: Job, person: Person) -> None:
    """Name a person on a job, and with it on the others of its work order."""
    row.people.add(person)
    if row.work_order_id is None:
        return
    others = Job.objects.filter(work_order=row.work_order_id).exclude(pk=row.pk)
    for other in others.only("pk"):
        other.people.add(person)


def name_missing() -> int:
    """Name those who worked on it on every job that names nobody: an older server beside this one makes such. How many there were."""
    bare = list(Job.objects.filter(people=None).values_list("pk", flat=True)[:1000])
    worked = set(Change.objects.filter(job__in=bare).values_list("job", "by"))
    named = Job.people.through
    named.objects.bulk_create((named(job_id=job, person_id=by) for job, by in sorted(worked)), ignore_conflicts=True)
    return len(bare)
