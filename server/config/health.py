"""Whether the server can do its work: read, write, and store photographs."""

from __future__ import annotations

import threading
import time
from datetime import datetime

from django.db import connection
from django.http import HttpRequest
from django.utils import timezone
from ninja import Router
from pydantic import BaseModel

from galvanic.reference.reader import edition
from server.base.authority import fingerprint
from server.entries.photos import writable
from server.people.address import site_address
from server.people.schemas import ProblemOut

router = Router()
FRESH_S = 5.0  # anybody may ask, and as often as they like: so that it stays cheap
_LOCK = threading.Lock()
_SOUND_UNTIL = [0.0]


class Health(BaseModel):
    """What a monitor asks for: every part is `ok`, or the answer is 503 and says which is away."""

    database: str
    writing: str
    photographs: str
    edition: str


class CheckOut(BaseModel):
    """What a device needs to say whether Pipette works on it.

    `address`: what devices open; `now`: the server's time; `fingerprint`: of the school's own authority, empty for none.
    """

    address: str
    now: datetime
    fingerprint: str


@router.get("/check", response=CheckOut, operation_id="check", auth=None)
def check(request: HttpRequest) -> CheckOut:
    """For the page /check, on any device."""
    return CheckOut(address=site_address(request), now=timezone.now(), fingerprint=fingerprint())


@router.get("/health", response={200: Health, 503: ProblemOut}, operation_id="health", auth=None)
def health(request: HttpRequest) -> Health:
    """Answer 200 when everything can be read and written; 503, saying which part is away, when it cannot."""
    with _LOCK:
        if time.monotonic() >= _SOUND_UNTIL[0]:
            look()
            _SOUND_UNTIL[0] = time.monotonic() + FRESH_S
    return Health(database="ok", writing="ok", photographs="ok", edition=edition())


def look() -> None:
    """Write one row and one small file. Raises what is away, for the error map to say."""
    with connection.cursor() as cursor:
        cursor.execute("INSERT INTO people_pulse (id, at) VALUES (1, now()) ON CONFLICT (id) DO UPDATE SET at = now()")
    writable()
