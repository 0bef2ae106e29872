"""Tables that teachers bring in while they are looked at, and wishes to have words removed."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models
from django.utils import timezone

from server.people.models import Teacher, of_teacher


class RemovalQuerySet(models.QuerySet["Removal"]):
    """Wishes to have something removed."""

    def visible_to(self, actor: Teacher) -> RemovalQuerySet:
        """A teacher sees those of their labs."""
        return self.filter(of_teacher(actor, "lab"))


class Removal(models.Model):
    """That words of a lab are to be taken out on request: which, who said so and when, and when it was done.

    What a group typed cannot be changed by the server; the command that removes what is over does it, as the owner.
    """

    lab = models.ForeignKey("labs.Lab", on_delete=models.CASCADE, related_name="+")
    kind = models.CharField(max_length=10)
    row = models.UUIDField()
    teacher = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    asked_at = models.DateTimeField(default=timezone.now)
    done_at = models.DateTimeField(null=True, blank=True)

    objects = RemovalQuerySet.as_manager()

    class Meta:
        ordering = ["asked_at"]
        constraints = [models.UniqueConstraint(fields=["kind", "row"], name="one_removal_a_row")]

    def __str__(self) -> str:
        return f"{self.kind} {self.row}"


class TableInQuerySet(models.QuerySet["TableIn"]):
    """Tables on their way in."""

    def visible_to(self, actor: Teacher) -> TableInQuerySet:
        """A teacher sees what they have brought themselves."""
        return self.filter(teacher=actor)


class TableIn(models.Model):
    """A file that a teacher has handed over; it is read beside the request, shown, and kept as a lab when they say so."""

    class State(models.TextChoices):
        """How far it is; `refused` says why in `found`."""

        READING = "reading"
        READ = "read"
        KEEPING = "keeping"
        KEPT = "kept"
        REFUSED = "refused"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    teacher = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=120)
    content = models.BinaryField()
    columns = models.JSONField(default=dict)
    called = models.JSONField(default=dict)
    mended = models.JSONField(default=dict)
    title = models.CharField(max_length=120, blank=True)
    on = models.DateField(null=True)
    state = models.CharField(max_length=7, choices=State.choices, default=State.READING)
    found = models.JSONField(default=dict)
    lab = models.ForeignKey("labs.Lab", on_delete=models.CASCADE, null=True, related_name="+")
    since = models.DateTimeField(default=timezone.now)

    objects = TableInQuerySet.as_manager()

    class Meta:
        ordering = ["since"]

    def __str__(self) -> str:
        return self.name
