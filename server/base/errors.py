"""The one error map: every exception that leaves an endpoint becomes a problem in one shape."""

from __future__ import annotations

import errno
import logging
import math
from collections.abc import Mapping
from typing import Any

from django.core.exceptions import BadRequest, RequestDataTooBig, SuspiciousOperation
from django.db import DataError, InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, HttpResponseBase, JsonResponse, UnreadablePostError
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from psycopg import errors as postgres

from galvanic.errors import GalvanicError
from galvanic.words import mark, say
from server.base.problems import Problem, Refusal

log = logging.getLogger("pipette.errors")

SIGN_IN = Refusal(401, "sign_in", mark("Please sign in again. Nothing you typed is lost."))
DATABASE_AWAY = Refusal(
    503,
    "database_away",
    mark(
        "The store cannot be reached just now. Nothing was changed; what you typed is safe on this device and can be sent"
        " again."
    ),
)
READ_ONLY = Refusal(
    503,
    "read_only",
    mark(
        "The store can be read but not written just now. Nothing was changed; what you typed is safe on this device and can"
        " be sent again. Tell whoever runs Pipette."
    ),
)
STORE_FULL = Refusal(
    503,
    "store_full",
    mark(
        "The server’s disk is full. Nothing was changed; what you typed is safe on this device and can be sent again. Tell"
        " whoever runs Pipette."
    ),
)
BROKEN = Refusal(
    500,
    "broken",
    mark("Something went wrong here. Nothing was changed; what you typed is safe on this device and can be sent again."),
)
BAD_TEXT = Refusal(422, "bad_text", mark("There is something in it that cannot be kept. Nothing was changed."))
BAD_REQUEST = Refusal(400, "bad_request", mark("That request cannot be read. Nothing was changed."))
TOO_LARGE = Refusal(413, "too_large", mark("That is too much to send at once. It stays on your device."))
FORBIDDEN = Refusal(
    403,
    "csrf",
    mark("This page is too old to send anything. Load it again; what you typed stays on this device."),
    passing=True,
)
NO_ADDRESS = Refusal(404, "no_address", mark("There is nothing at this address."))
NO_METHOD = Refusal(405, "no_method", mark("That cannot be done at this address."))

DISK_FULL = (errno.ENOSPC, errno.EDQUOT)


def body(refusal: Refusal) -> dict[str, Any]:
    """A refusal as it is sent."""
    return {
        "code": refusal.code,
        "message": say(refusal.message),
        "field": refusal.field,
        "passing": refusal.passes,
        "rows": [{"line": row.line, "message": say(row.message)} for row in refusal.rows],
    }


def respond(refused: Problem | Refusal) -> HttpResponse:
    """A refusal as a response of its status."""
    refusal = refused.refusal if isinstance(refused, Problem) else refused
    answer = JsonResponse(body(refusal), status=refusal.status)
    answer["Cache-Control"] = "no-store"
    if refusal.wait_s is not None:
        answer["Retry-After"] = str(max(1, math.ceil(refusal.wait_s)))
    return answer


def fault_of(error: BaseException | None) -> Refusal | None:
    """What is away, by an error or what caused it; None where nothing is."""
    while error is not None:
        if isinstance(error, postgres.DiskFull) or (isinstance(error, OSError) and error.errno in DISK_FULL):
            return STORE_FULL
        if isinstance(error, postgres.ReadOnlySqlTransaction):
            return READ_ONLY
        if isinstance(error, OperationalError | InterfaceError):
            return fault_of(error.__cause__) or DATABASE_AWAY
        error = error.__cause__ or error.__context__
    return None


def unreadable(error: BaseException) -> Refusal | None:
    """The refusal of a request that cannot be read; None where it can."""
    if isinstance(error, RequestDataTooBig):
        return TOO_LARGE
    if isinstance(error, SuspiciousOperation | BadRequest | MultiPartParserError | UnreadablePostError):
        return BAD_REQUEST
    if isinstance(error, DataError) or (isinstance(error, ValueError) and "NUL" in str(error)):
        return BAD_TEXT
    return None


