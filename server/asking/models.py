"""Questions to a whole class and the answers from its devices. An answer names no group and no person; the database refuses
to change one."""

from __future__ import annotations

import uuid
from typing import Any

from django.conf import settings
from django.db import models
from django.utils import timezone

from server.people.models import Teacher, of_teacher


class ClassQuestionQuerySet(models.QuerySet[Any]):
    """Questions to classes."""

    def visible_to(self, actor: Teacher) -> ClassQuestionQuerySet:
        """Those of the teacher's labs and of those shared with them."""
        return self.filter(of_teacher(actor, "lab"))

    def changed_by(self, actor: Teacher) -> ClassQuestionQuerySet:
        """Those of labs the teacher may work in."""
        return self.filter(of_teacher(actor, "lab", work=True))

    def of_code(self, code: str) -> ClassQuestionQuerySet:
        """What a device opens by its code: of a lab that is still there."""
        return self.filter(code=code, lab__deleted_at__isnull=True)


class ClassQuestion(models.Model):
    """One question; `options`: what can be chosen, each {"text", "belief"} with the misconception it betrays (none: it is
    answered in words); `fits`: which option does (None: none, or the meter says)."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    lab = models.ForeignKey("labs.Lab", on_delete=models.PROTECT, related_name="class_questions")
    teacher = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    code = models.CharField(max_length=20, unique=True)
    text = models.CharField(max_length=200)
    options = models.JSONField(default=list)
    fits = models.PositiveSmallIntegerField(null=True, blank=True)
    asked_at = models.DateTimeField(default=timezone.now, editable=False)
    ended_at = models.DateTimeField(null=True, blank=True)

    objects = ClassQuestionQuerySet.as_manager()

    class Meta:
        ordering = ["-asked_at", "id"]

    def __str__(self) -> str:
        return self.text


class ClassAnswer(models.Model):
    """One answer from one device, by an option's place or in words; a device's latest counts. `device` is a number that the
    device made for this question alone."""

    id = models.UUIDField(primary_key=True, editable=False)
    question = models.ForeignKey(ClassQuestion, on_delete=models.PROTECT, related_name="answers")
    device = models.UUIDField()
    choice = models.PositiveSmallIntegerField(null=True, blank=True)
    text = models.CharField(max_length=280, blank=True)
    received_at = models.DateTimeField(default=timezone.now, editable=False)

    class Meta:
        ordering = ["received_at", "id"]

    def __str__(self) -> str:
        return self.text or str(self.choice)
