"""The text of a file that is brought in, its limits, and its refusal, which says that nothing was imported."""

from __future__ import annotations

from galvanic.bench.text_files import NotText, decoded
from galvanic.words import say
from server.base.incoming import clean
from server.base.problems import Problem, RowFault

MAX_BYTES = 1_000_000
MAX_ROWS = 5_000


def refused(code: str, message: str, rows: list[RowFault] | None = None, status: int = 422) -> Problem:
    """The refusal of a table, with its faulty rows."""
    return Problem(status, code, say("Nothing was imported. {message}", message=message), "file", rows or [])


def too_big() -> Problem:
    """The refusal of a file over the limit."""
    return refused("too_big", say("The file is larger than 1 MB."), status=413)


def decode(data: bytes) -> str:
    """File content as clean text. Raises Problem: too_big, or not_csv."""
    if len(data) > MAX_BYTES:
        raise too_big()
    try:
        return clean(decoded(data))
    except NotText as error:
        raise refused(error.code, str(error)) from error
