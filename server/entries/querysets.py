"""Who sees which reading."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from django.apps import apps
from django.db import models
from django.db.models.functions import Coalesce, NullIf

from server.people.auth import Member
from server.people.models import Teacher

if TYPE_CHECKING:
    from server.entries.models import MeterCheck, Prediction, Reading  # noqa: F401


class ReadingQuerySet(models.QuerySet["Reading"]):
    """Readings, oldest first."""

    def visible_to(self, actor: Teacher | Member) -> ReadingQuerySet:
        """A teacher sees the readings of their labs; a group sees its own."""
        if isinstance(actor, Member):
            return self.filter(cell__group_id=actor.group_id)
        return self.filter(cell__group__lab__owner=actor, cell__group__lab__deleted_at__isnull=True)

    def current(self) -> ReadingQuerySet:
        """Without those a later entry corrects."""
        return self.filter(correction__isnull=True)

    def with_aside(self) -> ReadingQuerySet:
        """With the reason for which each is set aside, by itself or with its group; empty where it counts."""
        asides, empty = apps.get_model("bench", "SetAside").objects, models.Value("")

        def latest(**of: models.OuterRef) -> models.Subquery:
            return models.Subquery(asides.filter(**of).order_by("-at", "-id").values("reason")[:1])

        own, whole = latest(reading=models.OuterRef("pk")), latest(group=models.OuterRef("cell__group"))
        found: ReadingQuerySet = self.annotate(aside_reason=Coalesce(NullIf(own, empty), whole, empty))
        return found

    def counted(self) -> ReadingQuerySet:
        """Those that count: not corrected, not set aside."""
        return self.current().with_aside().filter(models.Q(("aside_reason", "")))


class MeterCheckQuerySet(models.QuerySet["MeterCheck"]):
    """Meter checks."""

    def visible_to(self, actor: Teacher | Member) -> MeterCheckQuerySet:
        """A teacher sees those of their labs; a group sees its own."""
        if isinstance(actor, Member):
            return self.filter(group_id=actor.group_id)
        return self.filter(group__lab__owner=actor, group__lab__deleted_at__isnull=True)


class AtCellQuerySet(models.QuerySet[Any]):
    """What groups keep about their cells besides readings."""

    def visible_to(self, actor: Teacher | Member) -> AtCellQuerySet:
        """A teacher sees what is in their labs; a group its own."""
        if isinstance(actor, Member):
            return self.filter(cell__group_id=actor.group_id)
        return self.filter(cell__group__lab__owner=actor, cell__group__lab__deleted_at__isnull=True)


class PredictionQuerySet(models.QuerySet["Prediction"]):
    """What groups predicted."""

    def visible_to(self, actor: Teacher | Member) -> PredictionQuerySet:
        """A teacher sees those of their labs; a group its own."""
        if isinstance(actor, Member):
            return self.filter(cell__group_id=actor.group_id)
        return self.filter(cell__group__lab__owner=actor, cell__group__lab__deleted_at__isnull=True)
