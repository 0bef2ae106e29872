"""What goes in and out about people.

Plain pydantic models, here as in the other applications: ninja's own Schema looks every field up through Django, which
makes a full board three times slower (`./pipette bench`).
"""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, StringConstraints


class SignIn(BaseModel):
    """A teacher's name and password."""

    username: Annotated[str, StringConstraints(min_length=1, max_length=150)]
    password: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class NewPasswordIn(BaseModel):
    """The password so far, and the one to come."""

    old: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    new: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class SignInOut(BaseModel):
    """A browser in which the teacher is signed in; `here`: the one that asks."""

    id: uuid.UUID
    at: datetime.datetime
    browser: str
    here: bool


class Join(BaseModel):
    """A lab's code and a group's PIN."""

    code: Annotated[str, StringConstraints(min_length=1, max_length=40)]
    pin: Annotated[str, StringConstraints(min_length=1, max_length=12)]


class WhoAmI(BaseModel):
    """Who this browser is: a teacher's name, a group's name, both, or neither."""

    teacher: str | None
    group: str | None


class Done(BaseModel):
    """It is done."""

    ok: Literal[True]


class RowFaultOut(BaseModel):
    """One faulty row of a file."""

    line: int
    message: str


class ProblemOut(BaseModel):
    """Every refusal has this shape; `passing` if the same thing may be sent again later."""

    code: str
    message: str
    field: str | None
    passing: bool
    rows: list[RowFaultOut]


class DeedOut(BaseModel):
    """What the teacher did: when, in words, in which lab (with its title as it was), and about what."""

    at: datetime.datetime
    what: str
    lab: uuid.UUID | None
    title: str
    about: str


class PasswordIn(BaseModel):
    """The teacher's password, typed once more."""

    password: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class NewPin(BaseModel):
    """A group's new PIN."""

    pin: str
