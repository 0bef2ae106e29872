"""Asking a class, opening a question by its code, and keeping answers."""

from __future__ import annotations

import uuid
from datetime import timedelta

from django.db import IntegrityError, transaction
from django.http import HttpRequest
from django.utils import timezone

from galvanic.findings.class_questions import belief_behind
from galvanic.words import mark, say, speaking
from server.asking.models import ClassAnswer, ClassQuestion
from server.asking.schemas import ClassAnswerIn, ClassQuestionIn
from server.base.problems import Problem, Refusal
from server.labs.models import Lab
from server.people.address import client_address
from server.people.by_code import free_code, row_by_code
from server.people.deeds import keep_deed
from server.people.limits import room_for_answer
from server.people.models import Teacher
from server.people.sharing import to_change

MAX_QUESTIONS, MAX_ANSWERS, MAX_OF_DEVICE = 40, 2000, 20
KEPT = timedelta(days=90)  # after it was asked
WRONG_CODE = Refusal(
    404, "wrong_code", mark("No question has that code, or it is over. Check it with your teacher."), field="code"
)
ENOUGH = Refusal(
    409, "enough", mark("That is more than this question can hold. Your answer was not sent; tell your teacher.")
)
OVER = Refusal(409, "over", mark("The question is over, so your answer was not sent. It stays in the box."))


@transaction.atomic
def ask_class(*, actor: Teacher, lab_id: uuid.UUID, data: ClassQuestionIn) -> ClassQuestion:
    """Ask a class; what was asked before ends. Raises Problem: not_found, look_only, options, or enough."""
    lab = to_change(Lab.objects.select_for_update(of=("self",)), actor, lab_id, "lab")
    if len(data.options) == 1 or len(set(data.options)) != len(data.options):
        raise Problem(
            422, "options", say("Give two different answers or more to choose from, or none for words."), field="options"
        )
    if data.fits is not None and data.fits >= len(data.options):
        raise Problem(422, "options", say("The answer that fits is not one of the answers."), field="fits")
    if ClassQuestion.objects.filter(lab=lab).count() >= MAX_QUESTIONS:
        message = say("This lab has {max_questions} questions, which is the most it can hold.", max_questions=MAX_QUESTIONS)
        raise Problem(409, "enough", message)
    ClassQuestion.objects.filter(lab=lab, ended_at=None).update(ended_at=timezone.now())
    with speaking(lab.language):
        options = [{"text": text, "belief": belief_behind(text)} for text in data.options]
    keep_deed(actor, "asked_class", lab)
    return ClassQuestion.objects.create(
        lab=lab, teacher=actor, code=free_code(ClassQuestion.objects.all()), text=data.text, options=options, fits=data.fits
    )


@transaction.atomic
def end_question(*, actor: Teacher, question_id: uuid.UUID) -> None:
    """Take no more answers. Raises Problem: not_found, look_only."""
    row = to_change(ClassQuestion.objects.select_related("lab"), actor, question_id, "question")
    if row.ended_at is None:
        ClassQuestion.objects.filter(id=row.id).update(ended_at=timezone.now())
        keep_deed(actor, "ended_question", row.lab)


def open_question(*, request: HttpRequest, code: str) -> ClassQuestion:
    """The question that a device opens by its code. Raises Problem: wrong_code, or too_many_tries with seconds to wait."""
    row: ClassQuestion = row_by_code(ClassQuestion.objects.all(), request, code, WRONG_CODE)
    if row.ended_at is not None:
        raise WRONG_CODE()
    return row


def keep_answer(*, request: HttpRequest, data: ClassAnswerIn) -> None:
    """Keep a device's answer; the same id again changes nothing.

    Raises Problem: wrong_code, too_many_tries, over, no_answer, enough, or id_taken where another question has the id.
    """
    row: ClassQuestion = row_by_code(ClassQuestion.objects.all(), request, data.code, WRONG_CODE)
    earlier = ClassAnswer.objects.filter(id=data.id).values_list("question", flat=True).first()
    if earlier == row.id:
        return
    if row.ended_at is not None:
        raise OVER()
    text = " ".join(data.text.split())
    chosen = data.choice is not None and data.choice < len(row.options)
    if not (chosen if row.options else text):
        raise Problem(
            422, "no_answer", say("Choose one of the answers.") if row.options else say("Write a few words first.")
        )
    answers = ClassAnswer.objects.filter(question=row)
    if answers.count() >= MAX_ANSWERS or answers.filter(device=data.device).count() >= MAX_OF_DEVICE:
        raise ENOUGH()
    room_for_answer(row.code, client_address(request), str(data.device))
    try:
        with transaction.atomic():
            ClassAnswer.objects.create(
                id=data.id, question=row, device=data.device, choice=data.choice if row.options else None,
                text="" if row.options else text,
            )  # fmt: skip
    except IntegrityError:
        if not ClassAnswer.objects.filter(id=data.id, question=row).exists():
            raise Problem(409, "id_taken", say("This entry’s number is taken, so it was not counted.")) from None
