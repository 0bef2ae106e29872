"""Signing in and joining."""

from __future__ import annotations

from datetime import timedelta

from django.contrib.auth import authenticate, login
from django.db.models import Q
from django.http import HttpRequest
from django.utils import timezone

from server.people.address import client_address
from server.people.codes import plain_code
from server.people.models import FailedJoin, Group, Teacher
from server.problems import Problem

WINDOW = timedelta(minutes=10)
MAX_FAILURES_BY_ADDRESS = 30  # a whole class may share one address
MAX_FAILURES_BY_CODE = 40

WRONG_PASSWORD = Problem(401, "wrong_password", "That name and password do not go together.", field="password")
WRONG_CODE = Problem(404, "wrong_code", "No open lab has that code and PIN. Check both with your teacher.", field="code")
TOO_MANY = Problem(429, "too_many_tries", "Too many wrong tries. Wait ten minutes, or ask your teacher for the PIN.")


def sign_in(*, request: HttpRequest, username: str, password: str) -> Teacher:
    """Open a teacher's session. Raises WRONG_PASSWORD; too many of them are refused for a while by django-axes."""
    user = authenticate(request, username=username, password=password)
    if not isinstance(user, Teacher):
        raise WRONG_PASSWORD
    login(request, user)
    return user


def join(*, request: HttpRequest, code: str, pin: str) -> Group:
    """Find a group by its lab's code and its PIN: of an open lab, or of a closed one that shows its groups something.

    Raises WRONG_CODE, the same for a wrong code and a wrong PIN, and TOO_MANY after many wrong tries from one address or
    against one code.
    """
    address, wanted = client_address(request), plain_code(code)[:20]
    recent = FailedJoin.objects.filter(at__gt=timezone.now() - WINDOW)
    if (
        recent.filter(address=address).count() >= MAX_FAILURES_BY_ADDRESS
        # Many wrong tries at one lab stop those who made them, not the groups that have not: nobody can lock a class out.
        or (
            recent.filter(code=wanted).count() >= MAX_FAILURES_BY_CODE
            and recent.filter(code=wanted, address=address).exists()
        )
    ):
        raise TOO_MANY
    reachable = Q(lab__state="open") | Q(lab__state="closed", lab__released__len__gt=0)
    group = Group.objects.filter(reachable, lab__join_code=wanted, pin=pin.strip()).first()
    if group is None:
        FailedJoin.objects.filter(at__lt=timezone.now() - timedelta(hours=1)).delete()
        FailedJoin.objects.create(address=address, code=wanted)
        raise WRONG_CODE
    return group


def teacher_named(username: str | None) -> Teacher:
    """The teacher of that name; without a name, the only teacher there is. Raises Problem, naming those there are."""
    active = Teacher.objects.filter(is_active=True)
    found = list(active.filter(Q(username=username)) if username else active[:2])
    if len(found) == 1:
        return found[0]
    names = ", ".join(active.order_by("username").values_list("username", flat=True)[:10]) or "none yet"
    raise Problem(404, "no_teacher", f"Say which teacher the lab belongs to. Teachers: {names}.", field="teacher")
