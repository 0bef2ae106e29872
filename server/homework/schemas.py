"""What goes in and out of homework."""

from __future__ import annotations

import datetime
import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field, StringConstraints

from server.labs.sheets.schemas import JoinLink

FEWEST, MOST = 3, 20
Key = Annotated[str, StringConstraints(pattern=r"^[a-z_]{1,20}$")]
Code = Annotated[str, StringConstraints(min_length=1, max_length=40)]


class HomeworkIn(BaseModel):
    """Which symptoms to practise, and how many benches on each device."""

    symptoms: Annotated[list[Key], Field(min_length=1, max_length=10)]
    benches: Annotated[int, Field(ge=FEWEST, le=MOST)]


class HomeworkCode(BaseModel):
    """A homework's code as it was typed."""

    code: Code


class TriedIn(BaseModel):
    """A bench in trouble, tried on a device; the same id again changes nothing."""

    id: uuid.UUID
    code: Code
    device: uuid.UUID
    symptom: Key
    fault: Key
    named: Key
    hands: Annotated[list[Key], Field(max_length=20)]


class HomeworkForDevice(BaseModel):
    """What a device practises."""

    code: str
    lab: str
    symptoms: list[str]
    benches: int


class HomeworkChoice(BaseModel):
    """A symptom that can be practised; `usual`: chosen unless the teacher says otherwise."""

    key: str
    seen: str
    usual: bool


class TakenForOut(BaseModel):
    """What a fault was taken for by how many devices, hands that tell the two apart, and how many tried none of those."""

    name: str
    devices: int
    tells: list[str]
    untried: int


class FaultOut(BaseModel):
    """How the class does at a fault: `found` of `devices` named it at once; shares from 0 to 1 with a 90 % interval."""

    symptom: str
    seen: str
    fault: str
    name: str
    mend: str
    devices: int
    found: int
    low: float
    high: float
    guess: float
    verdict: Literal["found", "not_yet", "few"]
    taken_for: list[TakenForOut]


class HomeworkOut(BaseModel):
    """Homework as its teacher sees it, with what came in: on how many devices, and on how many all benches.
    `link`: what a device opens, while its code opens anything."""

    id: uuid.UUID
    code: str
    symptoms: list[str]
    benches: int
    set_at: datetime.datetime
    ended_at: datetime.datetime | None
    removed_at: datetime.datetime
    link: JoinLink | None
    devices: int
    through: int
    tries: int
    faults: list[FaultOut]


class HomeworkPage(BaseModel):
    """A lab's homework, the newest first, and what can be set."""

    title: str
    date: datetime.date
    state: str
    simulated: bool
    may_change: bool
    fewest_benches: int
    most_benches: int
    choices: list[HomeworkChoice]
    homework: list[HomeworkOut]
