"""Keeping what a teacher did, as part of the same transaction."""

from __future__ import annotations

import uuid
from typing import Protocol

from server.people.models import Deed, Teacher

MOST_DEEDS = 300
DEEDS = {
    "signed_in": "Signed in",
    "signed_out": "Signed out",
    "new_password": "Changed the password",
    "ended_sign_in": "Ended a sign-in elsewhere",
    "made_lab": "Planned a lab",
    "changed_lab": "Changed what a lab is about",
    "renamed_lab": "Renamed a lab",
    "copied_lab": "Copied a lab",
    "imported": "Brought in a table",
    "signed_off": "Signed the safety sheet off",
    "opened": "Opened the bench",
    "closed": "Closed the bench",
    "deleted_lab": "Deleted a lab",
    "undeleted_lab": "Took a deleted lab back",
    "new_pin": "Gave a group a new PIN",
    "set_aside": "Set readings aside",
    "counted_again": "Counted readings again",
    "gave_cell": "Gave a cell to another group",
    "asked_again": "Asked for a new reading",
    "paused": "Stopped the clock",
    "went_on": "Let the clock go on",
    "minutes": "Changed the minutes",
    "showed": "Showed groups the others’ values",
    "covered": "Covered the others’ values",
    "released": "Decided what groups see",
    "answered": "Answered a claim",
    "rubric": "Set the rubric",
    "meter": "Set a meter’s address",
    "removed_photo": "Removed a photograph",
    "deleted_account": "Deleted the account",
    "undeleted_account": "Took the deleted account back",
}
"""What can be said of a teacher, by its code."""


class Titled(Protocol):
    """A lab, as far as a deed needs it."""

    id: uuid.UUID
    title: str


def keep_deed(actor: Teacher, what: str, lab: Titled | None = None, about: str = "") -> None:
    """Keep that a teacher did something; `what` is one of DEEDS."""
    if what not in DEEDS:
        raise KeyError(what)
    title = lab.title if lab is not None else ""
    Deed.objects.create(teacher=actor, what=what, lab=None if lab is None else lab.id, title=title[:120], about=about[:240])


def deeds_of(actor: Teacher, lab_id: uuid.UUID | None = None) -> list[Deed]:
    """What a teacher did lately, newest first; of one lab, if it is named."""
    rows = Deed.objects.visible_to(actor)
    return list((rows if lab_id is None else rows.filter(lab=lab_id))[:MOST_DEEDS])
