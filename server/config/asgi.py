"""The server's entry point.

Event streams stay open for an hour and wait nearly all of it: they run on the event loop. Everything else computes and asks
the database: it runs in threads.
"""

from __future__ import annotations

import os

from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")

streams = get_asgi_application()

from server.config.threads import InThreads, Receive, Scope, Send  # noqa: E402 (Django is set up now)

requests = InThreads()


def is_stream(path: str) -> bool:
    """Whether an address is one of the event streams."""
    return path.startswith("/api/") and path.endswith(("/events", "/meter")) and "/groups/" not in path


async def application(scope: Scope, receive: Receive, send: Send) -> None:
    """Hand a request to where it belongs."""
    if scope["type"] == "http":
        await (streams if is_stream(scope["path"]) else requests)(scope, receive, send)
