"""Readings and meter checks: kept exactly as typed, never changed, never removed. The database itself refuses both."""

from __future__ import annotations

import uuid
from typing import Any

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import F, Q
from django.db.models.functions import Coalesce, NullIf
from django.utils import timezone

from galvanic.words import say
from server.people.auth import Member
from server.people.models import Teacher, of_teacher


class ReadingQuerySet(models.QuerySet["Reading"]):
    """Readings, oldest first."""

    def visible_to(self, actor: Teacher | Member) -> ReadingQuerySet:
        """A teacher sees the readings of their labs; a group sees its own."""
        if isinstance(actor, Member):
            return self.filter(cell__group_id=actor.group_id)
        return self.filter(of_teacher(actor, "cell__group__lab"))

    def changed_by(self, actor: Teacher) -> ReadingQuerySet:
        """Those of labs in which the teacher may work."""
        return self.filter(of_teacher(actor, "cell__group__lab", work=True))

    def current(self) -> ReadingQuerySet:
        """Without those a later entry corrects."""
        return self.filter(correction__isnull=True)

    def with_aside(self) -> ReadingQuerySet:
        """With the reason for which each is set aside, by itself or with its group (empty where it counts), and whether its
        teacher has taken a setting aside back, or said that it counts."""
        asides, empty = SetAside.objects, models.Value("")

        def latest(**of: models.OuterRef) -> models.Subquery:
            return models.Subquery(asides.filter(**of).order_by("-at", "-id").values("reason")[:1])

        own, whole = latest(reading=models.OuterRef("pk")), latest(group=models.OuterRef("cell__group"))
        said = models.Exists(asides.filter(reading=models.OuterRef("pk")))
        annotated: ReadingQuerySet = self.annotate(aside_reason=Coalesce(NullIf(own, empty), whole, empty), looked_at=said)
        return annotated

    def counted(self) -> ReadingQuerySet:
        """Those that count: not corrected, not set aside."""
        return self.current().with_aside().filter(models.Q(("aside_reason", "")))


class MeterCheckQuerySet(models.QuerySet["MeterCheck"]):
    """Meter checks."""

    def visible_to(self, actor: Teacher | Member) -> MeterCheckQuerySet:
        """A teacher sees those of their labs; a group sees its own."""
        if isinstance(actor, Member):
            return self.filter(group_id=actor.group_id)
        return self.filter(of_teacher(actor, "group__lab"))


class AtCellQuerySet(models.QuerySet[Any]):
    """What groups keep about their cells besides readings."""

    def visible_to(self, actor: Teacher | Member) -> AtCellQuerySet:
        """A teacher sees what is in their labs; a group its own."""
        if isinstance(actor, Member):
            return self.filter(cell__group_id=actor.group_id)
        return self.filter(of_teacher(actor, "cell__group__lab"))

    def changed_by(self, actor: Teacher) -> AtCellQuerySet:
        """Those of labs in which the teacher may work."""
        return self.filter(of_teacher(actor, "cell__group__lab", work=True))


class PredictionQuerySet(models.QuerySet["Prediction"]):
    """What groups predicted."""

    def visible_to(self, actor: Teacher | Member) -> PredictionQuerySet:
        """A teacher sees those of their labs; a group its own."""
        if isinstance(actor, Member):
            return self.filter(cell__group_id=actor.group_id)
        return self.filter(of_teacher(actor, "cell__group__lab"))


