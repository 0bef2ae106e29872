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
    "began_school": "Made the first account of this school",
    "second_on": "Turned the second step of signing in on",
    "second_off": "Turned the second step of signing in off",
    "recovery_code": "Signed in with a recovery code",
    "new_email": "Changed the address for mail",
    "invited": "Invited a colleague",
    "ended_link": "Withdrew a link",
    "joined_school": "Came in by an invitation",
    "reset_link": "Made a link for a new password",
    "reset_password": "Set a new password by a link",
    "asked_mail": "Asked for a link by mail",
    "made_head": "Made a colleague head of the school’s accounts",
    "no_head": "Took the school’s accounts from a colleague",
    "ended_account": "Ended a colleague’s account",
    "restored_account": "Let a colleague in again",
    "cupboard": "Chose the school’s cupboard",
    "shared_lab": "Shared a lab",
    "unshared_lab": "Shared a lab no more",
    "made_lab": "Planned a lab",
    "changed_lab": "Changed what a lab is about",
    "renamed_lab": "Renamed a lab",
    "copied_lab": "Copied a lab",
    "tagged": "Set a lab’s tags",
    "archived": "Put a lab away",
    "unarchived": "Took a lab back that was put away",
    "imported": "Brought in a table",
    "brought_package": "Brought in a package",
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
    "question": "Looked at a group’s question",
    "paused": "Stopped the clock",
    "went_on": "Let the clock go on",
    "minutes": "Changed the minutes",
    "showed": "Showed groups the others’ values",
    "covered": "Covered the others’ values",
    "released": "Decided what groups see",
    "answered": "Answered a claim",
    "rubric": "Set the rubric",
    "gave_back": "Gave a notebook back",
    "homework": "Set homework",
    "ended_homework": "Ended homework",
    "elsewhere": "Put a value from elsewhere beside the class’s",
    "withdrew": "Took a value from elsewhere away",
    "meter": "Set a meter’s address",
    "removed_photo": "Removed a photograph",
    "keep_days": "Chose how long photographs and notes are kept",
    "asked_removal": "Asked for words to be removed",
    "over": "Removed what was kept long enough",
    "removed_words": "Removed words on request",
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


def deeds_of_school(actor: Teacher) -> list[Deed]:
    """What was done with the school's accounts lately, newest first, with who did it; nothing for all but its head."""
    return list(Deed.objects.of_school(actor).select_related("teacher")[:MOST_DEEDS])


def deeds_of(actor: Teacher, lab_id: uuid.UUID | None = None) -> list[Deed]:
    """What a teacher did lately, and colleagues in the teacher's labs, newest first; of one lab, if it is named."""
    rows = Deed.objects.visible_to(actor).select_related("teacher")
    return list((rows if lab_id is None else rows.filter(lab=lab_id))[:MOST_DEEDS])
