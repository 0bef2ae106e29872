"""The one shape in which the server says no: a code for programs and a sentence for people.

The sentence says what happened to what was typed and what to do. `rows` names faulty rows of a file by line.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class RowFault:
    """One faulty row of a file; `line` counts from 1, the header included."""

    line: int
    message: str


class Problem(Exception):
    """A refusal with an HTTP status, a code, a sentence, and the field or rows concerned."""

    def __init__(
        self, status: int, code: str, message: str, field: str | None = None, rows: Sequence[RowFault] = ()
    ) -> None:
        super().__init__(message)
        self.status, self.code, self.message, self.field, self.rows = status, code, message, field, tuple(rows)


def not_found(what: str) -> Problem:
    """404, the same whether a thing does not exist or belongs to someone else."""
    return Problem(404, "not_found", f"There is no such {what}, or it is not yours.")
