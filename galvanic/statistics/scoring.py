"""How well an account does on a class's own data: bias, rms, signs right, and the interval of a difference.

Cells of one group share its meter and its hands, so intervals come from drawing whole groups (cluster bootstrap;
B. Efron, R. Tibshirani, “An Introduction to the Bootstrap”, 1993, ch. 8).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from galvanic.errors import NotEnoughData
from galvanic.words import say

DRAWS = 2000


@dataclass(frozen=True, slots=True)
class Score:
    """An account against measured voltages, V; `left_out` are cells where it has no answer."""

    n: int
    bias_v: float
    rms_v: float
    signs_right: int
    left_out: int


@dataclass(frozen=True, slots=True)
class Contest:
    """rms of one account less rms of another on the same cells, V, with a 95 % interval; `groups` were drawn."""

    difference_v: float
    low_v: float
    high_v: float
    n: int
    groups: int


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


def contest(
    one_v: Sequence[float | None],
    other_v: Sequence[float | None],
    measured_v: Sequence[float],
    groups: Sequence[str],
    seed: int = 1,
) -> Contest:
    """Compare two accounts on the cells that both answer; below zero, the first is nearer.

    Raises NotEnoughData with fewer than two groups, since then nothing is known of the scatter between them.
    """
    errors = [
        (a - m, b - m, g)
        for a, b, m, g in zip(one_v, other_v, measured_v, groups, strict=True)
        if a is not None and b is not None
    ]
    names = sorted({g for *_, g in errors})
    if len(names) < 2:
        raise NotEnoughData(say("Two groups with cells that both accounts answer are needed."))
    sums = np.zeros((len(names), 3))  # by group: cells, squared errors of one, of the other
    for one, other, g in errors:
        sums[names.index(g)] += (1.0, one**2, other**2)
    picks = np.random.default_rng(seed).integers(0, len(names), (DRAWS, len(names)))
    drawn = sums[picks].sum(axis=1)
    differences = np.sqrt(drawn[:, 1] / drawn[:, 0]) - np.sqrt(drawn[:, 2] / drawn[:, 0])
    total = sums.sum(axis=0)
    low, high = np.quantile(differences, [0.025, 0.975])
    middle = float(np.sqrt(total[1] / total[0]) - np.sqrt(total[2] / total[0]))
    return Contest(middle, float(low), float(high), len(errors), len(names))
