"""What a teacher may change, and the refusal where a lab is shared with them only to look at."""

from __future__ import annotations

import uuid
from typing import Any

from galvanic.words import mark
from server.base.problems import Refusal, not_found
from server.people.models import Teacher

LOOK_ONLY = Refusal(
    403,
    "look_only",
    mark("This lab is shared with you to look at, so nothing was changed. Its teacher can let you work in it."),
    passing=False,
)


def to_change(rows: Any, actor: Teacher, row_id: uuid.UUID, what: str) -> Any:
    """One of `rows` (with `visible_to` and `changed_by`) that the teacher may change.

    Raises Problem: look_only where they may only look, not_found where they see nothing.
    """
    row = rows.changed_by(actor).filter(id=row_id).first()
    if row is None:
        raise LOOK_ONLY() if rows.visible_to(actor).filter(id=row_id).exists() else not_found(what)
    return row
