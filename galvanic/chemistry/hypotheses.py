"""The accounts, and “none of them”, as hypotheses about cells, for weighing a class's values and choosing its next cell.

Whose plates lie anywhere is a hypothesis too: without it the least bad of four wrong accounts would be sure of itself.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from galvanic.cells import Cell
from galvanic.chemistry.accounts import ACCOUNTS
from galvanic.chemistry.joint import jointly
from galvanic.statistics.class_ladder import LEAST_V2, USUAL_V
from galvanic.statistics.hypotheses import Hypothesis

Array = NDArray[np.float64]
NONE = "none"
ANYWHERE_V = 0.4  # how far plates lie from what the accounts say on average, if none is right; common practice, no source
LEAST_ANSWERED = 0.5  # of a class's cells: an account that answers fewer is not weighed with the others
READ_V = 0.005  # of one group's mean of three readings; common practice, no source


def weighed_accounts(cells: Sequence[Cell]) -> tuple[tuple[str, ...], tuple[Cell, ...]]:
    """Which accounts can be weighed on these cells, and the cells that all of those answer, in their order."""
    cells = tuple(dict.fromkeys(cells))
    if not cells:
        return (), ()
    says = {name: ~np.isnan(joint.says_v) for name, joint in jointly(cells).items()}
    names = tuple(name for name in ACCOUNTS if says[name].sum() >= LEAST_ANSWERED * len(cells) and says[name].any())
    if not {"standard", "series", "rest"} & set(names):
        return (), ()
    every = np.all([says[name] for name in names], axis=0)
    return names, tuple(cell for cell, all_answer in zip(cells, every, strict=True) if all_answer)


def hypotheses_on(cells: Sequence[Cell], names: Sequence[str]) -> list[Hypothesis]:
    """What the named accounts, and none of them, say of cells that all of them answer; a cell may come more than once."""
    once = tuple(dict.fromkeys(cells))
    at = np.array([once.index(cell) for cell in cells], dtype=int)
    joint = jointly(once)
    of = [Hypothesis(name, joint[name].says_v[at], joint[name].covariance_v2[np.ix_(at, at)]) for name in names]
    made = made_of(cells)
    centre = np.mean([one.says_v for one in of if one.name != "hydrogen"], axis=0)  # of those that give each plate a place
    none = Hypothesis(NONE, centre, ANYWHERE_V**2 * (made @ made.T))
    return [*of, none]


def made_of(cells: Sequence[Cell]) -> Array:
    """Which plate in which bath a cell's volts are made of: +1 the positive one, −1 the negative one (cells, rungs)."""
    rungs = list(dict.fromkeys((plate, *cell.bath) for cell in cells for plate in cell.pair))
    out = np.zeros((len(cells), len(rungs)))
    for row, cell in enumerate(cells):
        if cell.negative != cell.positive:
            out[row, rungs.index((cell.positive, *cell.bath))] = 1.0
            out[row, rungs.index((cell.negative, *cell.bath))] = -1.0
    return out


def usual_noise_v2() -> float:
    """The variance that one group adds to one cell, as classes usually have it, V²."""
    return USUAL_V["cell"] ** 2 + 2.0 * USUAL_V["plates"] ** 2 + USUAL_V["meter"] ** 2 + READ_V**2 + LEAST_V2


def usual_spread_v2(made: Array, owner: Sequence[int] | NDArray[np.int_]) -> Array:
    """The covariance of what groups add to their means of three readings, as classes usually have it, V². `made`: what each
    value is made of (values, rungs); `owner`: whose it is."""
    own = np.eye(len(made)) * (USUAL_V["cell"] ** 2 + READ_V**2 + LEAST_V2)
    same = np.equal.outer(owner, owner)
    return np.asarray(own + same * (USUAL_V["plates"] ** 2 * (made @ made.T) + USUAL_V["meter"] ** 2), dtype=np.float64)
