"""A lab, the cells each group is to measure, what groups predict, and a teacher's own materials.

Electrodes and electrolytes are keys of the core's catalogue, or of the teacher's own materials (`own-…`).
"""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Case, Count, Exists, F, OuterRef, Q, Value, When
from django.utils import timezone

from galvanic.cells import Cell
from galvanic.level import Level
from server.labs.settings import Varies
from server.people.auth import Member
from server.people.models import Share, Teacher, of_teacher


class LabQuerySet(models.QuerySet["Lab"]):
    """Labs."""

    def visible_to(self, actor: Teacher | Member) -> LabQuerySet:
        """A teacher sees their own labs and those shared with them; a group its one lab. What is deleted nobody sees."""
        if isinstance(actor, Member):
            return self.filter(id=actor.lab_id, deleted_at__isnull=True)
        return self.filter(of_teacher(actor))

    def changed_by(self, actor: Teacher) -> LabQuerySet:
        """Those in which the teacher may work: their own, and those shared with them to work in."""
        return self.filter(of_teacher(actor, work=True))

    def deleted_of(self, actor: Teacher) -> LabQuerySet:
        """The labs a teacher has deleted and can still take back."""
        return self.filter(owner=actor, deleted_at__isnull=False)

    def with_way(self, actor: Teacher) -> Any:
        """With `way`: "own", or as it is shared with the teacher, "work" or "look"."""
        shared = Exists(Share.objects.filter(lab=OuterRef("pk"), teacher=actor, work=True))
        own = When(owner=actor, then=Value("own"))
        return self.annotate(way=Case(own, When(shared, then=Value("work")), default=Value("look")))

    def with_group_count(self) -> Any:
        """With `group_count`."""
        return self.annotate(group_count=Count("groups"))


class PlannedCellQuerySet(models.QuerySet["PlannedCell"]):
    """Cells on groups' lists."""

    def visible_to(self, actor: Teacher | Member) -> PlannedCellQuerySet:
        """A teacher sees the cells of their labs; a group sees its own."""
        if isinstance(actor, Member):
            return self.filter(group_id=actor.group_id)
        return self.filter(of_teacher(actor, "group__lab"))

    def changed_by(self, actor: Teacher) -> PlannedCellQuerySet:
        """Those of labs in which the teacher may work."""
        return self.filter(of_teacher(actor, "group__lab", work=True))


class EarlierPlanQuerySet(models.QuerySet["EarlierPlan"]):
    """Plans of drafts before a change."""

    def visible_to(self, actor: Teacher) -> EarlierPlanQuerySet:
        """A teacher sees those of their labs; groups see none."""
        return self.filter(of_teacher(actor, "lab"))


class SignOffQuerySet(models.QuerySet["SignOff"]):
    """Signatures under safety sheets."""

    def visible_to(self, actor: Teacher) -> SignOffQuerySet:
        """A teacher sees those of their labs; groups see none."""
        return self.filter(of_teacher(actor, "lab"))


KEEP_DAYS = 90  # of photographs and notes after closing, unless the teacher says otherwise


def _no_condition() -> list[str]:
    return [""]


