"""Repeated readings: mean, scatter, standard uncertainty and interval; scatter inside and between groups.

Follows the “Guide to the expression of uncertainty in measurement” (JCGM 100:2008): 4.2 type A from the scatter,
4.3.7 type B from the meter's last digit (rectangular, half a digit either way), 5.1 root sum of squares, G.4
Welch–Satterthwaite effective degrees of freedom for the interval.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from galvanic.errors import NotEnoughData
from galvanic.words import say

WHOLE_V = 1.0  # no meter that is on a cell shows no more than this


@dataclass(frozen=True, slots=True)
class Repeats:
    """n readings of one thing: all in V; `s_v`, `low_v` and `high_v` are None with a single reading."""

    n: int
    mean_v: float
    s_v: float | None
    u_a_v: float | None
    u_b_v: float
    u_v: float
    dof: float
    low_v: float | None
    high_v: float | None


def last_digit_v(resolutions_v: Iterable[float]) -> float:
    """The step of a meter's last digit from those of its readings, V: the coarsest below a whole volt.

    No meter on a cell shows whole volts only: one “1” among “0.9” and “0.94” is a digit left out, and says nothing of the
    meter. 0 without readings.
    """
    steps = list(resolutions_v)
    finer = [step for step in steps if step < WHOLE_V]
    return max(finer or steps, default=0.0)


def summarise(volts_v: Sequence[float], resolution_v: float, level: float = 0.95) -> Repeats:
    """Mean with standard uncertainty and a t-interval of `level`.

    `resolution_v`: step of the last digit in V. With one reading only the last digit's uncertainty is known, so no
    interval is given. Raises NotEnoughData for no readings.
    """
    n = len(volts_v)
    if n == 0:
        raise NotEnoughData(say("There are no readings to summarise."))
    values = np.asarray(volts_v, dtype=float)
    mean = float(values.mean())
    u_b = abs(resolution_v) / math.sqrt(12.0)
    if n == 1:
        return Repeats(1, mean, None, None, u_b, u_b, math.inf, None, None)
    s = float(values.std(ddof=1))
    u_a = s / math.sqrt(n)
    u = math.hypot(u_a, u_b)
    dof = (n - 1) * (u / u_a) ** 4 if u_a > 1e-9 * u else math.inf
    half = coverage(dof, level) * u
    return Repeats(n, mean, s, u_a, u_b, u, dof, mean - half, mean + half)


def coverage(dof: float, level: float = 0.95) -> float:
    """Two-sided t factor for a level; the normal factor for infinite degrees of freedom."""
    from scipy.special import ndtri, stdtrit

    p = 0.5 + level / 2.0
    return float(ndtri(p)) if math.isinf(dof) else float(stdtrit(dof, p))


@dataclass(frozen=True, slots=True)
class OneWay:
    """One-way analysis of variance with random groups; variances in V², `between_v2` cut off at zero."""

    groups: int
    n: int
    ss_between_v2: float
    ss_within_v2: float
    f: float
    within_v2: float
    between_v2: float

    @property
    def repeatability_v(self) -> float:
        """Standard deviation of readings inside one group (ISO 5725-2: s_r)."""
        return math.sqrt(self.within_v2)

    @property
    def reproducibility_v(self) -> float:
        """Standard deviation of readings by different groups (ISO 5725-2: s_R)."""
        return math.sqrt(self.within_v2 + self.between_v2)


def one_way(groups: Sequence[Sequence[float]]) -> OneWay:
    """Split the scatter of readings in V into inside-group and between-group variance, also when unbalanced.

    Moment estimates (ISO 5725-2). Raises NotEnoughData for fewer than two groups or no repeats at all.
    """
    filled = [np.asarray(group, dtype=float) for group in groups if len(group)]
    n = sum(group.size for group in filled)
    k = len(filled)
    if k < 2 or n <= k:
        raise NotEnoughData(say("Two groups are needed, and at least one of them with two readings."))
    grand = math.fsum(math.fsum(group) for group in filled) / n
    means = [math.fsum(group) / group.size for group in filled]
    ss_between = math.fsum(group.size * (mean - grand) ** 2 for group, mean in zip(filled, means, strict=True))
    ss_within = math.fsum(math.fsum((group - mean) ** 2) for group, mean in zip(filled, means, strict=True))
    ms_between, ms_within = ss_between / (k - 1), ss_within / (n - k)
    n0 = (n - sum(group.size**2 for group in filled) / n) / (k - 1)
    f = math.inf if ms_within == 0.0 else ms_between / ms_within
    return OneWay(k, n, ss_between, ss_within, f, ms_within, max(0.0, (ms_between - ms_within) / n0))


@dataclass(frozen=True, slots=True)
class Pooled:
    """Scatter common to several series: standard deviation in V and its degrees of freedom."""

    s_v: float
    dof: int


def pooled(series: Sequence[Sequence[float]]) -> Pooled | None:
    """Scatter inside series of values in V, pooled over those with two values or more; None if there are none."""
    squares, dof = 0.0, 0
    for one in series:
        if len(one) > 1:
            values = np.asarray(one, dtype=float)
            squares += float(((values - values.mean()) ** 2).sum())
            dof += len(one) - 1
    return Pooled(math.sqrt(squares / dof), dof) if dof else None


def unsteady(series: Sequence[Sequence[float]], step_v: float, level: float = 0.01) -> frozenset[int]:
    """Places of series whose scatter inside is not that of the others, as of three readings of which one was mistyped.

    The largest variance is tested against all others pooled, at `level` for all series together, until it passes
    (Cochran's test for outlying variances, ISO 5725-2:1994, 7.3.3, in its form for unequal numbers by F: R. U. E. 't Lam,
    Analytica Chimica Acta 659 (2010) 68, from memory). `step_v` is the last digit, V: less scatter than it gives is none.
    """
    from scipy.special import fdtrc

    floor = step_v**2 / 12.0
    repeated = ((place, values) for place, values in enumerate(series) if len(values) > 1)
    known = {place: (float(np.var(values, ddof=1)) + floor, len(values) - 1) for place, values in repeated}
    out: set[int] = set()
    while len(known) > 2:
        worst = max(known, key=lambda i: known[i][0])
        variance, dof = known.pop(worst)
        rest = sum(n for _, n in known.values())
        others = math.fsum(v * n for v, n in known.values()) / rest
        if others <= 0.0 or float(fdtrc(dof, rest, variance / others)) * (len(known) + 1) >= level:
            break
        out.add(worst)
    return frozenset(out)
