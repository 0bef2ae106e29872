"""Each group's list of numbers as it was written, and what others would have expected there."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from statistics import fmean

from galvanic.bench.checks import MOST_CELL_V, Expectation
from galvanic.bench.class_reference import GroupCell, Reference
from galvanic.cells import Cell
from galvanic.findings.compare import ClassReading
from galvanic.findings.working import decimals_of
from galvanic.notes import volts
from galvanic.reference.catalogue import electrolytes
from galvanic.statistics.repeats import last_digit_v

AGAIN = 2  # other cells begun in between: then a cell is come back to


@dataclass(frozen=True, slots=True)
class Visit:
    """The readings that a group took of a cell at one go, V as it is written; `place`: of the list, from 0."""

    cell: Cell
    place: int
    values: Sequence[float]


@dataclass(frozen=True)
class GroupList:
    """A group's visits to its cells in its order, its last digit, what the account and the other groups expect of each cell,
    and what the account alone does."""

    group: str
    visits: Sequence[Visit]
    step_v: float
    expected: Mapping[Cell, Expectation]
    account: Mapping[Cell, Expectation]

    @cached_property
    def values(self) -> Mapping[Cell, Sequence[float]]:
        """All numbers of each cell, in order."""
        found: dict[Cell, list[float]] = {}
        for visit in self.visits:
            found.setdefault(visit.cell, []).extend(visit.values)
        return found

    @cached_property
    def means(self) -> Mapping[Cell, float]:
        """The mean of each cell, V."""
        return {cell: fmean(values) for cell, values in self.values.items()}

    def named(self, cell: Cell) -> str:
        """A cell of the list by its plates, and its liquid where the list has several."""
        several = len({one.bath for one in self.values}) > 1
        return f"{cell.short} ({electrolytes()[cell.electrolyte].name})" if several else cell.short

    def shown(self, volts_v: float) -> str:
        """A value with as many digits as the group's meter has."""
        return volts(volts_v, decimals_of(self.step_v))

    @property
    def numbers(self) -> list[float]:
        """All numbers, in order."""
        return [v for values in self.values.values() for v in values]


def group_lists(readings: Iterable[ClassReading]) -> list[GroupList]:
    """The lists of a class. Readings are in the order in which each group took them; those that no meter on a cell shows
    are no part of them."""
    shown = [reading for reading in readings if abs(reading.volts_v) <= MOST_CELL_V]
    by_group = visits(shown)
    values = [
        GroupCell(group, cell, fmean(v for visit in found if visit.cell == cell for v in visit.values))
        for group, found in by_group.items()
        for cell in dict.fromkeys(visit.cell for visit in found)
    ]
    plates = sorted({plate for one in values for plate in one.cell.pair})
    liquids = sorted({one.cell.electrolyte for one in values})
    account = Reference(plates, liquids, [], "")
    lists = []
    for group, found in by_group.items():
        reference, cells = Reference(plates, liquids, values, group), dict.fromkeys(visit.cell for visit in found)
        step_v = last_digit_v(reading.resolution_v for reading in shown if reading.group == group)
        expected = {cell: reference.of(cell) for cell in cells}
        lists.append(GroupList(group, found, step_v, expected, {cell: account.of(cell) for cell in cells}))
    return lists


def visits(readings: Iterable[ClassReading]) -> dict[str, list[Visit]]:
    """Each group's visits to its cells; readings are in the order in which each group took them."""
    rows: dict[str, list[tuple[Cell, float]]] = defaultdict(list)
    for reading in readings:
        cell = Cell.of(reading.black, reading.electrolyte, reading.red, reading.condition)
        rows[reading.group].append((cell, cell.as_written_v(reading.volts_v, reading.red)))
    return {group: _visits(found) for group, found in rows.items()}


def _visits(rows: Sequence[tuple[Cell, float]]) -> list[Visit]:
    """Readings at one go; where two devices take turns between two cells, that is still one go each."""
    begun: list[tuple[Cell, list[float]]] = []
    last: dict[Cell, tuple[int, int]] = {}  # of a cell: its visit, and how many were begun when it was read last
    for cell, v in rows:
        at, then = last.get(cell, (-1, -AGAIN))
        if at < 0 or len(begun) - then >= AGAIN:
            at = len(begun)
            begun.append((cell, []))
        begun[at][1].append(v)
        last[cell] = (at, len(begun))
    return [Visit(cell, place, tuple(values)) for place, (cell, values) in enumerate(begun)]
