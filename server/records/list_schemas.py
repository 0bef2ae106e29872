"""How the teacher's labs are listed."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from server.labs.schemas import LabLine


class LabListed(LabLine):
    """A lab in the list of labs: what it is about, what it waits for (notebooks and questions too), and which page its line
    leads to."""

    reading_count: int
    leads: Literal["plan", "board", "compare"]
    waits: str
    question: str
    electrodes: list[str]
    electrolytes: list[str]
    tags: list[str]
    away: bool
    notebooks: int
    questions: int


class SmallRung(BaseModel):
    """A plate on a small ladder, V against hydrogen, by the table and by the class."""

    electrode: str
    table_v: float | None
    class_v: float


class GlanceOut(BaseModel):
    """What a lab found, to be drawn small: the ladder of its first liquid; none where there is none."""

    electrolyte: str
    rungs: list[SmallRung]
