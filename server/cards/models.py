"""What was done to the shop's cards."""

from django.db import models

from accounts.models import Person, Shop


class CardEvent(models.Model):
    """One thing that was done to a card; rows are added, never changed. `detail` is enough to undo it, and what `undoes` one is a row of its own."""

    KINDS = ("customer", "site", "system", "circuit", "cylinder")
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="card_events")
    kind = models.CharField(max_length=10)
    card = models.PositiveBigIntegerField()
    what = models.CharField(max_length=12)
    detail = models.JSONField(default=dict)
    at = models.DateTimeField(auto_now_add=True)
    by = models.ForeignKey(Person, on_delete=models.PROTECT)
    undoes = models.OneToOneField("self", on_delete=models.PROTECT, related_name="undone_by", null=True)

    class Meta:
        indexes = [models.Index(fields=("kind", "card", "-id"), name="card_events")]
