"""What goes in and out about labs and materials."""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from server.labs.policy import Stage

Key = Annotated[str, StringConstraints(max_length=60)]


class ElectrodeOut(BaseModel):
    """An electrode of the catalogue; `table_v` in V against hydrogen, None for an inert plate."""

    key: str
    symbol: str
    name: str
    supplied: str
    table_v: float | None
    prepare: str
    usual: bool
    cautions: list[str]


class ElectrolyteOut(BaseModel):
    """An electrolyte of the catalogue, pH as a range."""

    key: str
    name: str
    form: str
    ph_low: float
    ph_high: float
    usual: bool
    cautions: list[str]


class MaterialsOut(BaseModel):
    """The catalogue."""

    edition: str
    electrodes: list[ElectrodeOut]
    electrolytes: list[ElectrolyteOut]


class LabIn(BaseModel):
    """What a teacher chooses for a lab."""

    title: Annotated[str, StringConstraints(min_length=1, max_length=120)]
    date: datetime.date
    minutes: Annotated[int, Field(ge=10, le=600)]
    electrodes: Annotated[list[Key], Field(max_length=40)]
    electrolytes: Annotated[list[Key], Field(max_length=20)]
    groups: Annotated[list[Annotated[str, StringConstraints(max_length=60)]], Field(max_length=60)]


class LabLine(BaseModel):
    """A lab in the list of labs."""

    id: uuid.UUID
    title: str
    date: datetime.date
    state: str
    stage: Stage
    join_code: str | None
    simulated: bool
    group_count: int
    reading_count: int


class PlannedCellOut(BaseModel):
    """A cell on a group's list."""

    id: uuid.UUID
    short: str
    negative: str
    electrolyte: str
    positive: str
    shared: bool


class GroupPlan(BaseModel):
    """A group with its PIN and its cells, in order."""

    id: uuid.UUID
    name: str
    pin: str
    cells: list[PlannedCellOut]


class NoteOut(BaseModel):
    """A margin note."""

    code: str
    tone: Literal["plain", "good", "caution", "wrong"]
    title: str
    text: str


class LabOut(LabLine):
    """A lab whole."""

    minutes: int
    edition: str
    electrodes: list[str]
    electrolytes: list[str]
    groups: list[GroupPlan]
    notes: list[NoteOut]
    cautions: list[str]


class PreviewCell(BaseModel):
    """A cell of a plan that is not kept yet."""

    short: str
    electrolyte: str
    shared: bool


class PreviewOut(BaseModel):
    """How a plan would be shared out, before it is kept."""

    hands: list[list[PreviewCell]]
    notes: list[NoteOut]
