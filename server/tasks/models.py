"""Work that no request waits for: one row a task."""

from django.db import models


class Task(models.Model):
    """`given` is what it was asked with, until it ends, `done` how far it came, `result` what came of it. Whoever has it until `taken_until` works on it."""

    STATES = (("waiting", "waiting"), ("running", "running"), ("done", "done"), ("failed", "failed"), ("cancelled", "cancelled"))
    shop = models.ForeignKey("accounts.Shop", on_delete=models.CASCADE, null=True, related_name="tasks")
    person = models.ForeignKey("accounts.Person", on_delete=models.CASCADE, null=True, related_name="tasks")
    kind = models.CharField(max_length=40)
    given = models.JSONField()
    done = models.JSONField(default=dict)
    result = models.JSONField(default=dict)
    state = models.CharField(max_length=10, choices=STATES, default="waiting")
    progress = models.FloatField(default=0.0)
    tries = models.PositiveSmallIntegerField(default=0)
    taken_by = models.CharField(max_length=80, default="")
    taken_until = models.DateTimeField(null=True)
    run_at = models.DateTimeField()
    created_at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True, db_index=True)

    class Meta:
        indexes = [
            models.Index(fields=("state", "run_at"), name="task_queue"),
            models.Index(fields=("shop", "-created_at"), name="task_list"),
        ]


class Made(models.Model):
    """A file a task made; it goes with its task."""

    task = models.OneToOneField(Task, on_delete=models.CASCADE, primary_key=True, related_name="made")
    name = models.CharField(max_length=100)
    media_type = models.CharField(max_length=60)
    content = models.BinaryField()
