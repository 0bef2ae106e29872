"""A cell under load, from the same currents as its rest potentials.

Both plates carry the same current: the negative one gives +I/A, the positive one −I/A, and the liquid takes I·d/(κA).
Pairs of plates that hang in one vessel share it in parallel: the voltage stays, the current adds up.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.half import Half
from galvanic.chemistry.junction import junction
from galvanic.chemistry.plates import Array
from galvanic.errors import OutOfRange
from galvanic.reference.bridges import bridges
from galvanic.reference.catalogue import electrolytes
from galvanic.reference.reader import Range
from galvanic.words import say

ROUNDS, POINTS = 4, 257
BESIDE_V = 0.5  # how far from where a plate rests when it is read it may stand at another moment
FIRST_S, MINUTE_S = 10.0, 60.0  # what a hand reads off an ammeter at once, and after a minute
# A meter's large resistance turns a small error of the current into one of the voltage: there the bracket is made narrower.
MORE_ROUNDS, LARGE_OHM = 6, 1e4


@dataclass(frozen=True, slots=True)
class Geometry:
    """Wetted area of one plate in m², gap between plates in m, pairs of plates in one vessel."""

    area_m2: float = 4e-4
    gap_m: float = 0.02
    pairs: int = 1

    def __post_init__(self) -> None:
        if not (self.area_m2 > 0.0 and self.gap_m > 0.0 and self.pairs >= 1):
            raise OutOfRange(say("Area and gap must be above zero, and there must be at least one pair."))


@dataclass(frozen=True, slots=True)
class Loaded:
    """A cell at one working point: V, A; `open_v` without load, `solution_ohm` of the liquid, `internal_ohm` apparent.

    The apparent resistance is (open_v − volts_v)/current_a at this current: it is another one at another current.
    """

    cell: Cell
    load_ohm: float
    volts_v: float
    current_a: float
    open_v: float
    solution_ohm: float
    internal_ohm: float


def sides_of(cell: Cell) -> tuple[str, str]:
    """The liquids at the negative and at the positive plate: two different ones in a two-solution cell."""
    row = electrolytes()[cell.electrolyte]
    return row.negative_side or row.key, row.positive_side or row.key


def solution_ohm(cell: Cell, geometry: Geometry) -> float:
    """Resistance of the liquid between the plates, Ω: gap/(conductivity·area), at the middle of the liquid's range; of two
    solutions half of the gap in each, and the bridge between them."""
    row = electrolytes()[cell.electrolyte]
    bridge = 0.0 if row.bridge is None else _middle(bridges()[row.bridge].ohm)
    wetted = geometry.area_m2 * geometry.pairs
    sides = [_middle(electrolytes()[side].conductivity_s_per_m) for side in sides_of(cell)]
    return bridge + sum(0.5 * geometry.gap_m / (conductivity * wetted) for conductivity in sides)


def _middle(known: Range) -> float:
    return math.sqrt(known.low * known.high)


@dataclass(frozen=True)
class LoadedCell:
    """One cell with its geometry, ready to be asked for its voltage at any current; `solution_ohm` is the liquid's, with the
    bridge of two solutions, `junction_v` what stands in that bridge."""

    cell: Cell
    geometry: Geometry
    negative: Half
    positive: Half
    solution_ohm: float
    junction_v: float = 0.0

    @classmethod
    def of(cls, cell: Cell, geometry: Geometry | None = None) -> LoadedCell:
        """The cell as the catalogue describes it."""
        geometry = geometry or Geometry()
        low_side, high_side = sides_of(cell)
        halves = Half.of(cell.negative, low_side), Half.of(cell.positive, high_side)
        return cls(cell, geometry, *halves, solution_ohm(cell, geometry), junction(cell).volts_v)

    def volts(self, current_a: Array) -> Array:
        """Terminal voltage in V at currents in A (any shape), positive when the positive plate is the higher."""
        current = np.atleast_1d(np.asarray(current_a, dtype=float))
        density = current / (self.geometry.area_m2 * self.geometry.pairs)
        apart = self.positive.at(-density) - self.negative.at(density) + self.junction_v
        return np.asarray(apart - current * self.solution_ohm)

    def after(self, seconds: float) -> LoadedCell:
        """The cell so long after the circuit was closed: with what its plates still carry and what has come to them."""
        return replace(self, negative=self.negative.after(seconds), positive=self.positive.after(seconds))

    def steady_a(self, load_ohm: float = 0.0, rest_v: tuple[float, float] | None = None) -> float:
        """The current into a load when all is steady, A (0 Ω: a short circuit); `rest_v`: what `rest` gave, if known."""
        return abs(self.after(math.inf).at_load(load_ohm, rest_v or self.rest()).current_a)

    def rest(self) -> tuple[float, float]:
        """Rest potentials of the negative and the positive plate, V against hydrogen in the negative plate's solution."""
        return self.negative.rest(), self.positive.rest() + self.junction_v

    def at_load(self, load_ohm: float, rest_v: tuple[float, float] | None = None) -> Loaded:
        """The working point with a resistor across the cell; 0 is a short circuit. Raises OutOfRange below zero.

        The negative plate's potential E fixes its current I = A·i(E), and with it the positive plate's, E + I·R; where that
        plate gives −I, the circuit is closed. The sum of both currents rises with E, so there is one crossing. `rest_v`:
        what `rest` gave, if it is known, also of another moment.
        """
        if not load_ohm >= 0.0:
            raise OutOfRange(say("A load is a number of ohms, zero or more."), field="load_ohm", value=load_ohm, limit=0.0)
        lower, upper = rest_v or self.rest()
        open_v, wetted = upper - lower, self.geometry.area_m2 * self.geometry.pairs
        if open_v == 0.0:
            return Loaded(self.cell, load_ohm, 0.0, 0.0, 0.0, self.solution_ohm, self.solution_ohm)
        around = self.solution_ohm + load_ohm
        low, high = min(lower, upper) - BESIDE_V, max(lower, upper) + BESIDE_V
        for _ in range(ROUNDS if load_ohm < LARGE_OHM else MORE_ROUNDS):
            tried = np.linspace(low, high, POINTS)
            current = wetted * self.negative.net(tried)
            sums = current + wetted * self.positive.net(tried + current * around - self.junction_v)
            under = int((sums < 0.0).sum())
            low, high = tried[max(under - 1, 0)], tried[min(under, POINTS - 1)]
        current_a = wetted * float(self.negative.net(np.array([0.5 * (low + high)]))[0])
        volts = min(max(current_a * load_ohm, min(open_v, 0.0)), max(open_v, 0.0))  # to rounding
        internal = (open_v - volts) / current_a if current_a else self.solution_ohm
        return Loaded(self.cell, load_ohm, volts, current_a, open_v, self.solution_ohm, internal)
