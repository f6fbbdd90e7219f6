"""Jobs as documents, every change to them, and the keys that make a repeated request harmless."""

import uuid

from django.db import models

from accounts.models import Person, Shop
from systems.models import Circuit


def new_code() -> str:
    return uuid.uuid4().hex[:12]


class Job(models.Model):
    """One job. `document` is the core's Job as plain data; `findings` what it says now.

    `word`, `step` and `headline` repeat the findings for lists, so that a list never reads documents.
    """

    code = models.CharField(max_length=20, unique=True, default=new_code)
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="jobs")
    circuit = models.ForeignKey(Circuit, on_delete=models.PROTECT, related_name="jobs", null=True)
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
    closed = models.BooleanField(default=False)
    technician = models.CharField(max_length=80)
    created_at = models.DateTimeField()
    updated_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=("shop", "closed", "-updated_at", "-id"), name="job_list")]


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


class AcceptedRequest(models.Model):
    """A write that was done, by its key, with the answer it got."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT)
    key = models.CharField(max_length=64)
    digest = models.CharField(max_length=64)
    answer = models.JSONField()
    at = models.DateTimeField(auto_now_add=True, db_index=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=("shop", "key"), name="one_answer_per_key")]
