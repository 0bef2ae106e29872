"""What Power is asked and what it sends. Volts in V, currents in A, resistances in Ω, times in s."""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from galvanic.bench.pack_steps import Kind
from server.labs.schemas import NoteOut
from server.power.run_schemas import RunFileOut

CellText = Annotated[str, StringConstraints(max_length=260, pattern=r"^[^|]{1,80}\|[^|]{1,80}\|[^|]{1,80}$")]


class PackAsk(BaseModel):
    """A pack as it is thought of: cells of one row as `negative|electrolyte|positive`, so many such rows, and the load.

    `load`: a load's key, or ohms as digits. `volume_ml`: liquid in each cup, for how long it lasts.
    """

    load: Annotated[str, StringConstraints(min_length=1, max_length=40)] = "led-red"
    cell: Annotated[list[CellText], Field(min_length=1, max_length=12)]
    rows: Annotated[int, Field(ge=1, le=4)] = 1
    area_cm2: Annotated[float, Field(ge=0.1, le=200.0)] = 4.0
    gap_cm: Annotated[float, Field(ge=0.05, le=20.0)] = 2.0
    pairs: Annotated[int, Field(ge=1, le=6)] = 1
    volume_ml: Annotated[float, Field(ge=1.0, le=2000.0)] = 40.0


class LoadOut(BaseModel):
    """Something to run: where it begins and where it is full, `lamp` if it is one of those that shine."""

    key: str
    name: str
    lamp: bool
    low_v: float
    high_v: float
    most_v: float | None


class SpreadOut(BaseModel):
    """What can be expected: the middle and the ends of 95 %."""

    middle: float
    low: float
    high: float


class ShareOut(BaseModel):
    """One cell of the pack: with nothing joined and with the load on."""

    short: str
    open_v: float
    volts_v: float
    current_a: float
    backwards: bool
    measured: bool


class CurvePoint(BaseModel):
    """What the pack gives at a voltage, and what the load takes there."""

    volts_v: float
    gives_a: float
    low_a: float
    high_a: float
    takes_a: float


class SeenPoint(BaseModel):
    """A measurement of the class carried over to this pack: volts times the cells of a row, current times the rows."""

    volts_v: float
    current_a: float
    words: str


class HowManyOut(BaseModel):
    """So many cells in a row: the current through the load and how likely it runs."""

    cells: int
    current_a: float
    runs: float
    verdict: Literal["runs", "doubtful", "no"]
    said: str


class PackOut(BaseModel):
    """A pack with its load, as it can be expected."""

    load_name: str
    least_v: float | None
    full_v: float | None
    open_v: float
    volts_v: float
    current_a: float
    current: SpreadOut
    runs: float
    verdict: Literal["runs", "doubtful", "no"]
    level: str
    harm: str
    amps: str
    cells: list[ShareOut]
    curve: list[CurvePoint]
    seen: list[SeenPoint]
    notes: list[NoteOut]


class PackAdviceOut(BaseModel):
    """What takes longer to work out: how many cells, what one change would do, how long it lasts."""

    counts: list[HowManyOut]
    notes: list[NoteOut]


class KindOut(BaseModel):
    """One kind of cell: what it can do in its first seconds, whether the class has measured it, and under a load too."""

    cell: str
    short: str
    electrolyte: str
    open_v: float
    short_a: float
    power_w: float
    at_ohm: float | None
    measured: bool
    under_load: bool


class LabPower(BaseModel):
    """What a lab's Power page starts from: the loads there are, and the class's cells, strongest power first."""

    lab_id: uuid.UUID
    loads: list[LoadOut]
    kinds: list[KindOut]


class NumberRepairOut(BaseModel):
    """A correction of a pack's number that its group can send at one press."""

    label: str
    reason: str
    text: str
    unit: str


class PackEntryOut(BaseModel):
    """One thing about a pack as kept. `standing`: sound, doubtful, impossible or turned, and `why`; with what would put it
    right."""

    id: uuid.UUID
    kind: Kind
    position: int | None
    text: str
    unit: str
    value: float | None
    negative: str
    electrolyte: str
    positive: str
    corrected_by: uuid.UUID | None
    corrects: uuid.UUID | None
    reason: str
    received_at: datetime.datetime
    standing: str
    why: str
    repair: NumberRepairOut | None


