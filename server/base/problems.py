"""The one shape in which the server says no: a code for programs and a sentence for people.

The sentence says what happened to what was typed and what to do. `rows` names faulty rows of a file by line.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from galvanic.words import mark, say

PASSING = (401, 408, 429)  # and everything from 500 on: none of these says that what was sent is wrong


@dataclass(frozen=True, slots=True)
class RowFault:
    """One faulty row of a file; `line` counts from 1, the header included."""

    line: int
    message: str


@dataclass(frozen=True, slots=True)
class Refusal:
    """A refusal with an HTTP status, a code, a sentence, and the field or rows concerned. It is no exception: calling it
    makes one, so that what many are refused by keeps nothing of any of them.

    `passing`: the reason can pass by itself or by what a teacher does, so the same thing may be sent again later; None: as
    the status says.
    """

    status: int
    code: str
    message: str
    field: str | None = None
    rows: Sequence[RowFault] = ()
    passing: bool | None = None
    wait_s: float | None = None

    @property
    def passes(self) -> bool:
        """Whether the same thing may be sent again later."""
        return self.status in PASSING or self.status >= 500 if self.passing is None else self.passing

    def __call__(self) -> Problem:
        return Problem(self.status, self.code, self.message, self.field, self.rows, self.passing, self.wait_s)


class Problem(Exception):
    """A refusal that is raised; made where it is raised, since it keeps what led there."""

    def __init__(
        self,
        status: int,
        code: str,
        message: str,
        field: str | None = None,
        rows: Sequence[RowFault] = (),
        passing: bool | None = None,
        wait_s: float | None = None,
    ) -> None:
        super().__init__(message)
        self.refusal = Refusal(status, code, message, field, tuple(rows), passing, wait_s)

    @property
    def status(self) -> int:
        """The HTTP status."""
        return self.refusal.status

    @property
    def code(self) -> str:
        """The code, for programs."""
        return self.refusal.code

    @property
    def message(self) -> str:
        """The sentence, for people."""
        return self.refusal.message

    @property
    def rows(self) -> Sequence[RowFault]:
        """Faulty rows of a file."""
        return self.refusal.rows


NOUNS = (
    mark("cell"), mark("chain"), mark("claim"), mark("colleague"), mark("entry"), mark("file"), mark("group"), mark("lab"),
    mark("link"), mark("load"), mark("material"), mark("meter"), mark("pack"), mark("photograph"), mark("reading"),
    mark("sign-in"), mark("table"), mark("note"), mark("question"), mark("prediction"), mark("trace"), mark("words"),
    mark("electrode"), mark("electrolyte"), mark("teacher"), mark("notebook"), mark("homework"), mark("share"),
)  # fmt: skip
"""What refusals speak of, by the word in the code."""


def not_found(what: str, passing: bool = False) -> Problem:
    """404, the same whether a thing does not exist or belongs to someone else."""
    return Problem(404, "not_found", say("There is no such {what}, or it is not yours.", what=say(what)), passing=passing)
