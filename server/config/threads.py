"""Requests in threads: received whole on the event loop, answered whole in a thread, sent from the loop.

Under ASGI Django would hand a request from the loop to a thread and back for every middleware; here it changes threads
twice, and no thread waits for anybody's Wi-Fi. What people record has threads of its own, so it does not queue behind the
many pages that fetch what is new.
"""

from __future__ import annotations

import asyncio
import os
from collections.abc import Awaitable, Callable, Mapping
from concurrent.futures import ThreadPoolExecutor
from tempfile import SpooledTemporaryFile
from typing import IO, Any

from django.conf import settings
from django.core import signals
from django.core.handlers.asgi import ASGIRequest
from django.core.handlers.base import BaseHandler
from django.http import HttpResponseBase
from django.urls import set_script_prefix

from server.config.errors import respond
from server.problems import Problem

MOST_BODY_BYTES = 6_000_000  # the largest file an endpoint takes is 5 MB
TOO_LARGE = Problem(413, "too_large", "That is more than 6 MB, which is too much to send. It stays on your device.")
READERS = int(os.environ.get("PIPETTE_READERS", "2"))
WRITERS = int(os.environ.get("PIPETTE_WRITERS", "2"))

Scope = dict[str, Any]
Receive = Callable[[], Awaitable[dict[str, Any]]]
Send = Callable[[Mapping[str, Any]], Awaitable[None]]
Answer = tuple[int, list[tuple[bytes, bytes]], bytes]


class InThreads(BaseHandler):
    """Django's synchronous side as an ASGI application."""

    def __init__(self) -> None:
        super().__init__()
        self.load_middleware()
        self.readers = ThreadPoolExecutor(READERS, "read")
        self.writers = ThreadPoolExecutor(WRITERS, "write")

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer one request."""
        with SpooledTemporaryFile(settings.FILE_UPLOAD_MAX_MEMORY_SIZE, "w+b") as body:
            whole = await _received(receive, body)
            if whole is None:
                return  # they have gone, and will send it again
            threads = self.readers if scope["method"] in ("GET", "HEAD") else self.writers
            run = self._answer if whole else lambda *_: _sent(respond(TOO_LARGE))
            status, headers, content = await asyncio.get_running_loop().run_in_executor(threads, run, scope, body)
        await send({"type": "http.response.start", "status": status, "headers": headers})
        await send({"type": "http.response.body", "body": content})

    def _answer(self, scope: Scope, body: IO[bytes]) -> Answer:
        set_script_prefix("/")
        signals.request_started.send(sender=self.__class__, scope=scope)
        response = self.get_response(ASGIRequest(scope, body))
        try:
            return _sent(response)
        finally:
            response.close()  # which gives the database connection back


async def _received(receive: Receive, into: IO[bytes]) -> bool | None:
    """Read a request's body. False: it is too large, and the rest is not read; None: they went away before its end."""
    size = 0
    while True:
        message = await receive()
        if message["type"] == "http.disconnect":
            return None
        size += len(message.get("body", b""))
        if size > MOST_BODY_BYTES:
            return False
        into.write(message.get("body", b""))
        if not message.get("more_body", False):
            into.seek(0)
            return True


def _sent(response: HttpResponseBase) -> Answer:
    """Status, headers and content of an answer."""
    headers = [(name.lower().encode("latin-1"), value.encode("latin-1")) for name, value in response.items()]
    headers += [(b"set-cookie", cookie.OutputString().encode("latin-1")) for cookie in response.cookies.values()]
    return response.status_code, headers, b"".join(response)
