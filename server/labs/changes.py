"""Counting the changes of a lab, by which what is kept is known to be old, and telling open pages of them."""

from __future__ import annotations

import uuid

from django.db.models import F

from server.base.live import notify
from server.labs.models import Lab
from server.people.services import count_change


def announce(lab_id: uuid.UUID, group_id: uuid.UUID | None = None) -> None:
    """Say that a lab has changed (only for `group_id` and the teacher, if given), as part of the running transaction.

    The counts of changes of the lab and of the group, or all its groups, go up.
    """
    Lab.objects.filter(id=lab_id).update(changes=F("changes") + 1)
    count_change(lab_id, group_id)
    notify(f"{lab_id} {group_id or ''}".strip())
