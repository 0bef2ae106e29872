"""What one cell of a pack gives at any current, as a table: the same grid of currents for all cells, so that they add up.

A half's current is computed once on a grid of potentials; a cell's voltage at a current is read off both halves. Tables of
halves are kept, so that a change of the pack (one more cell, another area, a turned cell) computes no chemistry again.
Axes: (draws, currents); central values are one draw. V and A throughout.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.half import Half
from galvanic.chemistry.junction import junction
from galvanic.chemistry.plates import Array, drawer
from galvanic.chemistry.polarisation import FIRST_S, Geometry, sides_of, solution_ohm
from galvanic.errors import within
from galvanic.reference.catalogue import kept
from galvanic.words import say

LOWEST_V, HIGHEST_V = -3.2, 2.4
POINTS, POINTS_OF_MANY = 1601, 225  # 3.5 mV and 25 mV apart: read off linearly, half a millivolt and 6 mV off at the worst
MOST_A, LEAST_A = 3.0, 3e-8  # currents of a pack, spaced evenly in asinh(I / least)
CURRENTS, CURRENTS_OF_MANY = 7201, 301
SEED = 15
LEAST_OPEN_V = 0.01  # with less there is nothing for a load to pull down
# Between cells built alike: volts, and what their plates give (common practice, no source).
CELL_SCATTER_V, CELL_SCATTER = 0.04, 0.25

_SPAN = math.asinh(MOST_A / LEAST_A)
GRID_A: Array = LEAST_A * np.sinh(np.linspace(-_SPAN, _SPAN, CURRENTS))
# Densities at which draws are kept, spaced likewise: 11 % apart.
LEAST_A_PER_M2, MOST_A_PER_M2, DENSITIES = 1e-5, 1e5, 421
_DENSITY_SPAN = math.asinh(MOST_A_PER_M2 / LEAST_A_PER_M2)
DENSITY_GRID: Array = LEAST_A_PER_M2 * np.sinh(np.linspace(-_DENSITY_SPAN, _DENSITY_SPAN, DENSITIES))
GRID_OF_MANY_A: Array = LEAST_A * np.sinh(np.linspace(-_SPAN, _SPAN, CURRENTS_OF_MANY))


@dataclass(frozen=True, slots=True)
class Anchor:
    """How the class's own cell differs from the model's, with standard uncertainties: V(I) = model(I·times) + shift·f, where
    f is the part of the model's open voltage that is left at that current. A cell that reads too little with nothing joined
    does not give less into a short circuit for that.

    `u_times` is of the natural logarithm. `…_measured`: whether the class has; otherwise the model stands alone there.
    """

    shift_v: float = 0.0
    u_shift_v: float = 0.0
    times: float = 1.0
    u_times: float = 0.0
    volts_measured: bool = False
    load_measured: bool = False


@dataclass(frozen=True, slots=True)
class PackCell:
    """One cell of a pack, with how it is joined.

    `turned`: its plates the other way round in the row. `touching_ohm` between its own two plates, `contact_ohm` of its
    clips, `bridge_ohm` of liquid to the next cup (infinite: none). `left`: the share of its plates and liquid that still
    works. `cup`: a name where cells stand in one vessel; two of one row cannot.
    """

    cell: Cell
    geometry: Geometry = Geometry()
    anchor: Anchor = Anchor()
    turned: bool = False
    touching_ohm: float = math.inf
    contact_ohm: float = 0.0
    bridge_ohm: float = math.inf
    left: float = 1.0
    cup: str = ""

    def __post_init__(self) -> None:
        within("left", self.left, 1e-6, 1.0, say("What is left of a cell is a share above 0, up to 1."))
        within("contact_ohm", self.contact_ohm, 0.0, 1e12, say("A contact has zero ohms or more."))
        for field, ohm in (("touching_ohm", self.touching_ohm), ("bridge_ohm", self.bridge_ohm)):
            within(field, ohm, 1e-6, math.inf, say("What joins plates or cups has more than zero ohms."))


@dataclass(frozen=True)
class Halves:
    """Potentials of a half against its current density: (draws, points) densities on the grid of potentials."""

    density: Array
    e_v: Array

    def at(self, density: Array) -> Array:
        """Potentials at densities, (currents,) or (draws, currents), anodic positive."""
        rows = np.broadcast_to(density, (len(self.density), np.shape(density)[-1]))
        return np.stack([np.interp(row, known, self.e_v) for row, known in zip(rows, self.density, strict=True)])


@dataclass(frozen=True)
class ManyHalves:
    """Draws of a half: potentials (draws, densities) on a grid of densities that is even in asinh, so that any are read off
    without a search."""

    e_v: Array

    def at(self, density: Array) -> Array:
        """Potentials at densities, (currents,) or (draws, currents), anodic positive."""
        place = (np.arcsinh(density / LEAST_A_PER_M2) + _DENSITY_SPAN) * ((DENSITIES - 1) / (2.0 * _DENSITY_SPAN))
        place = np.broadcast_to(np.clip(place, 0.0, DENSITIES - 1.001), (len(self.e_v), np.shape(density)[-1]))
        below = place.astype(np.intp)
        part = place - below
        low = np.take_along_axis(self.e_v, below, axis=1)
        return np.asarray(low + part * (np.take_along_axis(self.e_v, below + 1, axis=1) - low))


@kept(512)
def half_table(plate: str, liquid: str, after_s: float) -> Halves:
    """A half at the middle of all ranges, so long after the circuit was closed."""
    e_v = np.linspace(LOWEST_V, HIGHEST_V, POINTS)
    return Halves(Half.of(plate, liquid).after(after_s).curve(e_v), e_v)


@kept(64)
def cell_draws(
    negative: str, low_side: str, high_side: str, positive: str, after_s: float, n: int
) -> tuple[ManyHalves, ManyHalves, ManyHalves]:
    """Draws of both halves of a cell, and of the voltage between them.

    One seed for all cells: what they have in common is drawn alike, as far as they ask for it in the same order.
    """
    rng = np.random.default_rng(SEED)
    draw = drawer(rng, n)
    e_v = np.linspace(LOWEST_V, HIGHEST_V, POINTS_OF_MANY)

    def table(plate: str, liquid: str) -> ManyHalves:
        half = Half.drawn(plate, liquid, draw, np.random.default_rng(SEED + 1), n).after(after_s)
        drawn = half.curve(e_v)
        return ManyHalves(Halves(np.broadcast_to(drawn, (n, drawn.shape[1])), e_v).at(DENSITY_GRID))

    low, high = table(negative, low_side), table(positive, high_side)
    return low, high, ManyHalves(high.e_v[:, ::-1] - low.e_v)


@dataclass(frozen=True)
class Curve:
    """A cell in its pack: its voltage on the grid and, where liquid joins cups, the potentials of the plate that the current
    enters by and of the one it leaves by."""

    current_a: Array
    volts_v: Array
    enters_v: Array | None = None
    leaves_v: Array | None = None


def curve(
    cell: PackCell, after_s: float = FIRST_S, n: int = 0, rng: np.random.Generator | None = None, plates: bool = False
) -> Curve:
    """The cell's curve at the middle of all ranges, or `n` draws of model, anchor and what cells built alike differ in;
    `plates`: with the potentials of both plates."""
    low_side, high_side = sides_of(cell.cell)
    grid = GRID_OF_MANY_A if n else GRID_A
    if n and rng is not None:
        z = rng.standard_normal((2, n, 1)).clip(-2.0, 2.0)
        low: Halves | ManyHalves
        high: Halves | ManyHalves
        low, high, whole = cell_draws(cell.cell.negative, low_side, high_side, cell.cell.positive, after_s, n)
        shift = np.hypot(cell.anchor.u_shift_v, CELL_SCATTER_V) * z[0]
        times = cell.anchor.times * np.exp(np.hypot(cell.anchor.u_times, CELL_SCATTER) * z[1])
    else:
        whole = None
        low = half_table(cell.cell.negative, low_side, after_s)
        high = half_table(cell.cell.positive, high_side, after_s)
        shift, times = np.zeros((1, 1)), np.full((1, 1), cell.anchor.times)
    shift = shift + junction(cell.cell).volts_v
    wetted = cell.geometry.area_m2 * cell.geometry.pairs * cell.left
    density = grid[None, :] * times / wetted
    held = np.full((1, 1), cell.anchor.shift_v)
    if n and cell.anchor.volts_measured:  # the class has measured what the draws differ in: only their shape is kept
        held = held + _middle_open_v(cell, after_s) - _open_v(low, high)
    if held.any():
        sign = -1.0 if cell.turned else 1.0
        free = whole.at(sign * density) if whole is not None else high.at(-sign * density) - low.at(sign * density)
        shift = shift + held * left_of(free, _open_v(low, high))
    ohm = solution_ohm(cell.cell, cell.geometry) / cell.left + cell.contact_ohm
    if whole is not None and not plates and math.isinf(cell.touching_ohm):  # both plates read off at once
        sign = -1.0 if cell.turned else 1.0
        return Curve(grid, sign * (whole.at(sign * density) + shift) - grid * ohm)
    # The current enters a pack's cell by its negative plate (oxidised there), turned by its positive one.
    inside, outside, sign = (high, low, -1.0) if cell.turned else (low, high, 1.0)
    half_shift = 0.5 * sign * shift
    enters, leaves = inside.at(density) - half_shift, outside.at(-density) + half_shift
    volts = leaves - enters - grid * ohm
    if math.isfinite(cell.touching_ohm):
        volts = _across(grid, volts, volts, cell.touching_ohm)
    return Curve(grid, volts, enters, leaves)


def left_of(volts_v: Array, open_v: Array) -> Array:
    """What part of an open voltage is left, 0 to 1: how much of a shift at rest still holds under a load; all of it where
    there is none to be pulled down."""
    none = np.abs(open_v) < LEAST_OPEN_V
    return np.asarray(np.where(none, 1.0, np.clip(volts_v / np.where(none, 1.0, open_v), 0.0, 1.0)))


def _open_v(low: Halves | ManyHalves, high: Halves | ManyHalves) -> Array:
    none = np.zeros(1)
    return high.at(none) - low.at(none)


def _middle_open_v(cell: PackCell, after_s: float) -> float:
    low_side, high_side = sides_of(cell.cell)
    tables = half_table(cell.cell.negative, low_side, after_s), half_table(cell.cell.positive, high_side, after_s)
    return float(_open_v(*tables)[0, 0])


def _across(grid: Array, drives: Array, wanted: Array, ohm: float) -> Array:
    """`wanted` against the current that is left over when `drives` (falling with current) also sends one through `ohm`."""
    rest = grid - drives / ohm
    return np.stack([np.interp(grid, left, value) for left, value in zip(rest, wanted, strict=True)])


def joint_loss_v(before: Curve, after: Curve, bridge_ohm: float) -> Array:
    """What a wet bridge from one cup to the next takes off the row's voltage, (draws, currents).

    The wire joins the plate that leaves the first cup with the one that enters the second; the bridge joins their liquids.
    So the two plates are a cell of their own with the bridge across it: its current comes on top of the row's at both.
    """
    if before.leaves_v is None or after.enters_v is None:
        raise ValueError("a bridge needs the plates' potentials")
    joint = before.leaves_v - after.enters_v
    return np.asarray(joint - _across(before.current_a, joint, joint, bridge_ohm))


def row_volts(cells: list[PackCell], curves: list[Curve]) -> Array:
    """Voltage of cells in a row against their common current."""
    total = np.sum([c.volts_v for c in curves], axis=0)
    for k in range(len(cells) - 1):
        if math.isfinite(cells[k].bridge_ohm):
            total = total - joint_loss_v(curves[k], curves[k + 1], cells[k].bridge_ohm)
    return np.asarray(total)
