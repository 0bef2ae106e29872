"""What Explain sends and takes. Voltages in V, currents in A, resistances in Ω."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from galvanic.level import Level
from server.labs.schemas import CellIO


class CauseOut(BaseModel):
    """One step from the table to the meter."""

    code: str
    plate: str | None
    name: str
    volts_v: float
    u_v: float
    equation: str
    test: str


class StepOut(BaseModel):
    """One step as it is drawn: a cause, or several small ones together; `big` where it is most of the gap."""

    code: str
    name: str
    from_v: float
    to_v: float
    u_v: float
    big: bool
    causes: list[CauseOut]


class WorkOut(BaseModel):
    """One half-reaction, its share of the current a minute into a short circuit (hydrogen at the negative plate: of what
    dissolves) and with nothing joined, and what is seen; in words instead of an equation for a group at the first level."""

    equation: str
    share: float
    resting: float
    what_is_seen: str
    remark: str


class ExplainOut(BaseModel):
    """One cell: where the volts went, and what happens at each plate. `negative_plate` is the one that really is; `level`:
    how far it is told; below the upper one causes have no working."""

    level: Level
    notation: str
    short: str
    cell: CellIO
    start: str
    by_table: bool
    start_v: float
    causes: list[CauseOut]
    steps: list[StepOut]
    measured_v: float
    u_measured_v: float
    n: int
    groups: int
    negative_plate: str
    positive_plate: str
    at_negative: list[WorkOut]
    at_positive: list[WorkOut]


class ArrowOut(BaseModel):
    """One thing that happens at a plate: in a few words, its share (0 to 1), whether gas rises."""

    words: str
    share: float
    gas: bool


class LoopOut(BaseModel):
    """The ring of a cell in a state (`open`, `meter`, `load`, `wire`): volts across it and current a minute on, what
    the negative plate gives and the positive one takes, the current for reading, all of it in words."""

    state: str
    volts_v: float
    current_a: float
    current: str
    flows: bool
    negative: str
    positive: str
    gives: list[ArrowOut]
    takes: list[ArrowOut]
    told: str


class ScoreOut(BaseModel):
    """One account against the groups' values: how often it has no answer, bias, rms, signs right.

    `common_rms_v` is on the cells that all ranked accounts answer, None where it answers too few to be ranked.
    """

    account: str
    name: str
    about: str
    n: int
    bias_v: float | None
    rms_v: float | None
    signs_right: int
    left_out: int
    common_rms_v: float | None
    worse_v: float | None
    worse_low_v: float | None
    worse_high_v: float | None


class AccountCell(BaseModel):
    """One cell and what each account says of it, None with the reason where it has no answer."""

    short: str
    electrolyte: str
    condition: str
    measured_v: float
    says_v: dict[str, float | None]
    reasons: dict[str, str]


class RankingOut(BaseModel):
    """Electronegativity as an order: right in `right` of `of` pairs; pairs that it gets wrong."""

    right: int
    of: int
    order: list[str]
    wrong: list[list[str]]


class AccountsOut(BaseModel):
    """The accounts, best first, ranked on `common` cells; `verdict` says in words what that comes to."""

    accounts: list[ScoreOut]
    cells: list[AccountCell]
    ranking: RankingOut | None
    outliers: int
    textbook: str
    common: int
    verdict: str


class AccountShare(BaseModel):
    """An account, or none of them, and its share of a hundred."""

    account: str
    name: str
    share: int


class StepOfShares(BaseModel):
    """The shares, from 0 to 1 by account, after one more value: whose, of which cell, V."""

    short: str
    group: str
    volts_v: float
    shares: dict[str, float]


class TellingOut(BaseModel):
    """A cell that could be measured next: what each account says of it, V, nats that it tells of them, how likely one then
    has 95 of 100, and whether the lab has its plates and liquid."""

    cell: CellIO
    short: str
    says_v: dict[str, float]
    nats: float
    decides: float
    here: bool


class DecidingOut(BaseModel):
    """How far the accounts are decided between, on `cells` cells: shares now, value by value, the most telling cells; and
    those of the lab that would sharpen its ladders most. `turn`: the value that moved the shares most, from 1; `turned` says
    so."""

    shares: list[AccountShare]
    steps: list[StepOfShares]
    telling: list[TellingOut]
    sharper: list[CellIO]
    cells: int
    verdict: str
    turn: int | None
    turned: str


class WhatIfIn(BaseModel):
    """A cell, and what is different about it; a field that is not one of these is refused."""

    model_config = ConfigDict(extra="forbid")

    cell: CellIO
    ph: Annotated[float, Field(ge=0, le=14)] | None = None
    ions_mol_per_l: Annotated[float, Field(ge=1e-9, le=2)] | None = None
    oxygen: Annotated[float, Field(ge=0, le=5)] = 1.0
    stir: Annotated[float, Field(ge=0.2, le=50)] = 1.0
    celsius: Annotated[float, Field(ge=5, le=60)] = 25.0
    chloride_mol_per_l: Annotated[float, Field(ge=0, le=5)] | None = None
    conductivity_s_per_m: Annotated[float, Field(ge=1e-4, le=100)] | None = None
    pairs: Annotated[int, Field(ge=1, le=20)] = 1
    area_cm2: Annotated[float, Field(gt=0, le=1000)] = 4.0
    gap_cm: Annotated[float, Field(gt=0, le=100)] = 2.0
    meter_ohm: Annotated[float, Field(ge=1, le=1e12)] = 1e7
    scratched: bool = False
    dull: bool = False


class OutcomeOut(BaseModel):
    """What the cell would do."""

    negative_v: float
    positive_v: float
    open_v: float
    shown_v: float
    short_a: float
    steady_a: float
    internal_ohm: float | None
    table_v: float | None


class WhatIfOut(BaseModel):
    """As it is and changed, what the liquid has now, and the current in A at which the inner resistance is stated."""

    usual: OutcomeOut
    changed: OutcomeOut
    ph: float
    chloride_mol_per_l: float
    conductivity_s_per_m: float
    inside_a: float
