"""Which sessions are alive, and who sees which deed."""

from __future__ import annotations

from datetime import timedelta
from typing import TYPE_CHECKING

from django.db import models
from django.utils import timezone

if TYPE_CHECKING:
    from server.people.models import Deed, Group, GroupSession, Teacher  # noqa: F401

SESSION = timedelta(hours=12)


class GroupQuerySet(models.QuerySet["Group"]):
    """Groups."""

    def visible_to(self, actor: Teacher) -> GroupQuerySet:
        """A teacher sees the groups of their labs."""
        return self.filter(lab__owner=actor, lab__deleted_at__isnull=True)


class GroupSessionQuerySet(models.QuerySet["GroupSession"]):
    """Devices that have joined."""

    def alive(self) -> GroupSessionQuerySet:
        """Those that have neither left nor grown old."""
        return self.filter(ended_at__isnull=True, joined_at__gt=timezone.now() - SESSION)

    def end(self) -> int:
        """End them now."""
        return self.filter(ended_at__isnull=True).update(ended_at=timezone.now())


class DeedQuerySet(models.QuerySet["Deed"]):
    """What teachers did."""

    def visible_to(self, actor: Teacher) -> DeedQuerySet:
        """A teacher sees their own."""
        return self.filter(teacher=actor)
