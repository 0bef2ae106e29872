"""What goes in and out beside readings: loads, observations, settings as found, photographs, traces."""

from __future__ import annotations

import datetime
import uuid
from typing import Literal

from pydantic import BaseModel


class UnderLoadOut(BaseModel):
    """A measurement under load as kept; `says` is the inner resistance in words, `remark` what is odd; empty: nothing.
    `standing`: sound, doubtful, or impossible: then it counts nowhere."""

    id: uuid.UUID
    kind: str
    text: str
    unit: str
    load_ohm: float | None
    says: str
    remark: str
    standing: str


class ObservationOut(BaseModel):
    """What a group saw, as kept."""

    id: uuid.UUID
    text: str
    received_at: datetime.datetime


class ActualOut(BaseModel):
    """What a cell was really set to, as kept: the variable's name and its value with unit."""

    id: uuid.UUID
    name: str
    text: str


AnswerKind = Literal["answered", "parked", "cell", "planned"]


class AnswerToQuestion(BaseModel):
    """What the teacher made of a question, and what they said."""

    kind: AnswerKind
    text: str
    at: datetime.datetime


class QuestionOut(BaseModel):
    """What a group asks about a cell, and its teacher's latest answer."""

    id: uuid.UUID
    text: str
    received_at: datetime.datetime
    answer: AnswerToQuestion | None


class PhotoOut(BaseModel):
    """A kept photograph; the picture itself is at /api/photos/{id}, unless it was removed, and by whom."""

    id: uuid.UUID
    width: int
    height: int
    received_at: datetime.datetime
    removed_at: datetime.datetime | None
    removed_by: Literal["group", "teacher"] | None


class TraceOut(BaseModel):
    """A kept trace: at most 200 samples of it, seconds and volts."""

    id: uuid.UUID
    name: str
    times_s: list[float]
    volts_v: list[float]


class PreviewTrace(BaseModel):
    """What was understood of a logger's file, before anything is kept; `read_text` is what would be read off at the end."""

    delimiter: str
    decimal: str
    time_column: str
    volts_column: str
    unit: str
    others: list[str]
    rows: int
    seconds: float
    skipped: list[str]
    skipped_count: int
    steady: bool | None
    read_text: str
    times_s: list[float]
    volts_v: list[float]


class Beside(BaseModel):
    """What a group keeps of a cell beside its readings."""

    under_load: list[UnderLoadOut]
    observations: list[ObservationOut]
    questions: list[QuestionOut]
    actuals: list[ActualOut]
    photos: list[PhotoOut]
    traces: list[TraceOut]
