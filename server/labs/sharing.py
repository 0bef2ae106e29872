"""Sharing a lab with colleagues of the same school: to look at it, or to work in it."""

from __future__ import annotations

import uuid
from typing import Literal

from django.db import transaction

from galvanic.words import say
from server.base.problems import not_found
from server.labs.services import owned
from server.people.deeds import keep_deed
from server.people.models import Share, Teacher
from server.people.services import tell_rights

Shared = Literal["work", "look", "no"]


@transaction.atomic
def share_lab(*, actor: Teacher, lab_id: uuid.UUID, teacher_id: int, way: Shared) -> None:
    """Share the teacher's own lab with a colleague, differently from now on, or no more.

    Raises Problem: not_found, or not_yours.
    """
    lab = owned(actor, lab_id)
    colleague = Teacher.objects.colleagues_of(actor).filter(id=teacher_id).first()
    if colleague is None:
        raise not_found("colleague")
    if way == "no":
        gone, _ = Share.objects.filter(lab=lab, teacher=colleague).delete()
        if gone:
            keep_deed(actor, "unshared_lab", lab, colleague.username)
    else:
        Share.objects.update_or_create(lab=lab, teacher=colleague, defaults={"work": way == "work"})
        keep_deed(
            actor,
            "shared_lab",
            lab,
            say("{username}, to work in", username=colleague.username)
            if way == "work"
            else say("{username}, to look at", username=colleague.username),
        )
    tell_rights(lab.id)


def ways_of(lab_id: uuid.UUID) -> dict[int, Shared]:
    """How a lab is shared, by teacher."""
    return {share.teacher_id: "work" if share.work else "look" for share in Share.objects.filter(lab=lab_id)}