class Lab(models.Model):
    """One lab of one class: what is measured, by whom, and how far it is.

    `deleted_at`: its teacher has deleted it; nobody sees it any more, and 30 days later it is gone for good. `earlier`: what
    earlier classes of the same teacher foretold when it was opened, see `server/records/years.py`. `keep_days`: how long
    after closing photographs and notes are kept; None: as long as the lab; `keep_days_at`: when that was last chosen.
    """

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
    question = models.CharField(max_length=200, blank=True)
    varies = models.CharField(max_length=20, choices=[(v.value, v.name.title()) for v in Varies], default=Varies.PAIRS.value)
    kept = models.CharField(max_length=300, blank=True)
    conditions = ArrayField(models.CharField(max_length=40, blank=True), default=_no_condition)
    against = models.CharField(max_length=60, blank=True)
    repeats = models.PositiveSmallIntegerField(default=2)
    scatter_v = models.FloatField(default=0.05)
    age = models.CharField(max_length=5, default="14-15")
    level = models.CharField(max_length=6, choices=[(v.value, v.name.title()) for v in Level], default=Level.MIDDLE.value)
    activities = ArrayField(models.CharField(max_length=20), default=list)
    steps = models.JSONField(default=dict)
    wished = models.JSONField(default=list)
    earlier = models.JSONField(default=list)
    tags = ArrayField(models.CharField(max_length=30), default=list)
    archived_at = models.DateTimeField(null=True, blank=True)
    keep_days = models.PositiveSmallIntegerField(null=True, blank=True, default=KEEP_DAYS)
    keep_days_at = models.DateTimeField(default=timezone.now)
    cup_ml = models.FloatField(default=40.0)
    predict = models.BooleanField(default=True)
    language = models.CharField(max_length=5, default="en", db_default="en")
    template = models.CharField(max_length=40, blank=True)
    short_circuit = models.BooleanField(default=False)
    packs = models.BooleanField(default=False)
    load_ohm = models.FloatField(null=True, blank=True)
    show_values = models.BooleanField(default=False)
    paused_at = models.DateTimeField(null=True, blank=True)
    paused_s = models.FloatField(default=0.0)
    changes = models.PositiveIntegerField(default=0)
    released = ArrayField(models.CharField(max_length=10), default=list)
    rubric = models.JSONField(default=list)
    state = models.CharField(max_length=6, choices=State.choices, default=State.DRAFT)
    join_code = models.CharField(max_length=20, unique=True, null=True, blank=True)
    simulated = models.BooleanField(default=False)
    edition = models.CharField(max_length=20)
    created_at = models.DateTimeField(auto_now_add=True)
    opened_at = models.DateTimeField(null=True, blank=True)
    closed_at = models.DateTimeField(null=True, blank=True)
    deleted_at = models.DateTimeField(null=True, blank=True)

    objects = LabQuerySet.as_manager()

    class Meta:
        ordering = ["-date", "-created_at"]
        constraints = [
            models.CheckConstraint(condition=~Q(state="open") | Q(join_code__isnull=False), name="open_lab_has_code"),
        ]

    def __str__(self) -> str:
        return self.title

    @property
    def shown(self) -> list[str]:
        """What groups find on their devices: what is released, and the bench of packs where the lab asks for packs."""
        return [*self.released, *(["power"] if self.packs and "power" not in self.released else [])]

    def minutes_in(self, now: datetime) -> float:
        """Minutes of the lab gone by, pauses not counted; 0 before it opens, and what it was when it closed."""
        if self.opened_at is None:
            return 0.0
        until = min(now, self.closed_at or now, self.paused_at or now)
        return max(0.0, (until - self.opened_at).total_seconds() - self.paused_s) / 60.0


class PlannedCell(models.Model):
    """One cell on one group's list; `negative` by the table, which is where the black lead goes."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    group = models.ForeignKey("people.Group", on_delete=models.CASCADE, related_name="cells")
    position = models.PositiveSmallIntegerField()
    negative = models.CharField(max_length=60)
    electrolyte = models.CharField(max_length=60)
    positive = models.CharField(max_length=60)
    condition = models.CharField(max_length=40, blank=True)
    shared = models.BooleanField(default=False)
    pinned = models.BooleanField(default=False)

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
        return Cell(self.negative, self.electrolyte, self.positive, self.condition)


class SignOff(models.Model):
    """A teacher has read a safety sheet and takes it on; kept for good, with the sheet as it was read."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    lab = models.ForeignKey(Lab, on_delete=models.PROTECT, related_name="sign_offs")
    teacher = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    fingerprint = models.CharField(max_length=64)
    sheet = models.JSONField()

    objects = SignOffQuerySet.as_manager()

    class Meta:
        ordering = ["-at"]

    def __str__(self) -> str:
        return f"{self.lab} on {self.at:%Y-%m-%d}"


class EarlierPlan(models.Model):
    """A draft's plan before a change, so that the change can be taken back; `said` is what the change did. `steps`: the
    minutes before it, where it changed those."""

    lab = models.ForeignKey(Lab, on_delete=models.CASCADE, related_name="earlier_plans")
    said = models.TextField()
    wished = models.JSONField()
    hands = models.JSONField()
    steps = models.JSONField(null=True)

    objects = EarlierPlanQuerySet.as_manager()

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return self.said
