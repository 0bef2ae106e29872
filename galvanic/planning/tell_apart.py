"""What a plan can tell apart: the probability that neighbours on the ladder come out in the right order.

One group's value of a cell scatters by σ about the class's true value, so the difference of two plates has the variance
σ²·(L⁺ᵢᵢ + L⁺ⱼⱼ − 2L⁺ᵢⱼ) and the found order is right with probability Φ(|gap|/u). The true gaps are not known before the
lab; the rest account's are taken, or the table’s where there is no single liquid. Checked by simulation in the tests.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.rest import Rest, rest_potentials
from galvanic.errors import OutOfRange
from galvanic.planning.design import LOOSE, Plan, Task, demand_of
from galvanic.planning.optimal import Counts
from galvanic.reference.catalogue import electrodes, electrolytes, kept
from galvanic.words import say

SCATTER_V = 0.05  # between groups, one cell: common practice, no source
SURE = 0.9
MOST_ADDED = 6


@dataclass(frozen=True, slots=True)
class Neighbours:
    """Two neighbours on the expected ladder of a bath, lower first: expected gap, its uncertainty by this plan, V.

    `probability` is that of the right order; 0.5 and an infinite `u_v` where no chain of cells connects the two.
    """

    bath: tuple[str, str]
    lower: str
    upper: str
    gap_v: float
    u_v: float
    probability: float


@dataclass(frozen=True, slots=True)
class Help:
    """The cheapest help for two neighbours: so many more groups on one cell, and the probability then."""

    neighbours: Neighbours
    cell: Cell
    times: int
    probability: float


def right_order(gap_v: float, u_v: float) -> float:
    """Φ(|gap|/u)."""
    return 0.5 * math.erfc(-abs(gap_v) / (u_v * math.sqrt(2.0))) if u_v > 0.0 else 1.0


@kept(64)
def _rest(plates: tuple[str, ...], liquids: tuple[str, ...]) -> Rest:
    """Remembered: a plan is judged at every change, its materials stay. A key never stands for two materials."""
    return rest_potentials(plates, liquids)


def expected_ladders(task: Task) -> dict[tuple[str, str], dict[str, float]]:
    """Expected potential of every plate in every bath, V against hydrogen; plates without an expectation are left out."""
    potentials = plate_potentials(tuple(task.electrodes), tuple(task.electrolytes))
    known = {liquid: {plate: v for plate, v in row.items() if v is not None} for liquid, row in potentials.items()}
    return {
        bath: {plate: known[bath[0]][plate] for plate in plates if plate in known[bath[0]]}
        for bath, plates in task.plates_in.items()
    }


def plate_potentials(plates: tuple[str, ...], liquids: tuple[str, ...]) -> dict[str, dict[str, float | None]]:
    """What the rest account expects of every plate in every liquid, V against hydrogen.

    Two-solution cells have no single liquid: there the table's value stands, None for an inert plate.
    """
    single = tuple(key for key in liquids if electrolytes()[key].negative_side is None)
    rested = _rest(plates, single) if single else None
    table = {plate: electrodes()[plate].table_v_or_none() for plate in plates}
    return {
        liquid: {plate: rested.at(plate, liquid) for plate in plates} if rested and liquid in rested.liquids else dict(table)
        for liquid in liquids
    }


def tell_apart(
    task: Task,
    plan: Plan,
    scatter_v: float = SCATTER_V,
    expected: Mapping[tuple[str, str], Mapping[str, float]] | None = None,
) -> list[Neighbours]:
    """All neighbours in all baths, least certain first. Raises OutOfRange for a scatter not above zero."""
    if not (scatter_v > 0.0 and math.isfinite(scatter_v)):
        raise OutOfRange(say("The scatter must be above zero."), field="scatter_v", value=scatter_v, limit=0.0)
    counts = _counts(task, plan)
    rows = {name: i for i, name in enumerate(task.electrodes)}
    neighbours = []
    for bath, ladder in (expected or expected_ladders(task)).items():
        p = counts.p[task.baths.index(bath)]
        for lower, upper in pairwise(sorted(ladder, key=lambda name: (ladder[name], name))):
            i, j = rows[lower], rows[upper]
            variance = float(p[i, i] + p[j, j] - 2.0 * p[i, j])
            gap = ladder[upper] - ladder[lower]
            u = math.inf if variance > LOOSE else scatter_v * math.sqrt(variance)
            neighbours.append(Neighbours(bath, lower, upper, gap, u, 0.5 if math.isinf(u) else right_order(gap, u)))
    return sorted(neighbours, key=lambda one: (round(one.probability, 9), one.bath, one.lower))


def cheapest_help(task: Task, plan: Plan, weakest: Neighbours, scatter_v: float = SCATTER_V) -> Help | None:
    """The cell, and how many more groups on it, that best helps two neighbours; None where no cell can be added.

    Groups are added until the order is right with probability `SURE` or six are added.
    """
    counts = _counts(task, plan)
    bath = task.baths.index(weakest.bath)
    i, j = task.electrodes.index(weakest.lower), task.electrodes.index(weakest.upper)
    here = counts.b == bath

    def gains() -> tuple[np.ndarray, float]:
        p = counts.p[bath]
        toward = p[i] - p[j]
        r = p[counts.i, counts.i] + p[counts.j, counts.j] - 2.0 * p[counts.i, counts.j]
        fall = (toward[counts.i] - toward[counts.j]) ** 2 / (1.0 + r)
        return np.where(here & (counts.n < counts.most), fall, 0.0), float(p[i, i] + p[j, j] - 2.0 * p[i, j])

    fall, _ = gains()
    if not len(fall) or fall.max() <= 0.0:
        return None
    cell = int(np.flatnonzero(fall >= fall.max() * (1.0 - 1e-9))[0])
    times = 0
    probability = weakest.probability
    while times < MOST_ADDED and counts.n[cell] < counts.most[cell] and probability < SURE:
        counts.change(cell, 1)
        times += 1
        variance = gains()[1]
        probability = 0.5 if variance > LOOSE else right_order(weakest.gap_v, scatter_v * math.sqrt(variance))
    return Help(weakest, counts.cells[cell], times, probability) if times else None


def _counts(task: Task, plan: Plan) -> Counts:
    counts = Counts(demand_of(task, 1))
    counts.n = np.array([plan.counts[cell] for cell in counts.cells], dtype=int)
    counts.refresh()
    return counts
