"""The server's entry point.

Event streams stay open for an hour and wait nearly all of it: they run on the event loop. Everything else computes and asks
the database: it runs in threads.
"""

from __future__ import annotations

import os
import sys
from typing import Any

from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")

sys.setswitchinterval(0.001)  # threads that compute give way to the loop and to what people record: 5 ms is felt

streams = get_asgi_application()

from server.base.errors import NO_METHOD, respond  # noqa: E402 (Django is set up now)
from server.config.bodies import Receive, Scope  # noqa: E402
from server.config.threads import InThreads, Send, as_sent, send_answer  # noqa: E402

requests = InThreads()


def is_stream(path: str) -> bool:
    """Whether an address is one of the event streams."""
    return path.startswith("/api/") and path.endswith(("/events", "/meter")) and "/groups/" not in path


def without_body(receive: Receive) -> Receive:
    """What a stream's request says, without a body: whoever sends one is let go, and nothing of it is kept."""
    begun = False

    async def told() -> dict[str, Any]:
        nonlocal begun
        if not begun:
            begun = True
            return {"type": "http.request", "body": b"", "more_body": False}
        while True:
            message = await receive()
            if message["type"] == "http.disconnect" or message.get("body") or message.get("more_body"):
                return {"type": "http.disconnect"}

    return told


async def application(scope: Scope, receive: Receive, send: Send) -> None:
    """Hand a request to where it belongs."""
    if scope["type"] != "http":
        return
    if is_stream(scope["path"]) and scope["method"] != "GET":
        await send_answer(send, as_sent(respond(NO_METHOD)))  # before anything of a body is read
    elif is_stream(scope["path"]):
        await streams(scope, without_body(receive), send)
    else:
        await requests(scope, receive, send)
