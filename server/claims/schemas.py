"""What goes in and out of claims."""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from galvanic.findings.verdicts import Code
from server.labs.schemas import CellIO
from server.materials.schemas import Key


class ClaimIn(BaseModel):
    """One version of a claim, about a cell, the group's `pack`, or (both None) the whole ladder; `revises` is the version
    before."""

    id: uuid.UUID
    cell: CellIO | None
    pack: uuid.UUID | None = None
    cause: Key
    reasoning: Annotated[str, StringConstraints(max_length=1500)]
    against: Annotated[str, StringConstraints(max_length=600)] = ""
    cited: Annotated[list[uuid.UUID], Field(max_length=30)]
    may_show: bool = False
    revises: uuid.UUID | None = None


class CauseChoice(BaseModel):
    """A cause that may be claimed (of a pack: `of_pack`), and what would follow from it."""

    key: str
    of_pack: bool
    name: str
    implies: str


class HeardOut(BaseModel):
    """A misconception heard in the reasoning: what speaks against it, in chemistry and in this class's data. `meant`: what
    the group said when it was asked (None: not yet); until then its own page has the question alone."""

    key: str
    meant: bool | None
    name: str
    against: str
    in_data: str
    question: str


class MeantIn(BaseModel):
    """Whether the group means a belief that was heard in a claim, by its key."""

    id: uuid.UUID
    belief: Annotated[str, StringConstraints(min_length=1, max_length=60)]
    yes: bool


class BeliefOut(BaseModel):
    """A belief in the class: what it is, what speaks against it in the class's own data, groups that said they mean it in
    their latest claims, groups in whose it is heard and that have not answered, and groups that only had it before; `lab`:
    the ready lab that would test it, by its key (empty: none)."""

    key: str
    name: str
    lab: str
    in_data: str
    question: str
    means: list[str]
    perhaps: list[str]
    before: list[str]


class CitedOut(BaseModel):
    """A cited reading, of the cell as it was on the group's list: with its liquid and what was changed."""

    id: uuid.UUID
    text: str
    unit: str
    cell: CellIO


class OwnTestIn(BaseModel):
    """What a group did to test a claim (a key of its `tests`), and its meter's reading before and after, as typed."""

    id: uuid.UUID
    test: Annotated[str, StringConstraints(min_length=1, max_length=100)]
    before: Annotated[str, StringConstraints(min_length=1, max_length=32)]
    after: Annotated[str, StringConstraints(min_length=1, max_length=32)]


class TestChoice(BaseModel):
    """What can be done at the bench to test a claim; what should happen is not told before."""

    key: str
    do: str


class OwnTestOut(BaseModel):
    """A test that was done: what, the readings as typed, and what they say of the claim."""

    id: uuid.UUID
    do: str
    before: str
    after: str
    verdict: Code
    says: str
    question: str


class AnswerOut(BaseModel):
    """The teacher's latest answer."""

    text: str
    marks: dict[str, float]
    shown: bool
    at: datetime.datetime


class ClaimOut(BaseModel):
    """A version of a claim, what the core says of it, and the teacher's answer. `latest` if no later version revises it.

    `held_s`: so long the numbers' verdict is held back from the group that makes one version after the other; `tries`:
    versions of the group about the same thing up to this one, and `causes` how many different ones. `tests`: what can be
    done at the bench to test it, `tested`: what was."""

    id: uuid.UUID
    group: str
    cell: CellIO | None
    pack: uuid.UUID | None
    short: str
    cause: str
    cause_name: str
    reasoning: str
    against: str
    cited: list[CitedOut]
    may_show: bool
    revises: uuid.UUID | None
    latest: bool
    received_at: datetime.datetime
    verdict: Code | Literal["held"]
    held_s: float
    tries: int
    causes: int
    says: str
    question: str
    evidence: str
    heard: list[HeardOut]
    tests: list[TestChoice]
    tested: list[OwnTestOut]
    answer: AnswerOut | None


class RubricLevel(BaseModel):
    """What is worth so many points, with an example (empty: none)."""

    points: Annotated[int, Field(ge=0, le=20)]
    text: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    example: Annotated[str, StringConstraints(max_length=200)] = ""


class RubricRow(BaseModel):
    """A row of the rubric, the most points it gives, and what is worth how many."""

    name: Annotated[str, StringConstraints(max_length=40)]
    most: Annotated[int, Field(ge=1, le=20)]
    levels: Annotated[list[RubricLevel], Field(max_length=8)] = []


class PackChoice(BaseModel):
    """A pack that a claim may be about."""

    id: uuid.UUID
    name: str


class WeighedOut(BaseModel):
    """A cause of a pack's trouble and what its own numbers say to it."""

    key: str
    name: str
    implies: str
    verdict: Code
    says: str
    question: str


class PackWeighedOut(BaseModel):
    """A group's pack with every cause that may be claimed of it."""

    id: uuid.UUID
    group: str
    name: str
    causes: list[WeighedOut]


class PacksWeighedOut(BaseModel):
    """The packs of a lab that did not do what they should, or were watched over time."""

    packs: list[PackWeighedOut]


class ClaimsOut(BaseModel):
    """All claims of a lab, or of a group, with the causes there are, the rubric, and what is released. `opens`: the cells
    whose explanation a group has opened by a claim; `beliefs`: for the teacher, what groups seem to believe, of `groups`."""

    claims: list[ClaimOut]
    causes: list[CauseChoice]
    packs: list[PackChoice]
    rubric: list[RubricRow]
    released: list[str]
    opens: list[CellIO]
    beliefs: list[BeliefOut]
    groups: int


class AnswerIn(BaseModel):
    """The teacher's answer to a claim."""

    text: Annotated[str, StringConstraints(max_length=600)] = ""
    marks: Annotated[dict[str, float], Field(max_length=8)] = {}
    shown: bool = False


class RubricIn(BaseModel):
    """The rows of the rubric."""

    rows: Annotated[list[RubricRow], Field(max_length=8)]
