"""Homework: set and looked at by teachers, opened by anybody who has its code."""

from __future__ import annotations

import uuid

from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import csrf_protect
from ninja import Router
from ninja.decorators import decorate_view

from server.homework import services
from server.homework.outputs import for_device, homework_page
from server.homework.schemas import HomeworkCode, HomeworkForDevice, HomeworkIn, HomeworkPage, TriedIn
from server.labs.lookups import lab_for_teacher
from server.labs.outputs import way_of
from server.people.auth import TeacherAuth, teacher_of
from server.people.device import know_device
from server.people.schemas import Done, ProblemOut

router = Router()
REFUSED = {403: ProblemOut, 404: ProblemOut, 409: ProblemOut, 422: ProblemOut}
AT_DOOR = {404: ProblemOut, 409: ProblemOut, 422: ProblemOut, 429: ProblemOut}
DONE = Done(ok=True)


@router.get(
    "/labs/{uuid:lab_id}/homework", response={200: HomeworkPage, **REFUSED}, auth=TeacherAuth(), operation_id="homework"
)
def homework(request: HttpRequest, lab_id: uuid.UUID) -> HomeworkPage:
    """A lab's homework and which faults its class cannot find yet."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    return homework_page(request, lab, way_of(lab) != "look")


@router.post(
    "/labs/{uuid:lab_id}/homework", response={200: Done, **REFUSED}, auth=TeacherAuth(), operation_id="set_homework"
)
def set_homework(request: HttpRequest, lab_id: uuid.UUID, data: HomeworkIn) -> Done:
    """Set homework for a lab; what was set before ends."""
    services.set_homework(actor=teacher_of(request), lab_id=lab_id, data=data)
    return DONE


@router.post(
    "/homework/{uuid:homework_id}/end", response={200: Done, **REFUSED}, auth=TeacherAuth(), operation_id="end_homework"
)
def end_homework(request: HttpRequest, homework_id: uuid.UUID) -> Done:
    """Let its code open nothing more."""
    services.end_homework(actor=teacher_of(request), homework_id=homework_id)
    return DONE


@router.post("/practise/homework", response={200: HomeworkForDevice, **AT_DOOR}, operation_id="open_homework", auth=None)
@decorate_view(csrf_protect)
def open_homework(request: HttpRequest, response: HttpResponse, data: HomeworkCode) -> HomeworkForDevice:
    """What a device practises, by the homework's code."""
    row = services.open_homework(request=request, code=data.code)
    know_device(request, response)
    return for_device(row)


@router.post("/practise/tried", response={200: Done, **AT_DOOR}, operation_id="keep_try", auth=None)
@decorate_view(csrf_protect)
def tried(request: HttpRequest, data: TriedIn) -> Done:
    """Keep what was tried at one bench; the same id again changes nothing."""
    services.keep_try(request=request, data=data)
    return DONE