class Reading(models.Model):
    """One number off one meter at one moment; a wrong one is corrected by a new one that says why.

    `id` is made on the device, so that sending twice keeps one. `volts_v` is E(red) − E(black) as the meter showed it,
    `resolution_v` the step of its last digit, `offset_v` what the meter showed with its leads together when it was checked
    last: the corrected value is volts_v − offset_v. `device_said` is the time as the device sent it, `device_at` the same
    where it can be one, `received_at` by the server's clock; `taken_at` is when it was typed, by the server's clock, however
    wrong the device's is. `after_closing`: typed while the lab was open, sent when it had closed.
    """

    class Origin(models.TextChoices):
        """How the number came here."""

        TYPED = "typed"
        IMPORTED = "imported"
        SIMULATED = "simulated"
        METER = "meter"

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
    device_said = models.CharField(max_length=64, blank=True)
    taken_at = models.DateTimeField(null=True, blank=True)
    received_at = models.DateTimeField()
    after_closing = models.BooleanField(default=False)

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

    @property
    def aside(self) -> str:
        """Why the teacher has set it (or its group) aside; empty where it counts. Known if fetched `with_aside`."""
        return str(self.__dict__.get("aside_reason", ""))

    @property
    def decided(self) -> bool:
        """Whether its teacher has said that it counts. Known if fetched `with_aside`."""
        return bool(self.__dict__.get("looked_at")) and not self.aside


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
    device_said = models.CharField(max_length=64, blank=True)
    taken_at = models.DateTimeField(null=True, blank=True)
    received_at = models.DateTimeField()
    after_closing = models.BooleanField(default=False)

    objects = MeterCheckQuerySet.as_manager()

    class Meta:
        ordering = ["received_at", "id"]
        indexes = [models.Index(fields=["group", "received_at"])]

    def __str__(self) -> str:
        return f"{self.group}: {self.code}"


class AskedAgain(models.Model):
    """A teacher asks a group for a new reading of a cell; answered by any reading that comes after."""

    cell = models.ForeignKey("labs.PlannedCell", on_delete=models.PROTECT, related_name="asked")
    asked_at = models.DateTimeField(default=timezone.now, editable=False)

    class Meta:
        ordering = ["asked_at"]

    def __str__(self) -> str:
        return f"{self.cell}"


class SetAside(models.Model):
    """A teacher sets a reading, or all of a group's, aside with a reason, or (with an empty one) takes it back.

    The latest row counts; none is changed. What is set aside stays visible and leaves the class's numbers.
    """

    reading = models.ForeignKey(Reading, on_delete=models.PROTECT, null=True, blank=True, related_name="set_aside")
    group = models.ForeignKey("people.Group", on_delete=models.PROTECT, null=True, blank=True, related_name="set_aside")
    teacher = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    reason = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField(default=timezone.now, editable=False)

    class Meta:
        ordering = ["at", "id"]
        indexes = [models.Index(fields=["reading", "at"]), models.Index(fields=["group", "at"])]
        constraints = [
            models.CheckConstraint(
                condition=Q(reading__isnull=True, group__isnull=False) | Q(reading__isnull=False, group__isnull=True),
                name="aside_reading_or_group",
            )
        ]

    def __str__(self) -> str:
        return self.reason or say("taken back")


