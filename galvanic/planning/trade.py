"""What a cell that every group measures costs and buys: sharpness of the ladder against meters that are told apart.

Each group's values are potentials of plates, the error of its meter, and scatter (a two-way layout without interaction; any
text on linear models). How well a meter's error is found follows from which cells its group has in common with the others.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from statistics import median

import numpy as np

from galvanic.cells import Cell
from galvanic.planning.design import LOOSE, Plan, Shared, Task, design
from galvanic.words import say

LOST_U = 50.0  # in units of one value's scatter: beyond this a meter's error is not found at all
SAME_PER_CENT = 1.0


@dataclass(frozen=True, slots=True)
class Trade:
    """A plan with its shared cell beside one without: uncertainty of a meter's error (in units of one value's scatter;
    infinite where it cannot be found), and by how many per cent distances on the ladder are sharper without."""

    with_u: float
    without_u: float
    sharper_per_cent: float


def offset_u(hands: Sequence[Sequence[Cell]]) -> float:
    """Standard uncertainty of a group's meter error beside the others' mean, the middle group's, in units of the scatter of
    one value; infinite where it cannot be found. Each group's cells are read once."""
    rows = [(group, cell) for group, hand in enumerate(hands) for cell in dict.fromkeys(hand)]
    plates = {key: n for n, key in enumerate(dict.fromkeys((cell.bath, plate) for _, cell in rows for plate in cell.pair))}
    groups, wide = len(hands), len(plates) + len(hands)
    if groups < 2 or not rows:
        return math.inf
    x = np.zeros((len(rows), wide))
    for row, (group, cell) in enumerate(rows):
        x[row, plates[cell.bath, cell.positive]], x[row, plates[cell.bath, cell.negative]] = 1.0, -1.0
        x[row, len(plates) + group] = 1.0
    # A weak thread on all errors together: only their differences are asked for.
    covariance = np.linalg.inv(x.T @ x + 1e-6 * np.eye(wide))[len(plates) :, len(plates) :]
    apart = np.eye(groups) - 1.0 / groups
    u = np.sqrt(np.diagonal(apart @ covariance @ apart))
    middle = float(median(u))
    return middle if middle < LOST_U else math.inf


def trade(task: Task, plan: Plan) -> Trade | None:
    """The trade of a plan with a shared cell; None where it has none, or where without it plates would hang loose."""
    if plan.shared is None or task.groups < 2:
        return None
    without = design(replace(task, held=Shared(None)))
    if not 0.0 < without.variance < LOOSE or not 0.0 < plan.variance < LOOSE:
        return None
    sharper = 100.0 * (1.0 - math.sqrt(without.variance / plan.variance))
    return Trade(offset_u(plan.hands), offset_u(without.hands), sharper)


def in_words(task: Task, plan: Plan, found: Trade, scatter_v: float) -> str:
    """The trade in sentences, with the scatter that is expected of one group's value, V."""
    short = "" if plan.shared is None else plan.shared.short
    if math.isinf(found.with_u):
        bought = say("Every group measures {short}.", short=short)
    elif math.isinf(found.without_u):
        bought = say(
            "Every group measures {short}: so a meter that is off is found, to ± {mv:.0f} mV; without it, it is not.",
            short=short,
            mv=2e3 * scatter_v * found.with_u,
        )
    else:
        bought = say(
            "Every group measures {short}: a meter that is off is found to ± {mv:.0f} mV, without it to ± {mv2:.0f} mV.",
            short=short,
            mv=2e3 * scatter_v * found.with_u,
            mv2=2e3 * scatter_v * found.without_u,
        )
    said = [bought]
    if task.shared_last:
        said.append(say("Read first and last, it also shows whether values drift."))
    if found.sharper_per_cent < SAME_PER_CENT:
        said.append(say("It costs nothing of the ladder’s sharpness."))
    else:
        said.append(say("Without it the ladder would be {n:.0f} % sharper.", n=found.sharper_per_cent))
    return " ".join(said)
