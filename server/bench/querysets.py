"""Who sees which reading."""

from __future__ import annotations

from typing import TYPE_CHECKING

from django.db import models

from server.people.auth import Member
from server.people.models import Teacher

if TYPE_CHECKING:
    from server.bench.models import MeterCheck, Reading  # noqa: F401


class ReadingQuerySet(models.QuerySet["Reading"]):
    """Readings, oldest first."""

    def visible_to(self, actor: Teacher | Member) -> ReadingQuerySet:
        """A teacher sees the readings of their labs; a group sees its own."""
        if isinstance(actor, Member):
            return self.filter(cell__group_id=actor.group_id)
        return self.filter(cell__group__lab__owner=actor)

    def current(self) -> ReadingQuerySet:
        """Without those a later entry corrects."""
        return self.filter(correction__isnull=True)


class MeterCheckQuerySet(models.QuerySet["MeterCheck"]):
    """Meter checks."""

    def visible_to(self, actor: Teacher | Member) -> MeterCheckQuerySet:
        """A teacher sees those of their labs; a group sees its own."""
        if isinstance(actor, Member):
            return self.filter(group_id=actor.group_id)
        return self.filter(group__lab__owner=actor)
