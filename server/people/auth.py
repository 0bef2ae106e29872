"""Who acts: a teacher by Django's session, a group by a signed cookie of its own, good for one lab."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from typing import Any, cast

from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse
from ninja.security import APIKeyCookie

from server.people.models import Group, Teacher

COOKIE = "pipette_group"
SALT = "pipette.group"
MAX_AGE_S = 12 * 60 * 60


@dataclass(frozen=True, slots=True)
class Member:
    """Somebody at a group's device; the group is all that is known, and whose lab it is."""

    group_id: uuid.UUID
    lab_id: uuid.UUID
    name: str
    teacher_id: int


class TeacherAuth(APIKeyCookie):
    """A signed-in teacher; CSRF is checked."""

    param_name = settings.SESSION_COOKIE_NAME

    def authenticate(self, request: HttpRequest, key: str | None) -> Teacher | None:
        return request.user if isinstance(request.user, Teacher) and request.user.is_active else None


class GroupAuth(APIKeyCookie):
    """A group's device; CSRF is checked. A new PIN ends sessions made with the old one."""

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
        kept = signing.loads(cookie, salt=SALT, max_age=MAX_AGE_S)
        found = Group.objects.filter(id=kept["group"], pin=kept["pin"])
        return Member(*found.values_list("id", "lab_id", "name", "lab__owner_id").get())
    except (signing.BadSignature, Group.DoesNotExist, KeyError, TypeError):
        return None


def remember_group(response: HttpResponse, group: Group) -> None:
    """Give this device the group's signed session."""
    response.set_cookie(
        COOKIE,
        signing.dumps({"group": str(group.id), "pin": group.pin}, salt=SALT),
        max_age=MAX_AGE_S,
        httponly=True,
        secure=settings.HTTPS,
        samesite="Lax",
    )


def forget_group(response: HttpResponse) -> None:
    """End the group's session on this device."""
    response.delete_cookie(COOKIE, samesite="Lax")


def teacher_of(request: HttpRequest) -> Teacher:
    """The teacher behind a request that passed TeacherAuth."""
    return cast(Teacher, cast(Any, request).auth)


def actor_of(request: HttpRequest) -> Member:
    """The member behind a request that passed GroupAuth."""
    return cast(Member, cast(Any, request).auth)
