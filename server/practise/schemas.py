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


class PractiseOut(BaseModel):
    """All that is practised, made by the core and simulated throughout. `same_v`: a typed sum this near is that one."""

    edition: str
    cases: list[DrillCase]
    sums: list[SumOut]
    same_v: float
    displays: list[DisplayOut]
    names: dict[str, str]
