"""The device behind a request, by a signed cookie: a random number, and who was let in on it before: teachers, and groups
of which labs.

It tells one phone behind a school's address from another, so that wrong tries on one slow down only that one. It names
nobody; wrong tries are kept with it for an hour.
"""

from __future__ import annotations

import time
import uuid
from dataclasses import dataclass, field

from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse

COOKIE = "pipette_device"
SALT = "pipette.device"
MAX_AGE_S = 180 * 24 * 60 * 60
MOST_TEACHERS, MOST_LABS = 10, 5


@dataclass(frozen=True, slots=True)
class Device:
    """A device: its number (empty for one without the cookie), since when it has it, teachers who signed in on it, and labs
    that a group joined on it."""

    key: str = ""
    since: float = field(default_factory=time.time)
    teachers: tuple[int, ...] = ()
    labs: tuple[str, ...] = ()


def device_of(request: HttpRequest) -> Device:
    """The device that a request comes from."""
    try:
        kept = signing.loads(request.COOKIES.get(COOKIE, ""), salt=SALT, max_age=MAX_AGE_S)
        teachers = tuple(int(teacher) for teacher in kept["teachers"])
        return Device(str(kept["key"])[:36], float(kept["since"]), teachers, tuple(kept.get("labs", ())))
    except (signing.BadSignature, KeyError, TypeError, ValueError):
        return Device()


def know_device(request: HttpRequest, response: HttpResponse, teacher_id: int | None = None, lab: str = "") -> None:
    """Give a device its cookie, with the teacher who has just signed in or the lab just joined; it keeps its number."""
    device = device_of(request)
    if device.key and (teacher_id is None or teacher_id in device.teachers) and (not lab or lab in device.labs):
        return
    teachers = device.teachers if teacher_id is None else (*device.teachers, teacher_id)[-MOST_TEACHERS:]
    labs = (*(one for one in device.labs if one != lab), lab)[-MOST_LABS:] if lab else device.labs
    made = {"key": device.key or str(uuid.uuid4()), "since": device.since, "teachers": teachers, "labs": labs}
    response.set_cookie(
        COOKIE, signing.dumps(made, salt=SALT), max_age=MAX_AGE_S, httponly=True, secure=settings.HTTPS, samesite="Lax"
    )
