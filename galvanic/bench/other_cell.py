"""Was a number read at another cell of the group's list? Only where it is odd at its own and fits one of the others alone.

A cell that the group has read itself is known within `OWN_V`; of one that it has not, the expectation says how far off a
value may be. Limits are common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from galvanic.bench.checks import OWN_PLATES_U_V, Expectation, Finding
from galvanic.cells import Cell

OWN_V = 0.04  # between two readings of one cell by one group
NEAR = 2.0  # standard deviations
ODD = frozenset({"far", "jump", "near_zero", "reversed"})


@dataclass(frozen=True, slots=True)
class Listed:
    """A cell of the group's list: its place, what can be expected of it, and the group's own mean there, V; None without
    one."""

    position: int
    cell: Cell
    expected: Expectation
    own_v: float | None = None

    def near(self, v: float) -> bool:
        """Whether a value could be this cell's."""
        if self.own_v is not None:
            return abs(v - self.own_v) <= OWN_V
        return abs(v - self.expected.volts_v) <= NEAR * math.hypot(self.expected.u_v, OWN_PLATES_U_V)


def other_cell(v: float, own: Cell, said: Iterable[Finding], cells: Iterable[Listed]) -> Listed | None:
    """The one other cell of the list whose value a reading (V as its own cell is written) would be; None where the checks
    say nothing of this kind, or where no other or several fit."""
    if not ODD & {one.code for one in said}:
        return None
    found = {one.cell: one for one in cells if one.cell != own and one.near(v)}  # a cell may be on the list twice
    return next(iter(found.values())) if len(found) == 1 else None
