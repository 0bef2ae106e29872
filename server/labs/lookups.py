"""Finding what may be seen: labs for their teachers and groups."""

from __future__ import annotations

import uuid

from server.base.composed import SOME_ID, SOME_UUID, Composed
from server.base.problems import not_found
from server.labs.models import Lab, LabQuerySet, SignOff
from server.people.auth import Member
from server.people.models import Teacher

MOST_LABS, MOST_SIGNED = 200, 50


def language_of_lab(actor: Teacher, lab_id: str) -> str | None:
    """The language of what a lab's class sees and holds; None for a lab the teacher may not see."""
    found: str | None = Lab.objects.visible_to(actor).filter(id=lab_id).values_list("language", flat=True).first()
    return found


def labs_of(actor: Teacher) -> LabQuerySet:
    """A teacher's labs and those shared with them, with owner, `way` and `group_count`, newest first."""
    labs: LabQuerySet = Lab.objects.visible_to(actor).with_way(actor).with_group_count().select_related("owner")
    return labs.order_by("-date", "-created_at")[:MOST_LABS]


def deleted_labs_of(actor: Teacher) -> LabQuerySet:
    """The labs a teacher has deleted and can still take back, the last first."""
    labs: LabQuerySet = Lab.objects.deleted_of(actor).order_by("-deleted_at")[:MOST_LABS]
    return labs


def lab_for_teacher(actor: Teacher, lab_id: uuid.UUID) -> Lab:
    """A lab that the teacher may see, with its owner, `way` and `group_count`. Raises Problem not_found."""
    labs = Lab.objects.visible_to(actor).with_way(actor).with_group_count()
    lab: Lab | None = labs.select_related("owner").filter(id=lab_id).first()
    if lab is None:
        raise not_found("lab")
    return lab


_SHOWN: Composed[Lab] = Composed(
    lambda teacher, lab: Lab.objects.visible_to(Teacher(id=teacher)).with_way(Teacher(id=teacher)).filter(id=lab).order_by(),
    {"teacher": SOME_ID, "lab": SOME_UUID},
)
_OF_GROUP: Composed[Lab] = Composed(
    lambda lab: Lab.objects.visible_to(Member(lab, lab, "", 0)).with_group_count(), {"lab": SOME_UUID}
)


def lab_on_board(actor: Teacher, lab_id: uuid.UUID) -> Lab:
    """A lab that the teacher may see, with its `way`, for what is made after each reading. Raises Problem not_found."""
    rows = _SHOWN.rows(teacher=actor.id, lab=lab_id)
    if not rows:
        raise not_found("lab")
    return rows[0]


def draft_for_teacher(actor: Teacher, lab_id: uuid.UUID) -> Lab:
    """A draft of the teacher's, to look at. Raises Problem not_found."""
    lab = lab_for_teacher(actor, lab_id)
    if lab.state != Lab.State.DRAFT:
        raise not_found("lab")
    return lab


def lab_of_group(actor: Member) -> Lab:
    """The lab of a device's group, with `group_count`. Raises Problem not_found."""
    rows = _OF_GROUP.rows(lab=actor.lab_id)
    if not rows:
        raise not_found("lab")
    return rows[0]


def signatures(lab: Lab) -> list[SignOff]:
    """Who signed the lab's safety sheets, the last first."""
    return list(SignOff.objects.filter(lab=lab).select_related("teacher").order_by("-at")[:MOST_SIGNED])
