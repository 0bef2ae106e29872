"""What goes in and out about people.

Plain pydantic models, here as in the other applications: ninja's own Schema looks every field up through Django, which
makes a full board three times slower (`./pipette bench`).
"""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, StringConstraints

from server.base.language import LanguageCode


class SignIn(BaseModel):
    """A teacher's name and password, and the code of the second step where the account asks for one."""

    username: Annotated[str, StringConstraints(min_length=1, max_length=150)]
    password: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    code: Annotated[str, StringConstraints(max_length=40)] = ""


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
    """Who this browser is: a teacher's name, a group's name, both, or neither. `first`: the school has no account yet."""

    teacher: str | None
    group: str | None
    first: bool = False


class SignedIn(WhoAmI):
    """Who signed in. `language`: what their account is read in; empty where none was chosen."""

    language: str


class LanguageIn(BaseModel):
    """The language that a visitor reads."""

    language: LanguageCode


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
    """What was done: when, by whom, in words, in which lab (with its title as it was), and about what."""

    at: datetime.datetime
    who: str
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


class NewCode(BaseModel):
    """A lab's new join code."""

    code: str


class AccountOut(BaseModel):
    """The teacher's account. `second`: signing in takes a second step; `recovery`: codes left for a lost phone.

    `mail`: this school's server can send mail.
    """

    name: str
    email: str
    head: bool
    second: bool
    recovery: int
    mail: bool


class EmailIn(BaseModel):
    """An address for mail, empty for none, with the password."""

    email: Annotated[str, StringConstraints(max_length=200)]
    password: Annotated[str, StringConstraints(min_length=1, max_length=200)]


class SecondOut(BaseModel):
    """What an app for codes needs: the secret to type, or the link as a square code."""

    secret: str
    address: str
    qr_path: str
    qr_size: int


class CodeIn(BaseModel):
    """A code from the app, or a recovery code."""

    code: Annotated[str, StringConstraints(min_length=1, max_length=40)]


class RecoveryOut(BaseModel):
    """Codes that each sign the teacher in once without the app; shown this once."""

    codes: list[str]
