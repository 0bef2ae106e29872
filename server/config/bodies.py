"""A request's body, received whole before a thread is taken for it: a small one from everybody; a large one, to the size
that its endpoint takes, from whoever is signed in or has joined; none for ever, and not many large ones of one visitor.
"""

from __future__ import annotations

import asyncio
import io
import time
from collections import Counter
from collections.abc import Awaitable, Callable, Iterator
from contextlib import contextmanager
from typing import IO, Any

from django.core.handlers.asgi import ASGIRequest
from django.db import close_old_connections

from galvanic.words import mark, say, speaking
from server.base.errors import SIGN_IN
from server.base.language import language_of
from server.base.problems import Problem, Refusal
from server.people.auth import COOKIE as GROUP_COOKIE
from server.people.auth import member_of, teacher_by_cookie

SMALL_BYTES = 64_000  # more than what anybody types at once; larger ones belong to somebody
TYPED_BYTES = 1_000_000  # what a signed-in page sends that is no file: a table with its rows put right
FILE_BYTES = 6_000_000  # a photograph, a logger's file, a table: their endpoints say what is too large in their own words
PACKAGE_BYTES = 80_500_000  # a lab with its photographs: server/records/package/opened.py takes 80 MB
FILES = ("/import", "/import-package", "/photos", "/run-files", "/tables", "/traces", "/preview")
PACKAGES = ("/labs/import-package",)
QUIET_S = 60.0  # nothing for so long: the network has stopped
WHOLE_S, SLOWEST_BYTES_S = 60.0, 5_000.0  # for the whole body: a minute, and a second more for every 5 kB (40 kbit/s)
LINGER_S = 8.0  # for which what is refused is still taken in and kept nowhere: who is sending hears no answer before
AT_ONCE = 6  # large bodies of one visitor: a group's devices and its photographs
TOO_LARGE = mark("That is more than {most} MB, which is too much to send. It stays on your device.")
TOO_SLOW = Refusal(408, "too_slow", mark("The network stopped half-way. It stays on your device; send it again."))
MANY = Refusal(429, "too_many_files", mark("Several files are on their way already. It stays on your device."), wait_s=5.0)

Scope = dict[str, Any]
Receive = Callable[[], Awaitable[dict[str, Any]]]
_sending: Counter[str] = Counter()


class Gone(Exception):
    """Who was sending has gone."""


async def receive_body(scope: Scope, receive: Receive, into: IO[bytes], in_thread: Callable[..., Awaitable[Any]]) -> None:
    """Read a request's body to its end; `in_thread` runs what looks somebody up. Raises Gone, or Problem: too_large,
    too_slow, sign_in or too_many_files; then the rest is not read."""
    start, size, most, whose = time.monotonic(), 0, SMALL_BYTES, ""
    promised = _promised(scope)
    limit = most_of(scope["path"])
    if promised > limit:
        raise too_large(scope, limit)
    with _place() as take:
        while True:
            left = WHOLE_S + size / SLOWEST_BYTES_S - (time.monotonic() - start)
            try:
                message = await asyncio.wait_for(receive(), max(0.0, min(QUIET_S, left)))
            except TimeoutError:
                raise TOO_SLOW() from None
            if message["type"] == "http.disconnect":
                raise Gone
            size += len(message.get("body", b""))
            if max(size, promised) > most and not whose:
                whose = await in_thread(visitor, scope)
                if not whose:
                    raise SIGN_IN()
                most = limit
                take(whose)
            if size > most:
                raise too_large(scope, most)
            into.write(message.get("body", b""))
            if not message.get("more_body", False):
                into.seek(0)
                return


async def linger(receive: Receive) -> None:
    """Take in the rest of a refused body for a while and keep none of it, so that who is still sending hears why."""
    end = time.monotonic() + LINGER_S
    while (left := end - time.monotonic()) > 0.0:
        try:
            message = await asyncio.wait_for(receive(), left)
        except TimeoutError:
            return
        if message["type"] == "http.disconnect" or not message.get("more_body", False):
            return


def too_large(scope: Scope, most: int) -> Problem:
    """The refusal of what is larger than its endpoint takes, in the visitor's language."""
    with speaking(language_of(ASGIRequest(scope, io.BytesIO()))):
        return Problem(413, "too_large", say(TOO_LARGE, most=most // 1_000_000))


def most_of(path: str) -> int:
    """The largest body that a path takes from whoever may send it, in bytes."""
    return PACKAGE_BYTES if path.endswith(PACKAGES) else FILE_BYTES if path.endswith(FILES) else TYPED_BYTES


def visitor(scope: Scope) -> str:
    """Who a request comes from: a signed-in teacher or a joined group; empty for nobody."""
    request = ASGIRequest(scope, io.BytesIO())
    try:
        if (teacher := teacher_by_cookie(request)) is not None:
            return f"teacher {teacher.id}"
        member = member_of(request.COOKIES.get(GROUP_COOKIE))
        return "" if member is None else f"group {member.group_id}"
    finally:
        close_old_connections()


@contextmanager
def _place() -> Iterator[Callable[[str], None]]:
    """A place among the large bodies of a visitor, from when it is known who that is. Raises Problem too_many_files."""
    taken: list[str] = []

    def take(whose: str) -> None:
        if _sending[whose] >= AT_ONCE:
            raise MANY()
        _sending[whose] += 1
        taken.append(whose)

    try:
        yield take
    finally:
        for whose in taken:
            _sending[whose] -= 1
            if not _sending[whose]:
                del _sending[whose]


def _promised(scope: Scope) -> int:
    """The length that a request says its body has; 0 where it says none, or nonsense."""
    said = next((value for name, value in scope["headers"] if name == b"content-length"), b"")
    return int(said) if said.isdigit() and len(said) < 16 else 0
