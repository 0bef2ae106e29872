"""Homework and the tries at it. A try names no group and no person; the database refuses to change one."""

from __future__ import annotations

import uuid
from typing import Any

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.utils import timezone

from server.people.models import Teacher, of_teacher


class HomeworkQuerySet(models.QuerySet[Any]):
    """Homework."""

    def visible_to(self, actor: Teacher) -> HomeworkQuerySet:
        """That of the teacher's labs and of those shared with them."""
        return self.filter(of_teacher(actor, "lab"))

    def changed_by(self, actor: Teacher) -> HomeworkQuerySet:
        """That of labs the teacher may work in."""
        return self.filter(of_teacher(actor, "lab", work=True))

    def of_code(self, code: str) -> HomeworkQuerySet:
        """What a device opens by its code: of a lab that is still there."""
        return self.filter(code=code, lab__deleted_at__isnull=True)


class Homework(models.Model):
    """Benches in trouble to practise at: those called out by `symptoms`, `benches` of them on each device."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    lab = models.ForeignKey("labs.Lab", on_delete=models.PROTECT, related_name="homework")
    teacher = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    code = models.CharField(max_length=20, unique=True)
    symptoms = ArrayField(models.CharField(max_length=20))
    benches = models.PositiveSmallIntegerField()
    set_at = models.DateTimeField(default=timezone.now, editable=False)
    ended_at = models.DateTimeField(null=True, blank=True)

    objects = HomeworkQuerySet.as_manager()

    class Meta:
        ordering = ["-set_at", "id"]

    def __str__(self) -> str:
        return self.code


class Tried(models.Model):
    """One bench in trouble on one device: what was the matter, what was named first, and the hands before that.
    `device` is a number that the device made for this homework alone."""

    id = models.UUIDField(primary_key=True, editable=False)
    homework = models.ForeignKey(Homework, on_delete=models.PROTECT, related_name="tried")
    device = models.UUIDField()
    symptom = models.CharField(max_length=20)
    fault = models.CharField(max_length=20)
    named = models.CharField(max_length=20)
    hands = ArrayField(models.CharField(max_length=20), default=list)
    received_at = models.DateTimeField(default=timezone.now, editable=False)

    class Meta:
        ordering = ["received_at", "id"]

    def __str__(self) -> str:
        return f"{self.fault}: {self.named}"
