"""What devices send: every entry has an id, made on the device, and what the device's clock said; kinds add fields."""

from __future__ import annotations

import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, StringConstraints

from server.entries.clock import Clock, DeviceTime
from server.materials.schemas import Key

AsTyped = Annotated[str, StringConstraints(max_length=200)]


class Entry(BaseModel):
    """One entry; `device_at` is when it was made, `sent_at` when it was sent, both by the device's own clock."""

    id: uuid.UUID
    device_at: DeviceTime = None
    sent_at: DeviceTime = None

    @property
    def clock(self) -> Clock:
        """What the device's clock said."""
        return Clock(self.device_at, self.sent_at)


class CellEntry(Entry):
    """An entry about one cell of the group's list; a photograph or a trace comes beside it as a file."""

    cell_id: uuid.UUID


class ReadingIn(CellEntry):
    """One reading as typed, with the leads where they really were; `corrects` and `reason` go together."""

    red: Key
    black: Key
    text: AsTyped
    unit: Literal["V", "mV"]
    origin: Literal["typed", "meter", "imported", "simulated"] = "typed"
    corrects: uuid.UUID | None = None
    reason: Annotated[str, StringConstraints(max_length=200)] = ""


class PredictionIn(CellEntry):
    """Which plate a group expects to be negative, and how many volts, without a sign; `way`: whether the meter will show
    more, less or the same as the table (or as the first level; then without a number), and `because`: why."""

    negative: Key
    text: AsTyped
    unit: Literal["V", "mV"]
    way: Literal["", "more", "less", "same"] = ""
    because: Annotated[str, StringConstraints(max_length=200)] = ""


class UnderLoadIn(CellEntry):
    """A short-circuit current or a voltage under the lab's resistor, as typed."""

    kind: Literal["short", "load"]
    text: AsTyped
    unit: Annotated[str, StringConstraints(max_length=2)]


class ObservationIn(CellEntry):
    """What a group saw."""

    text: Annotated[str, StringConstraints(max_length=300)]


class QuestionIn(CellEntry):
    """What a group asks about a cell."""

    text: Annotated[str, StringConstraints(max_length=300)]


class ActualIn(CellEntry):
    """What a cell was really set to, as typed: “2.1 cm”."""

    text: Annotated[str, StringConstraints(max_length=40)]


class MeterIn(Entry):
    """A meter check: the numbers with the leads together and on a fresh dry cell, in volts."""

    leads: Annotated[str, StringConstraints(max_length=32)]
    dry: Annotated[str, StringConstraints(max_length=32)]
