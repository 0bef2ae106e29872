"""The one error map: every exception that leaves an endpoint becomes a problem in one shape."""

from __future__ import annotations

import logging
from typing import Any

from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError

from galvanic.errors import GalvanicError
from server.problems import Problem

log = logging.getLogger("pipette.errors")

SIGN_IN = Problem(401, "sign_in", "Please sign in again. Nothing you typed is lost.")
DATABASE_AWAY = Problem(
    503, "database_away", "The store cannot be reached just now. Nothing was changed; what you typed stays on this page."
)
BROKEN = Problem(500, "broken", "Something went wrong here. Nothing was changed; what you typed stays on this page.")
LOCKED_OUT = Problem(429, "locked_out", "Too many wrong passwords. Wait 15 minutes, then try again.")
AWAY = (OperationalError, InterfaceError)


def body(problem: Problem) -> dict[str, Any]:
    """A problem as it is sent."""
    return {
        "code": problem.code,
        "message": problem.message,
        "field": problem.field,
        "rows": [{"line": row.line, "message": row.message} for row in problem.rows],
    }


def respond(problem: Problem) -> HttpResponse:
    """A problem as a response of its status."""
    return JsonResponse(body(problem), status=problem.status)


def is_away(error: BaseException | None) -> bool:
    """Whether an error, or what caused it, is a database that cannot be reached."""
    while error is not None:
        if isinstance(error, AWAY):
            return True
        error = error.__cause__ or error.__context__
    return False


def from_validation(error: ValidationError) -> Problem:
    """The first fault of a request that does not fit its schema, by the name of its field."""
    first = error.errors[0] if error.errors else {"msg": "the request does not fit", "loc": ("body",)}
    message = str(first["msg"]).removeprefix("Value error, ")
    return Problem(422, "invalid", f"{message[:1].upper()}{message[1:]}.".replace("..", "."), field=str(first["loc"][-1]))


def from_http(error: HttpError) -> Problem:
    """Ninja's own refusals, such as a body that is not JSON."""
    return Problem(error.status_code, "refused", str(error))


def locked_out(request: HttpRequest, *_: object, **__: object) -> HttpResponse:
    """What django-axes answers when a sign-in is locked."""
    return respond(LOCKED_OUT)


def install(api: NinjaAPI) -> None:
    """Register the map on the API."""

    @api.exception_handler(Problem)
    def _problem(request: HttpRequest, error: Problem) -> HttpResponse:
        return respond(error)

    @api.exception_handler(GalvanicError)
    def _core(request: HttpRequest, error: GalvanicError) -> HttpResponse:
        return respond(Problem(422, error.code, str(error)))

    @api.exception_handler(ValidationError)
    def _validation(request: HttpRequest, error: ValidationError) -> HttpResponse:
        return respond(from_validation(error))

    @api.exception_handler(AuthenticationError)
    def _auth(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return respond(SIGN_IN)

    @api.exception_handler(HttpError)
    def _http(request: HttpRequest, error: HttpError) -> HttpResponse:
        return respond(from_http(error))

    @api.exception_handler(Exception)
    def _other(request: HttpRequest, error: Exception) -> HttpResponse:
        if is_away(error):
            log.warning("database away", extra={"path": request.path})
            return respond(DATABASE_AWAY)
        log.error("unexpected error", exc_info=error, extra={"path": request.path})
        return respond(BROKEN)
