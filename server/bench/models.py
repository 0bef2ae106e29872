"""Readings and meter checks: kept exactly as typed, never changed, never removed. The database itself refuses both."""

from __future__ import annotations

import uuid

from django.db import models
from django.db.models import F, Q

from server.bench.querysets import MeterCheckQuerySet, ReadingQuerySet


class Reading(models.Model):
    """One number off one meter at one moment; a wrong one is corrected by a new one that says why.

    `id` is made on the device, so that sending twice keeps one. `volts_v` is E(red) − E(black) as the meter showed it,
    `resolution_v` the step of its last digit, `offset_v` what the meter showed with its leads together when it was checked
    last: the corrected value is volts_v − offset_v.
    """

    class Origin(models.TextChoices):
        """How the number came here."""

        TYPED = "typed"
        IMPORTED = "imported"
        SIMULATED = "simulated"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    cell = models.ForeignKey("labs.PlannedCell", on_delete=models.PROTECT, related_name="readings")
    red = models.CharField(max_length=60)
    black = models.CharField(max_length=60)
    text = models.CharField(max_length=32)
    unit = models.CharField(max_length=2)
    volts_v = models.FloatField()
    resolution_v = models.FloatField()
    offset_v = models.FloatField(default=0.0)
    origin = models.CharField(max_length=9, choices=Origin.choices, default=Origin.TYPED)
    corrects = models.OneToOneField("self", on_delete=models.PROTECT, null=True, blank=True, related_name="correction")
    reason = models.CharField(max_length=200, blank=True)
    device_at = models.DateTimeField(null=True, blank=True)
    received_at = models.DateTimeField()

    objects = ReadingQuerySet.as_manager()

    class Meta:
        ordering = ["received_at", "id"]
        indexes = [models.Index(fields=["cell", "received_at"])]
        constraints = [
            models.CheckConstraint(condition=~Q(red=F("black")), name="leads_on_two_plates"),
            models.CheckConstraint(condition=Q(corrects__isnull=True) | ~Q(reason=""), name="correction_says_why"),
            models.CheckConstraint(condition=Q(resolution_v__gt=0), name="resolution_above_zero"),
        ]

    def __str__(self) -> str:
        return f"{self.text} {self.unit}"


class MeterCheck(models.Model):
    """A group's meter with its leads together and on a fresh dry cell; a later check stands beside the earlier."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    group = models.ForeignKey("people.Group", on_delete=models.PROTECT, related_name="meter_checks")
    leads_text = models.CharField(max_length=32)
    dry_text = models.CharField(max_length=32)
    offset_v = models.FloatField()
    resolution_v = models.FloatField()
    code = models.CharField(max_length=20)
    device_at = models.DateTimeField(null=True, blank=True)
    received_at = models.DateTimeField()

    objects = MeterCheckQuerySet.as_manager()

    class Meta:
        ordering = ["received_at", "id"]
        indexes = [models.Index(fields=["group", "received_at"])]

    def __str__(self) -> str:
        return f"{self.group}: {self.code}"


class AskedAgain(models.Model):
    """A teacher asks a group for a new reading of a cell; answered by any reading that comes after."""

    cell = models.ForeignKey("labs.PlannedCell", on_delete=models.CASCADE, related_name="asked")
    asked_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["asked_at"]

    def __str__(self) -> str:
        return f"{self.cell}"
