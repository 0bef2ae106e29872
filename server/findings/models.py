"""What groups claim and what the teacher answers: kept with all versions; the database itself refuses changes."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.utils import timezone

from galvanic.cells import Cell
from server.people.auth import Member
from server.people.models import Teacher, of_teacher


class ClaimQuerySet(models.QuerySet["Claim"]):
    """Claims, oldest first."""

    def visible_to(self, actor: Teacher | Member) -> ClaimQuerySet:
        """A teacher sees those of their labs; a group its own."""
        if isinstance(actor, Member):
            return self.filter(group_id=actor.group_id)
        return self.filter(of_teacher(actor, "group__lab"))

    def changed_by(self, actor: Teacher) -> ClaimQuerySet:
        """Those of labs in which the teacher may work."""
        return self.filter(of_teacher(actor, "group__lab", work=True))

    def that_open(self) -> ClaimQuerySet:
        """Those that open the explanation of their cell: with a reading cited, and what would speak against them."""
        return self.exclude(negative="").exclude(against="").filter(cited__len__gt=0)


class AnswerQuerySet(models.QuerySet["Answer"]):
    """The teacher's answers."""

    def visible_to(self, actor: Teacher | Member) -> AnswerQuerySet:
        """A teacher sees those of their labs; a group those to its own claims."""
        if isinstance(actor, Member):
            return self.filter(claim__group_id=actor.group_id)
        return self.filter(of_teacher(actor, "claim__group__lab"))


class Claim(models.Model):
    """A group's cause for a cell's gap, with the readings it cites and its reasoning; a later version names the earlier.

    No plates: it is about the whole ladder, or about the group's `pack` (its id). `may_show`: the group lets the teacher
    show it to the class. `against`: what would speak against it, in the group's words.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    group = models.ForeignKey("people.Group", on_delete=models.PROTECT, related_name="claims")
    negative = models.CharField(max_length=60, blank=True)
    electrolyte = models.CharField(max_length=60, blank=True)
    positive = models.CharField(max_length=60, blank=True)
    condition = models.CharField(max_length=40, blank=True)
    pack = models.UUIDField(null=True, blank=True)
    cause = models.CharField(max_length=20)
    reasoning = models.CharField(max_length=1500, blank=True)
    against = models.CharField(max_length=600, blank=True)
    cited = ArrayField(models.UUIDField(), default=list)
    may_show = models.BooleanField(default=False)
    revises = models.OneToOneField("self", on_delete=models.PROTECT, null=True, blank=True, related_name="revision")
    received_at = models.DateTimeField()

    objects = ClaimQuerySet.as_manager()

    class Meta:
        ordering = ["received_at", "id"]
        indexes = [models.Index(fields=["group", "received_at"])]

    def __str__(self) -> str:
        return f"{self.group}: {self.cause}"

    @property
    def cell(self) -> Cell | None:
        """The cell it is about; None for the whole ladder."""
        return Cell(self.negative, self.electrolyte, self.positive, self.condition) if self.negative else None


class Answer(models.Model):
    """The teacher's answer to a version of a claim: words, points by row of the rubric, whether it is on the projector."""

    claim = models.ForeignKey(Claim, on_delete=models.PROTECT, related_name="answers")
    teacher = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    text = models.CharField(max_length=600, blank=True)
    marks = models.JSONField(default=dict)
    shown = models.BooleanField(default=False)
    at = models.DateTimeField(default=timezone.now, editable=False)

    objects = AnswerQuerySet.as_manager()

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return self.text[:40]


class OwnTestQuerySet(models.QuerySet["OwnTest"]):
    """Groups' tests of their claims, oldest first."""

    def visible_to(self, actor: Teacher | Member) -> OwnTestQuerySet:
        """A teacher sees those of their labs; a group its own."""
        if isinstance(actor, Member):
            return self.filter(group_id=actor.group_id)
        return self.filter(of_teacher(actor, "group__lab"))


class OwnTest(models.Model):
    """What a group did at the bench to test a claim: its reading before and after, as typed and in V. `test` is a key of
    `own_tests.tests_of`."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    group = models.ForeignKey("people.Group", on_delete=models.PROTECT, related_name="own_tests")
    claim = models.ForeignKey(Claim, on_delete=models.PROTECT, related_name="tests")
    test = models.CharField(max_length=100)
    before_text = models.CharField(max_length=32)
    after_text = models.CharField(max_length=32)
    before_v = models.FloatField()
    after_v = models.FloatField()
    received_at = models.DateTimeField()

    objects = OwnTestQuerySet.as_manager()

    class Meta:
        ordering = ["received_at", "id"]

    def __str__(self) -> str:
        return f"{self.test}: {self.before_text}, {self.after_text}"


class MeantQuerySet(models.QuerySet["Meant"]):
    """What groups answered, oldest first."""

    def visible_to(self, actor: Teacher | Member) -> MeantQuerySet:
        """A teacher sees those of their labs; a group its own."""
        if isinstance(actor, Member):
            return self.filter(group_id=actor.group_id)
        return self.filter(of_teacher(actor, "group__lab"))


class Meant(models.Model):
    """Whether a group means what was heard in its claim; it counts above the ear. `belief`: a misconception's key."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    group = models.ForeignKey("people.Group", on_delete=models.PROTECT, related_name="meant")
    claim = models.ForeignKey(Claim, on_delete=models.PROTECT, related_name="meant")
    belief = models.CharField(max_length=60)
    yes = models.BooleanField()
    received_at = models.DateTimeField()

    objects = MeantQuerySet.as_manager()

    class Meta:
        ordering = ["received_at", "id"]
        constraints = [models.UniqueConstraint(fields=["claim", "belief"], name="one_answer_a_belief")]

    def __str__(self) -> str:
        return f"{self.belief}: {self.yes}"


class ElsewhereQuerySet(models.QuerySet["Elsewhere"]):
    """Values from elsewhere."""

    def visible_to(self, actor: Teacher | Member) -> ElsewhereQuerySet:
        """A teacher sees those of their labs; a group those of its lab."""
        if isinstance(actor, Member):
            return self.filter(lab_id=actor.lab_id)
        return self.filter(of_teacher(actor, "lab"))

    def changed_by(self, actor: Teacher) -> ElsewhereQuerySet:
        """Those of labs in which the teacher may work."""
        return self.filter(of_teacher(actor, "lab", work=True))


class Elsewhere(models.Model):
    """A cell's voltage from elsewhere (a book, a leaflet, another school), with its source and conditions: shown beside the
    class's, never counted among it. `volts_v` is E(positive) − E(negative)."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    lab = models.ForeignKey("labs.Lab", on_delete=models.CASCADE, related_name="elsewhere")
    negative = models.CharField(max_length=60)
    electrolyte = models.CharField(max_length=60)
    positive = models.CharField(max_length=60)
    condition = models.CharField(max_length=40, blank=True)
    volts_v = models.FloatField()
    u_v = models.FloatField(null=True, blank=True)
    source = models.CharField(max_length=200)
    conditions = models.CharField(max_length=200, blank=True)
    teacher = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now, editable=False)
    withdrawn_at = models.DateTimeField(null=True, blank=True)

    objects = ElsewhereQuerySet.as_manager()

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return f"{self.volts_v} V, {self.source}"

    @property
    def cell(self) -> Cell:
        """The cell it is of."""
        return Cell(self.negative, self.electrolyte, self.positive, self.condition)
