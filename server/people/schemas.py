"""What goes in and out about people."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Schema
from pydantic import StringConstraints


class SignIn(Schema):
    """A teacher's name and password."""

    username: Annotated[str, StringConstraints(min_length=1, max_length=150)]
    password: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class Join(Schema):
    """A lab's code and a group's PIN."""

    code: Annotated[str, StringConstraints(min_length=1, max_length=40)]
    pin: Annotated[str, StringConstraints(min_length=1, max_length=12)]


class WhoAmI(Schema):
    """Who this browser is: a teacher's name, a group's name, both, or neither."""

    teacher: str | None
    group: str | None


class Done(Schema):
    """It is done."""

    ok: Literal[True]


class RowFaultOut(Schema):
    """One faulty row of a file."""

    line: int
    message: str


class ProblemOut(Schema):
    """Every refusal has this shape."""

    code: str
    message: str
    field: str | None
    rows: list[RowFaultOut]
