"""What import answers."""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from server.materials.schemas import Key
from server.people.schemas import RowFaultOut
from server.records.spreadsheets import MOST_COLUMNS, MOST_LINES

Heading = Annotated[str, StringConstraints(max_length=200)]
Line = Annotated[int, Field(ge=1, le=MOST_LINES)]


class TableStarted(BaseModel):
    """A table that is being read or kept."""

    id: uuid.UUID


class MendedCell(BaseModel):
    """What a cell of a table should hold: by its line in the file and its place in it, from 0."""

    line: Line
    place: Annotated[int, Field(ge=0, lt=MOST_COLUMNS)]
    text: Annotated[str, StringConstraints(max_length=200)]


class LookIn(BaseModel):
    """What columns hold (by heading; empty: not used), and the keys that names of the table stand for; which sheet is read,
    which line is the heading (0: it is looked for), what single cells should hold, and which lines are left out."""

    columns: Annotated[dict[Heading, Heading], Field(max_length=60)] = {}
    called: Annotated[dict[Heading, Key], Field(max_length=60)] = {}
    sheet: Heading = ""
    heading: Annotated[int, Field(ge=0, le=MOST_LINES)] = 0
    cells: Annotated[list[MendedCell], Field(max_length=500)] = []
    without: Annotated[list[Line], Field(max_length=500)] = []


class KeepIn(BaseModel):
    """The title and date of the lab that a table becomes."""

    title: Annotated[str, StringConstraints(max_length=200)]
    on: datetime.date


class ColumnOut(BaseModel):
    """A column as understood; `means` is empty where it is not used."""

    heading: str
    means: str
    unit: str
    examples: list[str]


class NearOut(BaseModel):
    """A material by key and name."""

    key: str
    name: str


class UnknownOut(BaseModel):
    """A name that is not in the catalogue, with the nearest ones by key and name, and in how many rows it stands."""

    what: Literal["electrode", "electrolyte"]
    name: str
    nearest: list[NearOut]
    rows: int


class SheetSeen(BaseModel):
    """A sheet of a file with how many rows it has."""

    name: str
    rows: int


class LineSeen(BaseModel):
    """A line as it is read; `out`: it is left out."""

    line: int
    fields: list[str]
    out: bool


class TableSeen(BaseModel):
    """A table on its way in: how far, how it was understood, what is faulty (by line), or the lab it has become.

    `meanings` are what a column can hold. `message`: why it was refused. `sheets`: the one that is read first; `lines`: as
    they are read, those worth a look.
    """

    id: uuid.UUID
    name: str
    state: Literal["reading", "read", "keeping", "kept", "refused"]
    ready: bool
    columns: list[ColumnOut]
    meanings: list[str]
    readings: int
    groups: list[str]
    cells: int
    aside: int
    loads: int
    says: list[str]
    unknown: list[UnknownOut]
    faults: list[RowFaultOut]
    whole: bool
    message: str
    sheets: list[SheetSeen]
    lines: list[LineSeen]
    lab: uuid.UUID | None


class ImportedPackage(BaseModel):
    """The lab that was made of a package, how many rows came in by table, and the tables' editions there and here."""

    id: uuid.UUID
    title: str
    rows: dict[str, int]
    edition: str
    edition_here: str


class ImportedPacks(BaseModel):
    """What came in of a table of packs, and how many packs of it were there already."""

    packs: int
    entries: int
    known: int
