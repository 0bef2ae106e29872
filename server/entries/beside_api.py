"""What groups keep beside their readings, and the pictures themselves."""

from __future__ import annotations

import uuid

from django.http import FileResponse, HttpRequest
from ninja import File, Form, Router
from ninja.files import UploadedFile

from galvanic.bench.logger import MOST_BYTES
from server.base.incoming import content_of
from server.entries import beside, photos
from server.entries.beside_schemas import (
    ActualOut,
    ObservationOut,
    PhotoOut,
    PreviewTrace,
    QuestionOut,
    TraceOut,
    UnderLoadOut,
)
from server.entries.entry import ActualIn, CellEntry, ObservationIn, QuestionIn, UnderLoadIn
from server.entries.outputs import actual_out, photo_out, preview_out, question_out, trace_out, under_load_out
from server.people.auth import GroupAuth, TeacherAuth, actor_of
from server.people.schemas import Done, ProblemOut

router = Router()
BOTH = [TeacherAuth(), GroupAuth()]
REFUSED = {404: ProblemOut, 409: ProblemOut, 422: ProblemOut}


@router.post(
    "/bench/under-load", response={200: UnderLoadOut, **REFUSED}, auth=GroupAuth(), operation_id="record_under_load"
)
def post_under_load(request: HttpRequest, data: UnderLoadIn) -> UnderLoadOut:
    """Keep a measurement under load; the same id again changes nothing."""
    kept = beside.record_under_load(actor=actor_of(request), entry=data)
    return under_load_out(kept, None, 0.0)


@router.post(
    "/bench/observations", response={200: ObservationOut, **REFUSED}, auth=GroupAuth(), operation_id="record_observation"
)
def post_observation(request: HttpRequest, data: ObservationIn) -> ObservationOut:
    """Keep what a group saw; the same id again changes nothing."""
    kept = beside.record_observation(actor=actor_of(request), entry=data)
    return ObservationOut(id=kept.id, text=kept.text, received_at=kept.received_at)


@router.post("/bench/questions", response={200: QuestionOut, **REFUSED}, auth=GroupAuth(), operation_id="record_question")
def post_question(request: HttpRequest, data: QuestionIn) -> QuestionOut:
    """Keep what a group asks about a cell; the same id again changes nothing."""
    return question_out(beside.record_question(actor=actor_of(request), entry=data))


@router.post("/bench/actuals", response={200: ActualOut, **REFUSED}, auth=GroupAuth(), operation_id="record_actual")
def post_actual(request: HttpRequest, data: ActualIn) -> ActualOut:
    """Keep what a cell was really set to; the same id again changes nothing."""
    return actual_out(beside.record_actual(actor=actor_of(request), entry=data))


@router.post("/bench/photos", response={200: PhotoOut, **REFUSED}, auth=GroupAuth(), operation_id="record_photo")
def post_photo(request: HttpRequest, data: Form[CellEntry], photo: File[UploadedFile]) -> PhotoOut:
    """Keep a photograph; the same id again changes nothing."""
    content = content_of(photo, photos.MOST_BYTES)
    kept = beside.record_photo(actor=actor_of(request), entry=data, content=content)
    return photo_out(kept)


@router.delete("/photos/{uuid:photo_id}", response={200: Done, **REFUSED}, auth=BOTH, operation_id="remove_photo")
def remove_photo(request: HttpRequest, photo_id: uuid.UUID) -> Done:
    """Remove a photograph at once: its file goes, the row says when and by whom."""
    beside.remove_photo(actor=actor_of(request), photo_id=photo_id)
    return Done(ok=True)


@router.post(
    "/bench/traces/preview", response={200: PreviewTrace, **REFUSED}, auth=GroupAuth(), operation_id="preview_trace"
)
def preview_trace(request: HttpRequest, file: File[UploadedFile]) -> PreviewTrace:
    """What would be understood of a logger's file; nothing is kept."""
    return preview_out(beside.understood(content_of(file, MOST_BYTES)))


@router.post("/bench/traces", response={200: TraceOut, **REFUSED}, auth=GroupAuth(), operation_id="record_trace")
def post_trace(request: HttpRequest, data: Form[CellEntry], file: File[UploadedFile]) -> TraceOut:
    """Keep the trace in a logger's file; the same id again changes nothing."""
    content = content_of(file, MOST_BYTES)
    kept = beside.record_trace(actor=actor_of(request), entry=data, name=file.name or "trace", content=content)
    return trace_out(kept)


@router.get("/photos/{uuid:photo_id}", auth=BOTH, operation_id="photo", include_in_schema=False)
def photo(request: HttpRequest, photo_id: uuid.UUID) -> FileResponse:
    """The picture, for the group that took it and its teacher."""
    picture = beside.picture_of(actor_of(request), photo_id)
    answer = FileResponse(picture.open("rb"), content_type="image/jpeg")
    answer["Cache-Control"] = "private, no-cache"
    return answer
