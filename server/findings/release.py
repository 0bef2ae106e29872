"""What groups see on their devices of what the class found."""

from __future__ import annotations

import uuid
from collections.abc import Sequence

from django.db import transaction

from galvanic.words import say
from server.base.problems import Problem
from server.findings.services import PARTS
from server.labs.changes import announce
from server.labs.models import Lab
from server.labs.services import lab_to_change
from server.people.deeds import keep_deed
from server.people.models import Teacher


@transaction.atomic
def release(*, actor: Teacher, lab_id: uuid.UUID, parts: Sequence[str]) -> Lab:
    """Decide what groups see. Raises Problem: not_found, or part."""
    lab = lab_to_change(actor, lab_id)
    if not set(parts) <= set(PARTS):
        raise Problem(422, "part", say("Parts are {parts}.", parts=", ".join(PARTS)), field="parts")
    lab.released = [part for part in PARTS if part in parts]
    lab.save(update_fields=["released"])
    keep_deed(actor, "released", lab, ", ".join(lab.released) or "nothing")
    announce(lab.id)
    return lab
