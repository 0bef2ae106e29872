"""The teacher's labs at a glance: how far each is, what it waits for, and where its line leads."""

from __future__ import annotations

from typing import Literal

from django.http import HttpRequest
from ninja import Router

from server.entries.counting import reading_counts
from server.labs.lookups import labs_of
from server.labs.models import Lab
from server.labs.outputs import line
from server.people.auth import TeacherAuth, teacher_of
from server.room.schemas import LabListed

router = Router(auth=TeacherAuth())


@router.get("/labs/list", response=list[LabListed], operation_id="list_labs")
def list_labs(request: HttpRequest) -> list[LabListed]:
    """The teacher's labs, newest first."""
    labs = list(labs_of(teacher_of(request)))
    counts = reading_counts([lab.id for lab in labs])
    return [_listed(lab, counts.get(lab.id, 0)) for lab in labs]


def _listed(lab: Lab, readings: int) -> LabListed:
    leads: Literal["plan", "board", "compare"]
    there, groups = _counted(readings, "reading"), _counted(getattr(lab, "group_count", 0), "group")
    if lab.state == Lab.State.DRAFT:
        leads, waits = "plan", "Waits for you to open the bench"
    elif lab.state == Lab.State.OPEN:
        leads, waits = "board", f"Open, code {lab.join_code}, {there} so far"
    else:
        leads, waits = "compare", f"{there} by {groups}, ready to compare"
    return LabListed(**line(lab), reading_count=readings, leads=leads, waits=waits)


def _counted(n: int, what: str) -> str:
    return f"{n} {what}{'' if n == 1 else 's'}"
