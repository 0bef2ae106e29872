"""What a teacher sends from the board."""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from galvanic.notes import Tone
from server.entries.beside_schemas import AnswerKind
from server.entries.schemas import CellWithReadings, MeterOut, ReadingOut
from server.labs.policy import Stage
from server.labs.schemas import CellIO


class ReasonIn(BaseModel):
    """Why something is set aside; empty takes it back."""

    reason: Annotated[str, StringConstraints(max_length=200)]


class GiveIn(BaseModel):
    """The group a cell is given to."""

    group: uuid.UUID


class SwitchIn(BaseModel):
    """On or off."""

    on: bool


class MinutesIn(BaseModel):
    """Minutes to add to a period (below zero: to take off)."""

    minutes: Annotated[int, Field(ge=-120, le=120)]


class AddressIn(BaseModel):
    """Where a group's meter listens; empty for none."""

    address: Annotated[str, StringConstraints(max_length=60)]


class FlagOut(BaseModel):
    """What the checks say about a cell's last reading: a code, how sure, and a sentence."""

    code: str
    sure: Literal["likely", "possible"]
    text: str


class BoardCell(CellWithReadings):
    """A cell on the board; `flag` is what the checks say about its last reading, `asked` as on the bench, `begun`:
    something hangs at it, so it stays with its group."""

    flag: FlagOut | None
    asked: bool
    begun: bool


class ReliefOut(BaseModel):
    """A cell that could be given to another group."""

    cell: uuid.UUID
    short: str
    group: uuid.UUID
    name: str


class VisitReason(BaseModel):
    """One reason to go and see a group; `cell` is the cell it is about, `relief` what would help who is behind."""

    code: str
    tone: Tone
    text: str
    cell: uuid.UUID | None
    relief: ReliefOut | None


class VisitOut(BaseModel):
    """Whom to go and see, and why: the weightiest reason first."""

    group: str
    reasons: list[VisitReason]


class GroupBoard(BaseModel):
    """One group on the board; `meter` is its latest meter check, `aside` why all of it is set aside."""

    meter: MeterOut | None
    meter_address: str
    aside: str

    id: uuid.UUID
    name: str
    pin: str
    cells: list[BoardCell]


class WaitingQuestion(BaseModel):
    """A question that nobody has looked at."""

    id: uuid.UUID
    group: str
    group_id: uuid.UUID
    cell: uuid.UUID
    made_of: CellIO
    short: str
    text: str
    at: datetime.datetime


class QuestionAnswerIn(BaseModel):
    """What is made of a question; `cell`: another cell than the one it was asked at."""

    kind: AnswerKind
    text: Annotated[str, StringConstraints(max_length=300)] = ""
    cell: CellIO | None = None


class JustIn(BaseModel):
    """One of the latest readings; `nth` counts the entries of its cell."""

    id: uuid.UUID
    group: str
    cell: str
    electrolyte: str
    condition: str
    nth: int
    reading: ReadingOut


class SpanOut(BaseModel):
    """From when to when, in minutes of the period."""

    begin: float
    end: float


class BoardOut(BaseModel):
    """The room; `cell_minutes` is when the plan has each group's first, second, … cell, break and late start counted;
    `wrong_pins` those of the last hour where there are so many that somebody may be guessing, else 0."""

    id: uuid.UUID
    title: str
    state: str
    stage: Stage
    join_code: str | None
    opened_at: datetime.datetime | None
    now: datetime.datetime
    minutes: int
    minutes_in: float
    paused: bool
    show_values: bool
    cell_minutes: list[SpanOut]
    minutes_for_packs: float
    minutes_to_clear: float
    simulated: bool
    wanted: int
    groups: list[GroupBoard]
    just_in: list[JustIn]
    common: list[VisitReason]
    visits: list[VisitOut]
    more_visits: int
    questions: list[WaitingQuestion]
    wrong_pins: int
