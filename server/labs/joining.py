"""Letting a group's device in."""

from __future__ import annotations

from datetime import timedelta

from django.db.models import Q
from django.http import HttpRequest
from django.utils import timezone

from galvanic.words import mark
from server.base.problems import Refusal
from server.labs.models import Lab
from server.people import limits
from server.people.address import client_address
from server.people.codes import plain_code
from server.people.device import device_of
from server.people.models import Group, GroupSession, WrongTry

LATE = timedelta(days=14)  # for which a device may come back to a closed lab with what it has not sent yet
WRONG_CODE = Refusal(
    404, "wrong_code", mark("No open lab has that code and PIN. Check both with your teacher."), field="code"
)


def join(*, request: HttpRequest, code: str, pin: str) -> GroupSession:
    """Let a device in as a group, by its lab's code and its PIN: of an open lab, or of a closed one that shows its groups
    something or has closed lately, so that what a device still has can be sent.

    Raises Problem: wrong_code, the same for a wrong code and a wrong PIN, or too_many_tries with the seconds to wait.
    """
    wanted = plain_code(code)[:20]
    what = limits.Try(WrongTry.Door.JOIN, wanted, client_address(request), device_of(request))
    limits.check(what)
    lab = Lab.objects.filter(deleted_at__isnull=True, join_code=wanted).filter(_reachable()).first()
    group = None if lab is None else Group.objects.filter(lab=lab, pin=pin.strip()).first()
    if group is None:
        limits.failed(what)
        raise WRONG_CODE()
    limits.succeeded(what)
    return GroupSession.objects.create(group=group)


def _reachable() -> Q:
    late = Q(closed_at__gt=timezone.now() - LATE)
    return Q(state=Lab.State.OPEN) | Q(state=Lab.State.CLOSED) & (Q(released__len__gt=0) | late)
