"""Several classes' ladders laid over each other: one for all, how much classes differ, and what the next one should find.

Class k's ladder gives distances d = A(θ + b) + e with the covariance C of its own fit: θ are the potentials of all classes
together, b is what is that class's own at each plate (its juice, its lot of metal), independent with variance τ², which is
found by restricted maximum likelihood with a weak penalty that keeps it off zero (Y. Chung and others, Psychometrika 78
(2013) 685). The potentials are those of generalised least squares; intervals are Student's t with Satterthwaite's degrees of
freedom; the interval of τ is that of the generalised Q statistic (W. Viechtbauer, Statistics in Medicine 26 (2007) 37,
from memory). Checked against MixedLM of statsmodels, and by how often intervals hold (`bench/years.py`).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from galvanic.errors import NotEnoughData
from galvanic.statistics.ladder import Ladder, connected
from galvanic.statistics.repeats import coverage
from galvanic.words import say

Array = NDArray[np.float64]
PENALTY = 0.2  # of the logarithm of τ², a fifth of the citation’s: found by bench/years.py
LOW_V, HIGH_V = 1e-5, 3.0  # between which τ is looked for
LEAST_CLASSES, MOST_MOVED = 2, 6


@dataclass(frozen=True, slots=True)
class Distances:
    """One class's distances of plates from its first: V, with their covariance in V²; `electrodes` has one more."""

    name: str
    electrodes: tuple[str, ...]
    volts_v: Array
    covariance_v2: Array


@dataclass(frozen=True, slots=True)
class Between:
    """The ladder of several classes: V against the first electrode, with covariance; τ in V with its 95 % interval.

    `own_v2`: variance of a class's own distance of two plates by its readings alone, the middle class's, in V².
    """

    electrodes: tuple[str, ...]
    classes: tuple[str, ...]
    potential_v: Array
    covariance_v2: Array
    tau_v: float
    tau_low_v: float
    tau_high_v: float
    slope: Array  # of the covariance with τ²
    tau2_u_v2: float  # standard uncertainty of τ²
    own_v2: float

    def _along(self, upper: str, lower: str) -> Array:
        along = np.zeros(len(self.electrodes))
        along[self.electrodes.index(upper)] += 1.0
        along[self.electrodes.index(lower)] -= 1.0
        return along

    def difference_v(self, upper: str, lower: str) -> tuple[float, float]:
        """E(upper) − E(lower) of all classes together, and its standard uncertainty, V."""
        along = self._along(upper, lower)
        return float(along @ self.potential_v), math.sqrt(max(0.0, float(along @ self.covariance_v2 @ along)))

    def _half_v(self, variance: float, slope: float, level: float) -> float:
        spread = (slope * self.tau2_u_v2) ** 2
        dof = math.inf if spread <= 0.0 else max(1.0, 2.0 * variance**2 / spread)
        return coverage(dof, level) * math.sqrt(variance)

    def reach_v(self, upper: str, lower: str, level: float = 0.95) -> float:
        """Half the width of the interval of the common distance, V."""
        along = self._along(upper, lower)
        return self._half_v(self.difference_v(upper, lower)[1] ** 2, float(along @ self.slope @ along), level)

    def next_class(self) -> Distances:
        """What the next class's distances should be, with the covariance of all that is not known of them."""
        to_first = np.hstack([-np.ones((len(self.electrodes) - 1, 1)), np.eye(len(self.electrodes) - 1)])
        new = (self.tau_v**2 + 0.5 * self.own_v2) * to_first @ to_first.T
        covariance = np.asarray(to_first @ self.covariance_v2 @ to_first.T + new)
        return Distances("next", self.electrodes, np.asarray(to_first @ self.potential_v), covariance)

    def next_class_v(self, upper: str, lower: str, level: float = 0.95) -> tuple[float, float]:
        """Between which volts the next class's value of a cell should lie, from its lower to its upper end."""
        along = self._along(upper, lower)
        middle, u = self.difference_v(upper, lower)
        variance = u**2 + 2.0 * self.tau_v**2 + self.own_v2
        half = self._half_v(variance, 2.0 + float(along @ self.slope @ along), level)
        return middle - half, middle + half


def distances_of(name: str, ladder: Ladder) -> Distances:
    """The distances of a class's ladder, of its largest connected part. Raises NotEnoughData where that is one plate."""
    part = ladder.parts[0]
    if len(part) < 2:
        raise NotEnoughData(say("{name} has no cell of two plates.", name=name))
    places = [ladder.electrodes.index(one) for one in part]
    to_first = np.hstack([-np.ones((len(part) - 1, 1)), np.eye(len(part) - 1)])
    volts = to_first @ ladder.potential_v[places]
    covariance = to_first @ ladder.covariance_v2[np.ix_(places, places)] @ to_first.T
    return Distances(name, part, np.asarray(volts), np.asarray(covariance))


