"""Who may see a class's findings, and when."""

from __future__ import annotations

from galvanic.words import say
from server.base.problems import Problem
from server.labs.lookups import lab_of_group
from server.labs.models import Lab
from server.people.auth import Member


def lab_for_group(actor: Member, *parts: str) -> Lab:
    """The group's lab, if the teacher has released one of the parts. Raises Problem not_released."""
    lab = lab_of_group(actor)
    if not set(parts) & set(lab.released):
        raise Problem(403, "not_released", say("Your teacher has not shown this to the groups yet."))
    return lab
