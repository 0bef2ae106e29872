"""Cells joined to a pack, and where pack and load meet: Kirchhoff's laws on the cells' own curves.

Cells in a row share a current, rows side by side share a voltage; what the load takes rises with the voltage and what the
rows give falls with it, so there is one crossing. Each cell is a measured or modelled curve, never a source with one
resistance. A cell that its row drives backwards shows as one whose voltage has the wrong sign; rows of unequal voltage send
a current round through each other. Axes: (draws, 1) unless said; V and A throughout.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from galvanic.chemistry.curves import Curve, PackCell, curve, row_volts
from galvanic.chemistry.demand import Demand
from galvanic.chemistry.plates import Array
from galvanic.chemistry.polarisation import FIRST_S
from galvanic.errors import GalvanicError, OutOfRange, within
from galvanic.words import say

MOST_CELLS = 60
LEAST_AFTER_S = 0.01
HALVINGS = 20  # between two points of the grid
ROUNDS, PARTS = 4, 65  # the bracket is divided so often by so much: 30 V to under a microvolt


class OneLiquid(GalvanicError):
    """Cells that share a liquid were to be put in a row."""

    code = "one_liquid"


@dataclass(frozen=True, slots=True)
class Pack:
    """Rows side by side, each of cells one after the other; the first cell of a row stands at the pack's minus.

    Raises OneLiquid where two cells of one row stand in one vessel, OutOfRange for no cell or more than MOST_CELLS.
    """

    rows: tuple[tuple[PackCell, ...], ...]

    def __post_init__(self) -> None:
        if not self.rows or not all(self.rows) or self.size > MOST_CELLS:
            said = say("A pack has from one to {most_cells} cells, and no empty row.", most_cells=MOST_CELLS)
            raise OutOfRange(said, field="cells", value=self.size, limit=MOST_CELLS)
        for row in self.rows:
            cups = [cell.cup for cell in row if cell.cup]
            if len(cups) != len(set(cups)):
                raise OneLiquid(
                    say(
                        "Cells that share one liquid cannot be put in a row: the liquid joins them, "
                        "so only one cell's voltage "
                        "is left. Give each cell a cup of its own; more plates in one cup are pairs side by side."
                    )
                )

    @property
    def size(self) -> int:
        """How many cells."""
        return sum(len(row) for row in self.rows)

    @property
    def cells(self) -> tuple[PackCell, ...]:
        """All cells, row after row."""
        return tuple(cell for row in self.rows for cell in row)


@dataclass(frozen=True, slots=True)
class Share:
    """One cell at the meeting point: its voltage with nothing joined and now, and the current through it.

    `backwards`: the others drive it, so that it takes power instead of giving it (it warms, and makes gas).
    """

    open_v: float
    volts_v: float
    current_a: float
    backwards: bool


@dataclass(frozen=True)
class Meeting:
    """A pack with a load: V and A at the load, `cells` row after row, `rows_a` the current of each row.

    `round_a`: the current that goes round between rows while nothing is joined, A.
    """

    open_v: float
    volts_v: float
    current_a: float
    cells: tuple[Share, ...]
    rows_a: tuple[float, ...]
    round_a: float


@dataclass(frozen=True)
class Curves:
    """A pack's cells as curves, ready to meet any load; `rows_v` (rows, draws, currents)."""

    pack: Pack
    cells: tuple[tuple[Curve, ...], ...]
    rows_v: tuple[Array, ...]

    @classmethod
    def of(cls, pack: Pack, after_s: float = FIRST_S, draws: int = 0, rng: np.random.Generator | None = None) -> Curves:
        """The pack so long after the circuit was closed, s; with `draws` and `rng` as many of it as can be expected.

        Raises OutOfRange for a time that is none.
        """
        within(
            "after_s",
            after_s,
            LEAST_AFTER_S,
            math.inf,
            say("A time after joining is {least_after_s:g} s or more.", least_after_s=LEAST_AFTER_S),
        )
        central: dict[PackCell, Curve] = {}

        bridged = any(math.isfinite(cell.bridge_ohm) for cell in pack.cells)

        def one_curve(cell: PackCell) -> Curve:
            if draws:
                return curve(cell, after_s, draws, rng, bridged)
            if cell not in central:
                central[cell] = curve(cell, after_s, plates=bridged)
            return central[cell]

        cells = tuple(tuple(one_curve(one) for one in row) for row in pack.rows)
        rows = tuple(row_volts(list(row), list(found)) for row, found in zip(pack.rows, cells, strict=True))
        return cls(pack, cells, rows)

    @property
    def grid_a(self) -> Array:
        """The currents that the curves are known at, A."""
        return self.cells[0][0].current_a

    def rows_current_a(self, volts_v: Array) -> Array:
        """Current of each row at voltages (draws, points) across all of them: (rows, draws, points)."""
        grid = self.grid_a[::-1]
        return np.stack(
            [
                np.stack([np.interp(at, known[::-1], grid) for at, known in zip(volts_v, row, strict=True)])
                for row in self.rows_v
            ]
        )

    def crossing_v(self, load: Demand | None) -> Array:
        """The voltage, (draws, 1), at which the rows give what the load takes; None: with nothing joined."""
        if len(self.rows_v) == 1:
            return self._crossing_of_one(load)
        none = np.searchsorted(self.grid_a, 0.0)
        standing = np.stack([row[:, none] for row in self.rows_v])
        low = np.minimum(standing.min(axis=0), 0.0)[:, None] - 1e-6
        high = np.maximum(standing.max(axis=0), 0.0)[:, None] + 1e-6
        part = np.linspace(0.0, 1.0, PARTS)[None, :]
        for _ in range(ROUNDS):
            tried = low + (high - low) * part
            left = self.rows_current_a(tried).sum(axis=0)
            if load is not None:
                left = left - load.takes.current_a(tried)
            under = np.clip((left > 0.0).sum(axis=1), 1, PARTS - 1)[:, None]
            low, high = np.take_along_axis(tried, under - 1, axis=1), np.take_along_axis(tried, under, axis=1)
        return np.asarray(0.5 * (low + high))

    def _crossing_of_one(self, load: Demand | None) -> Array:
        """The same for a single row: along its own grid of currents, where what it gives passes what the load takes."""
        row, grid = self.rows_v[0], self.grid_a
        if load is None:
            return np.asarray(row[:, [int(np.searchsorted(grid, 0.0))]])
        first, last = np.zeros((len(row), 1), dtype=np.intp), np.full((len(row), 1), len(grid) - 1, dtype=np.intp)
        while int((last - first).max()) > 1:
            middle = (first + last) // 2
            under = grid[middle] < load.takes.current_a(np.take_along_axis(row, middle, axis=1))
            first, last = np.where(under, middle, first), np.where(under, last, middle)
        # Between two neighbours both are straight: what is left over goes from below zero to above.
        from_v, to_v = (np.take_along_axis(row, place, axis=1) for place in (first, last))
        slope = (grid[last] - grid[first]) / np.where(to_v == from_v, -1.0, to_v - from_v)
        low_v, high_v = from_v, to_v
        for _ in range(HALVINGS):
            middle_v = 0.5 * (low_v + high_v)
            under = grid[first] + slope * (middle_v - from_v) < load.takes.current_a(middle_v)
            low_v, high_v = np.where(under, middle_v, low_v), np.where(under, high_v, middle_v)
        return np.asarray(0.5 * (low_v + high_v))

    def meet(self, load: Demand) -> Meeting:
        """The meeting point of the first draw, with every cell's share."""
        open_v, volts_v = self.crossing_v(None), self.crossing_v(load)
        idle, rows = self.rows_current_a(open_v)[:, 0, 0], self.rows_current_a(volts_v)[:, 0, 0]
        zero = int(np.searchsorted(self.grid_a, 0.0))
        shares = []
        for current, row in zip(rows, self.cells, strict=True):
            for found in row:
                alone = float(found.volts_v[0, zero])
                now = float(np.interp(current, self.grid_a, found.volts_v[0]))
                shares.append(Share(alone, now, float(current), bool(now * current < -1e-12 and abs(now) > 1e-3)))
        total = float(rows.sum())
        round_a = 0.5 * float(np.abs(idle).sum()) if len(rows) > 1 else 0.0
        return Meeting(float(open_v[0, 0]), float(volts_v[0, 0]), total, tuple(shares), tuple(map(float, rows)), round_a)


def in_a_row(cells: Sequence[PackCell], rows: int = 1) -> Pack:
    """So many equal rows side by side."""
    return Pack((tuple(cells),) * rows)
