"""Values that everything else contradicts, found before the ladder is fitted, so that they cannot drag it along.

A Huber fit (see `robust`) gives residuals that a few wild values hardly touch. A value whose residual is more than `OUTSIDE`
times the robust scatter of the others, and at least a tenth of a volt, is called an outlier. It stays in the fit with its
residual as its uncertainty: it says of itself how far it can be trusted. Nothing is left out, and each one is named.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from statistics import median

from galvanic.errors import NotEnoughData
from galvanic.statistics.ladder import Difference, connected
from galvanic.statistics.ladder_checks import robust_ladder

OUTSIDE = 6.0
LEAST_V = 0.1  # below it a plate or a meter explains it: common practice, no source
SPARE = 4
NORMAL_MAD = 0.6744897501960817


@dataclass(frozen=True, slots=True)
class Outlier:
    """One value and how far it lies from what all others expect, V, and in robust standard deviations."""

    difference: Difference
    off_v: float
    times: float

    @property
    def key(self) -> tuple[str, frozenset[str]]:
        """Whose value of which pair it is."""
        return self.difference.group, frozenset((self.difference.red, self.difference.black))

    @property
    def expected_v(self) -> float:
        """What the others expect, E(red) − E(black) in V."""
        return self.difference.volts_v - self.off_v


def downweight_outliers(
    differences: Sequence[Difference], most_v: float = math.inf
) -> tuple[list[Difference], list[Outlier]]:
    """The differences to fit, outliers with their residual as uncertainty, and the outliers, worst first.

    `most_v`: what no difference can reach, V; one beyond it is an outlier however few there are. With fewer than four values
    to spare nobody can say who is wrong among the others, and none of them is called an outlier.
    """
    possible = [d for d in differences if abs(d.volts_v) <= most_v]
    outliers = [Outlier(d, d.volts_v - _expected_v(d, possible), math.inf) for d in differences if abs(d.volts_v) > most_v]
    outliers += _among(possible)
    named = {id(outlier.difference): outlier for outlier in outliers}
    kept = [replace(d, u_v=math.hypot(d.u_v, named[id(d)].off_v)) if id(d) in named else d for d in differences]
    return kept, sorted(outliers, key=lambda outlier: -abs(outlier.off_v))


def _expected_v(odd: Difference, others: Sequence[Difference]) -> float:
    """What the others say of a pair, V; 0 where no chain of them connects it."""
    pairs = [(d.red, d.black) for d in others]
    names = list(dict.fromkeys(name for pair in pairs for name in pair))
    if not any(odd.red in part and odd.black in part for part in connected(names, pairs)):
        return 0.0
    potential_v, _ = robust_ladder(others)
    return potential_v[odd.red] - potential_v[odd.black]


def _among(differences: Sequence[Difference]) -> list[Outlier]:
    """Those that a robust fit of all of them contradicts."""
    names = list(dict.fromkeys(name for d in differences for name in (d.black, d.red)))
    parts = connected(names, [(d.red, d.black) for d in differences])
    spare = len(differences) - len(names) + len(parts)
    if spare < SPARE:
        return []
    try:
        potential_v, _ = robust_ladder(differences)
    except NotEnoughData:
        return []
    off = [d.volts_v - (potential_v[d.red] - potential_v[d.black]) for d in differences]
    scale = median(abs(r) for r in off) / NORMAL_MAD * math.sqrt(len(differences) / spare)
    return [
        Outlier(d, r, abs(r) / scale if scale > 0.0 else math.inf)
        for d, r in zip(differences, off, strict=True)
        if abs(r) > max(LEAST_V, OUTSIDE * max(scale, d.u_v))
    ]
