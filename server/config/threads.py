"""Requests in threads: received whole on the event loop, answered whole in a thread, sent from the loop.

Under ASGI Django would hand a request from the loop to a thread and back for every middleware; here it changes threads
twice, and no thread waits for anybody's Wi-Fi. What people record has threads of its own, so it does not queue behind the
many pages that fetch what is new.
"""

from __future__ import annotations

import asyncio
import io
import os
import time
from collections import OrderedDict
from collections.abc import Awaitable, Callable, Hashable, Mapping
from concurrent.futures import ThreadPoolExecutor
from functools import partial
from tempfile import SpooledTemporaryFile
from typing import IO, Any

from django.core import signals
from django.core.handlers.asgi import ASGIRequest
from django.core.handlers.base import BaseHandler
from django.http import HttpResponseBase
from django.urls import set_script_prefix

from galvanic.words import mark, speaking
from server.base.errors import respond
from server.base.language import language_of
from server.base.problems import Problem, Refusal
from server.config.bodies import FILES, TOO_SLOW, Gone, Receive, Scope, linger, receive_body
from server.people.address import client_address
from server.people.device import COOKIE
from server.people.limits import too_many

IN_MEMORY_BYTES = 64_000  # of a body that comes in; the rest waits on the disk
READERS = int(os.environ.get("PIPETTE_READERS", "2"))
WRITERS = int(os.environ.get("PIPETTE_WRITERS", "2"))
DOORS = ("/api/sign-in", "/api/join")  # each has a thread of its own: hashing a password takes long, and guessing is endless
MOST_AT_A_DOOR = 200
MOST_PUT_OFF = 10_000
TURNED_AWAY_S = 2.0  # for which whoever comes too early is kept waiting, so that a flood of them is a slow one
BUSY = Refusal(503, "busy", mark("Too many are at the door just now. Try again in a moment; nothing is lost."), wait_s=2.0)

Send = Callable[[Mapping[str, Any]], Awaitable[None]]
Answer = tuple[int, list[tuple[bytes, bytes]], bytes]


class InThreads(BaseHandler):
    """Django's synchronous side as an ASGI application."""

    def __init__(self) -> None:
        super().__init__()
        self.load_middleware()
        self.readers = ThreadPoolExecutor(READERS, "read")
        self.writers = ThreadPoolExecutor(WRITERS, "write")
        self.files = ThreadPoolExecutor(1, "file")
        self.doors = {path: ThreadPoolExecutor(1, "door") for path in DOORS}
        self.waiting = dict.fromkeys(DOORS, 0)
        self.put_off = PutOff()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer one request."""
        run = asyncio.get_running_loop().run_in_executor
        with SpooledTemporaryFile(IN_MEMORY_BYTES, "w+b") as body:
            try:
                await receive_body(scope, receive, body, partial(run, self.readers))
            except Gone:
                return  # and they will send it again
            except Problem as problem:
                if problem.refusal.status != TOO_SLOW.status:
                    await linger(receive)
                with speaking(language_of(ASGIRequest(scope, io.BytesIO()))):
                    answer = as_sent(respond(problem))
            else:
                answer = await self._in_thread(scope, body)
        await send_answer(send, answer)

    async def _in_thread(self, scope: Scope, body: IO[bytes]) -> Answer:
        run, path = asyncio.get_running_loop().run_in_executor, _door(scope)
        if path not in self.doors:
            return await run(self._pool(scope["method"], path), self._answer, scope, body)
        who = (scope["path"], _comer(scope))  # a form is told in a page that it has to wait, so it is looked at
        if (wait := self.put_off.wait_s(who)) > 0.0:
            answer = as_sent(respond(too_many(wait)))
        elif self.waiting[path] >= MOST_AT_A_DOOR:
            answer = as_sent(respond(BUSY))
        else:
            self.waiting[path] += 1
            try:
                answer = await run(self.doors[path], self._answer, scope, body)
            finally:
                self.waiting[path] -= 1
            if scope["path"] in DOORS:
                self.put_off.note(who, answer)
        if answer[0] in (429, 503):
            await asyncio.sleep(TURNED_AWAY_S)
        return answer

    def _pool(self, method: str, path: str) -> ThreadPoolExecutor:
        if method in ("GET", "HEAD"):
            return self.readers
        return self.files if path.endswith(FILES) else self.writers  # what is read from files takes long

    def _answer(self, scope: Scope, body: IO[bytes]) -> Answer:
        set_script_prefix("/")
        signals.request_started.send(sender=self.__class__, scope=scope)
        response = self.get_response(ASGIRequest(scope, body))
        try:
            return as_sent(response)
        finally:
            response.close()  # which gives the database connection back


def _door(scope: Scope) -> str:
    """The door that a request stands at, or its own path: the form that joins without scripts stands at that of its kind."""
    path = str(scope["path"])
    return "/api/join" if scope["method"] == "POST" and path.rstrip("/") == "/join" else path


def _comer(scope: Scope) -> str:
    """Who comes to a door: a device by its cookie as it is sent, without one its address."""
    request = ASGIRequest(scope, io.BytesIO())
    return request.COOKIES.get(COOKIE) or client_address(request)


class PutOff:
    """Who has been told to wait, and until when: until then nothing is looked up for them."""

    def __init__(self) -> None:
        self.until: OrderedDict[Hashable, float] = OrderedDict()

    def wait_s(self, who: Hashable) -> float:
        """Seconds that somebody has still to wait."""
        return self.until.get(who, 0.0) - time.monotonic()

    def note(self, who: Hashable, answer: Answer) -> None:
        """Remember an answer that says to wait; of many, the latest."""
        seconds = next((float(value) for name, value in answer[1] if name == b"retry-after"), 0.0)
        if answer[0] == 429 and seconds:
            self.until[who] = time.monotonic() + seconds
            self.until.move_to_end(who)
            while len(self.until) > MOST_PUT_OFF:
                self.until.popitem(last=False)


def as_sent(response: HttpResponseBase) -> Answer:
    """Status, headers and content of an answer."""
    headers = [(name.lower().encode("latin-1"), value.encode("latin-1")) for name, value in response.items()]
    headers += [(b"set-cookie", cookie.OutputString().encode("latin-1")) for cookie in response.cookies.values()]
    return response.status_code, headers, b"".join(response)


async def send_answer(send: Send, answer: Answer) -> None:
    """Send an answer whole."""
    status, headers, content = answer
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": content})
