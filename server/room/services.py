"""What a teacher does from the board while the lab runs."""

from __future__ import annotations

import uuid
from typing import Any

from django.db import transaction
from django.db.models import F
from django.utils import timezone

from galvanic.words import say
from server.base.problems import Problem, not_found
from server.entries.fetched import with_begun
from server.entries.models import Reading, SetAside
from server.labs.changes import announce
from server.labs.models import Lab, PlannedCell
from server.labs.services import lab_to_change
from server.people.codes import pins
from server.people.deeds import keep_deed
from server.people.models import Group, GroupSession, Teacher
from server.people.services import tell_rights
from server.people.sharing import to_change

MOST_MINUTES = 600


def _open(actor: Teacher, lab_id: uuid.UUID) -> Lab:
    lab = lab_to_change(actor, lab_id)
    if lab.state != Lab.State.OPEN:
        raise Problem(409, "not_open", say("The lab is not open, so there is nothing to change on its board."))
    return lab


@transaction.atomic
def pause(*, actor: Teacher, lab_id: uuid.UUID, paused: bool) -> Lab:
    """Stop the lab's clock, or let it go on; recording is never stopped. Raises Problem: not_found, or not_open."""
    lab, now = _open(actor, lab_id), timezone.now()
    if paused and lab.paused_at is None:
        lab.paused_at = now
    elif not paused and lab.paused_at is not None:
        lab.paused_s += (now - lab.paused_at).total_seconds()
        lab.paused_at = None
    lab.save(update_fields=["paused_at", "paused_s"])
    keep_deed(actor, "paused" if paused else "went_on", lab)
    announce(lab.id)
    return lab


@transaction.atomic
def add_minutes(*, actor: Teacher, lab_id: uuid.UUID, minutes: int) -> Lab:
    """Make the period longer (or, below zero, shorter). Raises Problem: not_found, not_open, or minutes."""
    lab = _open(actor, lab_id)
    if not 1 <= lab.minutes + minutes <= MOST_MINUTES:
        raise Problem(
            422, "minutes", say("A lab lasts 1 to {most_minutes} minutes.", most_minutes=MOST_MINUTES), field="minutes"
        )
    lab.minutes += minutes
    lab.save(update_fields=["minutes"])
    keep_deed(actor, "minutes", lab, say("{minutes:+d}, {minutes2} now", minutes=minutes, minutes2=lab.minutes))
    announce(lab.id)
    return lab


@transaction.atomic
def show_values(*, actor: Teacher, lab_id: uuid.UUID, shown: bool) -> Lab:
    """Let groups see the others' values of a cell once they have their own three, or cover them. Raises not_found."""
    lab = lab_to_change(actor, lab_id)
    lab.show_values = shown
    lab.save(update_fields=["show_values"])
    keep_deed(actor, "showed" if shown else "covered", lab)
    announce(lab.id)
    return lab


@transaction.atomic
def give_cell(*, actor: Teacher, cell_id: uuid.UUID, group_id: uuid.UUID) -> PlannedCell:
    """Give a cell that nobody has begun to another group of the lab, as its last one before the closing shared cell.

    Raises Problem: not_found, not_open, begun, shared, or has_it.
    """
    cells: Any = PlannedCell.objects.select_related("group")
    _open(actor, to_change(cells, actor, cell_id, "cell").group.lab_id)
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
    left = cell.group_id
    last = theirs[-1] if theirs else None
    at = (theirs[-1].position if last else 0) + 1
    if last is not None and last.shared and len(theirs) > 1 and not last.readings.exists():
        at = last.position
        PlannedCell.objects.filter(id=last.id).update(position=last.position + 1)
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


@transaction.atomic
def set_reading_aside(*, actor: Teacher, reading_id: uuid.UUID, reason: str) -> SetAside:
    """Set a reading aside with a reason, or with an empty one take it back. Raises Problem: not_found, or corrected."""
    reading: Reading = to_change(Reading.objects.select_related("cell__group__lab"), actor, reading_id, "reading")
    if Reading.objects.filter(corrects=reading).exists():
        raise Problem(409, "corrected", say("That reading is corrected by a later one and does not count anyway."))
    group, reason = reading.cell.group, " ".join(reason.split())
    announce(group.lab_id, group.id)
    about = f"{group.name}, {reading.cell.cell.short}: {reading.text} {reading.unit}"
    keep_deed(actor, "set_aside" if reason else "counted_again", group.lab, f"{about}. {reason}")
    return SetAside.objects.create(reading=reading, teacher=actor, reason=reason)


@transaction.atomic
def set_group_aside(*, actor: Teacher, group_id: uuid.UUID, reason: str) -> SetAside:
    """Set all readings of a group aside, or take that back. Raises Problem not_found."""
    group: Group = to_change(Group.objects.select_related("lab"), actor, group_id, "group")
    reason = " ".join(reason.split())
    announce(group.lab_id, group.id)
    keep_deed(
        actor,
        "set_aside" if reason else "counted_again",
        group.lab,
        say("all of {name}. {reason}", name=group.name, reason=reason),
    )
    return SetAside.objects.create(group=group, teacher=actor, reason=reason)


@transaction.atomic
def new_pin(*, actor: Teacher, group_id: uuid.UUID) -> Group:
    """Give a group another PIN; its devices must join again with it. Raises Problem not_found."""
    group: Group = to_change(Group.objects.select_related("lab"), actor, group_id, "group")
    announce(group.lab_id)  # first: it locks the lab, and then its groups, as every change does
    taken = set(Group.objects.filter(lab=group.lab_id).values_list("pin", flat=True))
    group.pin = next(pin for pin in pins(len(taken) + 1) if pin not in taken)
    group.save(update_fields=["pin"])
    GroupSession.objects.filter(group=group).end()
    tell_rights(group.lab_id, group.id)
    keep_deed(actor, "new_pin", group.lab, group.name)
    return group
