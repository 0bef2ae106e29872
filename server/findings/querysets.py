"""Who sees which claim and which answer."""

from __future__ import annotations

from typing import TYPE_CHECKING

from django.db import models

from server.people.auth import Member
from server.people.models import Teacher

if TYPE_CHECKING:
    from server.findings.models import Answer, Claim  # noqa: F401


class ClaimQuerySet(models.QuerySet["Claim"]):
    """Claims, oldest first."""

    def visible_to(self, actor: Teacher | Member) -> ClaimQuerySet:
        """A teacher sees those of their labs; a group its own."""
        if isinstance(actor, Member):
            return self.filter(group_id=actor.group_id)
        return self.filter(group__lab__owner=actor, group__lab__deleted_at__isnull=True)


class AnswerQuerySet(models.QuerySet["Answer"]):
    """The teacher's answers."""

    def visible_to(self, actor: Teacher | Member) -> AnswerQuerySet:
        """A teacher sees those of their labs; a group those to its own claims."""
        if isinstance(actor, Member):
            return self.filter(claim__group_id=actor.group_id)
        return self.filter(claim__group__lab__owner=actor, claim__group__lab__deleted_at__isnull=True)
