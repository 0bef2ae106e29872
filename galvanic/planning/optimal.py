"""How many groups should measure each cell, so that the ladders come out as sharp as the readings allow.

One group's value of one cell has variance σ²; the ladder of a bath (one liquid, one condition) then has the covariance
σ²·L⁺, with L the Laplacian of the counts. The design is near A-optimal: it makes Σ tr(L⁺) over all baths small (Atkinson,
Donev and Tobias, “Optimum Experimental Designs”, 2007, ch. 10 and 12: criterion, exchange). Counts are whole numbers, added
in blocks of `repeats` groups, first greedily, then by exchange. How far from ideal is known from the same problem with
fractional counts: it is convex, so the tangent at any point bounds it from below.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from galvanic.cells import Cell

Array = np.ndarray[Any, np.dtype[np.float64]]

TETHER = 1e-4  # every plate hangs on a weak thread, so that a plan with loose plates has a (large) variance
HELD = 1e9  # of a plate that is not in a bath
LEAST_GAIN = 1e-7  # changes smaller than this are no gain: keeps the choice the same on every machine
BOUND_STEPS = 150


@dataclass(frozen=True)
class Demand:
    """What the counts must respect.

    `cells` are the candidates; `fixed` counts are kept as they are; `least` are lower and `most` upper limits by cell;
    `given` are counts that come on top without asking (the shared cell); `places` is how many counts there are to give,
    `repeats` the block; `uses` limits the counts that an electrode can take part in.
    """

    electrodes: tuple[str, ...]
    baths: tuple[tuple[str, str], ...]
    cells: tuple[Cell, ...]
    places: int
    repeats: int
    groups: int
    fixed: Mapping[Cell, int]
    least: Mapping[Cell, int]
    most: Mapping[Cell, int]
    given: Mapping[Cell, int]
    uses: Mapping[str, int]


@lru_cache(maxsize=64)
def _places(
    electrodes: tuple[str, ...], baths: tuple[tuple[str, str], ...], cells: tuple[Cell, ...]
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Row of the negative plate, of the positive plate, and bath of every cell; nobody writes into these."""
    row = {name: i for i, name in enumerate(electrodes)}
    bath = {name: i for i, name in enumerate(baths)}
    numbers = np.array([(row[c.negative], row[c.positive], bath[c.bath]) for c in cells], dtype=int).reshape(-1, 3)
    return numbers[:, 0], numbers[:, 1], numbers[:, 2]


