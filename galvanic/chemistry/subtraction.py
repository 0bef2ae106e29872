"""The subtraction of table values, worked line by line, with the double negative made visible."""

from __future__ import annotations

from dataclasses import dataclass

from galvanic.cells import Cell
from galvanic.errors import NoTableEntry
from galvanic.notes import MINUS, volts
from galvanic.reference.catalogue import electrodes
from galvanic.words import say


@dataclass(frozen=True, slots=True)
class WorkedLine:
    """One line of working and, where a step needs it, why."""

    text: str
    why: str


def table_value(plate: str) -> str:
    """A plate's standard potential for reading. Raises NoTableEntry for an inert plate."""
    return volts(electrodes()[plate].table_v(), signed=True)


def worked(cell: Cell, negative: str) -> list[WorkedLine]:
    """Table voltage of a cell if `negative` (one of its two electrodes) is the negative plate.

    Raises NoTableEntry for an inert plate, which the table does not list.
    """
    positive = cell.positive if negative == cell.negative else cell.negative
    up, down = electrodes()[positive], electrodes()[negative]
    high_v, low_v = up.table_v(), down.table_v()
    lines = [
        WorkedLine(f"V = E°({up.symbol}) {MINUS} E°({down.symbol})", say("positive plate minus negative plate")),
        WorkedLine(
            f"V = ({volts(high_v, signed=True)}) {MINUS} ({volts(low_v, signed=True)})",
            say("both from the table, signs kept"),
        ),
    ]
    if low_v < 0.0:
        lines.append(WorkedLine(f"V = {volts(high_v)} + {volts(-low_v)}", say("minus a minus is plus")))
    total = high_v - low_v
    told = say("by the table") if total >= 0.0 else say("below zero: by the table the other plate is the negative one")
    return [*lines, WorkedLine(f"V = {volts(total, signed=total < 0.0)}", told)]


def worked_or_reason(cell: Cell, negative: str) -> tuple[list[WorkedLine], str]:
    """The working, or no lines and the reason why there are none."""
    try:
        return worked(cell, negative), ""
    except NoTableEntry as error:
        return [], str(error)