class PackFindingOut(BaseModel):
    """What the numbers of a pack say, and what to try, in order; `cell` counts from the minus, from 1."""

    code: str
    sure: Literal["likely", "possible"]
    title: str
    text: str
    tries: list[str]
    cell: int | None


class PackStepOut(BaseModel):
    """One joined cell: alone, all singles up to it, what was measured of them together, and how much that is short, V."""

    cell: int
    alone_v: float | None
    singles_v: float | None
    sum_v: float | None
    short_v: float | None


class KeptPack(BaseModel):
    """A group's pack: its entries oldest first, what they say, why its load must not be joined, what can be seen."""

    id: uuid.UUID
    group: str
    load: str
    load_name: str
    entries: list[PackEntryOut]
    files: list[RunFileOut]
    steps: list[PackStepOut]
    findings: list[PackFindingOut]
    harm: str
    open_v: float | None
    seen: list[str]
    lit: bool | None
    received_at: datetime.datetime


class ChainIn(BaseModel):
    """A chain that a teacher begins: its load, and the kind of cell it is foretold with."""

    id: uuid.UUID
    load: Annotated[str, StringConstraints(min_length=1, max_length=40)]
    cell: CellText


class ForetoldOut(BaseModel):
    """So many cells of the class's own: what they come to with nothing joined, and whether the load runs."""

    cells: int
    open_v: float
    verdict: Literal["runs", "doubtful", "no"]
    said: str


class VotesOut(BaseModel):
    """The groups that said so many cells."""

    cells: int
    groups: list[str]


class LinkOut(BaseModel):
    """A joined cell: whose it is, what it has alone, what the whole row reads with it and how much it added; no number of
    the row where it does not count, and `why`."""

    id: uuid.UUID
    group: str
    short: str
    negative: str
    electrolyte: str
    positive: str
    alone_v: float | None
    text: str
    unit: str
    whole_v: float | None
    added_v: float | None
    why: str
    mine: bool


class ChainOut(BaseModel):
    """The class's chain. What is foretold, how others voted and cells alone only the teacher's screen has, and the first two
    not while it is `covered`: before all have voted, or the first cell is joined, the wall would tell what to vote."""

    id: uuid.UUID
    load_name: str
    least_v: float | None
    full_v: float | None
    short: str
    voting: bool
    covered: bool
    voted: int
    my_vote: int | None
    votes: list[VotesOut]
    without_vote: list[str]
    foretold: list[ForetoldOut]
    links: list[LinkOut]
    seen: str
    seen_with: int | None
    lit_with: int | None
    nearest: list[str]
    harm: str
    findings: list[PackFindingOut]
    can_be_seen: list[str]
    cautions: list[str]
    most: int


class LabChain(BaseModel):
    """The chain of a lab, if one was begun."""

    chain: ChainOut | None


class BenchPacks(BaseModel):
    """A group's packs, what there is to run, how each step is done, and what to take care of."""

    packs: list[KeptPack]
    chain: ChainOut | None
    loads: list[LoadOut]
    seen: dict[str, list[str]]
    how: dict[str, str]
    done: list[str]
    cautions: list[str]
    most: int


class LabPacks(BaseModel):
    """All packs of a lab."""

    packs: list[KeptPack]


class QuantityOut(BaseModel):
    """One quantity of a class's own fit; its scale goes from `least` to `most`, the model takes `usual` (null: none)."""

    key: str
    name: str
    beside: str
    says: str
    verdict: str
    best: float
    low: float
    high: float
    least: float
    most: float
    usual: float | None


class HeldOutOut(BaseModel):
    """A value that was left out, and what the others foretell of it with the fit and without; texts with units."""

    what: str
    measured: str
    fitted: str
    plain: str


class OwnFitOut(BaseModel):
    """A class's own fit of a cell; without values under load no quantities, and `verdict` says why."""

    quantities: list[QuantityOut]
    left_out: list[HeldOutOut]
    verdict: str
    measure_next: str
