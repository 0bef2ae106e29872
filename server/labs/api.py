"""Labs and materials."""

from __future__ import annotations

import uuid
from typing import Any

from django.db.models import Prefetch
from django.http import HttpRequest
from ninja import Router

from galvanic import catalogue
from galvanic.notes import Note, plan_notes
from server.labs import services
from server.labs.models import Lab, PlannedCell
from server.labs.policy import cautions, stage_of
from server.labs.schemas import (
    ElectrodeOut,
    ElectrolyteOut,
    GroupPlan,
    LabIn,
    LabLine,
    LabOut,
    MaterialsOut,
    NoteOut,
    PlannedCellOut,
    PreviewCell,
    PreviewOut,
)
from server.people.auth import TeacherAuth, teacher_of
from server.people.schemas import ProblemOut
from server.problems import not_found

router = Router(auth=TeacherAuth())
REFUSED = {422: ProblemOut}
ABSENT = {404: ProblemOut}


def line(lab: Lab) -> dict[str, Any]:
    """What a list shows of a lab with counts."""
    return {
        "id": lab.id,
        "title": lab.title,
        "date": lab.date,
        "state": lab.state,
        "stage": stage_of(lab),
        "join_code": lab.join_code if lab.state == Lab.State.OPEN else None,
        "simulated": lab.simulated,
        "group_count": getattr(lab, "group_count", 0),
        "reading_count": getattr(lab, "reading_count", 0),
    }


def notes_out(notes: list[Note]) -> list[NoteOut]:
    """Margin notes as they are sent."""
    return [NoteOut.model_validate({"code": n.code, "tone": n.tone, "title": n.title, "text": n.text}) for n in notes]


def cell_out(planned: PlannedCell) -> PlannedCellOut:
    """A planned cell as it is sent."""
    return PlannedCellOut(
        id=planned.id,
        short=planned.cell.short,
        negative=planned.negative,
        electrolyte=planned.electrolyte,
        positive=planned.positive,
        shared=planned.shared,
    )


def whole(request: HttpRequest, lab_id: uuid.UUID) -> LabOut:
    """A lab with groups and cells in three queries. Raises not_found."""
    labs = Lab.objects.visible_to(teacher_of(request)).with_counts().filter(id=lab_id)
    cells = Prefetch("groups__cells", queryset=PlannedCell.objects.order_by("position"))
    lab = labs.prefetch_related("groups", cells).first()
    if lab is None:
        raise not_found("lab")
    groups = list(lab.groups.all())
    hands = [[planned.cell for planned in group.cells.all()] for group in groups]
    return LabOut(
        **line(lab),
        minutes=lab.minutes,
        edition=lab.edition,
        electrodes=lab.electrodes,
        electrolytes=lab.electrolytes,
        groups=[
            GroupPlan(id=g.id, name=g.name, pin=g.pin, cells=[cell_out(planned) for planned in g.cells.all()])
            for g in groups
        ],
        notes=notes_out(plan_notes(hands, lab.electrodes, lab.electrolytes, lab.minutes)),
        cautions=cautions(lab.electrodes, lab.electrolytes),
    )


def _plan(data: LabIn) -> services.NewLab:
    return services.NewLab(data.title, data.date, data.minutes, data.electrodes, data.electrolytes, data.groups)


@router.get("/materials", response=MaterialsOut, operation_id="materials", auth=None)
def materials(request: HttpRequest) -> MaterialsOut:
    """The catalogue of electrodes and electrolytes."""
    return MaterialsOut(
        edition=catalogue.edition(),
        electrodes=[
            ElectrodeOut(
                key=e.key,
                symbol=e.symbol,
                name=e.name,
                supplied=e.supplied,
                table_v=e.table_v_or_none(),
                prepare=e.prepare,
                usual=e.usual,
                cautions=list(e.cautions),
            )
            for e in catalogue.electrodes().values()
        ],
        electrolytes=[
            ElectrolyteOut(
                key=e.key,
                name=e.name,
                form=e.form,
                ph_low=e.ph.low,
                ph_high=e.ph.high,
                usual=e.usual,
                cautions=list(e.cautions),
            )
            for e in catalogue.electrolytes().values()
        ],
    )


@router.get("/labs", response=list[LabLine], operation_id="list_labs")
def list_labs(request: HttpRequest) -> list[LabLine]:
    """The teacher's labs, newest first."""
    return [
        LabLine(**line(lab))
        for lab in Lab.objects.visible_to(teacher_of(request)).with_counts().order_by("-date", "-created_at")[:200]
    ]


@router.post("/labs", response={201: LabOut, **REFUSED}, operation_id="create_lab")
def create_lab(request: HttpRequest, data: LabIn) -> tuple[int, LabOut]:
    """Make a draft lab and share its cells out."""
    lab = services.create_lab(actor=teacher_of(request), plan=_plan(data))
    return 201, whole(request, lab.id)


@router.post("/labs/preview", response={200: PreviewOut, **REFUSED}, operation_id="preview_lab")
def preview_lab(request: HttpRequest, data: LabIn) -> PreviewOut:
    """How a plan would be shared out; nothing is kept."""
    plan = _plan(data)
    hands = services.deal(plan)
    return PreviewOut(
        hands=[
            [PreviewCell(short=cell.short, electrolyte=cell.electrolyte, shared=cell == hand[0]) for cell in hand]
            for hand in hands
        ],
        notes=notes_out(plan_notes(hands, plan.electrodes, plan.electrolytes, plan.minutes)),
    )


@router.get("/labs/{uuid:lab_id}", response={200: LabOut, **ABSENT}, operation_id="get_lab")
def get_lab(request: HttpRequest, lab_id: uuid.UUID) -> LabOut:
    """A lab whole."""
    return whole(request, lab_id)


@router.post("/labs/{uuid:lab_id}/open", response={200: LabOut, **ABSENT}, operation_id="open_lab")
def open_lab(request: HttpRequest, lab_id: uuid.UUID) -> LabOut:
    """Let groups in."""
    services.open_lab(actor=teacher_of(request), lab_id=lab_id)
    return whole(request, lab_id)


@router.post("/labs/{uuid:lab_id}/close", response={200: LabOut, 409: ProblemOut, **ABSENT}, operation_id="close_lab")
def close_lab(request: HttpRequest, lab_id: uuid.UUID) -> LabOut:
    """End recording."""
    services.close_lab(actor=teacher_of(request), lab_id=lab_id)
    return whole(request, lab_id)
