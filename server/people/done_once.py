"""A change that is sent twice is done once: the page gives it a number, as devices give their entries.

The number comes in the header `Idempotency-Key` (an IETF draft, draft-ietf-httpapi-idempotency-key-header). Whatever the
change does and its answer are kept in one transaction; a second request with the number waits for the first and gets its
answer. A refused change leaves nothing, so it can be sent again under the same number.
"""

from __future__ import annotations

import hashlib
import uuid
from collections.abc import Callable
from datetime import timedelta

from django.db import transaction
from django.http import HttpRequest, HttpResponse, HttpResponseBase

from galvanic.words import say
from server.base.errors import respond
from server.base.problems import Problem
from server.people.auth import is_here
from server.people.models import DoneOnce

HEADER = "Idempotency-Key"
KEPT = timedelta(days=1)
OWN_RULES = ("/api/account", "/api/school", "/api/link", "/api/sign", "/api/bench")
"""Addresses whose answers are secrets, whose wrong tries are kept though they are refused, or whose entries have ids."""

Handler = Callable[[HttpRequest], HttpResponseBase]


def done_once(get_response: Handler) -> Handler:
    """Answer a numbered change that was done before as it was answered then."""

    def handle(request: HttpRequest) -> HttpResponseBase:
        key = _key(request)
        if key is None or request.method == "GET" or request.path.startswith(OWN_RULES) or not is_here(request.user):
            return get_response(request)
        asked = _digest(request)
        with transaction.atomic():
            kept, new = DoneOnce.objects.get_or_create(id=key, defaults={"teacher": request.user, "asked": asked})
            if not new:
                return _again(kept) if (kept.teacher_id, kept.asked) == (request.user.id, asked) else respond(_taken())
            answer = get_response(request)
            if answer.status_code >= 400:
                transaction.set_rollback(True)
            elif isinstance(answer, HttpResponse):
                DoneOnce.objects.filter(id=key).update(status=answer.status_code, answer=answer.content.decode())
        return answer

    return handle


def _key(request: HttpRequest) -> uuid.UUID | None:
    try:
        return uuid.UUID(request.headers[HEADER])
    except (KeyError, ValueError):
        return None


def _digest(request: HttpRequest) -> str:
    """Of what is asked: a file's boundary is another each time, so of a file its length."""
    file = request.content_type == "multipart/form-data"
    body = request.headers.get("Content-Length", "").encode() if file else request.body
    return hashlib.sha256(b" ".join([str(request.method).encode(), request.get_full_path().encode(), body])).hexdigest()


def _again(kept: DoneOnce) -> HttpResponse:
    return HttpResponse(kept.answer, status=kept.status, content_type="application/json; charset=utf-8")


def _taken() -> Problem:
    return Problem(409, "number_taken", say("Something else was sent under this number. Load the page again and repeat it."))
