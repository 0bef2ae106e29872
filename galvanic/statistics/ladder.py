"""One ladder of electrode potentials from the voltages of pairs.

Each difference y = E(red) − E(black) is one equation; weighted least squares over the graph of pairs gives every
electrode's potential up to one constant per connected part, through the pseudo-inverse of the weighted Laplacian.
Scatter between groups that their own uncertainties do not explain enters as one more variance τ², set so that χ²
equals the degrees of freedom (R. C. Paule, J. Mandel, J. Res. Natl. Bur. Stand. 87 (1982) 377).
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from galvanic.errors import NotEnoughData
from galvanic.statistics.repeats import coverage
from galvanic.words import say

Array = NDArray[np.float64]
LEVERAGE_ONE = 1e-9


@dataclass(frozen=True, slots=True)
class Difference:
    """One measured difference: E(red) − E(black) = `volts_v` with standard uncertainty `u_v` > 0, by `group`."""

    red: str
    black: str
    volts_v: float
    u_v: float
    group: str = ""


@dataclass(frozen=True, slots=True)
class Scatter:
    """Standard deviations in V of what is new at each cell, kept with a group's plates, and kept with its meter.

    `rough`: plates that scatter more, with what each adds. `slopes` is how the covariance of the potentials moves with the
    logarithm of each variance, and `uncertainty` the covariance of those logarithms.
    """

    cell_v: float
    plates_v: float
    meter_v: float
    rough: Mapping[str, float]
    slopes: Array
    uncertainty: Array


@dataclass(frozen=True, slots=True)
class Ladder:
    """The fit. Potentials in V with zero mean in each connected part; `covariance_v2` belongs to that gauge.

    `tau_v` is None when no difference is measured twice over, so that extra scatter cannot be known.
    `studentised[i]` is NaN where the fit must go through difference i.
    """

    electrodes: tuple[str, ...]
    parts: tuple[tuple[str, ...], ...]
    potential_v: Array
    covariance_v2: Array
    residual_v: Array
    studentised: Array
    chi2: float
    dof: int
    tau_v: float | None
    scatter: Scatter | None = None

    def part_of(self, electrode: str) -> tuple[str, ...]:
        """The electrodes that pairs connect to this one."""
        return next(part for part in self.parts if electrode in part)

    def difference_v(self, upper: str, lower: str) -> tuple[float, float]:
        """E(upper) − E(lower) with its standard uncertainty, V. Raises NotEnoughData if no pairs connect them."""
        if lower not in self.part_of(upper):
            raise NotEnoughData(say("No chain of cells connects {upper} and {lower}.", upper=upper, lower=lower))
        i, j = self.electrodes.index(upper), self.electrodes.index(lower)
        variance = self.covariance_v2[i, i] + self.covariance_v2[j, j] - 2.0 * self.covariance_v2[i, j]
        return float(self.potential_v[i] - self.potential_v[j]), math.sqrt(max(0.0, float(variance)))

    def freedom(self, upper: str, lower: str) -> float:
        """Degrees of freedom of the distance of two electrodes: Satterthwaite's, at least 1.

        Infinite where the values' own uncertainties are taken as known.
        """
        if self.scatter is None:
            return math.inf
        i, j = self.electrodes.index(upper), self.electrodes.index(lower)
        variance = self.difference_v(upper, lower)[1] ** 2
        slope = self.scatter.slopes
        along = slope[:, i, i] + slope[:, j, j] - slope[:, i, j] - slope[:, j, i]
        spread = float(along @ self.scatter.uncertainty @ along)
        return max(1.0, 2.0 * variance**2 / spread) if spread > 0.0 and variance > 0.0 else math.inf

    def reach_v(self, upper: str, lower: str, level: float = 0.95) -> float:
        """Half the width of the interval of a distance at a level, by Student's t, V."""
        return coverage(self.freedom(upper, lower), level) * self.difference_v(upper, lower)[1]


