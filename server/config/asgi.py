"""The server's entry point.

Event streams stay open for an hour and wait nearly all of it: they run on the event loop. Everything else computes and asks
the database: it runs through WSGI, a whole request in one thread. Under ASGI Django would hand each request from the loop to
a thread and back for every middleware, and under load each hand-over waits for the interpreter's lock.
"""

from __future__ import annotations

import os
from typing import Any, cast

from a2wsgi import WSGIMiddleware
from django.core.asgi import get_asgi_application
from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
THREADS = int(os.environ.get("PIPETTE_THREADS", "4"))


streams = get_asgi_application()
requests = WSGIMiddleware(cast(Any, get_wsgi_application()), workers=THREADS)


def is_stream(path: str) -> bool:
    """Whether an address is one of the event streams."""
    return path.startswith("/api/") and path.endswith(("/events", "/meter")) and "/groups/" not in path


async def application(scope: dict[str, Any], receive: Any, send: Any) -> None:
    """Hand a request to where it belongs."""
    to: Any = streams if scope["type"] == "http" and is_stream(scope["path"]) else requests
    if scope["type"] == "http":
        await to(scope, receive, send)
