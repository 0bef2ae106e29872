"""Setting homework, opening it by its code, and keeping what was tried."""

from __future__ import annotations

import uuid
from datetime import timedelta

from django.db import IntegrityError, transaction
from django.http import HttpRequest
from django.utils import timezone

from galvanic.simulated.class_drill import Try
from galvanic.simulated.drill import GROUPS
from galvanic.words import mark, say
from server.base.problems import Problem, Refusal
from server.homework.models import Homework, Tried
from server.homework.schemas import HomeworkIn, TriedIn
from server.labs.models import Lab
from server.people.address import client_address
from server.people.by_code import free_code, row_by_code
from server.people.deeds import keep_deed
from server.people.limits import room_for_answer
from server.people.models import Teacher
from server.people.sharing import to_change

MAX_HOMEWORK, MAX_TRIES, MAX_OF_DEVICE = 12, 6000, 200
KEPT = timedelta(days=90)  # after it was set
NO_CODE = mark("No homework has that code, or it is over. Check it with your teacher.")
WRONG_CODE = Refusal(404, "wrong_code", NO_CODE, field="code")
ENOUGH = Refusal(409, "enough", mark("That is more than this homework can hold. Practise on: it stays on this device."))
STRANGE = Refusal(422, "unknown_fault", mark("The drill does not know that bench, so it was not counted."))


@transaction.atomic
def set_homework(*, actor: Teacher, lab_id: uuid.UUID, data: HomeworkIn) -> Homework:
    """Set homework for a lab; what was set before ends. Raises Problem: not_found, look_only, unknown_symptom, enough."""
    lab = to_change(Lab.objects.select_for_update(of=("self",)), actor, lab_id, "lab")
    chosen = list(dict.fromkeys(data.symptoms))
    if set(chosen) - set(GROUPS):
        raise Problem(422, "unknown_symptom", say("That cannot be practised. Choose from the list."), field="symptoms")
    if Homework.objects.filter(lab=lab).count() >= MAX_HOMEWORK:
        raise Problem(
            409,
            "enough",
            say(
                "Homework was set {max_homework} times for this lab, which is the most it can hold.",
                max_homework=MAX_HOMEWORK,
            ),
        )
    Homework.objects.filter(lab=lab, ended_at=None).update(ended_at=timezone.now())
    keep_deed(actor, "homework", lab)
    return Homework.objects.create(
        lab=lab, teacher=actor, code=free_code(Homework.objects.all()), symptoms=chosen, benches=data.benches
    )


@transaction.atomic
def end_homework(*, actor: Teacher, homework_id: uuid.UUID) -> None:
    """Let the code open nothing more; devices that have it may still send. Raises Problem: not_found, look_only."""
    row = to_change(Homework.objects.select_related("lab"), actor, homework_id, "homework")
    if row.ended_at is None:
        Homework.objects.filter(id=row.id).update(ended_at=timezone.now())
        keep_deed(actor, "ended_homework", row.lab)


def open_homework(*, request: HttpRequest, code: str) -> Homework:
    """The homework that a device opens by its code. Raises Problem: wrong_code, or too_many_tries with seconds to wait."""
    row: Homework = row_by_code(Homework.objects.all(), request, code, WRONG_CODE)
    if row.ended_at is not None:
        raise WRONG_CODE()
    return row


def keep_try(*, request: HttpRequest, data: TriedIn) -> None:
    """Keep what was tried at one bench, also after the homework has ended; the same id again changes nothing.

    Raises Problem: wrong_code, too_many_tries, unknown_fault, enough, or id_taken where another homework has the id.
    """
    row: Homework = row_by_code(Homework.objects.all(), request, data.code, WRONG_CODE)
    one = Try(str(data.device), data.symptom, data.fault, data.named, tuple(dict.fromkeys(data.hands)))
    if data.symptom not in row.symptoms or not one.known:
        raise STRANGE()
    earlier = Tried.objects.filter(id=data.id).values_list("homework", flat=True).first()
    if earlier == row.id:
        return
    tried = Tried.objects.filter(homework=row)
    if tried.count() >= MAX_TRIES or tried.filter(device=data.device).count() >= MAX_OF_DEVICE:
        raise ENOUGH()
    room_for_answer(row.code, client_address(request), str(data.device))
    try:
        with transaction.atomic():
            Tried.objects.create(
                id=data.id, homework=row, device=data.device, symptom=one.symptom, fault=one.fault, named=one.named,
                hands=list(one.hands),
            )  # fmt: skip
    except IntegrityError:
        if not Tried.objects.filter(id=data.id, homework=row).exists():
            raise Problem(409, "id_taken", say("This entry’s number is taken, so it was not counted.")) from None