def fit(differences: Sequence[Difference]) -> Ladder:
    """Fit the ladder. Raises NotEnoughData for no differences, a pair of one electrode, or an uncertainty not above 0."""
    if not differences:
        raise NotEnoughData(say("There are no readings to build a ladder from."))
    for d in differences:
        if d.red == d.black:
            raise NotEnoughData(say("{red} against itself says nothing about the ladder.", red=d.red))
        if not (d.u_v > 0.0 and math.isfinite(d.u_v) and math.isfinite(d.volts_v)):
            raise NotEnoughData(
                say(
                    "The difference {red} \u2212 {black} needs a number and an uncertainty above zero.",
                    red=d.red,
                    black=d.black,
                )
            )
    names = tuple(dict.fromkeys(name for d in differences for name in (d.black, d.red)))
    index = {name: i for i, name in enumerate(names)}
    a = np.zeros((len(differences), len(names)))
    rows = np.arange(len(differences))
    a[rows, [index[d.red] for d in differences]] = 1.0
    a[rows, [index[d.black] for d in differences]] = -1.0
    y = np.array([d.volts_v for d in differences])
    variance = np.array([d.u_v for d in differences]) ** 2

    parts = connected(names, [(d.red, d.black) for d in differences])
    dof = len(differences) - len(names) + len(parts)
    flat = _flat_directions(names, parts)
    tau_v = _paule_mandel(a, y, variance, flat, dof) if dof > 0 else None
    total = variance + (tau_v or 0.0) ** 2
    theta, covariance, residual = _solve(a, y, total, flat)
    leverage = np.einsum("ij,jk,ik->i", a, covariance, a) / total
    spare = 1.0 - leverage
    with np.errstate(invalid="ignore", divide="ignore"):
        studentised = np.where(spare > LEVERAGE_ONE, residual / np.sqrt(total * spare), np.nan)
    chi2 = float((residual**2 / total).sum())
    return Ladder(names, parts, theta, covariance, residual, studentised, chi2, dof, tau_v)


def connected(names: Sequence[str], pairs: Sequence[tuple[str, str]]) -> tuple[tuple[str, ...], ...]:
    """Split electrodes into the parts that pairs connect, largest first, each in the order of `names`."""
    root = {name: name for name in names}

    def find(name: str) -> str:
        while root[name] != name:
            root[name] = root[root[name]]
            name = root[name]
        return name

    for one, other in pairs:
        root[find(one)] = find(other)
    parts: dict[str, list[str]] = {}
    for name in names:
        parts.setdefault(find(name), []).append(name)
    return tuple(sorted((tuple(part) for part in parts.values()), key=len, reverse=True))


def _flat_directions(names: Sequence[str], parts: Sequence[Sequence[str]]) -> Array:
    """Projector on the constants that no pair can see: one per connected part."""
    flat = np.zeros((len(names), len(names)))
    for part in parts:
        member = np.array([name in part for name in names], dtype=float)
        flat += np.outer(member, member) / len(part)
    return flat


def _solve(a: Array, y: Array, variance: Array, flat: Array) -> tuple[Array, Array, Array]:
    weighted = a / variance[:, None]
    laplacian = a.T @ weighted
    scale = float(np.trace(laplacian)) / len(laplacian)
    # The flat directions are lifted, inverted with the rest and taken out again: an exact pseudo-inverse, with no
    # threshold to decide what is zero.
    covariance = np.linalg.inv(laplacian + scale * flat) - flat / scale
    theta = covariance @ (weighted.T @ y)
    return theta, covariance, y - a @ theta


def _paule_mandel(a: Array, y: Array, variance: Array, flat: Array, dof: int) -> float:
    """τ ≥ 0 in V such that χ²(τ) = dof; χ² falls steadily with τ, so the bracket always ends."""

    def excess(tau2: float) -> float:
        total = variance + tau2
        residual = _solve(a, y, total, flat)[2]
        return float((residual**2 / total).sum()) - dof

    if excess(0.0) <= 0.0:
        return 0.0
    high = float(variance.max())
    while excess(high) > 0.0:
        high *= 4.0
    from scipy.optimize import brentq

    return math.sqrt(brentq(excess, 0.0, high, xtol=1e-18, rtol=1e-10))
