"""Cells of groups' lists, changed while the lab runs."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from typing import Any

from django.db import transaction
from django.db.models import F

from galvanic.cells import Cell
from galvanic.chemistry.fitting import refusal
from galvanic.words import say
from server.base.problems import Problem, not_found
from server.entries.fetched import with_begun
from server.labs.changes import announce
from server.labs.models import Lab, PlannedCell
from server.people.deeds import keep_deed
from server.people.models import Group, Teacher
from server.people.sharing import to_change
from server.room.services import open_lab

MOST_CELLS = 60


@transaction.atomic
def give_cell(*, actor: Teacher, cell_id: uuid.UUID, group_id: uuid.UUID) -> PlannedCell:
    """Give a cell that nobody has begun to another group of the lab, as its last one before the closing shared cell.

    Raises Problem: not_found, not_open, begun, shared, or has_it.
    """
    cells: Any = PlannedCell.objects.select_related("group")
    open_lab(actor, to_change(cells, actor, cell_id, "cell").group.lab_id)
    cell: Any = with_begun(cells).get(id=cell_id)  # as it is now that the lab is locked
    to = Group.objects.filter(id=group_id, lab=cell.group.lab_id).first()
    if to is None:
        raise not_found("group")
    if to.id == cell.group_id:
        return PlannedCell.objects.select_related("group").get(id=cell_id)  # pressed twice
    if cell.begun:
        raise Problem(
            409,
            "begun",
            say("{name} has begun this cell. Ask {name2} in person to measure it too.", name=cell.group.name, name2=to.name),
        )
    if cell.shared:
        raise Problem(409, "shared", say("Every group measures the shared cell; it stays."))
    theirs = list(PlannedCell.objects.filter(group=to).order_by("position"))
    if any(their.cell == cell.cell for their in theirs):
        raise Problem(409, "has_it", say("{name} has this cell on its list already.", name=to.name))
    left, at = cell.group_id, _place_in(theirs)
    PlannedCell.objects.filter(id=cell.id).update(group=to, position=at)
    _close_gaps(left, cell.position)
    announce(to.lab_id)
    keep_deed(
        actor,
        "gave_cell",
        to.lab,
        say("{short}: {name} to {name2}", short=cell.cell.short, name=cell.group.name, name2=to.name),
    )
    return PlannedCell.objects.select_related("group").get(id=cell.id)


def _close_gaps(group_id: uuid.UUID, position: int) -> None:
    """Move up what came after `position`, one by one so that no place is taken twice."""
    for one in PlannedCell.objects.filter(group=group_id, position__gt=position).order_by("position"):
        PlannedCell.objects.filter(id=one.id).update(position=F("position") - 1)


def _place_in(theirs: Sequence[PlannedCell]) -> int:
    """Where a further cell stands on a list: last, or before a closing shared cell that is not begun, which moves on."""
    last = theirs[-1] if theirs else None
    if last is not None and last.shared and len(theirs) > 1 and not last.readings.exists():
        PlannedCell.objects.filter(id=last.id).update(position=last.position + 1)
        return last.position
    return (last.position if last else 0) + 1


@transaction.atomic
def add_cell(*, actor: Teacher, group_id: uuid.UUID, cell: Cell) -> PlannedCell:
    """Put one more cell on a group's list while the lab runs; a group that has it keeps it once.

    Raises Problem: not_found, not_open, not_here, or too_many.
    """
    lab = open_lab(actor, to_change(Group.objects.all(), actor, group_id, "group").lab_id)
    if why := _not_here(lab, cell):
        raise Problem(422, "not_here", why, field="cell")
    cell = Cell.of(cell.negative, cell.electrolyte, cell.positive, cell.condition)
    theirs = list(PlannedCell.objects.filter(group=group_id).order_by("position"))
    if has := next((one for one in theirs if one.cell == cell), None):
        return has
    if len(theirs) >= MOST_CELLS:
        raise Problem(409, "too_many", say("This group has {n} cells already.", n=len(theirs)))
    made = PlannedCell.objects.create(
        group_id=group_id, position=_place_in(theirs), negative=cell.negative, electrolyte=cell.electrolyte,
        positive=cell.positive, condition=cell.condition,
    )  # fmt: skip
    announce(lab.id)
    keep_deed(actor, "added_cell", lab, say("{short}: {name}", short=cell.short, name=made.group.name))
    return made


def _not_here(lab: Lab, cell: Cell) -> str:
    """Why a cell is none of this lab's, in a sentence; empty where it is."""
    if not set(cell.pair) <= set(lab.electrodes) or cell.electrolyte not in lab.electrolytes:
        return say("This lab has no plates or liquid for this cell, so its safety sheet does not cover it.")
    if cell.condition not in lab.conditions or cell.negative == cell.positive:
        return say("This lab has no such cell.")
    return refusal(cell)
