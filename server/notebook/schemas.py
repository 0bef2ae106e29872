"""What goes in and out of notebooks."""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from server.claims.schemas import ClaimOut, RubricRow
from server.entries.beside_schemas import Beside
from server.entries.entry import Entry
from server.entries.schemas import CellWithReadings, PredictionOut
from server.power.schemas import KeptPack

PartKey = Literal["question", "expectation", "discussion", "conclusion", "next"]
MOST_TEXT, MOST_CITES = 6000, 40
Text = Annotated[str, StringConstraints(max_length=MOST_TEXT)]


class Cite(BaseModel):
    """Something a part points at as evidence."""

    kind: Literal["reading", "load", "trace", "pack", "claim"]
    id: uuid.UUID


class WordsIn(Entry):
    """A version of a part in the group's own words; `follows` is the version it was written over."""

    part: PartKey
    text: Text
    cites: Annotated[list[Cite], Field(max_length=MOST_CITES)] = []
    follows: uuid.UUID | None = None


class HandInIn(Entry):
    """A notebook handed in."""


class ReturnIn(BaseModel):
    """What the teacher says to a notebook: words, a remark for a part, points by row of the rubric."""

    text: Annotated[str, StringConstraints(max_length=2000)] = ""
    remarks: dict[PartKey, Annotated[str, StringConstraints(max_length=600)]] = {}
    marks: Annotated[dict[str, float], Field(max_length=8)] = {}


class VersionOut(BaseModel):
    """A version of a part."""

    id: uuid.UUID
    text: str
    cites: list[Cite]
    at: datetime.datetime


class VersionsOut(BaseModel):
    """All versions of a part, newest first."""

    versions: list[VersionOut]


class PartOut(BaseModel):
    """A part of a notebook: its heading, what it asks, the newest version (none: `id` is None), how many there are, and the
    ids of the last ones.

    `parallel`: another device of the group wrote over the same earlier version, so its words are only among the versions.
    """

    key: PartKey
    name: str
    asks: str
    id: uuid.UUID | None
    text: str
    cites: list[Cite]
    at: datetime.datetime | None
    versions: int
    recent: list[uuid.UUID]
    parallel: bool
    remark: str


class LineOut(BaseModel):
    """A line of a working: what, the sum (may be empty), and what it gives."""

    name: str
    sum: str
    gives: str


class ValueOut(BaseModel):
    """What a cell came to, V, with its standard uncertainty and (for a class) its 95 % interval; how it was worked out."""

    mean_v: float
    u_v: float | None
    low_v: float | None
    high_v: float | None
    groups: int
    working: list[LineOut]


class BookCell(CellWithReadings):
    """A cell in a group's notebook; `classes` is the class's value, None while it is covered or there is none."""

    table_v: float | None
    prediction: PredictionOut | None
    beside: Beside
    own: ValueOut | None
    classes: ValueOut | None


class MeterLine(BaseModel):
    """A check of the meter, as typed, and what was said to it."""

    leads: str
    dry: str
    says: str
    at: datetime.datetime


class ReturnedOut(BaseModel):
    """What the teacher has said to a notebook, and when."""

    text: str
    marks: dict[str, float]
    at: datetime.datetime


class BookHead(BaseModel):
    """What stands at the top of every notebook of a lab."""

    id: uuid.UUID
    title: str
    date: datetime.date
    question: str
    kept: str
    state: str
    simulated: bool
    edition: str
    signed_at: datetime.datetime | None
    cautions: list[str]
    missing: list[str]
    rubric: list[RubricRow]
    released: list[str]


class NotebookOut(BookHead):
    """A group's notebook: what it recorded, its own words, and what the teacher says to them."""

    group: str
    group_id: uuid.UUID
    may_write: bool
    meter: list[MeterLine]
    cells: list[BookCell]
    packs: list[KeptPack]
    claims: list[ClaimOut]
    parts: list[PartOut]
    handed_in_at: datetime.datetime | None
    written_since: bool
    returned: ReturnedOut | None


class ClassCell(BaseModel):
    """A cell in the class's notebook: who measured it, and its working."""

    short: str
    negative: str
    electrolyte: str
    positive: str
    condition: str
    table_v: float | None
    by: list[str]
    classes: ValueOut


class GroupWords(BaseModel):
    """What a group has written, part by part, those with words only."""

    group: str
    parts: list[PartOut]


class ClassBookOut(BookHead):
    """The class's notebook, from what all groups recorded and wrote."""

    signed_by: str
    groups: list[str]
    cells: list[ClassCell]
    packs: list[KeptPack]
    claims: list[ClaimOut]
    words: list[GroupWords]


class NotebookLine(BaseModel):
    """A group's notebook in a line."""

    group_id: uuid.UUID
    group: str
    state: Literal["empty", "begun", "handed_in", "returned"]
    parts: int
    handed_in_at: datetime.datetime | None
    written_since: bool
    marks: dict[str, float]


class NotebooksOut(BaseModel):
    """All notebooks of a lab, in the order of its groups."""

    title: str
    date: datetime.date
    state: str
    simulated: bool
    released: list[str]
    rubric: list[RubricRow]
    notebooks: list[NotebookLine]


class GroupEvidence(BaseModel):
    """What a group kept of a cell beside its readings, those with something only."""

    group: str
    cell_id: uuid.UUID
    beside: Beside


class EvidenceOut(BaseModel):
    """What stands beside a cell's numbers: by group, and packs built of such cells."""

    groups: list[GroupEvidence]
    packs: list[KeptPack]
