"""A teacher's own materials, and what is on the shelf. Their tables were made with those of labs and keep that label."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import models
from django.db.models import F, Func, Subquery, Value
from django.db.models.functions import Coalesce

from server.people.auth import Member
from server.people.models import Group, Share, Teacher


class OwnMaterialQuerySet(models.QuerySet["OwnMaterial"]):
    """Teachers' own materials."""

    def visible_to(self, actor: Teacher) -> OwnMaterialQuerySet:
        """A teacher sees their own, and those in the school's cupboard."""
        return self.filter(models.Q(owner=actor) | models.Q(owner__in=SchoolCupboard.objects.values("owner")))

    def known_to(self, actor: Teacher) -> OwnMaterialQuerySet:
        """Also those of everybody whose materials are in a lab the teacher sees: what is in it has to have its numbers, also
        when the school's cupboard or the share it came by is no more."""
        return self.visible_to(actor) | self._of_makers(
            _keys(actor.labs.all()), _keys(Share.objects.filter(teacher=actor), "lab__")
        )

    def at_bench(self, member: Member) -> OwnMaterialQuerySet:
        """Those of everybody whose materials are in the lab of a group."""
        return self._of_makers(_keys(Group.objects.filter(id=member.group_id), "lab__"))

    def _of_makers(self, *keys: Any) -> OwnMaterialQuerySet:
        """All of those who made any of these: one can be made from another."""
        named = models.Q(*((("key__in", wanted)) for wanted in keys), _connector=models.Q.OR)
        return self.filter(owner__in=OwnMaterial.objects.filter(named).values("owner"))


def _keys(rows: Any, way: str = "") -> Any:
    """The plates and liquids of the labs at the end of `way` from some rows, one a row."""
    both = Func(F(f"{way}electrodes"), F(f"{way}electrolytes"), function="unnest", arg_joiner=" || ",
                set_returning=True, output_field=models.CharField())  # fmt: skip
    return rows.order_by().annotate(own_key=both).values("own_key")


class ShelfQuerySet(models.QuerySet["Shelf"]):
    """What is on shelves."""

    def visible_to(self, actor: Teacher) -> ShelfQuerySet:
        """A teacher sees the school's cupboard, or their own where the school has none."""
        keeper = Subquery(SchoolCupboard.objects.values("owner_id")[:1])
        return self.filter(owner_id=Coalesce(keeper, Value(actor.id)))


class SchoolCupboard(models.Model):
    """Whose cupboard all teachers of the school see and keep; none: everybody has their own. One row at most."""

    owner = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")

    class Meta:
        app_label = "labs"

    def __str__(self) -> str:
        return f"of {self.owner_id}"


def keeper_of(actor: Teacher) -> int:
    """The id of the teacher whose cupboard `actor` sees and changes: the school's, or their own."""
    owner = SchoolCupboard.objects.values_list("owner_id", flat=True).first()
    return actor.id if owner is None else owner


class OwnMaterial(models.Model):
    """A teacher's own electrode or electrolyte. It is never edited, so that old labs keep the numbers they were judged by:
    a change retires it and makes a new one."""

    class Kind(models.TextChoices):
        """What it is."""

        ELECTRODE = "electrode"
        ELECTROLYTE = "electrolyte"

    key = models.CharField(primary_key=True, max_length=60)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="materials")
    kind = models.CharField(max_length=11, choices=Kind.choices)
    name = models.CharField(max_length=60)
    data = models.JSONField()
    created_at = models.DateTimeField(auto_now_add=True)
    retired_at = models.DateTimeField(null=True, blank=True)

    objects = OwnMaterialQuerySet.as_manager()

    class Meta:
        app_label = "labs"
        ordering = ["created_at"]

    def __str__(self) -> str:
        return self.name


def is_made(row: OwnMaterial) -> bool:
    """Whether a liquid is made by recipe or of two solutions, not described by its numbers."""
    return bool(row.data.get("made") or row.data.get("bridge"))


class Shelf(models.Model):
    """How many pieces (or litres) of a material a teacher has, and what one costs."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="shelf")
    material = models.CharField(max_length=60)
    count = models.FloatField(null=True, blank=True)
    price = models.DecimalField(max_digits=8, decimal_places=2, null=True, blank=True)

    objects = ShelfQuerySet.as_manager()

    class Meta:
        app_label = "labs"
        constraints = [models.UniqueConstraint(fields=["owner", "material"], name="one_shelf_a_material")]

    def __str__(self) -> str:
        return self.material
