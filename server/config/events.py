"""The event streams: a teacher's of one lab, a group's of its own."""

from __future__ import annotations

import uuid

from asgiref.sync import sync_to_async
from django.core.handlers.asgi import ASGIRequest
from django.db import connections
from django.http import HttpRequest, HttpResponse, HttpResponseBase, StreamingHttpResponse

from server.labs.live import stream
from server.labs.models import Lab
from server.people.auth import COOKIE, member_of
from server.people.models import Teacher


def _lab_of(request: HttpRequest, lab_id: uuid.UUID | None) -> uuid.UUID | None:
    """The lab whose changes this visitor may hear of, or None."""
    if lab_id is None:
        member = member_of(request.COOKIES.get(COOKIE))
        return member.lab_id if member else None
    if isinstance(request.user, Teacher) and Lab.objects.visible_to(request.user).filter(id=lab_id).exists():
        return lab_id
    return None


async def events(request: HttpRequest, lab_id: uuid.UUID | None = None) -> HttpResponseBase:
    """Server-sent events under ASGI; 204 under WSGI, which would hang on an endless stream, and the page polls."""
    if not isinstance(request, ASGIRequest):
        return HttpResponse(status=204)
    lab = await sync_to_async(_lab_of)(request, lab_id)
    if lab is None:
        return HttpResponse(status=401 if lab_id is None else 404)
    await sync_to_async(connections.close_all)()  # else the stream would keep its database connection
    answer = StreamingHttpResponse(stream(lab), content_type="text/event-stream")
    answer["Cache-Control"] = "no-store"
    answer["X-Accel-Buffering"] = "no"
    return answer
