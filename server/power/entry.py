"""What devices send of packs: see `server.entries.entry` for what every entry has."""

from __future__ import annotations

import uuid
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from galvanic.bench.chain import MOST_VOTED
from galvanic.bench.pack_steps import MOST_POSITION, Kind
from server.entries.entry import AsTyped, Entry

Name = Annotated[str, StringConstraints(max_length=60)]


class PackIn(Entry):
    """A pack that a group begins, for a load (key, or ohms as digits)."""

    load: Annotated[str, StringConstraints(min_length=1, max_length=40)]


class RunFileIn(Entry):
    """A logger's file for a pack, which comes beside it; units for columns that name none; minutes since its last sample."""

    pack_id: uuid.UUID
    time_unit: Annotated[str, StringConstraints(max_length=8)] = ""
    value_unit: Annotated[str, StringConstraints(max_length=8)] = ""
    ended_min: Annotated[float, Field(ge=0.0, le=60_000.0)] = 0.0


class ChainEntryIn(Entry):
    """A group's vote (`cells`), its cell in the chain with what the whole row reads (`text`), or what is seen (`text`)."""

    chain_id: uuid.UUID
    kind: Literal["vote", "link", "seen"]
    cells: Annotated[int, Field(ge=1, le=MOST_VOTED)] | None = None
    text: AsTyped = ""
    unit: Annotated[str, StringConstraints(max_length=2)] = "V"
    negative: Name = ""
    electrolyte: Name = ""
    positive: Name = ""
    corrects: uuid.UUID | None = None
    reason: Annotated[str, StringConstraints(max_length=200)] = ""


class PackEntryIn(Entry):
    """One thing about a pack; `position` counts cells from the minus, from 1. A cell names its plates, a number its unit."""

    pack_id: uuid.UUID
    kind: Kind
    position: Annotated[int, Field(ge=1, le=MOST_POSITION)] | None = None
    text: AsTyped = ""
    unit: Annotated[str, StringConstraints(max_length=2)] = ""
    negative: Name = ""
    electrolyte: Name = ""
    positive: Name = ""
    corrects: uuid.UUID | None = None
    reason: Annotated[str, StringConstraints(max_length=200)] = ""
