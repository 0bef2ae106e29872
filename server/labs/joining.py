"""Letting a group's device in."""

from __future__ import annotations

import uuid
from datetime import timedelta

from django.db import transaction
from django.db.models import Q
from django.http import HttpRequest
from django.utils import timezone

from galvanic.words import mark
from server.base.problems import Refusal
from server.labs.changes import announce
from server.labs.models import Lab
from server.labs.services import fresh_code
from server.people import limits
from server.people.address import client_address
from server.people.codes import plain_code
from server.people.deeds import keep_deed
from server.people.device import device_of
from server.people.models import Group, GroupSession, Teacher, WrongTry
from server.people.sharing import to_change

LATE = timedelta(days=14)  # for which a device may come back to a closed lab with what it has not sent yet
NOT_OPEN = Refusal(409, "not_open", mark("A lab has a code while it is open. Nothing was changed."))
WRONG_CODE = Refusal(
    404, "wrong_code", mark("No open lab has that code and PIN. Check both with your teacher."), field="code"
)


def join(*, request: HttpRequest, code: str, pin: str) -> GroupSession:
    """Let a device in as a group, by its lab's code and its PIN: of an open lab, or of a closed one that shows its groups
    something or has closed lately, so that what a device still has can be sent.

    Raises Problem: wrong_code, the same for a wrong code and a wrong PIN, or too_many_tries with the seconds to wait.
    """
    wanted = plain_code(code)[:20]
    device = device_of(request)
    lab = Lab.objects.filter(deleted_at__isnull=True, join_code=wanted).filter(_reachable()).first()
    was_in = lab is not None and str(lab.id) in device.labs
    what = limits.Try(WrongTry.Door.JOIN, wanted, client_address(request), device, own=was_in)
    limits.check(what)
    group = None if lab is None else Group.objects.filter(lab=lab, pin=pin.strip()).first()
    if group is None:
        limits.failed(what)
        if lab is not None and limits.wrong_pins(wanted) % limits.CODE_TOLD == 0:
            announce(lab.id)  # the board says that somebody may be guessing
        raise WRONG_CODE()
    limits.succeeded(what)
    return GroupSession.objects.create(group=group)


@transaction.atomic
def new_code(*, actor: Teacher, lab_id: uuid.UUID) -> Lab:
    """Give an open lab another join code: who guesses at the old one is out of it; devices that are in stay in.

    Raises Problem: not_found, look_only, or not_open.
    """
    lab: Lab = to_change(Lab.objects.all(), actor, lab_id, "lab")
    if lab.state != Lab.State.OPEN:
        raise NOT_OPEN()
    announce(lab.id)
    lab.join_code = fresh_code()
    lab.save(update_fields=["join_code"])
    keep_deed(actor, "new_code", lab)
    return lab


def _reachable() -> Q:
    late = Q(closed_at__gt=timezone.now() - LATE)
    return Q(state=Lab.State.OPEN) | Q(state=Lab.State.CLOSED) & (Q(released__len__gt=0) | late)
