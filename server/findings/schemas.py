"""What Compare sends. All potentials in V against hydrogen, all voltages in V, `u_v` one standard uncertainty."""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated

from ninja import Schema
from pydantic import Field, StringConstraints

from server.labs.schemas import NoteOut


class Held(Schema):
    """Which electrode to hold at its table value: `electrolyte:electrode`, once for each electrolyte."""

    anchor: Annotated[list[Annotated[str, StringConstraints(max_length=130)]], Field(max_length=20)] = []


class GroupMean(Schema):
    """One group's mean for a cell, red on the positive plate."""

    group: str
    mean_v: float
    u_v: float
    n: int


class CellRow(Schema):
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


class RungOut(Schema):
    """One electrode on both stems."""

    electrode: str
    table_v: float | None
    class_v: float
    u_v: float


class SwapOut(Schema):
    """Two electrodes found in the other order."""

    upper: str
    lower: str
    by_v: float
    u_v: float


class ElectrolyteResultOut(Schema):
    """One electrolyte's result."""

    electrolyte: str
    anchor: str | None
    anchors: list[str]
    rungs: list[RungOut]
    loose: list[str]
    swaps: list[SwapOut]
    cells: list[CellRow]
    tau_v: float | None
    dof: int
    notes: list[NoteOut]


class CompareOut(Schema):
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
