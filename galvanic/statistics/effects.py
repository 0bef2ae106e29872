"""What the liquid does: the same pair across electrolytes, against pH and conductivity; pair × electrolyte.

Slopes are ordinary least squares with Student's t, so with three liquids the interval is as wide as it honestly is. The
two-way analysis compares nested least-squares fits (type II sums of squares), so it may be unbalanced.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from galvanic.errors import NotEnoughData
from galvanic.reference.catalogue import electrolytes
from galvanic.statistics.repeats import coverage
from galvanic.words import say


@dataclass(frozen=True, slots=True)
class Slope:
    """y = intercept + slope·x with standard uncertainties and the slope's interval; `s` is the residual scatter."""

    slope: float
    intercept: float
    u_slope: float
    u_intercept: float
    low: float
    high: float
    s: float
    n: int


def slope(x: Sequence[float], y: Sequence[float], level: float = 0.95) -> Slope:
    """Straight line by least squares. Raises NotEnoughData with fewer than three points or a single x."""
    n = len(x)
    if n < 3 or max(x) == min(x):
        raise NotEnoughData(say("A slope with an interval needs three points at different places."))
    xs, ys = np.asarray(x, dtype=float), np.asarray(y, dtype=float)
    mx, my = math.fsum(xs) / n, math.fsum(ys) / n
    dx, dy = xs - mx, ys - my
    sxx = math.fsum(dx * dx)
    b = math.fsum(dx * dy) / sxx
    residual = dy - b * dx
    s = math.sqrt(math.fsum(residual * residual) / (n - 2))
    u_b = s / math.sqrt(sxx)
    half = coverage(n - 2, level) * u_b
    return Slope(b, my - b * mx, u_b, s * math.sqrt(1.0 / n + mx * mx / sxx), b - half, b + half, s, n)


@dataclass(frozen=True, slots=True)
class Effect:
    """One row of an analysis of variance: sum of squares in V², degrees of freedom, F and p (None without residual)."""

    name: str
    ss_v2: float
    dof: int
    f: float | None
    p: float | None


@dataclass(frozen=True, slots=True)
class TwoWay:
    """Pair, electrolyte, their interaction (None where no cell is repeated), and the residual."""

    pair: Effect
    electrolyte: Effect
    interaction: Effect | None
    residual: Effect


ROUNDING = 1e-20  # of all squares: a remainder of rounding, where values that do not differ leave none


def two_way(pairs: Sequence[str], electrolytes: Sequence[str], volts_v: Sequence[float]) -> TwoWay:
    """Two-way analysis of variance of readings in V. Raises NotEnoughData without two of each or without spare readings.

    With one reading a cell the interaction cannot be told from scatter and serves as the residual.
    """
    y = np.asarray(volts_v, dtype=float)
    pair_names, liquid_names = sorted(set(pairs)), sorted(set(electrolytes))
    if len(pair_names) < 2 or len(liquid_names) < 2:
        raise NotEnoughData(say("Two pairs and two electrolytes are needed."))
    one = np.ones((len(y), 1))
    by_pair = _dummies(pairs, pair_names)
    by_liquid = _dummies(electrolytes, liquid_names)
    cells = [f"{p}\0{q}" for p, q in zip(pairs, electrolytes, strict=True)]
    by_cell = _dummies(cells, sorted(set(cells)))
    ss_p, rank_p = _rss(np.hstack([one, by_pair]), y)
    ss_q, rank_q = _rss(np.hstack([one, by_liquid]), y)
    ss_both, rank_both = _rss(np.hstack([one, by_pair, by_liquid]), y)
    ss_full, rank_full = _rss(np.hstack([one, by_cell]), y)
    spare_full, spare_both = len(y) - rank_full, len(y) - rank_both
    if spare_both < 1:
        raise NotEnoughData(say("There are as many unknowns as readings: nothing is left to judge them by."))
    repeated = spare_full > 0 and rank_full > rank_both
    ss_r, dof_r = (ss_full, spare_full) if repeated else (ss_both, spare_both)

    def effect(name: str, ss: float, dof: int) -> Effect:
        ss = max(0.0, ss)
        if dof < 1 or ss_r <= ROUNDING * float(y @ y):
            return Effect(name, ss, dof, None, None)
        from scipy.special import fdtrc

        f = (ss / dof) / (ss_r / dof_r)
        return Effect(name, ss, dof, f, float(fdtrc(dof, dof_r, f)))

    return TwoWay(
        effect("pair", ss_q - ss_both, rank_both - rank_q),
        effect("electrolyte", ss_p - ss_both, rank_both - rank_p),
        effect("interaction", ss_both - ss_full, rank_full - rank_both) if repeated else None,
        Effect("residual", ss_r, dof_r, None, None),
    )


def _dummies(values: Sequence[str], names: Sequence[str]) -> np.ndarray:
    return np.array([[float(value == name) for name in names[1:]] for value in values]).reshape(len(values), -1)


def _rss(x: np.ndarray, y: np.ndarray) -> tuple[float, int]:
    """Residual sum of squares and rank of a least-squares fit."""
    solved, _, rank, _ = np.linalg.lstsq(x, y, rcond=None)
    residual = y - x @ solved
    return float(residual @ residual), int(rank)


@dataclass(frozen=True, slots=True)
class LiquidEffect:
    """The same pair across electrolytes: V per unit of pH and V per decade of conductivity, None where not enough."""

    n: int
    per_ph: Slope | None
    per_decade: Slope | None


def liquid_effect(volts_v: Mapping[str, float]) -> LiquidEffect:
    """Slopes of one pair's voltage (V, by key of the electrolyte) against the middles of pH and log10 conductivity.

    The two are fitted one at a time: with the few liquids of a class they cannot be told apart together.
    """
    rows = [(electrolytes()[key], value) for key, value in volts_v.items() if electrolytes()[key].negative_side is None]
    y = [value for _, value in rows]

    def against(x: list[float]) -> Slope | None:
        try:
            return slope(x, y)
        except NotEnoughData:
            return None

    ph = [0.5 * (row.ph.low + row.ph.high) for row, _ in rows]
    kappa = [0.5 * math.log10(row.conductivity_s_per_m.low * row.conductivity_s_per_m.high) for row, _ in rows]
    return LiquidEffect(len(rows), against(ph) if rows else None, against(kappa) if rows else None)
