"""Finding people: a school's teachers."""

from __future__ import annotations

from server.people.models import Teacher

MOST_TEACHERS = 500


def colleagues(actor: Teacher) -> list[Teacher]:
    """The other teachers of the school, by name."""
    return list(Teacher.objects.colleagues_of(actor).order_by("username")[:MOST_TEACHERS])


def nobody_yet() -> bool:
    """Whether the school has no account at all."""
    return not Teacher.objects.exists()
