"""For whom and where work is done: customers, sites, systems, circuits. A circuit owns its plate and lines, with their history."""

from django.db import models
from django.db.models.fields.json import KT
from django.db.models.functions import Left

from accounts.models import Shop


class Card(models.Model):
    """What a shop keeps of a thing for years. It is archived and not deleted; merged, it points at the one that goes on."""

    name = models.CharField(max_length=120)
    archived_at = models.DateTimeField(null=True)
    merged_into = models.ForeignKey("self", on_delete=models.PROTECT, related_name="merged", null=True)

    class Meta:
        abstract = True


class Customer(Card):
    """Who pays and whom one asks; `language` is the code of what their papers are in."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="customers")
    address = models.CharField(max_length=300, default="")
    contact = models.CharField(max_length=200, default="")
    language = models.CharField(max_length=10, default="en")

    class Meta:
        indexes = [models.Index(fields=("shop", "name"), name="customer_list")]


class Site(Card):
    """A place with one altitude and one kind of gauge."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="sites")
    customer = models.ForeignKey(Customer, on_delete=models.PROTECT, related_name="sites", null=True)
    address = models.CharField(max_length=300, db_default="")
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=("shop", "name"), name="site_list")]


class System(Card):
    """A machine at a site, of one or more circuits."""

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="systems")

    class Meta:
        indexes = [models.Index(fields=("site", "name"), name="system_list")]


class Circuit(Card):
    """A refrigerant circuit; `plate` is the core's Plate (data plate, line sets, site conditions) as plain data."""

    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="circuits")
    code = models.CharField(max_length=40)
    revision = models.PositiveIntegerField(default=1)
    plate = models.JSONField(default=dict)
    fingerprint = models.JSONField(null=True)
    # What lists are searched and filtered by, taken from the plate by the database itself.
    refrigerant = models.GeneratedField(
        expression=Left(KT("plate__refrigerant"), 40), output_field=models.CharField(max_length=40, null=True), db_persist=True
    )
    kind = models.GeneratedField(
        expression=Left(KT("plate__kind"), 20), output_field=models.CharField(max_length=20, null=True), db_persist=True
    )

    class Meta:
        constraints = [models.UniqueConstraint(fields=("system", "code"), name="one_circuit_code")]


class CircuitRevision(models.Model):
    """What the circuit's plate said before and after; rows are added, never changed."""

    circuit = models.ForeignKey(Circuit, on_delete=models.PROTECT, related_name="revisions")
    revision = models.PositiveIntegerField()
    plate = models.JSONField()
    at = models.DateTimeField()
    by = models.CharField(max_length=80)
    reason = models.CharField(max_length=300)

    class Meta:
        constraints = [models.UniqueConstraint(fields=("circuit", "revision"), name="one_circuit_revision")]
        ordering = ("-revision",)
