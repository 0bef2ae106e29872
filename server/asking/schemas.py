"""What goes in and out of questions to a class."""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated

from pydantic import BaseModel, Field, StringConstraints

from server.labs.sheets.schemas import JoinLink

MOST_OPTIONS = 6
Code = Annotated[str, StringConstraints(min_length=1, max_length=40)]
OptionText = Annotated[str, StringConstraints(min_length=1, max_length=100, strip_whitespace=True)]


class ClassQuestionIn(BaseModel):
    """A question and what can be chosen; without options it is answered in words. `fits`: which option does, if one does."""

    text: Annotated[str, StringConstraints(min_length=1, max_length=200, strip_whitespace=True)]
    options: Annotated[list[OptionText], Field(max_length=MOST_OPTIONS)] = []
    fits: Annotated[int, Field(ge=0, lt=MOST_OPTIONS)] | None = None


class QuestionCode(BaseModel):
    """A question's code as it was typed."""

    code: Code


class ClassAnswerIn(BaseModel):
    """A device's answer: the place of an option, or words; the same id again changes nothing."""

    id: uuid.UUID
    code: Code
    device: uuid.UUID
    choice: Annotated[int, Field(ge=0, lt=MOST_OPTIONS)] | None = None
    text: Annotated[str, StringConstraints(max_length=280)] = ""


class QuestionForDevice(BaseModel):
    """What a device is asked; of the lab its title only."""

    code: str
    lab: str
    text: str
    options: list[str]


class ReadyQuestion(BaseModel):
    """A question to begin with."""

    key: str
    text: str
    options: list[str]
    fits: int | None
    about: str


class ThoughtOut(BaseModel):
    """A misconception behind answers: in how many, what speaks against it, and a question back."""

    name: str
    answers: int
    against: str
    question: str


class AskedOption(BaseModel):
    """An option and how many devices chose it last."""

    text: str
    chosen: int


class AskedOut(BaseModel):
    """A question as its teacher sees it: sums and words, never who. `link`: what a device opens, while its code opens
    anything; `before`: the same question's sums when it was asked first, by option (empty: it was not)."""

    id: uuid.UUID
    code: str
    text: str
    options: list[AskedOption]
    before: list[int]
    fits: int | None
    asked_at: datetime.datetime
    ended_at: datetime.datetime | None
    removed_at: datetime.datetime
    link: JoinLink | None
    devices: int
    texts: list[str]
    thoughts: list[ThoughtOut]


class AskPage(BaseModel):
    """A lab's questions to its class, the newest first, and ready ones to begin with."""

    title: str
    date: datetime.date
    state: str
    simulated: bool
    may_change: bool
    most_options: int
    ready: list[ReadyQuestion]
    asked: list[AskedOut]
