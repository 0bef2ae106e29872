"""Who may see a class's findings, and when."""

from __future__ import annotations

import uuid
from typing import Any

from server.base.problems import Problem, not_found
from server.labs.models import Lab
from server.people.auth import Member
from server.people.models import Teacher


def lab_for_teacher(actor: Teacher, lab_id: uuid.UUID) -> Any:
    """A lab of the teacher's with counts. Raises Problem not_found."""
    lab = Lab.objects.visible_to(actor).with_counts().filter(id=lab_id).first()
    if lab is None:
        raise not_found("lab")
    return lab


def lab_for_group(actor: Member, *parts: str) -> Any:
    """The group's lab with counts, if the teacher has released one of the parts. Raises Problem not_released."""
    lab = Lab.objects.visible_to(actor).with_counts().get()
    if not set(parts) & set(lab.released):
        raise Problem(403, "not_released", "Your teacher has not shown this to the groups yet.")
    return lab
