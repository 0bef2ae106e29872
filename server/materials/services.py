"""A teacher's own materials, and what is on the shelf."""

from __future__ import annotations

import uuid
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.utils import timezone

from galvanic.errors import BadTable
from galvanic.reference import catalogue
from galvanic.words import say
from server.base.problems import Problem, not_found
from server.materials.models import OwnMaterial, Shelf, keeper_of
from server.materials.own import build
from server.people.models import Teacher

MAX_OWN = 100


@transaction.atomic
def add_material(*, actor: Teacher, kind: str, name: str, data: dict[str, Any], replaces: str = "") -> OwnMaterial:
    """Keep an own electrode or electrolyte; one that replaces another retires it and takes its place on the shelf.

    Raises Problem: name, name_taken, bad_material, too_many, or not_found for what is replaced.
    """
    tidy = " ".join(name.split())
    if not tidy or len(tidy) > 60:
        raise Problem(422, "name", say("Give it a name of at most 60 letters."), field="name")
    own = OwnMaterial.objects.visible_to(actor)
    if own.count() >= MAX_OWN:
        raise Problem(
            409, "too_many", say("At most {max_own} own materials can be kept, retired ones counted.", max_own=MAX_OWN)
        )
    if replaces:
        retire_material(actor=actor, key=replaces)
    taken = {row.name.casefold() for row in catalogue.shipped_electrodes().values()}
    taken |= {row.name.casefold() for row in catalogue.shipped_electrolytes().values()}
    taken |= {row.name.casefold() for row in own.filter(retired_at__isnull=True)}
    if tidy.casefold() in taken:
        raise Problem(
            409, "name_taken", say("There is a “{tidy}” already. Give yours another name.", tidy=tidy), field="name"
        )
    key = f"own-{uuid.uuid4().hex[:12]}"
    try:
        build(kind, key, tidy, data)
    except BadTable as error:
        raise Problem(
            422, "bad_material", say("That does not make a material: {split}.", split=str(error).split(": ", 2)[-1])
        ) from error
    shelf = Shelf.objects.visible_to(actor).filter(material=replaces).first() if replaces else None
    if shelf is not None:
        Shelf.objects.create(owner_id=keeper_of(actor), material=key, count=shelf.count, price=shelf.price)
    return OwnMaterial.objects.create(key=key, owner_id=keeper_of(actor), kind=kind, name=tidy, data=data)


@transaction.atomic
def retire_material(*, actor: Teacher, key: str) -> OwnMaterial:
    """Offer an own material no more; labs that use it keep it. Raises Problem not_found."""
    row = OwnMaterial.objects.visible_to(actor).select_for_update().filter(key=key).first()
    if row is None:
        raise not_found("material")
    if row.retired_at is None:
        row.retired_at = timezone.now()
        row.save(update_fields=["retired_at"])
    return row


@transaction.atomic
def set_shelf(*, actor: Teacher, key: str, count: float | None, price: float | None) -> None:
    """Keep how many there are and what one costs. Raises Problem not_found for an unknown material."""
    if key not in catalogue.electrodes() and key not in catalogue.electrolytes():
        raise not_found("material")
    if count is not None and key in catalogue.electrodes() and count != int(count):
        raise Problem(422, "whole_pieces", say("Plates come in whole pieces: type 0, 1, 2 …"), field="count")
    values = {"count": count, "price": None if price is None else Decimal(str(round(price, 2)))}
    Shelf.objects.update_or_create(owner_id=keeper_of(actor), material=key, defaults=values)


def offered(actor: Teacher) -> list[OwnMaterial]:
    """A teacher's own materials that are not retired."""
    return list(OwnMaterial.objects.visible_to(actor).filter(retired_at__isnull=True))


def retired_of(actor: Teacher) -> set[str]:
    """The keys of a teacher's own materials that are retired."""
    return set(OwnMaterial.objects.visible_to(actor).filter(retired_at__isnull=False).values_list("key", flat=True))


def shelf_of(actor: Teacher) -> dict[str, Shelf]:
    """What is on a teacher's shelf, by material."""
    return {row.material: row for row in Shelf.objects.visible_to(actor)}
