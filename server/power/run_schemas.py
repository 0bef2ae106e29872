"""How runs are sent. Times in s, volts in V, currents in A."""

from __future__ import annotations

import uuid

from pydantic import BaseModel

from server.labs.schemas import NoteOut


class RunFileOut(BaseModel):
    """A logger's file of a pack."""

    id: uuid.UUID
    name: str
    rows: int


class RunPointOut(BaseModel):
    """One number of a run: seconds from its start, V or A."""

    t_s: float
    value: float


class RunDoneOut(BaseModel):
    """Something done to the cells."""

    t_s: float
    what: str


class StretchOut(BaseModel):
    """A part of a run between two things done."""

    name: str
    from_s: float
    to_s: float
    joined: bool


class RunOut(BaseModel):
    """A pack over time: what was typed, what was done, what it says, and the model's trace of the same. `left_out`: how many
    numbers do not count and are not drawn."""

    title: str
    volts: list[RunPointOut]
    current: list[RunPointOut]
    left_out: int
    events: list[RunDoneOut]
    stretches: list[StretchOut]
    model: list[RunPointOut]
    notes: list[NoteOut]
    charge_c: float | None
    metal_mg: float | None
