"""What goes in and out of the bench and the board."""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated, Literal

from pydantic import AwareDatetime, BaseModel, StringConstraints

from server.labs.schemas import Key, PlannedCellOut


class ReadingIn(BaseModel):
    """One entry as typed; `corrects` and `reason` go together."""

    id: uuid.UUID
    cell_id: uuid.UUID
    red: Key
    black: Key
    text: Annotated[str, StringConstraints(max_length=200)]
    unit: Literal["V", "mV"]
    device_at: AwareDatetime | None = None
    corrects: uuid.UUID | None = None
    reason: Annotated[str, StringConstraints(max_length=200)] = ""


class ReadingOut(BaseModel):
    """A reading as kept. `signed_v` has red on the positive plate; `corrected_by` is the entry that replaced it."""

    id: uuid.UUID
    text: str
    unit: str
    volts_v: float
    signed_v: float
    resolution_v: float
    red: str
    black: str
    origin: str
    received_at: datetime.datetime
    corrected_by: uuid.UUID | None
    corrects: uuid.UUID | None
    reason: str


class CellWithReadings(PlannedCellOut):
    """A cell with its readings, oldest first."""

    readings: list[ReadingOut]


class BenchCell(CellWithReadings):
    """A cell on a group's bench, with the cautions for its materials."""

    cautions: list[str]


class BenchOut(BaseModel):
    """A group's own bench."""

    group: str
    lab: str
    state: str
    simulated: bool
    wanted: int
    cells: list[BenchCell]


class GroupBoard(BaseModel):
    """One group on the board."""

    id: uuid.UUID
    name: str
    pin: str
    cells: list[CellWithReadings]


class JustIn(BaseModel):
    """One of the latest readings; `nth` counts the entries of its cell."""

    id: uuid.UUID
    group: str
    cell: str
    electrolyte: str
    nth: int
    reading: ReadingOut


class BoardOut(BaseModel):
    """The room."""

    id: uuid.UUID
    title: str
    state: str
    join_code: str | None
    opened_at: datetime.datetime | None
    now: datetime.datetime
    minutes: int
    minutes_to_start: int
    minutes_per_cell: int
    minutes_to_clear: int
    simulated: bool
    wanted: int
    groups: list[GroupBoard]
    just_in: list[JustIn]