class Counts:
    """Counts under construction, with the covariance of every bath at hand."""

    def __init__(self, demand: Demand) -> None:
        self.demand = demand
        self.cells = demand.cells
        row = {name: i for i, name in enumerate(demand.electrodes)}
        bath = {name: i for i, name in enumerate(demand.baths)}
        self.i, self.j, self.b = _places(demand.electrodes, demand.baths, demand.cells)
        self.n = np.array([demand.fixed.get(c, demand.least.get(c, 0)) for c in self.cells], dtype=int)
        self.most = np.array([min(demand.groups, demand.most.get(c, demand.groups)) for c in self.cells], dtype=int)
        self.least = np.array([demand.least.get(c, 0) for c in self.cells], dtype=int)
        self.frozen = np.array([c in demand.fixed for c in self.cells], dtype=bool)
        self.uses = np.array([demand.uses.get(name, 10**6) for name in demand.electrodes])
        k = len(demand.electrodes)
        # The flat direction (all potentials shifted alike), which no cell can see, is lifted out of the way; plates that no
        # cell of a bath has are held there, so that they count for nothing.
        self.base = np.zeros((len(demand.baths), k, k)) + TETHER * np.eye(k)
        for b in range(len(demand.baths)):
            own = [c for c in (*demand.cells, *demand.given) if bath[c.bath] == b]
            there = sorted({row[plate] for cell in own for plate in cell.pair}) or list(range(k))
            away = [i for i in range(k) if i not in there]
            self.base[b][np.ix_(there, there)] += 1.0 / len(there)
            self.base[b][away, away] += HELD
        for cell, count in demand.given.items():
            _add(self.base[bath[cell.bath]], row[cell.negative], row[cell.positive], count)
        self.refresh()

    def refresh(self) -> None:
        """Covariances from the counts, afresh."""
        laplacian = self.base.copy()
        for rows, columns, sign in ((self.i, self.i, 1), (self.j, self.j, 1), (self.i, self.j, -1), (self.j, self.i, -1)):
            np.add.at(laplacian, (self.b, rows, columns), sign * self.n)
        self.p: Array = np.asarray(np.linalg.inv(laplacian))

    @property
    def left(self) -> int:
        """Places not given yet."""
        return self.demand.places - int(self.n.sum())

    @property
    def value(self) -> float:
        """Σ tr of the covariances over σ²."""
        return _trace(self.p)

    def gains(self, weight: float, p: Array | None = None) -> Array:
        """By how much Σ tr falls when each cell gets `weight` more (or rises, below zero)."""
        p = self.p if p is None else p
        p2 = p @ p
        i, j, b = self.i, self.j, self.b
        r = p[b, i, i] + p[b, j, j] - 2.0 * p[b, i, j]
        q = p2[b, i, i] + p2[b, j, j] - 2.0 * p2[b, i, j]
        return np.asarray(weight * q / (1.0 + weight * r))

    def room(self, weight: int) -> np.ndarray:
        """Which cells may get `weight` more."""
        used = np.zeros(len(self.uses), dtype=int)
        np.add.at(used, self.i, self.n)
        np.add.at(used, self.j, self.n)
        spare = np.minimum((self.uses - used)[self.i], (self.uses - used)[self.j])
        return np.asarray(~self.frozen & (self.n + weight <= self.most) & (spare >= weight))

    def change(self, cell: int, weight: int) -> None:
        """Give a cell `weight` more groups (or fewer)."""
        self.n[cell] += weight
        b = self.b[cell]
        v = self.p[b][:, self.i[cell]] - self.p[b][:, self.j[cell]]
        r = v[self.i[cell]] - v[self.j[cell]]
        self.p[b] -= weight / (1.0 + weight * r) * np.outer(v, v)


def _trace(p: Array) -> float:
    return float(np.trace(p, axis1=1, axis2=2).sum()) - len(p) / (1.0 + TETHER)


def _add(laplacian: Array, i: int, j: int, n: float) -> None:
    laplacian[i, i] += n
    laplacian[j, j] += n
    laplacian[i, j] -= n
    laplacian[j, i] -= n


def _best(gains: Array, allowed: np.ndarray) -> int | None:
    """The first of the largest gains; ties within the least gain go to the earlier cell."""
    if not allowed.any():
        return None
    masked = np.where(allowed, gains, -np.inf)
    top = float(masked.max())
    return int(np.flatnonzero(masked >= top - LEAST_GAIN * max(1.0, abs(top)))[0])


def fill(counts: Counts) -> None:
    """Give the places that are left, a block at a time, each where it helps most; single places last."""
    for block in sorted({counts.demand.repeats, 1}, reverse=True):
        while counts.left >= block:
            allowed = counts.room(block)
            if block == 1 < counts.demand.repeats:  # a lone place adds a group to a cell that is measured already
                met = allowed & (counts.n > 0)
                allowed = met if met.any() else allowed
            cell = _best(counts.gains(block), allowed)
            if cell is None:
                break
            counts.change(cell, block)
    counts.refresh()


def around(counts: Counts, hub: str) -> None:
    """Start with every cell against one plate, as far as the places go."""
    star = np.array([hub in cell.pair for cell in counts.cells], dtype=bool)
    while counts.left >= counts.demand.repeats:
        cell = _best(counts.gains(counts.demand.repeats), star & (counts.n == 0) & counts.room(counts.demand.repeats))
        if cell is None:
            return
        counts.change(cell, counts.demand.repeats)


