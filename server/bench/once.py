"""What a device sends is kept once, however often it is sent: its id is made on the device."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from typing import Any, TypeVar

from django.db import IntegrityError, models, transaction

from server.labs.models import Lab, PlannedCell
from server.people.auth import Member
from server.problems import Problem, not_found

Kept = TypeVar("Kept", bound=models.Model)


def keep_once(model: type[Kept], actor: Member, key: uuid.UUID, create: Callable[[], Kept]) -> tuple[Kept, bool]:
    """What is kept under this id, made by `create` if nothing is; and whether it was kept before.

    Raises Problem id_taken if another group's entry has the id, and whatever `create` raises; then nothing is kept.
    """
    try:
        with transaction.atomic():
            kept = _kept(model, actor, key)
            return (kept, True) if kept is not None else (create(), False)
    except IntegrityError:
        kept = _kept(model, actor, key)  # the same entry came twice at once
        if kept is None:
            raise
        return kept, True


def _kept(model: type[Kept], actor: Member, key: uuid.UUID) -> Kept | None:
    of_group = any(field.name == "group" for field in model._meta.fields)
    objects: Any = model._default_manager
    kept: Any = (objects if of_group else objects.select_related("cell")).filter(pk=key).first()
    if kept is not None and (kept if of_group else kept.cell).group_id != actor.group_id:
        raise Problem(409, "id_taken", "This entry’s number is taken. Type it again.")
    found: Kept | None = kept
    return found


def open_cell(actor: Member, cell_id: uuid.UUID) -> PlannedCell:
    """A cell of the group's in an open lab. Raises Problem: not_found, or lab_closed."""
    cell = PlannedCell.objects.visible_to(actor).select_related("group__lab").filter(id=cell_id).first()
    if cell is None:
        raise not_found("cell")
    if cell.group.lab.state != Lab.State.OPEN:
        raise Problem(409, "lab_closed", "The lab is closed, so this was not recorded. Show your teacher what you have.")
    return cell
