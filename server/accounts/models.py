"""The shop, its people, and its practice profile with history."""

from django.contrib.auth.models import AbstractUser
from django.db import models


class Shop(models.Model):
    """A service company; it owns everything else."""

    name = models.CharField(max_length=120)
    created_at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.name


class Person(AbstractUser):
    """Somebody who signs in. Roles beyond signing in come later; the role is kept from the start."""

    ROLES = (("technician", "Technician"), ("lead", "Lead"), ("owner", "Owner"))
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="people", null=True)
    shown_name = models.CharField(max_length=80)
    role = models.CharField(max_length=12, choices=ROLES, default="technician")
    units = models.CharField(max_length=2, choices=(("us", "US"), ("si", "SI")), default="us")


class ProfileRevision(models.Model):
    """One revision of the shop's practice profile; rows are added, never changed."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="profiles")
    revision = models.PositiveIntegerField()
    name = models.CharField(max_length=120)
    overrides = models.JSONField(default=dict)
    choices = models.JSONField(default=dict)
    reason = models.CharField(max_length=300)
    at = models.DateTimeField()
    by = models.CharField(max_length=80)

    class Meta:
        constraints = [models.UniqueConstraint(fields=("shop", "revision"), name="one_profile_revision")]
        ordering = ("-revision",)


class AcceptedRequest(models.Model):
    """A write that was done, by its key, with the answer it got."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT)
    key = models.CharField(max_length=64)
    digest = models.CharField(max_length=64)
    answer = models.JSONField()
    at = models.DateTimeField(auto_now_add=True, db_index=True)

    class Meta:
        db_table = "jobs_acceptedrequest"
        constraints = [models.UniqueConstraint(fields=("shop", "key"), name="one_answer_per_key")]


class SignInTries(models.Model):
    """How often signing in failed of late, by account, address or device; names and addresses are kept as digests only."""

    key = models.CharField(max_length=80, unique=True)
    failures = models.PositiveIntegerField(default=0)
    next_at = models.DateTimeField()
    last_at = models.DateTimeField(db_index=True)
