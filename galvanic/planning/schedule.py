"""Minutes: what fits into a period, who is where when, and what to leave out first.

The usual minutes are common practice, no source; every teacher sets their own.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace

from galvanic.cells import Cell
from galvanic.errors import OutOfRange, within
from galvanic.words import say

MOST_PLACES = 20
MOST_MINUTES = 600.0
READINGS = 3  # of a cell, each after lifting the plates out and putting them back


@dataclass(frozen=True, slots=True)
class Steps:
    """Minutes that steps take. Per cell: prepare both plates and dip, wait until steady, three readings, rinse. `packs` come
    after the last cell.

    `late` is how late the class starts; a break of `pause` minutes begins at `pause_at`, from the start of the period.
    `spare` minutes are planned for nothing, so that slower groups get through.
    """

    start: float = 6.0
    prepare: float = 1.0
    settle: float = 2.0
    read: float = 2.0
    rinse: float = 1.0
    packs: float = 0.0
    clear: float = 8.0
    late: float = 0.0
    pause_at: float = 0.0
    pause: float = 0.0
    spare: float = 0.0

    def __post_init__(self) -> None:
        for field in fields(self):
            within(
                field.name,
                getattr(self, field.name),
                0.0,
                MOST_MINUTES,
                say("Minutes lie between 0 and {most_minutes:.0f}.", most_minutes=MOST_MINUTES),
            )
        if self.cell <= 0.0:
            raise OutOfRange(say("A cell must take some time."), field="read", value=self.read, limit=0.0)

    @property
    def cell(self) -> float:
        """Minutes for one cell."""
        return self.prepare + self.settle + self.read + self.rinse

    @property
    def settle_again(self) -> float:
        """Minutes to wait after the plates were lifted out and put back, between two readings of a cell: half of what a
        reading takes in the plan; the other half is the handling."""
        return self.read / (2.0 * READINGS)

    def needed(self, cells: int) -> float:
        """Minutes of a period that a list of cells takes, packs, the late start and the break counted."""
        return self._after(cells)[1] + self.clear

    def _after(self, cells: int) -> tuple[float, float]:
        """When packs are built after a list of cells: one moment where none are."""
        return self._past_break(self.end(cells), self.packs) if self.packs else (self.end(cells),) * 2

    def end(self, cells: int) -> float:
        """When the last cell of a list is done, minutes from the start of the period."""
        return self.cell_times(cells)[-1][1] if cells else self._past_break(self.late, self.start)[1]

    def cell_times(self, cells: int) -> list[tuple[float, float]]:
        """Start and end of each cell in minutes; a step that the break would cut waits until after it."""
        at = self._past_break(self.late, self.start)[1]
        times = []
        for _ in range(cells):
            begin, at = self._past_break(at, self.cell)
            times.append((begin, at))
        return times

    def _past_break(self, at: float, length: float) -> tuple[float, float]:
        if self.pause > 0.0 and at < self.pause_at + self.pause and at + length > self.pause_at:
            at = self.pause_at + self.pause
        return at, at + length

    def places(self, minutes: float) -> int:
        """How many cells a group can measure in a period; 0 if not one fits."""
        count = 0
        while count < MOST_PLACES and self.needed(count + 1) + self.spare <= minutes + 1e-9:
            count += 1
        return count

    def with_places(self, places: int, minutes: float) -> Steps:
        """The same with what such a period leaves after so many cells to spare."""
        return replace(self, spare=max(self.spare, minutes - self.needed(places)))


@dataclass(frozen=True, slots=True)
class Segment:
    """A stretch of a group's time in minutes from the start of the period; `cell` counts from 0, None between cells."""

    kind: str
    begin: float
    end: float
    cell: int | None = None


def timeline(cells: int, steps: Steps) -> list[Segment]:
    """One group's period: start, cells, break where it falls, clearing up."""
    begin, at = steps._past_break(steps.late, steps.start)
    segments = [Segment("late", 0.0, steps.late)] if steps.late else []
    if steps.pause:
        segments.append(Segment("pause", steps.pause_at, steps.pause_at + steps.pause))
    segments.append(Segment("start", begin, at))
    segments += [Segment("cell", *times, cell=k) for k, times in enumerate(steps.cell_times(cells))]
    begin, at = steps._after(cells)
    if steps.packs:
        segments.append(Segment("packs", begin, at))
    begin, at = steps._past_break(at, steps.clear)
    return sorted([*segments, Segment("clear", begin, at)], key=lambda one: (one.begin, one.end))


def overfull(hands: Sequence[Sequence[Cell]], steps: Steps, minutes: float) -> list[int]:
    """Groups whose list does not fit into the period."""
    return [group for group, hand in enumerate(hands) if steps.needed(len(hand)) > minutes + 1e-9]
