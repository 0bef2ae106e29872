"""What a device opens by a code, without a name: looked for with the same patience for wrong codes everywhere."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from django.http import HttpRequest

from server.base.problems import Refusal
from server.people import limits
from server.people.address import client_address
from server.people.codes import join_code, plain_code
from server.people.device import device_of
from server.people.models import WrongTry

MOST_CODE = 20


def row_by_code(rows: QuerySet[Any], request: HttpRequest, code: str, wrong: Refusal) -> Any:
    """The one of `rows` (with `of_code`) that has a code as it was typed. Raises Problem: `wrong`, or too_many_tries with
    seconds to wait."""
    wanted = plain_code(code)[:MOST_CODE]
    what = limits.Try(WrongTry.Door.JOIN, wanted, client_address(request), device_of(request))
    limits.check(what)
    row = rows.of_code(wanted).select_related("lab").first()  # type: ignore[attr-defined]
    if row is None:
        limits.failed(what)
        raise wrong()
    limits.succeeded(what)
    return row


def free_code(rows: QuerySet[Any]) -> str:
    """A code that none of `rows` has."""
    while rows.filter(code=(code := join_code())).exists():
        pass
    return code
