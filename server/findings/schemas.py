"""What Compare sends. All potentials in V against hydrogen, all voltages in V, `u_v` one standard uncertainty."""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from server.labs.policy import Stage
from server.labs.schemas import CellIO, NoteOut


class Held(BaseModel):
    """Which electrode to hold at its table value: `electrolyte:electrode`, once for each electrolyte."""

    anchor: Annotated[list[Annotated[str, StringConstraints(max_length=130)]], Field(max_length=20)] = []


class GroupMean(BaseModel):
    """One group's mean for a cell, red on the positive plate; `outlier` if all other values contradict it."""

    group: str
    mean_v: float
    u_v: float
    n: int
    outlier: bool


class PredictedOut(BaseModel):
    """What a group predicted of a cell, signed as the cell is written; `off_v` is prediction less the group's own mean. Both
    are None where the order alone was foretold."""

    group: str
    signed_v: float | None
    right_sign: bool
    off_v: float | None


class ElsewhereOut(BaseModel):
    """A value from elsewhere, V, with its uncertainty where it is known, where it is from, and under which conditions."""

    id: uuid.UUID
    volts_v: float
    u_v: float | None
    source: str
    conditions: str


class ElsewhereIn(BaseModel):
    """A value from elsewhere as typed: volts between the plates as they are named, and (may be empty) their uncertainty."""

    cell: CellIO
    text: Annotated[str, StringConstraints(max_length=32)]
    u: Annotated[str, StringConstraints(max_length=32)] = ""
    source: Annotated[str, StringConstraints(max_length=200)]
    conditions: Annotated[str, StringConstraints(max_length=200)] = ""


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
    gap_percent: float | None
    n: int
    groups: list[GroupMean]
    predicted: list[PredictedOut]
    elsewhere: list[ElsewhereOut]


class RungOut(BaseModel):
    """One electrode on both stems; `low_v` to `high_v` is the 95 % interval, the held plate's is a point."""

    electrode: str
    table_v: float | None
    class_v: float
    u_v: float
    low_v: float
    high_v: float


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
    inside_v: float | None
    between_v: float | None
    notes: list[NoteOut]


class InLiquid(BaseModel):
    """A pair's class value in one liquid, with the middle pH and conductivity of the liquid."""

    electrolyte: str
    mean_v: float
    ph: float
    conductivity_s_per_m: float


class SlopeOut(BaseModel):
    """A straight line with the 95 % interval of its slope."""

    slope: float
    intercept: float
    low: float
    high: float


class PairInLiquidsOut(BaseModel):
    """The same pair across liquids; `per_decade` is against log10 of the conductivity in S/m."""

    short: str
    negative: str
    positive: str
    points: list[InLiquid]
    per_ph: SlopeOut | None
    per_decade: SlopeOut | None
    ph_says: str
    conductivity_says: str


class OffsetOut(BaseModel):
    """How much a group reads above the class in all its cells, with its 95 % interval; `sure` if it stands out of all."""

    group: str
    volts_v: float
    u_v: float
    low_v: float
    high_v: float
    sure: bool


class SharedOut(BaseModel):
    """One reading of the shared cell, minutes after the lab opened."""

    group: str
    minute: float
    volts_v: float


class AsideOut(BaseModel):
    """A reading that is set aside: by itself (`reading` is its id) or with its group."""

    reading: uuid.UUID
    group: str
    short: str
    electrolyte: str
    text: str
    unit: str
    reason: str


class LeftOutOut(BaseModel):
    """A reading that does not count, by its verdict, until its teacher says so; `repaired_v`: what it would be if what most
    likely happened is put right, V as the cell is written."""

    reading: uuid.UUID
    cell_id: uuid.UUID
    group: str
    short: str
    electrolyte: str
    condition: str
    text: str
    unit: str
    standing: str
    code: str
    why: str
    repaired_v: float | None


class AfterClosing(BaseModel):
    """A reading that was typed while the lab was open and came in after it had closed."""

    reading: uuid.UUID
    group: str
    short: str
    electrolyte: str
    text: str
    unit: str
    taken_at: datetime.datetime
    aside: str


class CompareOut(BaseModel):
    """A class's result. `released` are the parts that groups may see; `foretold` says how predictions did; `added`: a liquid
    and one made from it are both in it."""

    id: uuid.UUID
    title: str
    date: datetime.date
    state: str
    simulated: bool
    edition: str
    group_count: int
    reading_count: int
    stage: Stage
    released: list[str]
    electrolytes: list[ElectrolyteResultOut]
    added: bool
    notes: list[NoteOut]
    foretold: str
    liquids: list[PairInLiquidsOut]
    offsets: list[OffsetOut]
    shared: list[SharedOut]
    aside: list[AsideOut]
    left_out: list[LeftOutOut]
    after_closing: list[AfterClosing]


class ReleaseIn(BaseModel):
    """What groups may see."""

    parts: list[Literal["compare", "explain", "claims", "power", "notebook"]]


class TickOut(BaseModel):
    """What a group found at a level: the level's number as planned (a word's place in its order) and what it really was
    (`at`), V or A."""

    group: str
    level: float
    at: float
    value: float


class LinePoint(BaseModel):
    """A point of the class's line."""

    at: float
    value: float


class LevelOut(BaseModel):
    """What the model says at a level, with its standard uncertainty where it states one."""

    at: float
    value: float
    u: float | None


class ChangedOut(BaseModel):
    """One quantity of one pair against what was changed; `words` are the levels of a variable that is not measured."""

    variable: str
    name: str
    unit: str
    words: list[str]
    short: str
    electrolyte: str
    quantity: Literal["volts", "current"]
    ticks: list[TickOut]
    line: list[LinePoint]
    model: list[LevelOut]
    notes: list[NoteOut]
    keep: list[str]


class VariablesOut(BaseModel):
    """What a lab found of what it changed on purpose."""

    changed: list[ChangedOut]
