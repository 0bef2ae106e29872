"""What the practice bench is made of: cases, sums, displays, all tables that it needs without the network."""

from __future__ import annotations

from pydantic import BaseModel


class DrillAnswer(BaseModel):
    """What a hand finds; two answers with one code are alike."""

    says: str
    code: str


class DrillHand(BaseModel):
    """A hand one has at a bench."""

    key: str
    name: str


class DrillCause(BaseModel):
    """A fault that can be behind a symptom: what mends it, why the number is as it is, and its answer to every hand."""

    key: str
    name: str
    mend: str
    why: str
    answers: dict[str, DrillAnswer]


class DrillCase(BaseModel):
    """A bench that is called out by its symptom; its cell by keys, `symbols` of its two plates, negative first."""

    symptom: str
    seen: str
    cell: str
    negative: str
    electrolyte: str
    positive: str
    symbols: list[str]
    right_v: float
    hands: list[DrillHand]
    causes: list[DrillCause]


class SlipOut(BaseModel):
    """A wrong answer in V that is understood."""

    volts_v: float
    did: str
    look: str


class SumLine(BaseModel):
    """A line of the subtraction, and why."""

    text: str
    why: str


class SumOut(BaseModel):
    """A question: what two plates give by the table; `right_v` is None where the table has no answer."""

    first: str
    second: str
    first_v: float | None
    second_v: float | None
    negative: str
    right_v: float | None
    lines: list[SumLine]
    slips: list[SlipOut]


class MisreadOut(BaseModel):
    """A misreading in V that is understood."""

    volts_v: float
    did: str


class DisplayOut(BaseModel):
    """A meter to be read: a needle (0 to 1 of its scale) or digits, its range and unit."""

    needle: float | None
    scale: int
    digits: str
    range_v: float
    unit: str
    battery: bool
    volts_v: float
    step_v: float
    misread: list[MisreadOut]


class MeterRangeOut(BaseModel):
    """A place of the dial: its last digit and how many volts it reads at most."""

    name: str
    step_v: float
    most_v: float


class MeterKindOut(BaseModel):
    """A kind of meter: its ranges, what it shows beyond one, and what a flat battery makes of volts."""

    key: str
    name: str
    ranges: list[MeterRangeOut]
    beyond: str
    flat_times: float


class ChoiceOut(BaseModel):
    """One thing that can be changed, and what it can be: a word, and the change's name, empty for what stands unchanged."""

    name: str
    levels: dict[str, str]


class ChangeOut(BaseModel):
    """What a change adds to the open volts, and makes of the current."""

    name: str
    adds_v: float
    times: float


class PairOut(BaseModel):
    """A pair in a liquid, positive less negative as they are there; `shorted_a`: current so many seconds after a short;
    `left`: what part of its open volts each load leaves then."""

    negative: str
    electrolyte: str
    positive: str
    volts_v: float
    shorted_a: list[float]
    left: list[list[float]]
    changes: list[ChangeOut]


class OfferedLoadOut(BaseModel):
    """A load that can be joined; 0 Ω is a short."""

    ohm: float
    name: str


class FreeBenchOut(BaseModel):
    """What the free bench is made of; scatter of plates, of a dip and of a sample in V, and how a number settles.

    `offered`: loads that can be joined.
    """

    plates: list[str]
    liquids: list[str]
    choices: list[ChoiceOut]
    offered: list[OfferedLoadOut]
    most_cells: int
    loads_ohm: list[float]
    seconds: list[float]
    pairs: list[PairOut]
    meters: list[MeterKindOut]
    plate_v: float
    dip_v: float
    noise_v: float
    begin: float
    settle_s: float


class PractiseOut(BaseModel):
    """All that is practised, made by the core and simulated throughout. `same_v`: a typed sum this near is that one."""

    edition: str
    cases: list[DrillCase]
    sums: list[SumOut]
    same_v: float
    displays: list[DisplayOut]
    bench: FreeBenchOut
    names: dict[str, str]
