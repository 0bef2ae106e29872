"""One cell with many guesses about what it is really like, all answered at once.

A guess changes what a class cannot see: how much oxygen comes to the plates, how large their wetted area is, how much oxide
they carry, and how many ions of its own metal the positive plate has. Axes: (guesses, asked). V, A, Ω, s throughout.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.currents import Fixed, fix, net
from galvanic.chemistry.half import Half
from galvanic.chemistry.plates import OWN_SALT, Array
from galvanic.chemistry.polarisation import Geometry, LoadedCell, solution_ohm
from galvanic.chemistry.rest import HIGHEST_V, LOWEST_V
from galvanic.reference.catalogue import electrodes, electrolytes

OPEN_OHM = 1e6  # from here on a cell is read as open
HALVINGS, FALSE_POSITIONS = 24, 3  # 5.6 V halved to 0.3 µV: behind a large resistor that moves the current by a part
LEAST_IONS = 1e-9  # mol/L, in place of none


@dataclass(frozen=True, slots=True)
class Asked:
    """What a meter is asked: the cell across `load_ohm` (0: its short-circuit current; infinite: open), so long after it was
    joined."""

    load_ohm: float
    after_s: float


@dataclass(frozen=True)
class ManyCells:
    """A cell whose `knobs` can be turned; each is the natural logarithm of a multiple, of `ions` of mol/L."""

    cell: Cell
    whole: LoadedCell
    knobs: tuple[str, ...]

    @classmethod
    def of(cls, cell: Cell, geometry: Geometry) -> ManyCells:
        """The cell with the knobs it has: no oxide where neither plate carries any, no ions where the liquid brings them or
        the positive plate has none."""
        whole = LoadedCell.of(cell, geometry)
        knobs = ["oxygen", "area"]
        if any(side.stock.any() for half in (whole.negative, whole.positive) for side in half.plates.sides):
            knobs.append("oxide")
        own = electrodes()[cell.positive].couple
        liquid = electrolytes()[whole.positive.liquids.keys[0]]
        simple = whole.positive.plates.sides[0]
        held = liquid.ions_mol_per_l.get((own or "").split("/")[0], 0.0) >= OWN_SALT
        if own is not None and not held and simple.i0.any() and not simple.solid.any() and not simple.hydroxide.any():
            knobs.append("ions")
        return cls(cell, whole, tuple(knobs))

    def usual(self) -> Array:
        """What the model takes without a class: (knobs,)."""
        return np.array([math.log(LEAST_IONS) if knob == "ions" else 0.0 for knob in self.knobs])

    def answers(self, guesses: Array, asked: Sequence[Asked]) -> Array:
        """Volts, or amperes where the load is 0 Ω, of guesses (guesses, knobs) for all that is asked: (guesses, asked)."""
        n, m = len(guesses), len(asked)
        turned = {knob: np.repeat(np.exp(guesses[:, place]), m) for place, knob in enumerate(self.knobs)}
        after = np.tile([one.after_s for one in asked], n)
        load = np.tile([one.load_ohm for one in asked], n)
        low = self._turned(self.whole.negative, turned, after, False)
        high = self._turned(self.whole.positive, turned, after, True)
        geometry = self.whole.geometry
        bridge_ohm = solution_ohm(self.cell, replace(geometry, area_m2=math.inf))  # what no plate's area changes
        inside_ohm = bridge_ohm + (self.whole.solution_ohm - bridge_ohm) / turned["area"]
        area_m2 = geometry.area_m2 * geometry.pairs * turned["area"]
        return _across(low, high, area_m2, load, inside_ohm, self.whole.junction_v).reshape(n, m)

    def _turned(self, half: Half, turned: dict[str, Array], after_s: Array, positive: bool) -> Half:
        def column(values: Array) -> Array:
            return values[:, None, None]

        liquids = replace(half.liquids, oxygen=half.liquids.oxygen * column(turned["oxygen"]), after_s=column(after_s))
        plates, pairing = half.plates, half.pairing
        if "oxide" in turned:
            sides = tuple(replace(side, stock=side.stock * column(turned["oxide"])) for side in plates.sides)
            plates = replace(plates, sides=sides)
        if positive and "ions" in turned:
            bulk = np.repeat(pairing.bulk, len(after_s), axis=0)
            bulk[..., 0] = column(turned["ions"])
            pairing = replace(pairing, bulk=bulk)
        return Half(plates, liquids, pairing)


def _across(low: Half, high: Half, area_m2: Array, load_ohm: Array, inside_ohm: Array, junction_v: float) -> Array:
    """Every cell into its own load, by halving the negative plate's potential: the sum of both currents rises with it.

    Open cells are those in which each plate carries no current: the positive plate is then looked for by itself.
    """
    opened = load_ohm >= OPEN_OHM
    around = np.where(opened, 0.0, load_ohm) + inside_ohm
    fixed_low, fixed_high = (fix(half.plates, half.liquids, half.pairing) for half in (low, high))

    def sums(tried: Array) -> Array:
        given = area_m2 * _net(low, tried[0], fixed_low)
        other_v = np.where(opened, tried[1], tried[0] + given * around - junction_v)
        taken = area_m2 * _net(high, np.clip(other_v, -50.0, 50.0), fixed_high)
        return np.stack([np.where(opened, given, given + taken), taken])

    # The first row is the negative plate's potential, the second the positive one's where the cell is open.
    left, right = (np.full((2, len(load_ohm)), edge) for edge in (LOWEST_V, HIGHEST_V))
    under = over = np.zeros_like(left)
    for step in range(HALVINGS + FALSE_POSITIONS):
        part = 0.5 if step < HALVINGS else np.clip(under / np.minimum(under - over, -1e-300), 1e-3, 1.0 - 1e-3)
        tried = left + (right - left) * part
        found = sums(tried)
        above = found > 0.0
        right, over = np.where(above, tried, right), np.where(above, found, over)
        left, under = np.where(above, left, tried), np.where(above, under, found)
    at = left + (right - left) * np.clip(under / np.minimum(under - over, -1e-300), 0.0, 1.0)
    current = area_m2 * _net(low, at[0], fixed_low)
    under = np.where(load_ohm == 0.0, current, current * np.where(opened, 0.0, load_ohm))
    return np.where(opened, at[1] - at[0] + junction_v, under)


def _net(half: Half, e_v: Array, fixed: Fixed) -> Array:
    return np.asarray(net(e_v[:, None, None], half.plates, half.liquids, half.pairing, fixed)[:, 0, 0])
