"""One log line per request, and a plain answer when the database is away outside the API."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponseBase

from server.config.errors import DATABASE_AWAY, is_away, respond

log = logging.getLogger("pipette.access")
Handler = Callable[[HttpRequest], HttpResponseBase]


def access_log(get_response: Handler) -> Handler:
    """Log method, path, status and milliseconds; never a body, a query string or who it was."""

    def handle(request: HttpRequest) -> HttpResponseBase:
        start = time.perf_counter()
        response = get_response(request)
        if not request.path.startswith("/static/"):
            took = round((time.perf_counter() - start) * 1000, 1)
            log.info(
                "%s %s %s",
                request.method,
                request.path,
                response.status_code,
                extra={"method": request.method, "path": request.path, "status": response.status_code, "ms": took},
            )
        return response

    return handle


class database_away:
    """Sessions are read before an endpoint runs: answer in the one shape when the database is away there."""

    def __init__(self, get_response: Handler) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        try:
            return self.get_response(request)
        except Exception as error:
            if is_away(error):
                return respond(DATABASE_AWAY)
            raise
