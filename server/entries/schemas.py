"""What goes in and out of the bench and the board."""

from __future__ import annotations

import datetime
import uuid
from typing import Literal

from pydantic import BaseModel

from galvanic.bench.repairs import Kind, Unit
from galvanic.level import Level
from galvanic.notes import Tone
from server.entries.beside_schemas import Beside
from server.labs.schemas import PlannedCellOut


class ReadingOut(BaseModel):
    """A reading as kept: `volts_v` as the meter showed it, `signed_v` with the meter's offset taken off and red on the
    positive plate. `corrected_by` is the entry that replaced it, `aside` why it is set aside (empty: it counts).
    `after_closing`: it was typed in time and came in after the lab had closed. `standing`: sound, doubtful, impossible,
    turned or set aside, and `why`; None where it is not judged yet."""

    id: uuid.UUID
    text: str
    unit: str
    volts_v: float
    signed_v: float
    resolution_v: float
    offset_v: float
    red: str
    black: str
    origin: str
    taken_at: datetime.datetime
    received_at: datetime.datetime
    corrected_by: uuid.UUID | None
    corrects: uuid.UUID | None
    reason: str
    aside: str
    after_closing: bool
    standing: str | None
    why: str


class CellWithReadings(PlannedCellOut):
    """A cell with its readings, oldest first."""

    readings: list[ReadingOut]


class PredictionOut(BaseModel):
    """A prediction as kept; `remark` is what is odd about it, empty where it could be; `told` what became of its way, as
    soon as the cell is read."""

    id: uuid.UUID
    negative: str
    text: str
    unit: str
    volts_v: float | None
    way: str
    because: str
    remark: str
    told: str


class WorkedLine(BaseModel):
    """One line of the subtraction, and why."""

    text: str
    why: str


class TableValue(BaseModel):
    """A plate's value in the table, as it is read."""

    plate: str
    text: str


class Working(BaseModel):
    """The subtraction if `negative` is the negative plate, and the two values of the table by themselves; no lines and a
    reason where the table has no entry."""

    negative: str
    values: list[TableValue]
    lines: list[WorkedLine]
    reason: str


class GroupPrediction(BaseModel):
    """What one group predicted last."""

    group: str
    negative: str
    text: str
    unit: str
    volts_v: float | None
    way: str
    because: str


class PredictedCell(BaseModel):
    """A cell, the table's difference in V (None for an inert plate), and what groups predicted of it."""

    short: str
    negative: str
    electrolyte: str
    positive: str
    condition: str
    table_v: float | None
    predictions: list[GroupPrediction]


class PredictionsOut(BaseModel):
    """All predictions of a lab, cell by cell; `expected` is how many there would be."""

    cells: list[PredictedCell]
    made: int
    expected: int


class RepairOut(BaseModel):
    """A correction that a group can send at one press: the new reading, at its cell, with its leads."""

    kind: Kind
    label: str
    reason: str
    text: str
    unit: Unit
    cell_id: uuid.UUID
    red: str
    black: str


class FindingOut(BaseModel):
    """What the checks say about one reading, what to try, in order, and what could be put right at one press; `hint`: the
    same without what would answer the question for the group."""

    reading: uuid.UUID
    code: str
    sure: str
    title: str
    hint: str
    text: str
    tries: list[str]
    repairs: list[RepairOut]


class MeterOut(BaseModel):
    """A kept meter check with its verdict."""

    offset_v: float
    code: str
    tone: Tone
    text: str
    do: str


class OthersOut(BaseModel):
    """The other groups' values of a cell: how many groups, their mean, lowest and highest, V."""

    groups: int
    mean_v: float
    low_v: float
    high_v: float


class BenchCell(CellWithReadings):
    """A cell on a group's bench: cautions for its materials, what the checks say, whether the teacher asks for another
    reading, the latest prediction, and the subtraction both ways round. `others` stay covered (None) until the group has
    its own readings and the teacher shows them. `asks`: which prediction is asked for: of the cell, of the order of its
    plates alone, of what another level changes (once; `against` is the first's condition), or none."""

    findings: list[FindingOut]
    asked: bool
    beside: Beside
    others: OthersOut | None
    preparation: str
    cautions: list[str]
    prediction: PredictionOut | None
    working: list[Working]
    asks: Literal["cell", "order", "change", "nothing"]
    against: str


class BenchOut(BaseModel):
    """A group's own bench; `predict` if the teacher asks for predictions, `load_ohm` and `short_circuit` if
    for loads; `level`: how far words and workings go.

    `minutes_in` counts without pauses; `covered` says whether the others' values stay covered; `readable` is a pattern of
    what can be a reading, for a page without network; `live_meter` if there is a connected one. `settle_again_s` is the wait
    between two readings of a cell.
    """

    predict: bool
    level: Level
    short_circuit: bool
    load_ohm: float | None
    how_short: str
    how_load: str
    live_meter: bool
    covered: bool
    released: list[str]
    paused: bool
    readable: str
    now: datetime.datetime
    minutes: int
    minutes_in: float
    settle_s: float
    settle_again_s: float
    meter: MeterOut | None

    group: str
    group_id: uuid.UUID
    lab: str
    lab_id: uuid.UUID
    state: str
    simulated: bool
    wanted: int
    cells: list[BenchCell]
