"""Making liquids, and joining two solutions: first what comes out, then keeping it."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from server.materials import making
from server.materials.making_schemas import KeptOut, MadeIn, MadePreview, TwoIn, TwoPreview
from server.people.auth import TeacherAuth, teacher_of
from server.people.schemas import ProblemOut

router = Router(auth=TeacherAuth())
REFUSED = {404: ProblemOut, 409: ProblemOut, 422: ProblemOut}


@router.post("/materials/made/preview", response={200: MadePreview, **REFUSED}, operation_id="preview_made")
def preview_made(request: HttpRequest, data: MadeIn) -> MadePreview:
    """What a recipe comes to; nothing is kept."""
    return making.preview_made(data)


@router.post("/materials/made", response={201: KeptOut, **REFUSED}, operation_id="add_made")
def add_made(request: HttpRequest, data: MadeIn) -> tuple[int, KeptOut]:
    """Keep a liquid made by recipe."""
    return 201, KeptOut(key=making.keep_made(teacher_of(request), data).key)


@router.post("/materials/two/preview", response={200: TwoPreview, **REFUSED}, operation_id="preview_two")
def preview_two(request: HttpRequest, data: TwoIn) -> TwoPreview:
    """What two solutions would give; nothing is kept."""
    return making.preview_two(data)


@router.post("/materials/two", response={201: KeptOut, **REFUSED}, operation_id="add_two")
def add_two(request: HttpRequest, data: TwoIn) -> tuple[int, KeptOut]:
    """Keep two solutions and their bridge."""
    return 201, KeptOut(key=making.keep_two(teacher_of(request), data).key)
