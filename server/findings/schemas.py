"""What Compare sends. All potentials in V against hydrogen, all voltages in V, `u_v` one standard uncertainty."""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated

from pydantic import BaseModel, Field, StringConstraints

from server.labs.schemas import NoteOut


class Held(BaseModel):
    """Which electrode to hold at its table value: `electrolyte:electrode`, once for each electrolyte."""

    anchor: Annotated[list[Annotated[str, StringConstraints(max_length=130)]], Field(max_length=20)] = []


class GroupMean(BaseModel):
    """One group's mean for a cell, red on the positive plate."""

    group: str
    mean_v: float
    u_v: float
    n: int


class CellRow(BaseModel):
    """One cell beside the table; the interval is 95 %, between groups, None with one group."""

    short: str
    negative: str
    positive: str
    table_v: float | None
    mean_v: float
    u_v: float | None
    low_v: float | None
    high_v: float | None
    gap_v: float | None
    n: int
    groups: list[GroupMean]


class RungOut(BaseModel):
    """One electrode on both stems."""

    electrode: str
    table_v: float | None
    class_v: float
    u_v: float


class SwapOut(BaseModel):
    """Two electrodes found in the other order."""

    upper: str
    lower: str
    by_v: float
    u_v: float


class ElectrolyteResultOut(BaseModel):
    """One electrolyte's result."""

    electrolyte: str
    condition: str
    anchor: str | None
    anchors: list[str]
    rungs: list[RungOut]
    loose: list[str]
    swaps: list[SwapOut]
    cells: list[CellRow]
    tau_v: float | None
    dof: int
    notes: list[NoteOut]


class CompareOut(BaseModel):
    """A class's result."""

    id: uuid.UUID
    title: str
    date: datetime.date
    state: str
    simulated: bool
    edition: str
    group_count: int
    reading_count: int
    electrolytes: list[ElectrolyteResultOut]
