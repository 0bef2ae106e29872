"""One log line per request; the one shape for refusals, also outside endpoints; private answers are nobody's to keep."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, HttpResponseBase
from django.middleware.gzip import GZipMiddleware
from django.utils.cache import patch_vary_headers

from server.base.errors import BAD_REQUEST, fault_of, in_shape, respond
from server.base.incoming import is_odd
from server.people.address import believed

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


COMPRESSED = ("application/json", "text/html")


def compressed(get_response: Handler) -> Handler:
    """Compress pages and what the API answers, with or without a proxy before it; never a stream."""
    zipped = GZipMiddleware(get_response)

    def handle(request: HttpRequest) -> HttpResponseBase:
        response = get_response(request)
        if isinstance(response, HttpResponse) and response.headers.get("Content-Type", "").startswith(COMPRESSED):
            return zipped.process_response(request, response)
        return response

    return handle


def api_answers(get_response: Handler) -> Handler:
    """Refuse what no browser sends; put every refusal of the API in the one shape; let nobody keep a private answer."""

    def handle(request: HttpRequest) -> HttpResponseBase:
        if is_odd(request.path) or not believed(request):
            return respond(BAD_REQUEST)
        response = get_response(request)
        if request.path.startswith("/api/"):
            response = in_shape(response)
            response.headers.setdefault("Cache-Control", "no-store")
            patch_vary_headers(response, ["Cookie"])
        return response

    return handle


class store_away:
    """Sessions are read before an endpoint runs: answer in the one shape when the database is away there."""

    def __init__(self, get_response: Handler) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        try:
            return self.get_response(request)
        except Exception as error:
            if (known := fault_of(error)) is not None:
                return respond(known)
            raise
