"""Labs: make, revise, copy, open, close."""

from __future__ import annotations

import uuid

from django.http import HttpRequest
from ninja import Router

from server.labs import deleting, opening, services
from server.labs.deleting import KEPT
from server.labs.foreseen import foreseen
from server.labs.lookups import deleted_labs_of, lab_for_teacher
from server.labs.outputs import lab_out, preview, template_out, variables_out, whole
from server.labs.planning import edits, revising
from server.labs.schemas import (
    ArchiveIn,
    CopyIn,
    DeletedLab,
    EditedOut,
    EditIn,
    ForeseenOut,
    LabOut,
    PreviewOut,
    RenameIn,
    StartOut,
    TagsIn,
    TimesIn,
    TitleIn,
)
from server.labs.settings import LabSettings, NewLab
from server.labs.templates import TEMPLATES
from server.people.auth import TeacherAuth, teacher_of
from server.people.schemas import Done, ProblemOut

router = Router(auth=TeacherAuth())
REFUSED = {422: ProblemOut}
ABSENT = {404: ProblemOut}


@router.post("/labs", response={201: LabOut, **REFUSED}, operation_id="create_lab")
def create_lab(request: HttpRequest, data: NewLab) -> tuple[int, LabOut]:
    """Make a draft lab and share its cells out."""
    lab = services.create_lab(actor=teacher_of(request), plan=data)
    return 201, whole(request, lab.id)


@router.post("/labs/preview", response={200: PreviewOut, **ABSENT, **REFUSED}, operation_id="preview_lab")
def preview_lab(request: HttpRequest, data: NewLab, lab: uuid.UUID | None = None) -> PreviewOut:
    """How a plan would be shared out, for a new lab or in place of a draft's; nothing is kept."""
    return preview(teacher_of(request), lab, data)


@router.put(
    "/labs/{uuid:lab_id}", response={200: EditedOut, 409: ProblemOut, **ABSENT, **REFUSED}, operation_id="revise_lab"
)
def revise_lab(request: HttpRequest, lab_id: uuid.UUID, data: NewLab) -> EditedOut:
    """Change what a draft is about and plan its cells anew."""
    done = revising.revise_lab(actor=teacher_of(request), lab_id=lab_id, plan=data)
    return EditedOut(said=list(done.said), lab=whole(request, lab_id))


@router.put("/labs/{uuid:lab_id}/title", response={200: Done, **ABSENT, **REFUSED}, operation_id="rename_lab")
def rename_lab(request: HttpRequest, lab_id: uuid.UUID, data: RenameIn) -> Done:
    """Give a lab another title."""
    services.rename_lab(actor=teacher_of(request), lab_id=lab_id, title=data.title, question=data.question)
    return Done(ok=True)


@router.post("/labs/{uuid:lab_id}/copy", response={201: LabOut, **ABSENT, **REFUSED}, operation_id="copy_lab")
def copy_lab(request: HttpRequest, lab_id: uuid.UUID, data: CopyIn) -> tuple[int, LabOut]:
    """Make a new draft with the same plan."""
    copy = services.copy_lab(actor=teacher_of(request), lab_id=lab_id, title=data.title, on=data.date, anew=data.anew)
    return 201, whole(request, copy.id)


@router.put("/labs/{uuid:lab_id}/tags", response={200: Done, **ABSENT, **REFUSED}, operation_id="tag_lab")
def tag_lab(request: HttpRequest, lab_id: uuid.UUID, data: TagsIn) -> Done:
    """Give a lab its tags."""
    services.tag_lab(actor=teacher_of(request), lab_id=lab_id, tags=data.tags)
    return Done(ok=True)


@router.put("/labs/{uuid:lab_id}/archive", response={200: Done, 409: ProblemOut, **ABSENT}, operation_id="archive_lab")
def archive_lab(request: HttpRequest, lab_id: uuid.UUID, data: ArchiveIn) -> Done:
    """Put a lab away from the list, or take it back."""
    services.archive_lab(actor=teacher_of(request), lab_id=lab_id, away=data.away)
    return Done(ok=True)


