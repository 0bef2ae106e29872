"""Does the shared cell drift? Every group reads it first and last; the drift is common, each group's level its own.

Analysis of covariance: one slope, one level for each group, by least squares (statsmodels' `v ~ t + C(group)` in the tests).
A group that read the shared cell only once says nothing about drift and is left out of the slope.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from galvanic.errors import NotEnoughData
from galvanic.statistics.repeats import coverage
from galvanic.words import say


@dataclass(frozen=True, slots=True)
class Shared:
    """One reading of the shared cell: who, when (minutes from the start), V."""

    group: str
    minute: float
    volts_v: float


@dataclass(frozen=True, slots=True)
class Drift:
    """Common drift in V per hour with its standard uncertainty and interval; `s_v` is the scatter about the lines."""

    v_per_hour: float
    u_v_per_hour: float
    low_v_per_hour: float
    high_v_per_hour: float
    s_v: float
    groups: int
    n: int

    @property
    def shown(self) -> bool:
        """Whether the data show a drift: the interval leaves zero out."""
        return self.low_v_per_hour > 0.0 or self.high_v_per_hour < 0.0


def shared_cell_drift(readings: Sequence[Shared], level: float = 0.95) -> Drift:
    """The drift that all groups share. Raises NotEnoughData with too few times to judge a drift by."""
    by_group: dict[str, list[Shared]] = {}
    for reading in readings:
        by_group.setdefault(reading.group, []).append(reading)
    useful = [own for own in by_group.values() if len({one.minute for one in own}) > 1]
    n = sum(len(own) for own in useful)
    spare = n - len(useful) - 1
    if not useful or spare < 1:
        raise NotEnoughData(
            say("To see a drift, two groups must read the shared cell at two times, or one of them at three.")
        )
    hours = np.concatenate([_about_mean([one.minute / 60.0 for one in own]) for own in useful])
    volts = np.concatenate([_about_mean([one.volts_v for one in own]) for own in useful])
    sxx = float(hours @ hours)
    rate = float(hours @ volts) / sxx
    residual = volts - rate * hours
    s = math.sqrt(float(residual @ residual) / spare)
    u = s / math.sqrt(sxx)
    half = coverage(spare, level) * u
    return Drift(rate, u, rate - half, rate + half, s, len(useful), n)


def _about_mean(values: Sequence[float]) -> np.ndarray:
    centred = np.asarray(values, dtype=float)
    return np.asarray(centred - centred.mean())
