"""The readings of a table by the one verdict: those that count, and those that do not until somebody says so."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from galvanic.bench.class_reference import Reference
from galvanic.bench.standing import SOUND, standings
from galvanic.cells import Cell
from galvanic.findings.compare import ClassReading
from galvanic.findings.left_out import LeftOutValue
from galvanic.findings.working import decimals_of
from galvanic.notes import volts


@dataclass(frozen=True, slots=True)
class _Said:
    id: int
    group: str
    cell_id: tuple[str, Cell]
    cell: Cell
    signed_v: float
    resolution_v: float
    decided: bool = False


def standing_readings(readings: Sequence[ClassReading]) -> tuple[list[ClassReading], list[LeftOutValue]]:
    """The readings of a class that count, and the others with why not."""
    rows = []
    for number, one in enumerate(readings):
        cell = Cell.of(one.black, one.electrolyte, one.red, one.condition)
        signed_v = cell.as_written_v(one.volts_v, one.red)
        rows.append(_Said(number, one.group, (one.group, cell), cell, signed_v, one.resolution_v))
    plates = sorted({plate for row in rows for plate in row.cell.pair})
    liquids = sorted({row.cell.electrolyte for row in rows})
    found = standings(rows, Reference(plates, liquids, [], ""))
    verdicts = [found.get(row.id, SOUND) for row in rows]
    counting = [one for one, verdict in zip(readings, verdicts, strict=True) if verdict.counts]
    left_out = [
        LeftOutValue(
            one.group, row.cell, volts(one.volts_v, decimals_of(one.resolution_v) if one.resolution_v < 1.0 else 0), verdict
        )
        for one, row, verdict in zip(readings, rows, verdicts, strict=True)
        if not verdict.counts
    ]
    return counting, left_out
