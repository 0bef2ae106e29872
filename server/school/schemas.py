"""What goes in and out about a school's accounts."""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

Name = Annotated[str, StringConstraints(min_length=1, max_length=150)]
Password = Annotated[str, StringConstraints(min_length=1, max_length=200)]
Secret = Annotated[str, StringConstraints(min_length=1, max_length=80)]
TeacherId = Annotated[int, Field(ge=1, le=2**53 - 1)]


class FirstIn(BaseModel):
    """The code in the terminal, and the first teacher's name and password."""

    code: Secret
    username: Name
    password: Password


class LinkIn(BaseModel):
    """The secret of a link."""

    secret: Secret


class LookOut(BaseModel):
    """What a link is for: a new account (`invite`) or a new password, for whom, and who made it."""

    kind: Literal["invite", "reset", "mail"]
    name: str
    made_by: str
    ends_at: datetime.datetime


class UseIn(BaseModel):
    """The secret of a link, the password to come, and the name of a new account."""

    secret: Secret
    username: Annotated[str, StringConstraints(max_length=150)] = ""
    password: Password


class ForgottenIn(BaseModel):
    """Whose password is forgotten."""

    username: Name


class InviteIn(BaseModel):
    """For whom the invitation is, in the head's own words."""

    name: Annotated[str, StringConstraints(max_length=80)] = ""


class NewLinkOut(BaseModel):
    """A new link, told this once; also as a square code."""

    address: str
    qr_path: str
    qr_size: int


class ColleagueOut(BaseModel):
    """A teacher of the school. What only its head may know is null for others."""

    id: int
    name: str
    head: bool
    active: bool
    me: bool
    last: datetime.datetime | None


class OpenLinkOut(BaseModel):
    """A link that still lets somebody in."""

    id: uuid.UUID
    kind: str
    name: str
    made_by: str
    ends_at: datetime.datetime


class SchoolOut(BaseModel):
    """A school's teachers, and for its head the open links; `cupboard`: whose is the school's."""

    head: bool
    teachers: list[ColleagueOut]
    links: list[OpenLinkOut]
    cupboard: int | None


class HeadIn(BaseModel):
    """Whether a teacher heads the school's accounts."""

    head: bool


class ActiveIn(BaseModel):
    """Whether a teacher may sign in."""

    active: bool


class CupboardIn(BaseModel):
    """Whose cupboard is the school's; null: everybody has their own."""

    teacher: TeacherId | None
