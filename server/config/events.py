"""The event streams: a teacher's of one lab, a group's of its own, and that of a group's connected meter.

A stream runs as long as whoever asked for it may see what it tells: a new PIN, leaving, signing out, a closed lab or a meter
taken away ends it.
"""

from __future__ import annotations

import asyncio
import uuid
from collections.abc import AsyncIterator, Callable, Hashable
from dataclasses import dataclass
from typing import Any, TypeVar

from asgiref.sync import sync_to_async
from django.core.handlers.asgi import ASGIRequest
from django.db import connections
from django.http import HttpRequest, HttpResponse, HttpResponseBase, StreamingHttpResponse

from galvanic.cells import Cell
from galvanic.words import language, speaking
from server.base.errors import NO_METHOD, SIGN_IN, respond
from server.base.live import TOLD, Allowed, Tell, open_for, stream
from server.base.problems import Problem, not_found
from server.entries.api import bench_json
from server.labs.models import Lab, PlannedCell
from server.labs.outputs import way_of
from server.materials.own import materials_of
from server.meters.services import Address, address_of, samples
from server.people.address import client_address
from server.people.auth import COOKIE, Member, member_of, teacher_by_cookie
from server.people.models import Teacher
from server.room.board_api import board_json

Found = TypeVar("Found")


@dataclass(frozen=True, slots=True)
class Heard:
    """The lab whose changes a visitor may hear of, the group if it is one, whose stream it is, and how much may be shown."""

    lab: uuid.UUID
    group: uuid.UUID | None
    whose: Hashable
    who: Teacher | Member
    way: str = ""


def _heard(request: HttpRequest, lab_id: uuid.UUID | None) -> Heard | None:
    """What this visitor may hear of, or None."""
    if lab_id is None:
        member = _member(request)
        return Heard(member.lab_id, member.group_id, member.group_id, member) if member else None
    user = teacher_by_cookie(request)
    if user is None:
        return None
    lab = Lab.objects.visible_to(user).with_way(user).filter(id=lab_id).first()
    return None if lab is None else Heard(lab_id, None, user.id, user, way_of(lab))


def _shown(heard: Heard) -> Tell:
    """The board or the bench of a visitor, made once for all who see the same."""

    def make() -> bytes:
        try:
            with materials_of(heard.who), speaking(code):
                if isinstance(heard.who, Member):
                    return bench_json(heard.who)
                return board_json(heard.who, heard.lab)
        finally:
            connections.close_all()

    code = language()
    what: Hashable = ("bench", heard.group) if heard.group else ("board", heard.way == "look")
    return lambda: TOLD.of(str(heard.lab), (what, code), make)


def _member(request: HttpRequest) -> Member | None:
    """The member of an open lab behind a request; a closed one has nothing to tell."""
    member = member_of(request.COOKIES.get(COOKIE))
    if member is None or not Lab.objects.filter(id=member.lab_id, state=Lab.State.OPEN).exists():
        return None
    return member


def _looked_up(look: Callable[[], Found | None], found: Found) -> Allowed:
    """Whether a look-up still finds the same."""

    def look_and_let_go() -> bool:
        try:
            return look() == found
        finally:
            connections.close_all()

    return sync_to_async(look_and_let_go)


async def events(request: HttpRequest, lab_id: uuid.UUID | None = None) -> HttpResponseBase:
    """Server-sent events under ASGI; 204 under WSGI, which would hang on an endless stream, and the page polls."""
    if request.method != "GET":
        return respond(NO_METHOD)
    if not isinstance(request, ASGIRequest):
        return HttpResponse(status=204)
    heard = await sync_to_async(_heard)(request, lab_id)
    if heard is None and lab_id is None and await sync_to_async(member_of)(request.COOKIES.get(COOKIE)) is not None:
        return HttpResponse(status=204)  # a closed lab has nothing to tell: the page does not ask again
    if heard is None:
        return respond(SIGN_IN if lab_id is None else not_found("lab"))
    tell = _shown(heard) if "whole" in request.GET else None
    allowed = _looked_up(lambda: _heard(request, lab_id), heard)
    return await _streamed(heard.whose, stream(heard.lab, heard.group, allowed, tell))


TICKS, TICK_S = 3, 0.7


async def ticks(request: HttpRequest) -> HttpResponseBase:
    """Three ticks, 0.7 s apart, for /check: where they come all at once, something between keeps streams back."""
    if request.method != "GET":
        return respond(NO_METHOD)
    if not isinstance(request, ASGIRequest):
        return HttpResponse(status=204)

    async def told() -> AsyncIterator[str]:
        for n in range(TICKS):
            yield f"data: {n}\n\n"
            await asyncio.sleep(TICK_S)

    return await _streamed(("check", client_address(request)), told())


class Stream(StreamingHttpResponse):
    """An answer that is counted until it is closed, also where nobody has begun to read it."""

    def __init__(self, over: Callable[[], None], *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.over = over

    def close(self) -> None:
        self.over()
        super().close()


async def _streamed(whose: Hashable, events: AsyncIterator[str | bytes]) -> HttpResponseBase:
    await sync_to_async(connections.close_all)()  # else the stream would keep its database connection
    try:
        over = open_for(whose)
    except Problem as problem:
        return respond(problem)
    answer = Stream(over, events, content_type="text/event-stream")
    answer["Cache-Control"] = "no-store"
    answer["X-Accel-Buffering"] = "no"
    return answer


def _meter_of(request: HttpRequest, cell_id: uuid.UUID) -> tuple[Address, Cell, uuid.UUID, uuid.UUID] | None:
    """The meter of this visitor's group, the cell on its bench, its lab and its group; None where there is none."""
    member = _member(request)
    cell = member and PlannedCell.objects.visible_to(member).select_related("group").filter(id=cell_id).first()
    if not cell or not cell.group.meter_address:
        return None
    try:
        return address_of(cell.group.meter_address), cell.cell, cell.group.lab_id, cell.group_id
    except Problem:
        return None  # its network is no longer allowed


async def meter(request: HttpRequest, cell_id: uuid.UUID) -> HttpResponseBase:
    """What a group's connected meter shows, as server-sent events; 204 under WSGI, 404 where there is none."""
    if request.method != "GET":
        return respond(NO_METHOD)
    if not isinstance(request, ASGIRequest):
        return HttpResponse(status=204)
    found = await sync_to_async(_meter_of)(request, cell_id)
    if found is None:
        return respond(not_found("meter"))
    address, cell, lab, group = found
    allowed = _looked_up(lambda: _meter_of(request, cell_id), found)
    return await _streamed(group, samples(address, cell, allowed, lab, group))