def lay_over(classes: Sequence[Distances]) -> Between:
    """One ladder for all. Plates that no chain of classes connects to the largest part are left out.

    Raises NotEnoughData for fewer than two classes that share two plates.
    """
    names = tuple(dict.fromkeys(one for found in classes for one in found.electrodes))
    pairs = [(found.electrodes[0], other) for found in classes for other in found.electrodes[1:]]
    main = connected(names, pairs)[0] if names else ()
    used = [found for found in classes if found.electrodes[0] in main]
    shared = [one for one in main if sum(one in found.electrodes for found in used) > 1]
    if len(used) < LEAST_CLASSES or len(shared) < 2:
        raise NotEnoughData(say("It takes two classes with two plates in common, in the same liquid."))
    rows = [_contrast(found, main) for found in used]
    best = _best(used, rows)
    tau2 = best**2
    covariance, theta, _ = _solve(used, rows, tau2)
    slope = (_solve(used, rows, tau2 * 1.01)[0] - _solve(used, rows, tau2 * 0.99)[0]) / (0.02 * tau2)
    low, high = _q_interval(used, rows)
    whole = np.zeros(len(main))
    whole[1:] = theta
    return Between(
        main, tuple(found.name for found in used), whole, _padded(covariance), best, low, high, _padded(slope),
        1.0 / math.sqrt(_information(used, rows, tau2)), float(np.median([_own(found) for found in used])),
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Moved:
    """A plate that one class found elsewhere than all others: by how many volts, and from where to where it was foretold."""

    name: str
    electrode: str
    by_v: float
    low_v: float
    high_v: float


def moved(classes: Sequence[Distances], false_alarms: float = 0.05) -> tuple[Moved, ...]:
    """Plates that a class found off what the other classes foretell of it, the farthest first.

    A plate's place is its distance from the middle of the class's others; one that has moved is left out of its class before
    the rest is looked at again. `false_alarms`: the chance of any where there is none, shared among all that are looked at.
    Needs three classes at least.
    """
    left, found = list(classes), list[Moved]()
    level = 1.0 - false_alarms / max(1, sum(len(one.electrodes) for one in classes))
    while len(left) > LEAST_CLASSES and len(found) < MOST_MOVED:
        off = [pair for one in left for pair in _all_off(one, left, level)]
        if not off:
            break
        _, worst = max(off, key=lambda pair: pair[0])
        found.append(worst)
        left = [_without(one, worst.electrode) if one.name == worst.name else one for one in left]
    return tuple(found)


def _all_off(found: Distances, classes: Sequence[Distances], level: float) -> list[tuple[float, Moved]]:
    """The plates of one class that the others foretell elsewhere, each with how far beyond its interval."""
    try:
        others = lay_over([one for one in classes if one is not found])
    except NotEnoughData:
        return []
    common = [name for name in found.electrodes if name in others.electrodes]
    if len(common) < 3:
        return []
    looked = (_off(found, others, name, [c for c in common if c != name], level) for name in common)
    return [(score, one) for score, one in looked if one is not None]


def _without(found: Distances, electrode: str) -> Distances:
    """A class's distances without one plate."""
    keep = [name for name in found.electrodes if name != electrode]
    whole = np.vstack([np.zeros(len(found.volts_v)), np.eye(len(found.volts_v))])  # from distances to all plates
    rows = whole[[found.electrodes.index(name) for name in keep]]
    to_first = rows[1:] - rows[0]
    return Distances(found.name, tuple(keep), to_first @ found.volts_v, to_first @ found.covariance_v2 @ to_first.T)


def _off(found: Distances, others: Between, name: str, rest: Sequence[str], level: float) -> tuple[float, Moved | None]:
    def along(electrodes: Sequence[str]) -> Array:
        out = np.zeros(len(electrodes))
        out[electrodes.index(name)] = 1.0
        for one in rest:
            out[electrodes.index(one)] -= 1.0 / len(rest)
        return out

    here, there = along(found.electrodes)[1:], along(others.electrodes)
    value, foretold = float(here @ found.volts_v), float(there @ others.potential_v)
    variance = (
        float(here @ found.covariance_v2 @ here)
        + float(there @ others.covariance_v2 @ there)
        + others.tau_v**2 * (1.0 + 1.0 / len(rest))
    )
    half = others._half_v(variance, 1.0 + 1.0 / len(rest) + float(there @ others.slope @ there), level)
    off = value - foretold
    if abs(off) <= half:
        return 0.0, None
    return abs(off) / half, Moved(found.name, name, off, foretold - half, foretold + half)


def _contrast(found: Distances, main: Sequence[str]) -> tuple[Array, Array]:
    """A class's distances by the unknowns (the first electrode left out), and by all of its own plates."""
    own = np.hstack([-np.ones((len(found.electrodes) - 1, 1)), np.eye(len(found.electrodes) - 1)])
    places = np.zeros((len(found.electrodes), len(main)))
    places[np.arange(len(found.electrodes)), [main.index(one) for one in found.electrodes]] = 1.0
    return np.asarray((own @ places)[:, 1:]), np.asarray(own @ own.T)


def _own(found: Distances) -> float:
    """The middle variance of a class's distances by its readings alone, V²."""
    return float(np.median(np.diag(found.covariance_v2)))


def _variance(found: Distances, row: tuple[Array, Array], tau2: float) -> Array:
    return np.asarray(found.covariance_v2 + tau2 * row[1])


def _solve(used: Sequence[Distances], rows: Sequence[tuple[Array, Array]], tau2: float) -> tuple[Array, Array, float]:
    """Covariance and values of the unknowns, and minus twice the restricted log likelihood."""
    size = rows[0][0].shape[1]
    normal, right, minus2 = np.zeros((size, size)), np.zeros(size), 0.0
    for found, row in zip(used, rows, strict=True):
        inverse = np.linalg.inv(_variance(found, row, tau2))
        normal += row[0].T @ inverse @ row[0]
        right += row[0].T @ inverse @ found.volts_v
        minus2 -= float(np.linalg.slogdet(inverse)[1])
    covariance = np.linalg.inv(normal)
    theta = covariance @ right
    minus2 += float(np.linalg.slogdet(normal)[1]) + _q(used, rows, tau2, theta)
    return np.asarray(covariance), np.asarray(theta), minus2


def _q(used: Sequence[Distances], rows: Sequence[tuple[Array, Array]], tau2: float, theta: Array) -> float:
    total = 0.0
    for found, row in zip(used, rows, strict=True):
        residual = found.volts_v - row[0] @ theta
        total += float(residual @ np.linalg.solve(_variance(found, row, tau2), residual))
    return total


def _best(used: Sequence[Distances], rows: Sequence[tuple[Array, Array]]) -> float:
    """τ in V of the largest penalised restricted likelihood."""
    from scipy.optimize import minimize_scalar

    def cost(log_tau: float) -> float:
        return _solve(used, rows, math.exp(2.0 * log_tau))[2] - 2.0 * PENALTY * 2.0 * log_tau

    grid = np.linspace(math.log(LOW_V), math.log(HIGH_V), 24)
    place = int(np.argmin([cost(one) for one in grid]))
    low, high = grid[max(0, place - 1)], grid[min(len(grid) - 1, place + 1)]
    return math.exp(float(minimize_scalar(cost, bounds=(low, high), method="bounded").x))


def _information(used: Sequence[Distances], rows: Sequence[tuple[Array, Array]], tau2: float) -> float:
    """Of τ², by the restricted likelihood: half the trace of (P dV)², the projector P over all classes at once."""
    a = np.vstack([row[0] for row in rows])
    sizes = [len(found.volts_v) for found in used]
    whole, change, at = np.zeros((sum(sizes), sum(sizes))), np.zeros((sum(sizes), sum(sizes))), 0
    for found, row, size in zip(used, rows, sizes, strict=True):
        block = slice(at, at + size)
        whole[block, block] = np.linalg.inv(_variance(found, row, tau2))
        change[block, block] = row[1]
        at += size
    projected = whole - whole @ a @ np.linalg.solve(a.T @ whole @ a, a.T @ whole)
    turned = projected @ change
    return 0.5 * float((turned * turned.T).sum())


def _q_interval(used: Sequence[Distances], rows: Sequence[tuple[Array, Array]], level: float = 0.95) -> tuple[float, float]:
    """The 95 % interval of τ in V, by the generalised Q statistic."""
    from scipy.optimize import brentq
    from scipy.special import chdtri

    dof = sum(len(found.volts_v) for found in used) - rows[0][0].shape[1]
    if dof < 1:
        return 0.0, math.inf
    tail = (1.0 - level) / 2.0

    def excess(log_tau: float, wanted: float) -> float:
        tau2 = math.exp(2.0 * log_tau)
        return _q(used, rows, tau2, _solve(used, rows, tau2)[1]) - wanted

    low, high = math.log(LOW_V), math.log(HIGH_V)
    ends = []
    for wanted, at_none in ((float(chdtri(dof, tail)), 0.0), (float(chdtri(dof, 1.0 - tail)), 0.0)):
        if excess(low, wanted) <= 0.0:
            ends.append(at_none)
        elif excess(high, wanted) >= 0.0:
            ends.append(math.inf)
        else:
            ends.append(math.exp(float(brentq(excess, low, high, args=(wanted,)))))
    return ends[0], ends[1]


def _padded(inner: Array) -> Array:
    """A matrix of the unknowns with the first electrode, which is held, put back."""
    out = np.zeros((len(inner) + 1, len(inner) + 1))
    out[1:, 1:] = inner
    return out
