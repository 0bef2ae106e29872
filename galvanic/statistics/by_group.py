"""How a value goes with what a class changed, with an interval that counts groups, not readings.

Each group that has two levels at least gives a slope of its own. How much the groups' true slopes differ, against how much
each is scatter, is found by restricted likelihood; the class's slope is their mean weighted by that, and its interval is
Hartung and Knapp's (2001; Sidik and Jonkman 2002): from the weighted spread of the slopes themselves, never far narrower
than their scatter asks for, Student's t with one degree of freedom less than the groups that weigh. So what a group has for
itself (its plates, its meter) drops out, and groups that all err alike do not pass for many. Where each group has one level
only, a line through the groups' means is all there is.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from galvanic.errors import NotEnoughData
from galvanic.statistics.effects import slope
from galvanic.statistics.repeats import coverage
from galvanic.words import say

LEAST_GROUPS = 3
SLACK = 4.0  # of twice the log likelihood: about two standard errors of the ratio
AGREES = 0.5  # of the variance that scatter asks for: found by simulation (bench/variables.py)
RATIOS = np.concatenate([[0.0], np.logspace(-2.0, 3.0, 21)])  # tried, in units of 1 over a group's sum of squares


@dataclass(frozen=True, slots=True)
class ByGroup:
    """y per unit of x with its standard uncertainty and interval; `middle_x`, `middle_y` lie on the line; `within`: from
    what groups found at several levels each, not from one group against another."""

    slope: float
    u: float
    low: float
    high: float
    middle_x: float
    middle_y: float
    groups: int
    within: bool

    def at(self, x: float) -> float:
        """The line at x."""
        return self.middle_y + self.slope * (x - self.middle_x)

    @property
    def shown(self) -> bool:
        """Whether the interval leaves zero out."""
        return self.low > 0.0 or self.high < 0.0


def slope_by_group(groups: Sequence[str], x: Sequence[float], y: Sequence[float], level: float = 0.95) -> ByGroup:
    """The class's slope of y against x. One entry a group and level (means, not readings).

    Raises NotEnoughData with fewer than three groups that tell anything, or a single x.
    """
    points: dict[str, list[tuple[float, float]]] = defaultdict(list)
    for group, at, value in zip(groups, x, y, strict=True):
        points[group].append((at, value))
    own = [found for point in points.values() if (found := _own(point)) is not None]
    middle_x, middle_y = (math.fsum(values) / len(values) for values in (x, y)) if len(x) else (0.0, 0.0)
    if len(own) >= LEAST_GROUPS:
        b, u, dof = _joined(own)
        half = coverage(dof, level) * u
        return ByGroup(b, u, b - half, b + half, middle_x, middle_y, len(own), True)
    means = [tuple(math.fsum(v) / len(v) for v in zip(*point, strict=True)) for point in points.values()]
    if len(means) < LEAST_GROUPS:
        raise NotEnoughData(say("It takes {least_groups} groups, best with two levels each.", least_groups=LEAST_GROUPS))
    line = slope([at for at, _ in means], [value for _, value in means], level)
    return ByGroup(line.slope, line.u_slope, line.low, line.high, middle_x, line.intercept + line.slope * middle_x,
                   len(means), False)  # fmt: skip


@dataclass(frozen=True, slots=True)
class _Own:
    """A group's own slope, how far apart its levels lie (sum of squares), what the line leaves, its degrees of freedom."""

    slope: float
    sxx: float
    left: float
    dof: int


def _own(points: Sequence[tuple[float, float]]) -> _Own | None:
    """A group's own slope, None with a single level."""
    mx, my = (math.fsum(values) / len(points) for values in zip(*points, strict=True))
    sxx = math.fsum((at - mx) ** 2 for at, _ in points)
    if sxx <= 0.0:
        return None
    b = math.fsum((at - mx) * (value - my) for at, value in points) / sxx
    left = math.fsum((value - my - b * (at - mx)) ** 2 for at, value in points)
    return _Own(b, sxx, left, len(points) - 2)


def _joined(own: Sequence[_Own]) -> tuple[float, float, float]:
    """The groups' slopes together, the standard uncertainty by Hartung and Knapp, and its degrees of freedom: those of as
    many groups as would weigh equally."""
    slopes, sxx = (np.array([getattr(one, name) for one in own]) for name in ("slope", "sxx"))
    left, n = math.fsum(one.left for one in own), len(own) - 1 + sum(one.dof for one in own)
    tried = []
    for ratio in RATIOS / float(np.mean(sxx)):  # variance of true slopes over that of scatter
        spread = ratio + 1.0 / sxx
        weight = 1.0 / spread
        middle = float(weight @ slopes) / float(weight.sum())
        squares = float(weight @ (slopes - middle) ** 2) + left
        if squares <= 0.0:
            return middle, 0.0, float(len(own) - 1)
        misfit = n * math.log(squares / n) + float(np.log(spread).sum()) + math.log(float(weight.sum()))
        tried.append((misfit, weight, spread * squares / n))
    best = min(tried, key=lambda one: one[0])
    # Of the ratios that the groups bear out about as well, the one that lets them weigh most alike: a ratio found too small
    # would give a few groups with far-apart levels all the say.
    weight = next(one[1] for one in reversed(tried) if one[0] <= best[0] + SLACK)
    share = weight / weight.sum()
    b = float(share @ slopes)
    by_spread = float(share @ (slopes - b) ** 2) / (len(own) - 1)
    # Slopes that happen to agree far better than their scatter allows do not make the interval narrower than half of that.
    least = AGREES * float(share**2 @ best[2])
    return b, math.sqrt(max(by_spread, least)), max(1.0, 1.0 / float(share @ share) - 1.0)
