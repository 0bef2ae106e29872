"""Questions to a class: asked and summed up by teachers, answered by anybody who has the code."""

from __future__ import annotations

import uuid

from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import csrf_protect
from ninja import Router
from ninja.decorators import decorate_view

from server.asking import services
from server.asking.outputs import ask_page, for_device
from server.asking.schemas import AskPage, ClassAnswerIn, ClassQuestionIn, QuestionCode, QuestionForDevice
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
    "/labs/{uuid:lab_id}/asked", response={200: AskPage, **REFUSED}, auth=TeacherAuth(), operation_id="class_questions"
)
def class_questions(request: HttpRequest, lab_id: uuid.UUID) -> AskPage:
    """A lab's questions to its class, with sums and no names."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    return ask_page(request, lab, way_of(lab) != "look")


@router.post("/labs/{uuid:lab_id}/asked", response={200: Done, **REFUSED}, auth=TeacherAuth(), operation_id="ask_class")
def ask_class(request: HttpRequest, lab_id: uuid.UUID, data: ClassQuestionIn) -> Done:
    """Ask a class; what was asked before ends."""
    services.ask_class(actor=teacher_of(request), lab_id=lab_id, data=data)
    return DONE


@router.post(
    "/asked/{uuid:question_id}/end", response={200: Done, **REFUSED}, auth=TeacherAuth(), operation_id="end_question"
)
def end_question(request: HttpRequest, question_id: uuid.UUID) -> Done:
    """Take no more answers."""
    services.end_question(actor=teacher_of(request), question_id=question_id)
    return DONE


@router.post("/answer/question", response={200: QuestionForDevice, **AT_DOOR}, operation_id="open_question", auth=None)
@decorate_view(csrf_protect)
def open_question(request: HttpRequest, response: HttpResponse, data: QuestionCode) -> QuestionForDevice:
    """What a device is asked, by the question's code."""
    row = services.open_question(request=request, code=data.code)
    know_device(request, response)
    return for_device(row)


@router.post("/answer", response={200: Done, **AT_DOOR}, operation_id="keep_answer", auth=None)
@decorate_view(csrf_protect)
def answer(request: HttpRequest, data: ClassAnswerIn) -> Done:
    """Keep an answer; the same id again changes nothing."""
    services.keep_answer(request=request, data=data)
    return DONE
