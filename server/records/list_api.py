"""The teacher's labs at a glance: how far each is, what it found, what it waits for, and where its line leads."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from typing import Literal

from django.http import HttpRequest
from ninja import Router

from galvanic.words import say, say_n
from server.entries.counting import reading_counts
from server.findings.services import compare_lab
from server.labs.lookups import lab_for_teacher, labs_of
from server.labs.models import Lab
from server.labs.outputs import line
from server.people.auth import TeacherAuth, teacher_of
from server.people.schemas import ProblemOut
from server.records.list_schemas import GlanceOut, LabListed, SmallRung
from server.records.waiting import notebooks_waiting, questions_waiting

router = Router(auth=TeacherAuth())
Counts = Mapping[uuid.UUID, int]


@router.get("/labs/list", response=list[LabListed], operation_id="list_labs")
def list_labs(request: HttpRequest) -> list[LabListed]:
    """The teacher's labs, newest first."""
    labs = list(labs_of(teacher_of(request)))
    ids = [lab.id for lab in labs]
    counts, notebooks, questions = reading_counts(ids), notebooks_waiting(ids), questions_waiting(ids)
    return [_listed(lab, counts, notebooks, questions) for lab in labs]


@router.get("/labs/{uuid:lab_id}/glance", response={200: GlanceOut, 404: ProblemOut}, operation_id="glance")
def glance(request: HttpRequest, lab_id: uuid.UUID) -> GlanceOut:
    """What a lab found, to be drawn small."""
    results = compare_lab(lab_for_teacher(teacher_of(request), lab_id))
    first = next((result for result in results if len(result.rungs) > 1), None)
    if first is None:
        return GlanceOut(electrolyte="", rungs=[])
    rungs = [SmallRung(electrode=r.electrode, table_v=r.table_v, class_v=r.class_v) for r in first.rungs]
    return GlanceOut(electrolyte=first.electrolyte, rungs=rungs)


def _listed(lab: Lab, counts: Counts, notebooks: Counts, questions: Counts) -> LabListed:
    leads: Literal["plan", "board", "compare"]
    readings = counts.get(lab.id, 0)
    there, groups = _readings(readings), _groups(getattr(lab, "group_count", 0))
    if lab.state == Lab.State.DRAFT:
        leads, waits = "plan", say("Waits for you to open the bench")
    elif lab.state == Lab.State.OPEN:
        leads, waits = "board", say("Open, code {join_code}, {there} so far", join_code=lab.join_code, there=there)
    else:
        leads, waits = "compare", say("{there} by {groups}, ready to compare", there=there, groups=groups)
    return LabListed(
        **line(lab), reading_count=readings, leads=leads, waits=waits, question=lab.question,
        electrodes=lab.electrodes, electrolytes=lab.electrolytes, tags=lab.tags, away=lab.archived_at is not None,
        notebooks=notebooks.get(lab.id, 0), questions=questions.get(lab.id, 0),
    )  # fmt: skip


def _readings(n: int) -> str:
    return say_n("{n} reading", "{n} readings", n)


def _groups(n: int) -> str:
    return say_n("{n} group", "{n} groups", n)
