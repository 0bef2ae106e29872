"""The event streams: a teacher's of one lab, a group's of its own, and that of a group's connected meter."""

from __future__ import annotations

import uuid
from collections.abc import AsyncIterator

from asgiref.sync import sync_to_async
from django.core.handlers.asgi import ASGIRequest
from django.db import connections
from django.http import HttpRequest, HttpResponse, HttpResponseBase, StreamingHttpResponse

from galvanic.cells import Cell
from server.bench.meters import Address, address_of, samples
from server.labs.live import stream
from server.labs.models import Lab, PlannedCell
from server.people.auth import COOKIE, member_of
from server.people.models import Teacher
from server.problems import Problem


def _heard(request: HttpRequest, lab_id: uuid.UUID | None) -> tuple[uuid.UUID, uuid.UUID | None] | None:
    """The lab whose changes this visitor may hear of, and the group if it is one; or None."""
    if lab_id is None:
        member = member_of(request.COOKIES.get(COOKIE))
        return (member.lab_id, member.group_id) if member else None
    if isinstance(request.user, Teacher) and Lab.objects.visible_to(request.user).filter(id=lab_id).exists():
        return lab_id, None
    return None


async def events(request: HttpRequest, lab_id: uuid.UUID | None = None) -> HttpResponseBase:
    """Server-sent events under ASGI; 204 under WSGI, which would hang on an endless stream, and the page polls."""
    if not isinstance(request, ASGIRequest):
        return HttpResponse(status=204)
    heard = await sync_to_async(_heard)(request, lab_id)
    if heard is None:
        return HttpResponse(status=401 if lab_id is None else 404)
    return await _streamed(stream(*heard))


async def _streamed(events: AsyncIterator[str]) -> StreamingHttpResponse:
    await sync_to_async(connections.close_all)()  # else the stream would keep its database connection
    answer = StreamingHttpResponse(events, content_type="text/event-stream")
    answer["Cache-Control"] = "no-store"
    answer["X-Accel-Buffering"] = "no"
    return answer


def _meter_of(request: HttpRequest, cell_id: uuid.UUID) -> tuple[Address, Cell] | None:
    """The meter of this visitor's group and the cell on its bench, or None."""
    member = member_of(request.COOKIES.get(COOKIE))
    cell = member and PlannedCell.objects.visible_to(member).select_related("group").filter(id=cell_id).first()
    if not cell or not cell.group.meter_address:
        return None
    return address_of(cell.group.meter_address), cell.cell


async def meter(request: HttpRequest, cell_id: uuid.UUID) -> HttpResponseBase:
    """What a group's connected meter shows, as server-sent events; 204 under WSGI, 404 where there is none."""
    if not isinstance(request, ASGIRequest):
        return HttpResponse(status=204)
    try:
        found = await sync_to_async(_meter_of)(request, cell_id)
    except Problem:
        found = None  # its network is no longer allowed
    if found is None:
        return HttpResponse(status=404)
    return await _streamed(samples(*found))
