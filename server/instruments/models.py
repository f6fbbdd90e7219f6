"""Gateways that post, the instruments behind them, and every reading as a row."""

from django.db import models

from accounts.models import Person, Shop


class PairingCode(models.Model):
    """A code a person reads out to a gateway; good once and for some minutes."""

    shop = models.ForeignKey(Shop, on_delete=models.CASCADE, related_name="pairing_codes")
    code = models.CharField(max_length=12, unique=True)
    by = models.ForeignKey(Person, on_delete=models.PROTECT)
    expires_at = models.DateTimeField()


class Gateway(models.Model):
    """What posts for a kit of instruments. Only a digest of its token is kept.

    `clock_off_s` is how far its clock was off at the last batch that sent its own time; `refused` counts rows not taken.
    """

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="gateways")
    name = models.CharField(max_length=80)
    token_digest = models.CharField(max_length=64, unique=True)
    job = models.ForeignKey("jobs.Job", on_delete=models.SET_NULL, related_name="gateways", null=True)
    paired_by = models.CharField(max_length=80)
    paired_at = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True)
    seen_at = models.DateTimeField(null=True)
    clock_off_s = models.FloatField(default=0.0)
    refused = models.PositiveIntegerField(default=0)
    last_refusal = models.CharField(max_length=300, default="")


class Instrument(models.Model):
    """One thing measured over one channel: step of its display, ± limit, zero and the day it was calibrated, in SI; its battery as a share of full."""

    gateway = models.ForeignKey(Gateway, on_delete=models.CASCADE, related_name="instruments")
    key = models.CharField(max_length=40)
    name = models.CharField(max_length=80)
    channel = models.CharField(max_length=24)
    resolution = models.FloatField()
    limit = models.FloatField()
    relative = models.FloatField(default=0.0)
    zero = models.FloatField(default=0.0)
    calibrated_on = models.DateField(null=True)
    battery = models.FloatField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=("gateway", "key"), name="one_key_per_gateway")]


class Stream(models.Model):
    """The number of the last reading of a job; counted up in the transaction that writes it, so no reader misses one."""

    job = models.OneToOneField("jobs.Job", on_delete=models.CASCADE, primary_key=True, related_name="stream")
    seq = models.PositiveBigIntegerField(default=0)


class Reading(models.Model):
    """One reading in SI, its zero taken off. The same moment of the same instrument comes once, however often it is posted."""

    instrument = models.ForeignKey(Instrument, on_delete=models.CASCADE, related_name="readings")
    job = models.ForeignKey("jobs.Job", on_delete=models.SET_NULL, related_name="readings", null=True)
    seq = models.PositiveBigIntegerField(default=0)
    value = models.FloatField()
    at = models.DateTimeField()
    received_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=("instrument", "at"), name="one_reading_a_moment")]
        indexes = [
            models.Index(fields=("job", "seq"), name="reading_stream"),
            models.Index(fields=("job", "instrument", "at"), name="reading_log"),
        ]
