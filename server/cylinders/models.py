"""Cylinders and every movement of refrigerant; contents are the sum of movements."""

from django.db import models

from accounts.models import Shop
from systems.models import Circuit


class Cylinder(models.Model):
    """A cylinder as stamped; what is in it is never stored here, only which refrigerant it is for now.

    `gone` says why it stands in no list any more: sent for reclaim, archived, or merged into the one it points at.
    """

    KINDS = (("new", "one-way, new refrigerant"), ("recovery", "refillable"))
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="cylinders")
    code = models.CharField(max_length=40)
    kind = models.CharField(max_length=10, choices=KINDS)
    refrigerant = models.CharField(max_length=40, default="")
    owner = models.CharField(max_length=120, default="")
    tare_kg = models.FloatField()
    tare_text = models.CharField(max_length=40)
    water_capacity_kg = models.FloatField(null=True)
    retest = models.CharField(max_length=7, default="")
    evacuated = models.BooleanField(default=False)
    oily = models.BooleanField(default=False)
    mixed = models.BooleanField(default=False)
    gone = models.CharField(max_length=40, default="")
    merged_into = models.ForeignKey("self", on_delete=models.PROTECT, related_name="merged", null=True)
    created_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=("shop", "code"), name="one_cylinder_code")]
        indexes = [models.Index(fields=("shop", "gone", "kind", "code"), name="cylinder_list")]


class Movement(models.Model):
    """Refrigerant that changed place, once; rows are added, never changed. A correction is a reversal with its reason.

    A unit put on record later is named in its lines then, nothing else is touched. A side without a cylinder and without a circuit is `place` in words: bought, reclaim, lost, difference.
    """

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="movements")
    key = models.CharField(max_length=120)
    kind = models.CharField(max_length=16)
    at = models.DateTimeField()
    by = models.CharField(max_length=80)
    from_cylinder = models.ForeignKey(Cylinder, on_delete=models.PROTECT, related_name="given", null=True)
    to_cylinder = models.ForeignKey(Cylinder, on_delete=models.PROTECT, related_name="taken", null=True)
    from_circuit = models.ForeignKey(Circuit, on_delete=models.PROTECT, related_name="given", null=True)
    to_circuit = models.ForeignKey(Circuit, on_delete=models.PROTECT, related_name="taken", null=True)
    place = models.CharField(max_length=80, default="")
    refrigerant = models.CharField(max_length=40)
    mass_kg = models.FloatField()
    text = models.CharField(max_length=60, default="")
    provenance = models.CharField(max_length=20)
    gross_kg = models.FloatField(null=True)
    reason = models.CharField(max_length=300, default="")
    core_key = models.CharField(max_length=120, default="")
    job_code = models.CharField(max_length=20, default="", db_index=True)
    reverses = models.OneToOneField("self", on_delete=models.PROTECT, related_name="reversed_by", null=True)
    recorded_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=("shop", "key"), name="one_movement_per_key"),
            models.CheckConstraint(condition=models.Q(mass_kg__gte=0.0), name="mass_not_negative"),
        ]
        indexes = [
            models.Index(fields=("from_cylinder", "mass_kg"), name="given_sum"),
            models.Index(fields=("to_cylinder", "mass_kg"), name="taken_sum"),
            models.Index(fields=("shop", "-at", "-id"), name="movement_list"),
        ]