def from_validation(error: ValidationError) -> Refusal:
    """The first fault of a request that does not fit its schema, by the name of its field."""
    first = error.errors[0] if error.errors else {"msg": say("the request does not fit"), "loc": ("body",)}
    return Refusal(422, "invalid", in_words(first), field=str(first["loc"][-1]))


PLAIN = {
    "missing": mark("Something is missing here: fill it in."),
    "string_too_short": mark("Nothing was typed here yet."),
    "string_too_long": mark("That is too long: at most {max_length} letters."),
    "greater_than_equal": mark("That is too small: {ge} or more."),
    "greater_than": mark("That is too small: more than {gt}."),
    "less_than_equal": mark("That is too large: {le} at most."),
    "less_than": mark("That is too large: less than {lt}."),
    "too_long": mark("Those are too many: at most {max_length}."),
    "too_short": mark("Those are too few: at least {min_length}."),
    "int_parsing": mark("Type a whole number."),
    "int_type": mark("Type a whole number."),
    "int_from_float": mark("Type a whole number."),
    "float_parsing": mark("Type a number."),
    "float_type": mark("Type a number."),
    "date_from_datetime_parsing": mark("Type a date, for example 2026-05-04."),
    "date_parsing": mark("Type a date, for example 2026-05-04."),
    "literal_error": mark("That is none of the choices: {expected}."),
    "bool_parsing": mark("That is neither yes nor no."),
}
"""What a schema's refusals are called for people, by pydantic's type; the limit stands in it."""


def in_words(fault: Mapping[str, Any]) -> str:
    """A schema's refusal in plain words, with the limit."""
    known, context = PLAIN.get(str(fault.get("type", ""))), fault.get("ctx", {})
    if known is not None:
        try:
            return say(known, **{key: _short(limit) for key, limit in context.items()})
        except KeyError:
            pass
    message = str(fault["msg"]).removeprefix("Value error, ")
    return message if fault.get("type") == "value_error" else say("That does not fit here. Look at it again.")


def _short(limit: object) -> object:
    """A whole number without its point: 10000, not 10000.0."""
    return int(limit) if isinstance(limit, float) and limit.is_integer() else limit


def from_http(error: HttpError) -> Refusal:
    """Ninja's own refusals, such as a body that is not JSON."""
    known = {400: BAD_REQUEST, 403: FORBIDDEN}
    return known.get(error.status_code) or Refusal(error.status_code, "refused", f"{str(error).rstrip('.')}.")


def bad_request(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """Django's refusals before a view runs: a host that is not ours, a form that cannot be read."""
    return respond((unreadable(exception) if exception else None) or BAD_REQUEST)


def forbidden(request: HttpRequest, *_: object, **__: object) -> HttpResponse:
    """A request without the page's token."""
    return respond(FORBIDDEN)


def no_address(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """An address that does not exist."""
    return respond(NO_ADDRESS)


def broken(request: HttpRequest) -> HttpResponse:
    """What nobody foresaw, outside an endpoint."""
    return respond(BROKEN)


def in_shape(answer: HttpResponseBase) -> HttpResponseBase:
    """A refusal in the one shape, whoever made it."""
    if answer.status_code < 400 or answer.get("Content-Type", "").startswith("application/json"):
        return answer
    known = {400: BAD_REQUEST, 403: FORBIDDEN, 404: NO_ADDRESS, 405: NO_METHOD, 413: TOO_LARGE}
    made = respond(
        known.get(answer.status_code, Refusal(answer.status_code, "refused", say("The server did not accept that.")))
    )
    if allowed := answer.get("Allow"):
        made["Allow"] = allowed
    return made


def install(api: NinjaAPI) -> None:
    """Register the map on the API."""

    @api.exception_handler(Problem)
    def _problem(request: HttpRequest, error: Problem) -> HttpResponse:
        return respond(error)

    @api.exception_handler(GalvanicError)
    def _core(request: HttpRequest, error: GalvanicError) -> HttpResponse:
        return respond(Refusal(422, error.code, str(error), field=error.field or None))

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
        if (known := fault_of(error)) is not None:
            log.warning(known.code, extra={"path": request.path})
            return respond(known)
        if (known := unreadable(error)) is not None:
            return respond(known)
        log.error("unexpected error", exc_info=error, extra={"path": request.path})
        return respond(BROKEN)
