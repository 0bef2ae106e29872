"""Links and codes that let somebody in once: the first teacher, a colleague who is invited, a teacher without password."""

from __future__ import annotations

import uuid

from django.db import models
from django.utils import timezone

from server.people.models import Teacher


class LinkQuerySet(models.QuerySet["Link"]):
    """Links."""

    def open(self) -> LinkQuerySet:
        """Those that still let somebody in."""
        return self.filter(used_at__isnull=True, ends_at__gt=timezone.now())

    def visible_to(self, actor: Teacher) -> LinkQuerySet:
        """The head of the school's accounts sees invitations and links for passwords; others see none."""
        return self.exclude(kind=Link.Kind.FIRST) if actor.is_head else self.none()


class Link(models.Model):
    """Lets somebody in once. Only a hash of its secret is kept; `name` says for whom it was meant."""

    class Kind(models.TextChoices):
        """What it is for."""

        FIRST = "first"
        INVITE = "invite"
        RESET = "reset"
        MAIL = "mail"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    kind = models.CharField(max_length=6, choices=Kind.choices)
    token_hash = models.CharField(max_length=64, unique=True)
    name = models.CharField(max_length=80, blank=True)
    teacher = models.ForeignKey(Teacher, on_delete=models.CASCADE, null=True, related_name="links")
    made_by = models.ForeignKey(Teacher, on_delete=models.CASCADE, null=True, related_name="links_made")
    made_at = models.DateTimeField(auto_now_add=True)
    ends_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True, blank=True)

    objects = LinkQuerySet.as_manager()

    class Meta:
        ordering = ["-made_at"]

    def __str__(self) -> str:
        return f"{self.kind} {self.name}"
