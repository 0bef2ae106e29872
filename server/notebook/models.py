"""What groups write in their notebooks and what the teacher says to it: all versions stay; the database refuses changes."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import models
from django.utils import timezone

from server.entries.models import FromDevice
from server.people.auth import Member
from server.people.models import Teacher, of_teacher


class OfGroupQuerySet(models.QuerySet[Any]):
    """What belongs to a group's notebook."""

    def visible_to(self, actor: Teacher | Member) -> OfGroupQuerySet:
        """A teacher sees that of their labs; a group its own."""
        if isinstance(actor, Member):
            return self.filter(group_id=actor.group_id)
        return self.filter(of_teacher(actor, "group__lab"))


class Words(FromDevice):
    """A version of what a group writes in one part of its notebook; the newest of a part counts.

    `cites`: what it points at as evidence, a list of {"kind", "id"}. `follows`: the version it was written over, so that
    two devices that write at once are noticed.
    """

    group = models.ForeignKey("people.Group", on_delete=models.PROTECT, related_name="words")
    part = models.CharField(max_length=20)
    text = models.TextField(blank=True)
    cites = models.JSONField(default=list)
    follows = models.UUIDField(null=True, blank=True)

    objects = OfGroupQuerySet.as_manager()

    class Meta(FromDevice.Meta):
        indexes = [models.Index(fields=["group", "part", "received_at"])]

    def __str__(self) -> str:
        return f"{self.part}: {self.text[:40]}"


class HandedIn(FromDevice):
    """That a group has handed its notebook in, as it stood then."""

    group = models.ForeignKey("people.Group", on_delete=models.PROTECT, related_name="handed_in")

    objects = OfGroupQuerySet.as_manager()

    def __str__(self) -> str:
        return f"{self.group} at {self.received_at:%Y-%m-%d %H:%M}"


class Returned(models.Model):
    """A notebook given back: words for the whole and for parts, points by row of the rubric; the latest counts."""

    group = models.ForeignKey("people.Group", on_delete=models.PROTECT, related_name="returned")
    teacher = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    text = models.TextField(blank=True)
    remarks = models.JSONField(default=dict)
    marks = models.JSONField(default=dict)
    at = models.DateTimeField(default=timezone.now, editable=False)

    objects = OfGroupQuerySet.as_manager()

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return self.text[:40]
