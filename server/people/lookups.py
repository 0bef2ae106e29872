"""Finding people: a school's teachers."""

from __future__ import annotations

from server.people.auth import Member
from server.people.models import Group, Teacher

MOST_TEACHERS = 500


def colleagues(actor: Teacher) -> list[Teacher]:
    """The other teachers of the school, by name."""
    return list(Teacher.objects.colleagues_of(actor).order_by("username")[:MOST_TEACHERS])


def nobody_yet() -> bool:
    """Whether the school has no account at all."""
    return not Teacher.objects.exists()


def own_group(actor: Member) -> Group:
    """The group at a device."""
    return Group.objects.get(id=actor.group_id)
