"""What goes in and out about labs and their plans."""

from __future__ import annotations

import datetime
import uuid
from dataclasses import asdict
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from galvanic.cells import Cell
from galvanic.notes import Tone
from server.labs.policy import Stage
from server.labs.settings import LabSettings, Period, StepsIO, Varies
from server.materials.schemas import Key

Condition = Annotated[str, StringConstraints(max_length=40)]


class TimesIn(BaseModel):
    """Minutes of a period and its steps."""

    minutes: Period
    steps: StepsIO


class DeletedLab(BaseModel):
    """A deleted lab, and the day on which it goes for good."""

    id: uuid.UUID
    title: str
    date: datetime.date
    gone_on: datetime.date


class TitleIn(BaseModel):
    """A lab’s title as the teacher has typed it, to delete the lab."""

    title: Annotated[str, StringConstraints(max_length=200)]


class RenameIn(TitleIn):
    """What a lab is called from now on, and its question; None: the question stays."""

    question: Annotated[str, StringConstraints(max_length=200, strip_whitespace=True)] | None = None


class CopyIn(BaseModel):
    """The title and date of a copy; `anew`: its cells are planned anew, without what was changed by hand."""

    anew: bool = False

    title: Annotated[str, StringConstraints(min_length=1, max_length=120)]
    date: datetime.date


Way = Literal["own", "work", "look"]


class TagsIn(BaseModel):
    """A lab's tags."""

    tags: Annotated[list[Annotated[str, StringConstraints(max_length=60)]], Field(max_length=20)]


class ArchiveIn(BaseModel):
    """Whether a lab is put away."""

    away: bool


class LabLine(BaseModel):
    """A lab in a line. `way`: whether it is the teacher's own, or shared with them to work in or to look at."""

    id: uuid.UUID
    title: str
    date: datetime.date
    state: str
    stage: Stage
    join_code: str | None
    simulated: bool
    group_count: int
    way: Way
    owner: str


class CellIO(BaseModel):
    """A cell by keys; `condition` is empty where a lab varies nothing else."""

    negative: Key
    electrolyte: Key
    positive: Key
    condition: Condition = ""

    @classmethod
    def of(cls, cell: Cell) -> CellIO:
        """A cell as it is sent."""
        return cls(**asdict(cell))

    @property
    def cell(self) -> Cell:
        """The cell as the core knows it."""
        return Cell(**self.model_dump())


class LevelSet(BaseModel):
    """What a cell is set to: a variable by key and name, and its value with unit."""

    variable: str
    name: str
    text: str


class PlannedCellOut(BaseModel):
    """A cell on a group's list; `setting` is what its condition asks for at the bench (empty where it has none), `level`
    the same as data where a variable fits."""

    id: uuid.UUID
    short: str
    negative: str
    electrolyte: str
    positive: str
    condition: str
    setting: str
    level: LevelSet | None
    shared: bool
    pinned: bool


class GroupPlan(BaseModel):
    """A group with its PIN and its cells, in order."""

    id: uuid.UUID
    name: str
    pin: str
    cells: list[PlannedCellOut]


class CellOut(BaseModel):
    """A cell by keys, as it is sent."""

    negative: str
    electrolyte: str
    positive: str
    condition: str


class ActionOut(BaseModel):
    """What a note offers to do: an edit of the plan."""

    kind: str
    label: str
    cell: CellOut | None
    times: int
    group: int | None


class NoteOut(BaseModel):
    """A margin note with at most one action, and the numbers behind it."""

    code: str
    tone: Tone
    title: str
    text: str
    action: ActionOut | None
    evidence: list[str]


class CountOut(BaseModel):
    """How many groups measure a cell; `wished` if the teacher asked for that number."""

    negative: str
    electrolyte: str
    positive: str
    condition: str
    count: int
    wished: bool
    shared: bool


class BathOut(BaseModel):
    """One ladder: a liquid in one condition."""

    electrolyte: str
    condition: str


class SegmentOut(BaseModel):
    """A stretch of a group's period in minutes; `cell` counts from 0."""

    kind: str
    begin: float
    end: float
    cell: int | None


class PlanDetail(BaseModel):
    """The matrix of counts, the room's time, and how sharp the plan is."""

    order: list[str]
    baths: list[BathOut]
    counts: list[CountOut]
    places: int
    lanes: list[list[SegmentOut]]
    needed: float
    nearness: float
    changes: int


