"""A record or a label as a PDF, set by a task: that takes a second or two of one processor, and no request waits for it."""

from typing import Any

from django.db import transaction

from accounts.models import Person
from accounts.queries import shop_of
from accounts.retry import again_when_met
from jobs.models import Job
from records.render import label_html, record_html, to_pdf
from tasks import queue
from tasks.models import Made, Task
from tasks.queue import Step
from yoshi_core.errors import InvalidInput

KIND = "paper"
PAPERS = {"record": record_html, "label": label_html}


def ask(person: Person, row: Job, paper: str) -> int:
    """Have a paper of a job set; the task's number, of one not begun too. Raises `InvalidInput` for a paper there is not."""
    if paper not in PAPERS:
        raise InvalidInput("A paper is the record or the label.", path="/paper")
    given = {"job": row.pk, "paper": paper}
    shop = shop_of(person)

    @again_when_met
    @transaction.atomic
    def put() -> int:
        waiting = Task.objects.filter(shop=shop, person=person, kind=KIND, state="waiting")
        same = next((task.pk for task in waiting if task.given == given), None)
        return same or queue.add(KIND, given, shop_id=shop.pk, person_id=person.pk).pk

    return put()


def work(step: Step) -> dict[str, Any]:
    """The task itself: the job as it is now, in the units of who asked."""
    row = Job.objects.get(pk=step.given["job"])
    paper = step.given["paper"]
    html = PAPERS[paper](row, Person.objects.get(pk=step.person_id or 0))
    step.keep(0.2)
    name = f"{row.code}-{paper}.pdf"
    file = {"name": name, "media_type": "application/pdf", "content": to_pdf(html)}
    Made.objects.update_or_create(task_id=step.id, defaults=file)
    return {"file": name}
