"""Is the next cell worth making the one that brute force finds, in classes half-way?  `python bench/next_cell.py [classes]`

Brute force: the value to come is drawn at nine quantiles of what it may be, the whole ladder is fitted again with each, and
the neighbours in the right order are counted. Targets: the cell that is named is one of brute force's best two in 90 of 100
classes, loses less than 0.1 neighbours against its best in all, and no two plates 0.5 V apart are taken for a coin toss.
"""

from __future__ import annotations

import math
import sys
from collections.abc import Callable, Sequence
from dataclasses import replace
from itertools import pairwise
from pathlib import Path

import numpy as np
from scipy.special import ndtr, ndtri

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from bench.coverage import CASES, TRUE_V, drawn, plans, unfinished
from galvanic.findings.compare import USUAL_SCATTER_V
from galvanic.statistics.class_ladder import fit_class
from galvanic.statistics.ladder import Difference, Ladder
from galvanic.statistics.ladder_checks import next_cells

QUANTILES = (np.arange(9) + 0.5) / 9.0
APART_V, SURE = 0.5, 0.9
ROW = "{:<34} {:>7} {:>14} {:>12} {:>16}\n"


def fitted(differences: Sequence[Difference]) -> Ladder:
    """The ladder as `findings/compare.py` fits it."""
    found = fit_class(list(differences))
    if found.dof < 1:
        found = fit_class([replace(d, u_v=math.hypot(d.u_v, USUAL_SCATTER_V)) for d in differences])
    return found


def right(ladder: Ladder, order: Sequence[str]) -> float:
    """How many neighbours are expected in the right order."""
    pairs = [ladder.difference_v(a, b) for a, b in pairwise(order)]
    return sum(float(ndtr(abs(by) / max(u, 1e-6))) for by, u in pairs)


def brute(data: Sequence[Difference], before: Ladder, red: str, black: str, order: Sequence[str], u_v: float) -> float:
    """The same after one more value of a cell, refitting with each value it may well have."""
    by_v, own_v = before.difference_v(red, black)
    values = [by_v + float(q) * math.hypot(own_v, u_v) for q in ndtri(QUANTILES)]
    return float(np.mean([right(fitted([*data, Difference(red, black, v, 0.003, "next")]), order) for v in values]))


def main(classes: int = 12, write: Callable[[str], object] = sys.stdout.write) -> tuple[float, float, int]:
    """Print, for each kind of class, how often the cell is one of the best two, the most it loses, and coin tosses; the same
    over all."""
    write(ROW.format("scatter", "groups", "of best two, %", "most lost", "0.5 V, uncertain"))
    hits, lost, tosses = [], [], 0
    for name, case in CASES.items():
        for groups in (2, 4, 8):
            hands = plans(groups)["planner"]
            rng = np.random.default_rng([groups, len(name)])
            own_hits, own_lost, own_tosses = [], [], 0
            for _ in range(classes):
                data = drawn(unfinished(hands, 0.5, rng), case, rng)
                if len(data) < 3:
                    continue
                before = fitted(data)
                part = max(before.parts, key=len)
                order = sorted(part, key=lambda plate: -before.potential_v[before.electrodes.index(plate)])
                found = next_cells(before, order, max(before.tau_v or 0.0, USUAL_SCATTER_V))
                if not found:
                    continue
                tried = {
                    (one.red, one.black): brute(data, before, one.red, one.black, order, USUAL_SCATTER_V) for one in found
                }
                best = sorted(tried.values(), reverse=True)
                mine = tried[found[0].red, found[0].black]
                own_hits.append(mine >= best[min(1, len(best) - 1)] - 0.01)
                own_lost.append(best[0] - mine)
                for a, b in pairwise(order):
                    by, u = before.difference_v(a, b)
                    truly = abs(TRUE_V[a] - TRUE_V[b]) >= APART_V
                    own_tosses += truly and float(ndtr(abs(by) / max(u, 1e-6))) < SURE
            write(ROW.format(name, groups, f"{100 * np.mean(own_hits):.0f}", f"{max(own_lost):.2f}", own_tosses))
            hits, lost, tosses = hits + own_hits, lost + own_lost, tosses + own_tosses
    write(ROW.format("all", "", f"{100 * np.mean(hits):.0f}", f"{max(lost):.2f}", tosses))
    return float(np.mean(hits)), max(lost), tosses


if __name__ == "__main__":
    main(*map(int, sys.argv[1:2]))
