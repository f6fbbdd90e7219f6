"""Practice: exercises of a shop, who was given which, runs with the books they have of their own, and everything done at the bench."""

from django.db import models

from accounts.models import Person, Shop
from jobs.models import Job

SPEEDS = (1, 10, 60)


class Exercise(models.Model):
    """An exercise somebody of the shop made or took in, as its open file has it."""

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="exercises")
    name = models.CharField(max_length=120)
    text = models.TextField()
    by = models.CharField(max_length=80)
    at = models.DateTimeField(auto_now=True)
    gone = models.BooleanField(default=False)


class Given(models.Model):
    """An exercise a lead gave to somebody: one that is shipped, by its name, or one of the shop's."""

    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="given")
    shipped = models.CharField(max_length=60, default="")
    own = models.ForeignKey(Exercise, on_delete=models.CASCADE, related_name="given", null=True)
    by = models.CharField(max_length=80)
    at = models.DateTimeField(auto_now_add=True)


class Run(models.Model):
    """One run of an exercise. `book` is a shop of its own with `player` in it, so that nothing of practice is ever in the shop's lists.

    `time_s` is practice time at `ticked_at`; `shown` what stands before the person, `inside` what a look inside shows. Whoever has it until
    `taken_until` lets its time run. `asleep` is one that nobody looked at; `met` and `off_kg` repeat its result for lists. A run is its exercise, its seed and its acts.
    """

    STATES = (("going", "going"), ("paused", "paused"), ("ended", "ended"))
    code = models.CharField(max_length=20, unique=True)
    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="runs")
    book = models.OneToOneField(Shop, on_delete=models.PROTECT, related_name="practice_run")
    player = models.OneToOneField(Person, on_delete=models.PROTECT, related_name="played")
    job = models.OneToOneField(Job, on_delete=models.PROTECT, related_name="practice_run", null=True)
    name = models.CharField(max_length=120)
    shipped = models.CharField(max_length=60, default="")
    own = models.ForeignKey(Exercise, on_delete=models.SET_NULL, related_name="runs", null=True)
    text = models.TextField()
    seed = models.PositiveIntegerField()
    test = models.BooleanField(default=False)
    state = models.CharField(max_length=8, choices=STATES, default="going")
    asleep = models.BooleanField(default=False)
    speed = models.PositiveSmallIntegerField(default=1)
    time_s = models.PositiveIntegerField(default=0)
    ticked_at = models.DateTimeField()
    seen_at = models.DateTimeField()
    taken_by = models.CharField(max_length=80, default="")
    taken_until = models.DateTimeField(null=True)
    shown = models.JSONField(null=True)
    inside = models.JSONField(null=True)
    result = models.JSONField(null=True)
    met = models.BooleanField(null=True)
    off_kg = models.FloatField(null=True)
    shared = models.BooleanField(default=False)
    began_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [
            models.Index(fields=("state", "seen_at"), name="run_going"),
            models.Index(fields=("person", "-began_at"), name="run_list"),
        ]


class Act(models.Model):
    """One thing somebody did at the bench: asked for, then done at a second of practice time, or refused with the reason."""

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="acts")
    key = models.CharField(max_length=64)
    do = models.CharField(max_length=20)
    what = models.CharField(max_length=60, default="")
    to = models.CharField(max_length=60, default="")
    asked_at = models.DateTimeField(auto_now_add=True)
    at_s = models.PositiveIntegerField(null=True)
    refused = models.JSONField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=("run", "key"), name="one_act_per_key")]
        indexes = [models.Index(fields=("run", "at_s", "id"), name="acts_in_order")]