def exchange(counts: Counts, rounds: int) -> None:
    """Move blocks from where they are missed least to where they help most, until nothing helps or rounds are over."""
    for _ in range(rounds):
        best: tuple[float, int, int, int] | None = None
        losses: dict[int, Array] = {}
        for cell in np.flatnonzero(~counts.frozen & (counts.n > counts.least)):
            # A whole block if the cell has one to spare, so that no cell is left with fewer groups than wanted.
            spare = int(counts.n[cell] - counts.least[cell])
            block = min(spare, counts.demand.repeats if counts.n[cell] != counts.demand.repeats + 1 else 1)
            if block not in losses:
                losses[block] = counts.gains(-block)
            loss = float(losses[block][cell])
            before = counts.p[counts.b[cell]].copy()
            counts.change(int(cell), -block)
            allowed = counts.room(block)
            allowed[cell] = False
            if block < counts.demand.repeats:
                allowed &= counts.n > 0
            gains = counts.gains(block)
            to = _best(gains, allowed)
            if to is not None:
                gain = float(gains[to]) + loss
                if gain > LEAST_GAIN * max(1.0, counts.value) and (best is None or gain > best[0] * (1.0 + LEAST_GAIN)):
                    best = (gain, int(cell), to, block)
            counts.n[cell] += block
            counts.p[counts.b[cell]] = before
        if best is None:
            return
        counts.change(best[1], -best[3])
        counts.change(best[2], best[3])
        counts.refresh()


def shake(counts: Counts, rng: np.random.Generator, share: float = 0.3) -> None:
    """Take a share of the movable blocks away at random, to start again from elsewhere."""
    movable = np.flatnonzero(~counts.frozen & (counts.n > counts.least))
    for cell in rng.permutation(movable)[: max(1, round(share * len(movable)))]:
        counts.n[cell] = counts.least[cell]
    counts.refresh()


def lower_bound(demand: Demand) -> float:
    """No plan with these places can have a smaller Σ tr(L⁺): a tangent to the convex problem of fractional counts.

    Wishes, blocks, whole numbers and the limits `most` and `uses` are let go, so the true best may lie a little above.
    """
    return _bound(demand.electrodes, demand.baths, demand.cells, demand.places, tuple(sorted(demand.given.items())))


@lru_cache(maxsize=256)
def _bound(
    electrodes: tuple[str, ...],
    baths: tuple[tuple[str, str], ...],
    cells: tuple[Cell, ...],
    places: int,
    given: tuple[tuple[Cell, int], ...],
) -> float:
    counts = Counts(Demand(electrodes, baths, cells, places, 1, places, {}, {}, {}, dict(given), {}))
    if not cells or places <= 0:
        return counts.value
    k, base = len(electrodes), counts.base
    i, j, b = counts.i, counts.j, counts.b
    at = [(b * k + one) * k + other for one, other in ((i, i), (j, j), (i, j), (j, i))]
    signs = np.repeat([1.0, 1.0, -1.0, -1.0], len(cells))
    weight, best = np.full(len(cells), places / len(cells)), -np.inf
    for _ in range(BOUND_STEPS):
        added = np.bincount(np.concatenate(at), signs * np.tile(weight, 4), base.size)
        p: Array = np.asarray(np.linalg.inv(base + added.reshape(base.shape)))
        p2 = p @ p
        slope = p2[b, i, i] + p2[b, j, j] - 2.0 * p2[b, i, j]  # by how much Σ tr falls per unit of weight
        best = max(best, _trace(p) - float(places * slope.max() - weight @ slope))
        weight = weight * np.sqrt(slope)  # multiplicative rule, monotonic for A-optimality (Yu, 2010)
        weight *= places / weight.sum()
    return best
