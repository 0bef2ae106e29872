"""What a teacher does from the board while the lab runs."""

from __future__ import annotations

import uuid

from django.db import transaction
from django.utils import timezone

from galvanic.words import say
from server.base.problems import Problem
from server.entries.models import Reading, SetAside
from server.labs.changes import announce
from server.labs.models import Lab
from server.labs.services import lab_to_change
from server.people.codes import pins
from server.people.deeds import keep_deed
from server.people.models import Group, GroupSession, Teacher
from server.people.services import tell_rights
from server.people.sharing import to_change

MOST_MINUTES = 600


def open_lab(actor: Teacher, lab_id: uuid.UUID) -> Lab:
    lab = lab_to_change(actor, lab_id)
    if lab.state != Lab.State.OPEN:
        raise Problem(409, "not_open", say("The lab is not open, so there is nothing to change on its board."))
    return lab


@transaction.atomic
def pause(*, actor: Teacher, lab_id: uuid.UUID, paused: bool) -> Lab:
    """Stop the lab's clock, or let it go on; recording is never stopped. Raises Problem: not_found, or not_open."""
    lab, now = open_lab(actor, lab_id), timezone.now()
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
    lab = open_lab(actor, lab_id)
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
