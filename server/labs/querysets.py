"""Who sees which lab and which cells: every endpoint starts from `visible_to`."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from django.db import models
from django.db.models import Count

from server.people.auth import Member
from server.people.models import Teacher

if TYPE_CHECKING:
    from server.labs.models import EarlierPlan, Lab, PlannedCell, SignOff  # noqa: F401


class LabQuerySet(models.QuerySet["Lab"]):
    """Labs."""

    def visible_to(self, actor: Teacher | Member) -> LabQuerySet:
        """A teacher sees their own labs; a group sees its one lab. What is deleted nobody sees."""
        if isinstance(actor, Member):
            return self.filter(id=actor.lab_id, deleted_at__isnull=True)
        return self.filter(owner=actor, deleted_at__isnull=True)

    def deleted_of(self, actor: Teacher) -> LabQuerySet:
        """The labs a teacher has deleted and can still take back."""
        return self.filter(owner=actor, deleted_at__isnull=False)

    def with_counts(self) -> Any:
        """With `group_count` and `reading_count` (corrected readings not counted)."""
        current = models.Q(groups__cells__readings__isnull=False, groups__cells__readings__correction__isnull=True)
        return self.annotate(
            group_count=Count("groups", distinct=True),
            reading_count=Count("groups__cells__readings", filter=current, distinct=True),
        )


class PlannedCellQuerySet(models.QuerySet["PlannedCell"]):
    """Cells on groups' lists."""

    def visible_to(self, actor: Teacher | Member) -> PlannedCellQuerySet:
        """A teacher sees the cells of their labs; a group sees its own."""
        if isinstance(actor, Member):
            return self.filter(group_id=actor.group_id)
        return self.filter(group__lab__owner=actor, group__lab__deleted_at__isnull=True)


class EarlierPlanQuerySet(models.QuerySet["EarlierPlan"]):
    """Plans of drafts before a change."""

    def visible_to(self, actor: Teacher) -> EarlierPlanQuerySet:
        """A teacher sees those of their labs; groups see none."""
        return self.filter(lab__owner=actor, lab__deleted_at__isnull=True)


class SignOffQuerySet(models.QuerySet["SignOff"]):
    """Signatures under safety sheets."""

    def visible_to(self, actor: Teacher) -> SignOffQuerySet:
        """A teacher sees those of their labs; groups see none."""
        return self.filter(lab__owner=actor, lab__deleted_at__isnull=True)