@router.post(
    "/labs/{uuid:lab_id}/plan", response={200: EditedOut, 409: ProblemOut, **ABSENT, **REFUSED}, operation_id="edit_plan"
)
def edit_plan(request: HttpRequest, lab_id: uuid.UUID, data: EditIn) -> EditedOut:
    """Change the plan of a draft."""
    done = edits.edit_plan(actor=teacher_of(request), lab_id=lab_id, edit=data)
    judged = done.change.task, done.change.plan
    return EditedOut(said=list(done.change.said), lab=lab_out(done.lab, done.groups, done.hands, judged))


@router.put("/labs/{uuid:lab_id}/times", response={200: LabOut, **ABSENT, **REFUSED}, operation_id="set_times")
def set_times(request: HttpRequest, lab_id: uuid.UUID, data: TimesIn) -> LabOut:
    """Set the minutes of a lab; its cells stay."""
    edits.set_times(actor=teacher_of(request), lab_id=lab_id, minutes=data.minutes, steps=data.steps.model_dump())
    return whole(request, lab_id)


@router.get("/labs/start", response=StartOut, operation_id="start_of_a_lab")
def start_of_a_lab(request: HttpRequest) -> StartOut:
    """What a new lab begins with."""
    return StartOut(usual=LabSettings(), templates=[template_out(row) for row in TEMPLATES], variables=variables_out())


@router.get("/labs/deleted", response=list[DeletedLab], operation_id="deleted_labs")
def deleted_labs(request: HttpRequest) -> list[DeletedLab]:
    """Labs that were deleted and can still be taken back, with the day on which they go for good."""
    return [
        DeletedLab(id=lab.id, title=lab.title, date=lab.date, gone_on=(lab.deleted_at + KEPT).date())
        for lab in deleted_labs_of(teacher_of(request))
        if lab.deleted_at
    ]


@router.post("/labs/{uuid:lab_id}/delete", response={200: Done, **ABSENT, **REFUSED}, operation_id="delete_lab")
def delete_lab(request: HttpRequest, lab_id: uuid.UUID, data: TitleIn) -> Done:
    """Delete a lab whose title the teacher has typed; it can be taken back for 30 days."""
    deleting.delete_lab(actor=teacher_of(request), lab_id=lab_id, title=data.title)
    return Done(ok=True)


@router.post("/labs/{uuid:lab_id}/undelete", response={200: Done, **ABSENT}, operation_id="undelete_lab")
def undelete_lab(request: HttpRequest, lab_id: uuid.UUID) -> Done:
    """Take a deleted lab back."""
    deleting.undelete_lab(actor=teacher_of(request), lab_id=lab_id)
    return Done(ok=True)


@router.get("/labs/{uuid:lab_id}", response={200: LabOut, **ABSENT}, operation_id="get_lab")
def get_lab(request: HttpRequest, lab_id: uuid.UUID) -> LabOut:
    """A lab whole."""
    return whole(request, lab_id)


@router.get("/labs/{uuid:lab_id}/foreseen", response={200: ForeseenOut, **ABSENT}, operation_id="foreseen")
def get_foreseen(request: HttpRequest, lab_id: uuid.UUID) -> ForeseenOut:
    """What the class will be able to say at the end of this plan, before anything is measured."""
    teacher = teacher_of(request)
    return foreseen(lab_for_teacher(teacher, lab_id), teacher)


@router.post("/labs/{uuid:lab_id}/open", response={200: LabOut, 409: ProblemOut, **ABSENT}, operation_id="open_lab")
def open_lab(request: HttpRequest, lab_id: uuid.UUID) -> LabOut:
    """Let groups in, once the safety sheet is signed off."""
    opening.open_lab(actor=teacher_of(request), lab_id=lab_id)
    return whole(request, lab_id)


@router.post("/labs/{uuid:lab_id}/close", response={200: LabOut, 409: ProblemOut, **ABSENT}, operation_id="close_lab")
def close_lab(request: HttpRequest, lab_id: uuid.UUID) -> LabOut:
    """End recording."""
    opening.close_lab(actor=teacher_of(request), lab_id=lab_id)
    return whole(request, lab_id)
