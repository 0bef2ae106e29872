"""Keeping what a teacher did, as part of the same transaction."""

from __future__ import annotations

import uuid
from typing import Protocol

from galvanic.words import mark
from server.people.models import Deed, Teacher

MOST_DEEDS = 300
DEEDS = {
    "signed_in": mark("Signed in"),
    "signed_out": mark("Signed out"),
    "new_password": mark("Changed the password"),
    "ended_sign_in": mark("Ended a sign-in elsewhere"),
    "began_school": mark("Made the first account of this school"),
    "second_on": mark("Turned the second step of signing in on"),
    "second_off": mark("Turned the second step of signing in off"),
    "recovery_code": mark("Signed in with a recovery code"),
    "new_email": mark("Changed the address for mail"),
    "invited": mark("Invited a colleague"),
    "ended_link": mark("Withdrew a link"),
    "joined_school": mark("Came in by an invitation"),
    "reset_link": mark("Made a link for a new password"),
    "reset_password": mark("Set a new password by a link"),
    "asked_mail": mark("Asked for a link by mail"),
    "made_head": mark("Made a colleague head of the school’s accounts"),
    "no_head": mark("Took the school’s accounts from a colleague"),
    "ended_account": mark("Ended a colleague’s account"),
    "restored_account": mark("Let a colleague in again"),
    "cupboard": mark("Chose the school’s cupboard"),
    "shared_lab": mark("Shared a lab"),
    "unshared_lab": mark("Shared a lab no more"),
    "made_lab": mark("Planned a lab"),
    "changed_lab": mark("Changed what a lab is about"),
    "renamed_lab": mark("Renamed a lab"),
    "copied_lab": mark("Copied a lab"),
    "tagged": mark("Set a lab’s tags"),
    "archived": mark("Put a lab away"),
    "unarchived": mark("Took a lab back that was put away"),
    "imported": mark("Brought in a table"),
    "brought_package": mark("Brought in a package"),
    "signed_off": mark("Signed the safety sheet off"),
    "opened": mark("Opened the bench"),
    "closed": mark("Closed the bench"),
    "deleted_lab": mark("Deleted a lab"),
    "undeleted_lab": mark("Took a deleted lab back"),
    "new_pin": mark("Gave a group a new PIN"),
    "new_code": mark("Gave a lab a new code"),
    "set_aside": mark("Set readings aside"),
    "counted_again": mark("Counted readings again"),
    "gave_cell": mark("Gave a cell to another group"),
    "added_cell": mark("Gave a group one more cell"),
    "asked_again": mark("Asked for a new reading"),
    "question": mark("Looked at a group’s question"),
    "paused": mark("Stopped the clock"),
    "went_on": mark("Let the clock go on"),
    "minutes": mark("Changed the minutes"),
    "showed": mark("Showed groups the others’ values"),
    "covered": mark("Covered the others’ values"),
    "released": mark("Decided what groups see"),
    "answered": mark("Answered a claim"),
    "rubric": mark("Set the rubric"),
    "gave_back": mark("Gave a notebook back"),
    "asked_class": mark("Asked the class a question"),
    "ended_question": mark("Ended a question to the class"),
    "homework": mark("Set homework"),
    "ended_homework": mark("Ended homework"),
    "elsewhere": mark("Put a value from elsewhere beside the class’s"),
    "withdrew": mark("Took a value from elsewhere away"),
    "meter": mark("Set a meter’s address"),
    "removed_photo": mark("Removed a photograph"),
    "keep_days": mark("Chose how long photographs and notes are kept"),
    "asked_removal": mark("Asked for words to be removed"),
    "over": mark("Removed what was kept long enough"),
    "removed_words": mark("Removed words on request"),
    "deleted_account": mark("Deleted the account"),
    "undeleted_account": mark("Took the deleted account back"),
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
