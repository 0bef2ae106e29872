"""What groups build and try: packs, and all that was measured of them. Kept as typed, never changed, never removed."""

from __future__ import annotations

from typing import Any

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q
from django.utils import timezone

from server.entries.models import FromDevice
from server.people.auth import Member
from server.people.models import Teacher, of_teacher


class ChainQuerySet(models.QuerySet["Chain"]):
    """Chains, the latest last."""

    def visible_to(self, actor: Teacher | Member) -> ChainQuerySet:
        """A teacher sees those of their labs; a group that of its class."""
        if isinstance(actor, Member):
            return self.filter(lab_id=actor.lab_id)
        return self.filter(of_teacher(actor, "lab"))


class OfGroupQuerySet(models.QuerySet[Any]):
    """What a group keeps of its own."""

    def visible_to(self, actor: Teacher | Member) -> OfGroupQuerySet:
        """A teacher sees what is in their labs; a group its own."""
        if isinstance(actor, Member):
            return self.filter(group_id=actor.group_id)
        return self.filter(of_teacher(actor, "group__lab"))


class OfGroup(FromDevice):
    """An entry of a group."""

    objects = OfGroupQuerySet.as_manager()

    class Meta(FromDevice.Meta):
        abstract = True


class OfRow(OfGroup):
    """What a group typed of cells in a row: plates, a number as typed with its value, words; a wrong one is corrected by a
    new one, with a reason."""

    group = models.ForeignKey("people.Group", on_delete=models.PROTECT, related_name="+")
    negative = models.CharField(max_length=60, blank=True)
    electrolyte = models.CharField(max_length=60, blank=True)
    positive = models.CharField(max_length=60, blank=True)
    text = models.CharField(max_length=200, blank=True)
    unit = models.CharField(max_length=2, blank=True)
    value = models.FloatField(null=True, blank=True)
    corrects = models.OneToOneField("self", on_delete=models.PROTECT, null=True, blank=True, related_name="correction")
    reason = models.CharField(max_length=200, blank=True)

    class Meta(OfGroup.Meta):
        abstract = True


class Pack(OfGroup):
    """Cells that a group puts in a row for one load; what they are and do comes in its entries."""

    group = models.ForeignKey("people.Group", on_delete=models.PROTECT, related_name="packs")
    load = models.CharField(max_length=40)

    class Meta(OfGroup.Meta):
        indexes = [models.Index(fields=["group", "received_at"])]

    def __str__(self) -> str:
        return f"{self.group}: {self.load}"


class PackEntry(OfRow):
    """One thing about a pack: a cell that is joined, a number, or what was seen.

    `position` counts cells from the minus, from 1. `value` is in V (the meter's offset taken off) or A. Of a
    cell measured again the latest counts.
    """

    class Kind(models.TextChoices):
        """What it is: a cell of the row; volts of a cell alone, of cells 1 to `position` joined, across the load, across a
        cell under load, across one with all joined and no load; the current through the load; what the load was seen to do;
        a remark. Over time: volts, current, and what was done."""

        CELL = "cell"
        ALONE = "alone"
        SUM = "sum"
        LOAD_V = "load_v"
        LOAD_A = "load_a"
        UNDER = "under"
        ACROSS = "across"
        SEEN = "seen"
        NOTE = "note"
        RUN_V = "run_v"
        RUN_A = "run_a"
        EVENT = "event"

    pack = models.ForeignKey(Pack, on_delete=models.PROTECT, related_name="entries")
    kind = models.CharField(max_length=6, choices=Kind.choices)
    position = models.PositiveSmallIntegerField(null=True, blank=True)
    resolution = models.FloatField(null=True, blank=True)

    class Meta(OfRow.Meta):
        indexes = [models.Index(fields=["pack", "received_at"])]
        constraints = [
            models.CheckConstraint(condition=Q(corrects__isnull=True) | ~Q(reason=""), name="pack_correction_says_why"),
        ]

    def __str__(self) -> str:
        return f"{self.kind} {self.text} {self.unit}"


class RunFile(OfGroup):
    """A logger's file of a pack: seconds from its own first sample with V or A (empty where it has none), thinned; its last
    sample was `ended_s` before it was handed in."""

    group = models.ForeignKey("people.Group", on_delete=models.PROTECT, related_name="+")
    pack = models.ForeignKey(Pack, on_delete=models.PROTECT, related_name="files")
    name = models.CharField(max_length=100)
    times_s = ArrayField(models.FloatField())
    volts_v = ArrayField(models.FloatField())
    current_a = ArrayField(models.FloatField())
    ended_s = models.FloatField(default=0.0)
    rows = models.PositiveIntegerField()

    def __str__(self) -> str:
        return self.name


class Chain(models.Model):
    """One row that the whole class builds for a load, of cells like the one that is named; the latest of a lab goes on."""

    id = models.UUIDField(primary_key=True, editable=False)
    lab = models.ForeignKey("labs.Lab", on_delete=models.PROTECT, related_name="chains")
    load = models.CharField(max_length=40)
    negative = models.CharField(max_length=60)
    electrolyte = models.CharField(max_length=60)
    positive = models.CharField(max_length=60)
    begun_at = models.DateTimeField(default=timezone.now)

    objects = ChainQuerySet.as_manager()

    class Meta:
        ordering = ["begun_at", "id"]
        indexes = [models.Index(fields=["lab", "begun_at"])]

    def __str__(self) -> str:
        return f"{self.lab}: {self.load}"


class ChainEntry(OfRow):
    """What a group does for the chain: its vote (`cells`, the latest counts), its cell that is joined with what the whole
    row then reads (`text`, `value` in V), or what the load is seen to do."""

    class Kind(models.TextChoices):
        """What it is."""

        VOTE = "vote"
        LINK = "link"
        SEEN = "seen"

    chain = models.ForeignKey(Chain, on_delete=models.PROTECT, related_name="entries")
    kind = models.CharField(max_length=4, choices=Kind.choices)
    cells = models.PositiveSmallIntegerField(null=True, blank=True)

    class Meta(OfRow.Meta):
        indexes = [models.Index(fields=["chain", "received_at"])]
        constraints = [
            models.CheckConstraint(condition=Q(corrects__isnull=True) | ~Q(reason=""), name="chain_correction_says_why"),
        ]

    def __str__(self) -> str:
        return f"{self.kind} {self.cells or self.text}"
