"""Where work is done: sites, systems, circuits. A circuit owns its plate and lines, with their history."""

from django.db import models

from accounts.models import Shop


class Site(models.Model):
    """A place with one altitude and one kind of gauge."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="sites")
    name = models.CharField(max_length=120)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=("shop", "name"), name="site_list")]


class System(models.Model):
    """A machine at a site, of one or more circuits."""

    site = models.ForeignKey(Site, on_delete=models.PROTECT, related_name="systems")
    name = models.CharField(max_length=120)

    class Meta:
        indexes = [models.Index(fields=("site", "name"), name="system_list")]


class Circuit(models.Model):
    """A refrigerant circuit; `plate` is the core's Plate (data plate, line sets, site conditions) as plain data."""

    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="circuits")
    code = models.CharField(max_length=40)
    name = models.CharField(max_length=120)
    revision = models.PositiveIntegerField(default=1)
    plate = models.JSONField(default=dict)
    fingerprint = models.JSONField(null=True)

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
