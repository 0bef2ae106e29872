"""Deleting a lab, with thirty days to take it back."""

from __future__ import annotations

import uuid
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from galvanic.words import say
from server.base.problems import Problem, not_found
from server.labs.changes import announce
from server.labs.models import Lab
from server.labs.services import owned
from server.people.deeds import keep_deed
from server.people.models import GroupSession, Teacher
from server.people.services import tell_rights

KEPT = timedelta(days=30)


@transaction.atomic
def delete_lab(*, actor: Teacher, lab_id: uuid.UUID, title: str) -> Lab:
    """Take a lab out of sight, with all that is in it; its groups are out at once.

    `title` is the lab's title as the teacher has typed it. Raises Problem: not_found, or wrong_title.
    """
    lab = owned(actor, lab_id)
    if " ".join(title.split()).casefold() != lab.title.casefold():
        message = say("Type the title of the lab, “{title}”, to delete it. Nothing was deleted.", title=lab.title)
        raise Problem(422, "wrong_title", message, field="title")
    announce(lab.id)
    lab.deleted_at = timezone.now()
    lab.save(update_fields=["deleted_at"])
    GroupSession.objects.filter(group__lab=lab).end()
    tell_rights(lab.id)
    keep_deed(actor, "deleted_lab", lab)
    return lab


@transaction.atomic
def undelete_lab(*, actor: Teacher, lab_id: uuid.UUID) -> Lab:
    """Take a deleted lab back as it was; its groups join again. Raises Problem not_found once it is gone for good."""
    lab = Lab.objects.deleted_of(actor).select_for_update().filter(id=lab_id).first()
    if lab is None:
        raise not_found("lab")
    lab.deleted_at = None
    lab.save(update_fields=["deleted_at"])
    announce(lab.id)
    keep_deed(actor, "undeleted_lab", lab)
    return lab
