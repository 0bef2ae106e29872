"""Whose a lab is, and with whom it is shared."""

from __future__ import annotations

import uuid

from django.http import HttpRequest
from ninja import Router

from server.labs import sharing
from server.labs.lookups import lab_for_teacher
from server.labs.outputs import way_of
from server.labs.schemas import LabShareIn, LabShareOut, LabSharesOut
from server.people.auth import TeacherAuth, teacher_of
from server.people.lookups import colleagues
from server.people.schemas import Done, ProblemOut

router = Router(auth=TeacherAuth())


@router.get("/labs/{uuid:lab_id}/shares", response={200: LabSharesOut, 404: ProblemOut}, operation_id="shares")
def shares(request: HttpRequest, lab_id: uuid.UUID) -> LabSharesOut:
    """Whose the lab is; for its owner also how it is shared with each colleague."""
    actor = teacher_of(request)
    lab = lab_for_teacher(actor, lab_id)
    mine = way_of(lab) == "own"
    ways = sharing.ways_of(lab.id) if mine else {}
    return LabSharesOut(
        way=way_of(lab),
        owner=lab.owner.username,
        colleagues=[
            LabShareOut(teacher=other.id, name=other.username, way=ways.get(other.id, "no"))
            for other in (colleagues(actor) if mine else [])
        ],
    )


@router.put("/labs/{uuid:lab_id}/shares", response={200: Done, 403: ProblemOut, 404: ProblemOut}, operation_id="share_lab")
def share_lab(request: HttpRequest, lab_id: uuid.UUID, data: LabShareIn) -> Done:
    """Share the teacher's own lab with a colleague, or no more."""
    sharing.share_lab(actor=teacher_of(request), lab_id=lab_id, teacher_id=data.teacher, way=data.way)
    return Done(ok=True)
