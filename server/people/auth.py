"""Who acts: a teacher by Django's session, a group by a signed cookie of its own, good for one lab."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from typing import Any, TypeGuard, cast

from django.conf import settings
from django.contrib.auth import get_user
from django.contrib.sessions.backends.db import SessionStore
from django.core import signing
from django.http import HttpRequest, HttpResponse
from ninja.security import APIKeyCookie

from server.people.models import SESSION, GroupSession, Teacher

COOKIE = "pipette_group"
CLASS = "pipette_class"  # by which a proxy sends all of a class to one process; it opens nothing
SALT = "pipette.group"
MAX_AGE_S = int(SESSION.total_seconds())


@dataclass(frozen=True, slots=True)
class Member:
    """Somebody at a group's device; the group is all that is known, and whose lab it is."""

    group_id: uuid.UUID
    lab_id: uuid.UUID
    name: str
    teacher_id: int
    session_id: uuid.UUID | None = None


class TeacherAuth(APIKeyCookie):
    """A signed-in teacher; CSRF is checked."""

    param_name = settings.SESSION_COOKIE_NAME

    def authenticate(self, request: HttpRequest, key: str | None) -> Teacher | None:
        return request.user if is_here(request.user) else None


def is_here(user: object) -> TypeGuard[Teacher]:
    """Whether somebody is a teacher who may act: signed in, active, not deleted."""
    return isinstance(user, Teacher) and user.is_active and user.deleted_at is None


def teacher_by_cookie(request: HttpRequest) -> Teacher | None:
    """The teacher signed in by the session as it is now, for a request that no middleware has seen."""
    now = HttpRequest()
    now.session = SessionStore(request.COOKIES.get(settings.SESSION_COOKIE_NAME))
    user = get_user(now)
    return user if is_here(user) else None


class GroupAuth(APIKeyCookie):
    """A group's device; CSRF is checked. Its session ends when it leaves and when the group gets a new PIN."""

    param_name = COOKIE

    def authenticate(self, request: HttpRequest, key: str | None) -> Member | None:
        return member_behind(request)


def member_behind(request: HttpRequest) -> Member | None:
    """The member whose device a request comes from, or None; asked for once."""
    kept: dict[str, Member | None] = request.__dict__
    if "member" not in kept:
        kept["member"] = member_of(request.COOKIES.get(COOKIE))
    return kept["member"]


def member_of(cookie: str | None) -> Member | None:
    """The member a cookie stands for, or None."""
    if not cookie:
        return None
    try:
        sessions = GroupSession.objects.alive().filter(id=uuid.UUID(signing.loads(cookie, salt=SALT, max_age=MAX_AGE_S)))
        sessions = sessions.filter(group__lab__deleted_at__isnull=True)
        return Member(*sessions.values_list("group_id", "group__lab_id", "group__name", "group__lab__owner_id", "id").get())
    except (signing.BadSignature, GroupSession.DoesNotExist, AttributeError, TypeError, ValueError):
        return None


def remember_group(response: HttpResponse, session: GroupSession) -> None:
    """Give this device the group's session: only its signed number, neither group nor PIN; and the start of its lab's."""
    signed = signing.dumps(str(session.id), salt=SALT)
    for name, value in ((COOKIE, signed), (CLASS, str(session.group.lab_id)[:8])):
        response.set_cookie(name, value, max_age=MAX_AGE_S, httponly=True, secure=settings.HTTPS, samesite="Lax")


def end_session(request: HttpRequest) -> None:
    """End the group's session on the server: a copy of its cookie is worth nothing from now on."""
    member = member_behind(request)
    if member is not None and member.session_id is not None:
        GroupSession.objects.filter(id=member.session_id).end()


def forget_group(response: HttpResponse) -> None:
    """Take the group's cookies off this device."""
    for name in (COOKIE, CLASS):
        response.delete_cookie(name, samesite="Lax")


def teacher_of(request: HttpRequest) -> Teacher:
    """The teacher behind a request that passed TeacherAuth."""
    return cast(Teacher, cast(Any, request).auth)


def actor_of(request: HttpRequest) -> Member:
    """The member behind a request that passed GroupAuth."""
    return cast(Member, cast(Any, request).auth)
