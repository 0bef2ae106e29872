"""How classes laid over each other are sent."""

from __future__ import annotations

import datetime
import uuid

from pydantic import BaseModel

from server.labs.schemas import NoteOut


class YearLab(BaseModel):
    """A lab that is laid over others, by the name it has among them. In sentences, each empty where there is nothing to say:
    `foretold`, how what its groups expected before they measured did; `voted`, the same of its chain; `decided`, which
    account of the voltages its readings bear out."""

    id: uuid.UUID
    name: str
    date: datetime.date
    simulated: bool
    edition: str
    foretold: str
    voted: str
    decided: str


class YearRungOut(BaseModel):
    """A plate, V against hydrogen: by the table, of all classes with its 95 % interval, and of each class."""

    electrode: str
    table_v: float | None
    all_v: float
    low_v: float
    high_v: float
    by_class: list[float | None]


class YearCellOut(BaseModel):
    """A cell, V: by the table, of all classes, of each, and between what the next class should find it."""

    short: str
    negative: str
    positive: str
    table_v: float | None
    all_v: float
    low_v: float | None
    high_v: float | None
    by_class: list[float | None]


class YearsOut(BaseModel):
    """One liquid and setting: its classes in order, the ladder of all, cells, and the scatter from class to class, V."""

    electrolyte: str
    condition: str
    names: list[str]
    anchor: str
    tau_v: float
    tau_low_v: float
    tau_high_v: float | None
    rungs: list[YearRungOut]
    cells: list[YearCellOut]
    notes: list[NoteOut]


class LaidOver(BaseModel):
    """Labs laid over each other, liquid by liquid; `alone` are labs that share no liquid and two plates with another,
    `copies` labs with the readings of an earlier one (which is named): they are not counted as another class."""

    labs: list[YearLab]
    liquids: list[YearsOut]
    alone: list[str]
    copies: dict[str, str]
