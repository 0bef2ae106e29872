"""Which level to measure next: where a line and its bend would be told best (D-optimal for a quadratic).

Source: A. C. Atkinson, A. N. Donev and R. D. Tobias, “Optimum Experimental Designs” (2007), ch. 11: of the candidates the
one that makes the determinant of XᵀX largest, with columns 1, x, x².
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from galvanic.reference.variables import Variable

DIGITS = 2  # of a level that is proposed
RIDGE = 1e-6  # so that two levels, which show no bend, can be compared at all


def next_level(variable: Variable, x: Callable[[float], float], levels: Sequence[float]) -> float | None:
    """A level not measured yet: one of the variable's usual ones or half-way (in `x`, the scale of the fit) between two
    neighbours; None for words, and where nothing is left to propose."""
    if variable.kind != "number" or len(set(levels)) < 2:
        return None
    there = sorted(set(levels))
    ends = min(there[0], *variable.levels, there[0]), max(there[-1], *variable.levels, there[-1])
    fine = np.linspace(*ends, 400)
    halves = []
    for one, other in zip(there, there[1:], strict=False):
        middle = 0.5 * (x(one) + x(other))
        halves.append(float(min(fine, key=lambda at: abs(x(float(at)) - middle))))
    tidy = (float(f"{one:.{DIGITS}g}") for one in (*variable.levels, *halves))
    candidates = sorted({float(round(one)) if variable.whole else one for one in tidy} - set(there))
    if not candidates:
        return None
    every = np.array([x(one) for one in (*there, *candidates)])
    scaled = (every - every.mean()) / np.ptp(every)
    columns = np.column_stack([np.ones(len(every)), scaled, scaled**2])
    had = columns[: len(there)]
    ready = had.T @ had + RIDGE * np.eye(3)
    gains = [float(row @ np.linalg.solve(ready, row)) for row in columns[len(there) :]]
    return candidates[int(np.argmax(gains))]