class LabOut(LabLine):
    """A lab whole. `plan` is None where the cells cannot be judged as a plan (brought in from a file); `mark` tells whether
    its settings are still as a form found them; `lesson`: how that of its template goes."""

    settings: LabSettings
    mark: str
    edition: str
    code: str
    groups: list[GroupPlan]
    notes: list[NoteOut]
    cautions: list[str]
    signed: bool
    plan: PlanDetail | None
    last_change: str | None
    lesson: LessonOut | None


class ForeseenLine(BaseModel):
    """Something that can be said at the end of a lab, in how many of 100 classes like this, and what belongs to it."""

    what: str
    share: float
    remark: str


class ForeseenOut(BaseModel):
    """What a plan foresees of its answer, who will get through (and with lists of how many cells more would), how often
    accounts will be decided between, what the cell that every group measures costs and buys, and what loads would tell (each
    empty where there is nothing to say)."""

    lines: list[ForeseenLine]
    pace: str
    shorter: int | None = None
    decided: str
    trade: str = ""
    loads: str = ""


class EditIn(BaseModel):
    """One change of a draft's plan; groups by their place from 0; `places`: how many cells the longest list shall have."""

    kind: Literal[
        "more",
        "fewer",
        "drop",
        "move",
        "ban",
        "pin",
        "unwish",
        "clear",
        "fill",
        "anew",
        "apart",
        "shorter",
        "decide",
        "improve",
        "undo",
    ]
    cell: CellIO | None = None
    group: Annotated[int, Field(ge=0, le=60)] | None = None
    to: Annotated[int, Field(ge=0, le=60)] | None = None
    times: Annotated[int, Field(ge=1, le=10)] = 1
    places: Annotated[int, Field(ge=1, le=20)] | None = None
    round: Annotated[int, Field(ge=0, le=20)] = 0


class EditedOut(BaseModel):
    """The lab after a change, and what it did in sentences."""

    said: list[str]
    lab: LabOut


class PreviewCell(BaseModel):
    """A cell of a plan that is not kept yet."""

    short: str
    electrolyte: str
    condition: str
    shared: bool


class PreviewOut(BaseModel):
    """How a plan would be shared out, before it is kept."""

    hands: list[list[PreviewCell]]
    said: list[str]
    safety: list[NoteOut]
    notes: list[NoteOut]
    plan: PlanDetail


class LessonStepOut(BaseModel):
    """Minutes of a lesson and what happens in them."""

    minutes: int
    what: str


class LessonOut(BaseModel):
    """How a lesson goes: steps, what to ask, what to expect, what goes wrong, and what groups that are early can do."""

    steps: list[LessonStepOut]
    asks: list[str]
    expect: str
    wrong: list[str]
    early: str


class TemplateOut(BaseModel):
    """A starting point for a plan; what it leaves open (minutes of None, no groups) stays as it is. `sides`: two things said
    of it at benches that cannot both be so, as long as nobody measures; none where people agree."""

    key: str
    name: str
    about: str
    varies: Varies
    question: str
    kept: str
    against: str
    electrodes: list[str]
    electrolytes: list[str]
    conditions: list[str]
    minutes: int | None = None
    groups: list[str] = []
    short_circuit: bool = False
    packs: bool = False
    sides: list[str] = []
    lesson: LessonOut | None


class VariableOut(BaseModel):
    """One thing that a lab can change on purpose: its usual levels as settings, how to set it up, and what a lab that
    changes it is called, asks and keeps the same; `short`: its answer is in the current, so that is measured, too."""

    varies: Varies
    name: str
    settings: list[str]
    set_up: str
    title: str
    question: str
    kept: str
    short: bool
    hazard: str


class StartOut(BaseModel):
    """What a new lab begins with: the usual settings, templates to start from, and what can be changed on purpose."""

    usual: LabSettings
    templates: list[TemplateOut]
    variables: list[VariableOut]


class LabShareIn(BaseModel):
    """With which colleague the lab is shared, and how."""

    teacher: Annotated[int, Field(ge=1, le=2**53 - 1)]
    way: Literal["work", "look", "no"]


class LabShareOut(BaseModel):
    """How a lab is shared with a colleague."""

    teacher: int
    name: str
    way: Literal["work", "look", "no"]


class LabSharesOut(BaseModel):
    """Whose a lab is; for its owner, how it is shared with each colleague."""

    way: Way
    owner: str
    colleagues: list[LabShareOut]
