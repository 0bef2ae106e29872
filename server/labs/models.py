"""A lab and the cells each group is to measure. Electrodes and electrolytes are keys of the core's catalogue."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import F, Q

from galvanic.cells import Cell
from server.labs.querysets import LabQuerySet, PlannedCellQuerySet


class Lab(models.Model):
    """One lab of one class: what is measured, by whom, and how far it is."""

    class State(models.TextChoices):
        """Draft: only the teacher sees it. Open: groups may join and record. Closed: nothing is recorded any more."""

        DRAFT = "draft"
        OPEN = "open"
        CLOSED = "closed"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="labs")
    title = models.CharField(max_length=120)
    date = models.DateField()
    minutes = models.PositiveSmallIntegerField()
    electrodes = ArrayField(models.CharField(max_length=60))
    electrolytes = ArrayField(models.CharField(max_length=60))
    state = models.CharField(max_length=6, choices=State.choices, default=State.DRAFT)
    join_code = models.CharField(max_length=20, unique=True, null=True, blank=True)
    simulated = models.BooleanField(default=False)
    edition = models.CharField(max_length=20)
    created_at = models.DateTimeField(auto_now_add=True)
    opened_at = models.DateTimeField(null=True, blank=True)
    closed_at = models.DateTimeField(null=True, blank=True)

    objects = LabQuerySet.as_manager()

    class Meta:
        ordering = ["-date", "-created_at"]
        constraints = [
            models.CheckConstraint(condition=~Q(state="open") | Q(join_code__isnull=False), name="open_lab_has_code"),
        ]

    def __str__(self) -> str:
        return self.title


class PlannedCell(models.Model):
    """One cell on one group's list; `negative` by the table, which is where the black lead goes."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    group = models.ForeignKey("people.Group", on_delete=models.CASCADE, related_name="cells")
    position = models.PositiveSmallIntegerField()
    negative = models.CharField(max_length=60)
    electrolyte = models.CharField(max_length=60)
    positive = models.CharField(max_length=60)
    shared = models.BooleanField(default=False)

    objects = PlannedCellQuerySet.as_manager()

    class Meta:
        ordering = ["position"]
        constraints = [
            models.UniqueConstraint(fields=["group", "position"], name="one_cell_a_position"),
            models.CheckConstraint(condition=~Q(negative=F("positive")), name="two_different_plates"),
        ]

    def __str__(self) -> str:
        return self.cell.notation

    @property
    def cell(self) -> Cell:
        """The cell as the core knows it."""
        return Cell(self.negative, self.electrolyte, self.positive)
