"""The shop, its people, and its practice profile with history."""

from django.contrib.auth.models import AbstractUser
from django.contrib.sessions.base_session import AbstractBaseSession
from django.db import models
from django.utils.module_loading import import_string

SHORTEST, SHORTEST_WITH_SECOND, LONGEST = 15, 8, 128
OFFLINE_DAYS, MOST_OFFLINE_DAYS = 14, 60


class Shop(models.Model):
    """A service company; it owns everything else. A device works on for `offline_days` without a word of the server. `turn` is written by whoever has its books alone for a moment."""

    name = models.CharField(max_length=120)
    shortest_password = models.PositiveSmallIntegerField(default=SHORTEST, db_default=SHORTEST)
    offline_days = models.PositiveSmallIntegerField(default=OFFLINE_DAYS, db_default=OFFLINE_DAYS)
    turn = models.PositiveBigIntegerField(default=0, db_default=0)
    created_at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.name


class Person(AbstractUser):
    """Somebody who signs in, and what they may do there: see `api/permissions.py`."""

    ROLES = (("technician", "Technician"), ("lead", "Lead"), ("owner", "Owner"))
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="people", null=True)
    shown_name = models.CharField(max_length=80)
    role = models.CharField(max_length=12, choices=ROLES, default="technician")
    units = models.CharField(max_length=2, choices=(("us", "US"), ("si", "SI")), default="us")
    clock = models.CharField(max_length=2, choices=(("24", "24 h"), ("12", "12 h")), db_default="24")
    device_key = models.CharField(max_length=44, default="", db_default="")


class SignedIn(AbstractBaseSession):
    """A session, with whose it is and on which device it began."""

    person = models.ForeignKey(Person, on_delete=models.CASCADE, null=True, related_name="sessions")
    started_at = models.DateTimeField()
    device = models.CharField(max_length=80, default="")
    address = models.CharField(max_length=45, default="")

    @classmethod
    def get_session_store_class(cls) -> type:
        store: type = import_string("accounts.sessions.SessionStore")
        return store


class Trail(models.Model):
    """Who did what, from where; rows are added, never changed or taken away."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="trail")
    person = models.ForeignKey(Person, on_delete=models.PROTECT, null=True)
    at = models.DateTimeField(auto_now_add=True)
    what = models.CharField(max_length=60)
    about = models.CharField(max_length=120, default="")
    detail = models.JSONField(default=dict)
    address = models.CharField(max_length=45, default="")
    device = models.CharField(max_length=80, default="")

    class Meta:
        indexes = [models.Index(fields=("shop", "-at", "-id"), name="trail_list")]


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