class FromDevice(models.Model):
    """An entry made on a device, never changed: its id, what the device's clock said, and when it came."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    device_at = models.DateTimeField(null=True, blank=True)
    device_said = models.CharField(max_length=64, blank=True)
    taken_at = models.DateTimeField(null=True, blank=True)
    received_at = models.DateTimeField()
    after_closing = models.BooleanField(default=False)

    class Meta:
        abstract = True
        ordering = ["received_at", "id"]


class AtCell(FromDevice):
    """Something a group keeps about a cell."""

    objects = AtCellQuerySet.as_manager()

    class Meta(FromDevice.Meta):
        abstract = True


class UnderLoad(AtCell):
    """A short-circuit current in A, or the voltage in V across a resistor of `load_ohm`; the latest of a kind counts."""

    class Kind(models.TextChoices):
        """What was measured."""

        SHORT = "short"
        LOAD = "load"

    cell = models.ForeignKey("labs.PlannedCell", on_delete=models.PROTECT, related_name="under_load")
    kind = models.CharField(max_length=5, choices=Kind.choices)
    text = models.CharField(max_length=32)
    unit = models.CharField(max_length=2)
    value = models.FloatField()
    resolution = models.FloatField()
    load_ohm = models.FloatField(null=True, blank=True)

    def __str__(self) -> str:
        return f"{self.kind}: {self.text} {self.unit}"


class Observation(AtCell):
    """What a group saw: bubbles, a colour, a film."""

    cell = models.ForeignKey("labs.PlannedCell", on_delete=models.PROTECT, related_name="observations")
    text = models.CharField(max_length=300)

    def __str__(self) -> str:
        return self.text[:40]


class Actual(AtCell):
    """What a cell was really set to, as its group measured it: a number (or a word's place) of a variable; the latest of a
    variable counts."""

    cell = models.ForeignKey("labs.PlannedCell", on_delete=models.PROTECT, related_name="actuals")
    text = models.CharField(max_length=40)
    variable = models.CharField(max_length=30)
    value = models.FloatField()

    def __str__(self) -> str:
        return f"{self.variable}: {self.text}"


class Photo(AtCell):
    """A photograph of a cell; the file lies outside the database under the row's id."""

    cell = models.ForeignKey("labs.PlannedCell", on_delete=models.PROTECT, related_name="photos")
    width = models.PositiveSmallIntegerField()
    height = models.PositiveSmallIntegerField()
    size = models.PositiveIntegerField()

    def __str__(self) -> str:
        return f"{self.width} × {self.height}"


class PhotoRemoved(models.Model):
    """That a photograph was removed, when, and by whom: its teacher, or (without one) the group itself."""

    photo = models.OneToOneField(Photo, on_delete=models.PROTECT, related_name="removed")
    teacher = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    at = models.DateTimeField(default=timezone.now, editable=False)

    def __str__(self) -> str:
        return f"{self.photo_id} at {self.at:%Y-%m-%d %H:%M}"


class KeptTrace(AtCell):
    """Voltage against time from a data logger's file, seconds and volts, with how the file was understood."""

    cell = models.ForeignKey("labs.PlannedCell", on_delete=models.PROTECT, related_name="traces")
    name = models.CharField(max_length=100)
    times_s = ArrayField(models.FloatField())
    volts_v = ArrayField(models.FloatField())
    understood = models.JSONField()

    def __str__(self) -> str:
        return self.name


class Question(AtCell):
    """What a group asks about a cell; its teacher's latest answer counts."""

    cell = models.ForeignKey("labs.PlannedCell", on_delete=models.PROTECT, related_name="questions")
    text = models.CharField(max_length=300)

    def __str__(self) -> str:
        return self.text[:40]


class QuestionAnswer(models.Model):
    """What the teacher makes of a question: answers it, parks it for later, gives the group a cell to find out with, or
    plans a lab about it."""

    class Kind(models.TextChoices):
        """What was made of it."""

        ANSWERED = "answered"
        PARKED = "parked"
        CELL = "cell"
        PLANNED = "planned"

    question = models.ForeignKey(Question, on_delete=models.PROTECT, related_name="answers")
    teacher = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    kind = models.CharField(max_length=8, choices=Kind.choices)
    text = models.CharField(max_length=300, blank=True)
    at = models.DateTimeField(default=timezone.now, editable=False)

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return self.text[:40] or self.kind


class Prediction(models.Model):
    """What a group expects of a cell before it is built; a later one stands beside the earlier, none is changed.

    `way`: whether the meter will show more, less or the same as the table's difference, or, of another level of what the lab
    changes, as the first; then without a number. `because`: why, in a word.
    """

    class Way(models.TextChoices):
        """More, less or about the same."""

        MORE = "more"
        LESS = "less"
        SAME = "same"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    cell = models.ForeignKey("labs.PlannedCell", on_delete=models.PROTECT, related_name="predictions")
    negative = models.CharField(max_length=60)
    text = models.CharField(max_length=32)
    unit = models.CharField(max_length=2)
    volts_v = models.FloatField(null=True, blank=True)
    way = models.CharField(max_length=4, blank=True, choices=Way.choices)
    because = models.CharField(max_length=200, blank=True)
    device_at = models.DateTimeField(null=True, blank=True)
    device_said = models.CharField(max_length=64, blank=True)
    taken_at = models.DateTimeField(null=True, blank=True)
    received_at = models.DateTimeField()
    after_closing = models.BooleanField(default=False)

    objects = PredictionQuerySet.as_manager()

    class Meta:
        app_label = "labs"  # its table was made with those of labs
        ordering = ["received_at", "id"]
        indexes = [models.Index(fields=["cell", "received_at"])]

    def __str__(self) -> str:
        return f"{self.text} {self.unit}"
