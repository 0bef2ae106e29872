"""Who sees which material and shelf: every endpoint starts from `visible_to`."""

from __future__ import annotations

from typing import TYPE_CHECKING

from django.db import models

from server.people.models import Teacher

if TYPE_CHECKING:
    from server.materials.models import OwnMaterial, Shelf  # noqa: F401


class OwnMaterialQuerySet(models.QuerySet["OwnMaterial"]):
    """Teachers' own materials."""

    def visible_to(self, actor: Teacher) -> OwnMaterialQuerySet:
        """A teacher sees their own."""
        return self.filter(owner=actor)


class ShelfQuerySet(models.QuerySet["Shelf"]):
    """What is on teachers' shelves."""

    def visible_to(self, actor: Teacher) -> ShelfQuerySet:
        """A teacher sees their own."""
        return self.filter(owner=actor)
