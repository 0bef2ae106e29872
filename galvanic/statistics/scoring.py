"""How well an account does on a class's own data: bias, rms, signs right, and the interval of a difference.

By how much more an account a misses than the best one b moves with the values along (a − b)/(n rms), to first order about
values that the best foretells. So it has the variance that the class's values have: new at each cell, kept with a group's
plates and with its meter, and one that all groups share, since the class's plates are of one sheet and were cleaned one way.
That last one is estimated from what the better account leaves (the largest posterior density of a variance under a weak
prior; A. Gelman and others, “Bayesian Data Analysis”, ch. 5): drawing groups alone would take it for none. Degrees of
freedom by Satterthwaite.
`bench/accounts.py` prints how often the intervals hold.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from galvanic.errors import NotEnoughData
from galvanic.statistics.repeats import coverage
from galvanic.words import say

Array = NDArray[np.float64]
USUAL_PLATE_V, FREEDOM = 0.07, 1.0  # what all of a class's plates of one metal share; common practice, no source
TRIED_V = np.geomspace(1e-3, 1.0, 60)
GOOD_V = 0.1  # an account that misses by more cannot tell most neighbours apart; common practice, no source


@dataclass(frozen=True, slots=True)
class Score:
    """An account against measured voltages, V; `left_out` are cells where it has no answer."""

    n: int
    bias_v: float
    rms_v: float
    signs_right: int
    left_out: int


@dataclass(frozen=True, slots=True)
class Values:
    """A class's values: V, what each is made of (values, rungs: +1 the positive plate, −1 the negative), and the covariance
    of what groups add, V²; `groups` is their number."""

    measured_v: Array
    made_of: Array
    covariance_v2: Array
    groups: int


@dataclass(frozen=True, slots=True)
class Contest:
    """rms of one account less rms of another on the same values, V, with a 95 % interval; `plate_v`: what the class's plates
    of one metal share beyond the better account, as a standard deviation, V."""

    difference_v: float
    low_v: float
    high_v: float
    n: int
    groups: int
    plate_v: float


def score(predicted_v: Sequence[float | None], measured_v: Sequence[float]) -> Score:
    """Score an account on the cells it answers. Raises NotEnoughData if there are none."""
    pairs = [(p, m) for p, m in zip(predicted_v, measured_v, strict=True) if p is not None]
    if not pairs:
        raise NotEnoughData(say("This account has no answer for any of these cells."))
    p, m = np.array(pairs).T
    error = p - m
    return Score(
        len(pairs),
        float(error.mean()),
        float(np.sqrt((error**2).mean())),
        int((np.sign(p) == np.sign(m)).sum()),
        len(measured_v) - len(pairs),
    )


def contest(one_v: Array, best_v: Array, values: Values) -> Contest:
    """Compare an account with the best on values that both answer; above zero, the first misses by more.

    Raises NotEnoughData with fewer than two groups, since then nothing is known of the scatter between them.
    """
    if values.groups < 2:
        raise NotEnoughData(say("Two groups with cells that both accounts answer are needed."))
    n = len(one_v)
    missed, least = (float(np.sqrt(((says - values.measured_v) ** 2).mean())) for says in (one_v, best_v))
    plate2 = shared_v2(best_v, values)
    weights = (one_v - best_v) / (n * max(missed, 1e-9))
    by_groups = float(weights @ values.covariance_v2 @ weights)
    by_plates = plate2 * float(((weights @ values.made_of) ** 2).sum())
    variance = by_groups + by_plates
    plates = np.count_nonzero(np.abs(values.made_of).sum(axis=0))
    freedom = variance**2 / max(by_groups**2 / (values.groups - 1.0) + by_plates**2 / max(1.0, plates - 1.0), 1e-300)
    half, worse = coverage(max(1.0, freedom)) * math.sqrt(variance), missed - least
    return Contest(worse, worse - half, worse + half, n, values.groups, math.sqrt(plate2))


def shared_v2(says_v: Array, values: Values) -> float:
    """The variance that all groups' plates of one metal share beyond an account, V²."""
    left, shared = values.measured_v - says_v, values.made_of @ values.made_of.T
    best, most = 0.0, -math.inf
    for sd in TRIED_V:
        root = np.linalg.cholesky(values.covariance_v2 + sd**2 * shared)
        fit = -2.0 * np.log(np.diag(root)).sum() - float((np.linalg.solve(root, left) ** 2).sum())
        prior = -FREEDOM * (2.0 * math.log(sd) + (USUAL_PLATE_V / sd) ** 2)
        if fit + prior > most:
            best, most = float(sd**2), fit + prior
    return best


def surely_misses_v(says_v: Array, values: Values) -> float:
    """By how much an account misses at least, as rms, V: the lower end of a 95 % interval (its sum of squares is compared
    with a χ² of the same mean and variance)."""
    from scipy.special import chdtri

    spread = values.covariance_v2 + shared_v2(says_v, values) * (values.made_of @ values.made_of.T)
    freedom = max(1.0, float(np.trace(spread)) ** 2 / float((spread**2).sum()))
    mean_square = float(((says_v - values.measured_v) ** 2).mean())
    return math.sqrt(mean_square * freedom / float(chdtri(freedom, 0.025)))
