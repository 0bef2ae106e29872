"""A plan made to decide: its cells are those on which the accounts part, instead of those that make the ladder sharpest.

How often a class of a plan will end with one account, or none of them, at `DECIDED` of the weight is known before anything
is measured, by drawing what the class will read under each (`statistics.hypotheses.foreseen`). Cells are taken one by one,
each the one with which the likeliest has the largest weight on average, beside those before it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from galvanic.cells import Cell
from galvanic.chemistry.hypotheses import hypotheses_on, made_of, usual_spread_v2, weighed_accounts
from galvanic.errors import NotEnoughData
from galvanic.planning.design import Plan, Task, design
from galvanic.planning.optimal import LEAST_GAIN
from galvanic.statistics.hypotheses import DECIDED, Hypothesis, foreseen
from galvanic.statistics.scoring import Values

Array = NDArray[np.float64]
FEWEST_ACCOUNTS = 2
DRAWS, CHOOSING_DRAWS = 200, 80
MOST_CHOSEN = 6
WORTH_SAYING = 3.0  # of a hundred: less is what other draws would give


def decided(hands: Sequence[Sequence[Cell]]) -> float | None:
    """In how many of a hundred classes of a plan one account, or none of them, ends with `DECIDED` of the weight; None where
    they cannot be weighed."""
    rows = [(cell, group) for group, hand in enumerate(hands) for cell in hand if cell.negative != cell.positive]
    names, answered = weighed_accounts([cell for cell, _ in rows])
    if len(names) < FEWEST_ACCOUNTS:
        return None
    answers = set(answered)
    weighed = [(cell, group) for cell, group in rows if cell in answers]
    cells = [cell for cell, _ in weighed]
    most = _most(hypotheses_on(cells, names), made_of(cells), [group for _, group in weighed], DRAWS)
    return 100.0 * float((most >= DECIDED).mean())


def _most(hypotheses: Sequence[Hypothesis], made: Array, owner: Sequence[int], draws: int) -> Array:
    """The largest weight at the end of so many classes that read these cells (draws)."""
    values = Values(np.zeros(len(made)), made, usual_spread_v2(made, owner), len(set(owner)))
    return foreseen(values, hypotheses, draws)


def telling_cells(task: Task, most: int) -> list[Cell]:
    """The cells on which the accounts part, the most telling first, each beside those before it."""
    names, answered = weighed_accounts([cell for cell in task.cells if task.wished.get(cell) != 0])
    if len(names) < FEWEST_ACCOUNTS:
        return []
    whole, made = hypotheses_on(answered, names), made_of(answered)
    chosen: list[int] = []

    def told(cell: int) -> float:
        at = [*chosen, cell]
        of = [Hypothesis(one.name, one.says_v[at], one.covariance_v2[np.ix_(at, at)]) for one in whole]
        return float(_most(of, made[at], range(len(at)), CHOOSING_DRAWS).mean())

    while len(chosen) < min(most, len(answered)):
        left = [cell for cell in range(len(answered)) if cell not in chosen]
        chosen.append(max(left, key=lambda cell: (round(told(cell), 6), -cell)))
    return [answered[cell] for cell in chosen]


def made_to_decide(task: Task, plan: Plan) -> tuple[Task, Plan] | None:
    """The plan that decides between the accounts in most classes, with its cells as wishes; None where the given one decides
    as often, or nothing can be weighed."""
    before = decided(plan.hands)
    if before is None:
        return None
    best: tuple[Task, Plan] | None = None
    telling = telling_cells(task, MOST_CHOSEN)
    least = before + WORTH_SAYING
    for each in sorted({1, 2, task.groups} & set(range(1, task.groups + 1))):
        for cells in {min(len(telling), task.free * task.groups // each), min(len(telling), task.free)}:
            wished = {cell: each for cell in telling[:cells] if cell != task.shared}
            asked = replace(task, wished={**task.wished, **wished})
            try:
                made = design(asked)
            except NotEnoughData:
                continue
            share = decided(made.hands)
            if share is not None and share >= least and not made.unplaced:
                best, least = (asked, made), share + LEAST_GAIN
    return best
