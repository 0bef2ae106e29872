"""What a class that changes one thing on purpose will see of it in volts and in current, before anything is measured.

The expected change from the first level to the last is the model's; it may be a third of itself off. A class tells it from
nothing by the t-test of its groups' slopes, as `statistics/by_group.py` has it, so with two groups it takes a great deal.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.varied import has_model, levels_of
from galvanic.condition import Condition
from galvanic.errors import OutOfRange
from galvanic.planning.level_notes import SCATTER_V
from galvanic.statistics.repeats import coverage

SCATTER_LN_A = 0.2  # of one group's current about its own line, as a logarithm: common practice, no source
OFF = 1.0 / 3.0  # how far the model's change may be off, of itself: common practice, no source
NODES = np.linspace(-4.0, 4.0, 65)
FEWEST_GROUPS, FEWEST_LEVELS = 2, 2


@dataclass(frozen=True, slots=True)
class Seen:
    """A quantity (`volts` or `current`): the change expected over all levels and the least one that can be told from nothing
    (V; for current as a factor), and in how many of a hundred classes it will be."""

    quantity: str
    expected: float
    least: float
    share: float


def seen(cell: Cell, conditions: Sequence[Condition], groups: int) -> list[Seen]:
    """What groups that measure every level will see; nothing where the model has no part in it, or with one group."""
    levels = list(dict.fromkeys(conditions))
    if groups < FEWEST_GROUPS or len(levels) < FEWEST_LEVELS or not has_model(levels[0].row):
        return []
    levels = sorted(levels, key=lambda one: one.rank)
    try:
        told = levels_of(cell, levels)
    except OutOfRange:
        return []
    ranks = np.array([one.rank for one in levels], dtype=float)
    width = float(ranks[-1] - ranks[0]) / math.sqrt(groups * float(((ranks - ranks.mean()) ** 2).sum()))
    t = coverage(groups - 1)
    change_v, u_v = told[-1].open_v - told[0].open_v, SCATTER_V * width
    out = [Seen("volts", change_v, t * u_v, _share(change_v, u_v, t))]
    first, last = told[0].short_a, told[-1].short_a
    if first and last and first > 0.0 and last > 0.0:
        log, u = math.log(last / first), SCATTER_LN_A * width
        out.append(Seen("current", last / first, math.exp(t * u), _share(log, u, t)))
    return out


def _share(change: float, u: float, t: float) -> float:
    """In how many of a hundred classes an interval of half-width t·u does not hold nought."""
    from scipy.special import ndtr

    weights = np.exp(-0.5 * NODES**2)
    true = np.abs(change * (1.0 + OFF * NODES))
    found = ndtr(true / u - t) + ndtr(-true / u - t)
    return 100.0 * float(found @ weights / weights.sum())
