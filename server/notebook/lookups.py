"""Whose notebook may be seen."""

from __future__ import annotations

import uuid

from server.base.problems import not_found
from server.people.models import Group, Teacher


def group_for_teacher(actor: Teacher, group_id: uuid.UUID) -> Group:
    """A group of a lab that the teacher may see. Raises Problem not_found."""
    group = Group.objects.visible_to(actor).filter(id=group_id).first()
    if group is None:
        raise not_found("group")
    return group
