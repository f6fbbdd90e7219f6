"""Jobs as documents, every change to them, and the keys that make a repeated request harmless."""

import uuid

from django.db import models

from accounts.models import Person, Shop
from systems.models import Circuit, System

AT_WORK = ("open", "quick")  # the lists of jobs that are still worked on


def new_code() -> str:
    return uuid.uuid4().hex[:12]


class Job(models.Model):
    """One job. `document` is the core's Job as plain data; `findings` what it says now.

    `word`, `step`, `headline`, `carried` (what somebody answers for, or what points away from it), `visit` (how the last visit ended) and `return_on` repeat document and findings for
    lists, so that a list never reads documents. `people` are those it is the job of: a job of a work order is everybody's who is named on one of them. Of a job taken over from a file, the first `history_lines` of its ledger happened before:
    they are history of that document, and never in this shop's book. One that was begun for nothing is `discarded` and counts as
    closed; `listed` is the list it stands in, which the database itself makes of these.
    """

    code = models.CharField(max_length=20, unique=True, default=new_code)
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="jobs")
    circuit = models.ForeignKey(Circuit, on_delete=models.PROTECT, related_name="jobs", null=True)
    work_order = models.ForeignKey("WorkOrder", on_delete=models.PROTECT, related_name="jobs", null=True)
    kind = models.CharField(max_length=12)
    title = models.CharField(max_length=160)
    document = models.JSONField()
    document_version = models.PositiveSmallIntegerField()
    findings = models.JSONField()
    profile_revision = models.PositiveIntegerField()
    seq = models.PositiveIntegerField(default=0)
    step = models.CharField(max_length=20)
    word = models.CharField(max_length=6)
    headline = models.JSONField(default=dict)
    carried = models.JSONField(null=True)
    closed = models.BooleanField(default=False)
    discarded = models.BooleanField(db_default=False)
    listed = models.GeneratedField(
        expression=models.Case(
            models.When(discarded=True, then=models.Value("discarded")),
            models.When(closed=True, then=models.Value("closed")),
            models.When(kind="quick", then=models.Value("quick")),
            default=models.Value("open"),
        ),
        output_field=models.CharField(max_length=10),
        db_persist=True,
    )
    visit = models.CharField(max_length=20, default="")
    return_on = models.CharField(max_length=10, default="")
    history_lines = models.PositiveIntegerField(default=0)
    original = models.CharField(max_length=60, default="", db_index=True)
    technician = models.CharField(max_length=80)
    people = models.ManyToManyField(Person, related_name="named_on")
    created_at = models.DateTimeField()
    updated_at = models.DateTimeField()

    class Meta:
        indexes = [
            models.Index(fields=("shop", "listed", "-updated_at", "-id", "title", "code", "circuit", "step", "word"), name="job_lists"),
            models.Index(fields=("shop", "listed", "title", "id", "code", "circuit", "step", "word"), name="job_lists_by_name"),
        ]


class KeptRecord(models.Model):
    """What a job said and printed when it was closed: sentences, amounts and their order, for ever; rows are added, never changed.

    `content` holds the record in each system of units and the label, as the templates take them, and the findings.
    """

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="kept")
    content = models.JSONField()
    core_version = models.CharField(max_length=20)
    at = models.DateTimeField()

    class Meta:
        ordering = ("-pk",)


class Change(models.Model):
    """One thing that happened to a job; rows are added, never changed."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="changes")
    seq = models.PositiveIntegerField()
    kind = models.CharField(max_length=20)
    payload = models.JSONField()
    at = models.DateTimeField()
    by = models.ForeignKey(Person, on_delete=models.PROTECT)

    class Meta:
        constraints = [models.UniqueConstraint(fields=("job", "seq"), name="one_change_per_seq")]
        ordering = ("-seq",)


class WorkOrder(models.Model):
    """One errand at one machine: it groups the jobs of its circuits, one job a circuit."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="work_orders")
    code = models.CharField(max_length=20, unique=True, default=new_code)
    title = models.CharField(max_length=160)
    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="work_orders", null=True)
    created_at = models.DateTimeField(auto_now_add=True)
