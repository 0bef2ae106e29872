"""How long a plan takes, and how near the best it comes: `./pipette bench`. Target: a plan in 1 s, a better one in 5 s.

Then beside what a search from many random starts reaches under the same conditions (the same shared cell, blocks, stock):
target 95 %. And what the shared cell costs and buys."""

from __future__ import annotations

import sys
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

import numpy as np

from galvanic.planning.design import MOST_EXCHANGES, Task, demand_of, design, improve, repeats_that_connect
from galvanic.planning.optimal import Counts, exchange, fill
from galvanic.planning.trade import trade

PLATES = ("magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper", "graphite")
LIQUIDS = ("rhubarb-juice", "kelp-brine", "soda-water", "beet-brine", "kcl-0.10")
ROUNDS, STARTS = 3, 40
ROW = "{:<44} {:>7} {:>10} {:>9} {:>9} {:>8}\n"


def main() -> None:
    """Print the plan's quality after the first answer and after each round."""
    out = sys.stdout.write
    out(ROW.format("plan", "s", "variance", "bound", "of ideal", "changes"))
    for groups, places, liquids in ((12, 8, 5), (8, 7, 2), (40, 7, 3)):
        task = Task(PLATES, LIQUIDS[:liquids], groups, places)
        what = f"{groups} groups × {places} cells, 28 pairs × {liquids} liquids"
        start = time.perf_counter()
        plan = design(task)
        for number in range(ROUNDS + 1):
            if number:
                plan = improve(task, plan, number)
            took = f"{time.perf_counter() - start:.2f}"
            near = f"{100 * plan.nearness:.0f} %"
            out(ROW.format(what, took, f"{plan.variance:.3f}", f"{plan.bound:.3f}", near, plan.changes))
            what = f"  after round {number + 1}"
    out("\n{:<44} {:>9} {:>9} {:>9} {:>11} {:>11}\n".format("plan", "variance", "search", "of it", "meter, with", "without"))
    for groups, places, liquids in ((2, 5, 1), (4, 4, 1), (6, 6, 1), (8, 4, 1), (8, 7, 2), (12, 8, 5)):
        task = Task(PLATES, LIQUIDS[:liquids], groups, places)
        plan = design(task)
        best = min(searched(task, start) for start in range(STARTS))
        found = trade(task, plan)
        bought = ("-", "-") if found is None else (f"{found.with_u:.2f} σ", f"{found.without_u:.2f} σ")
        what = f"{groups} groups × {places} cells × {liquids} liquids"
        of_it = 100 * best / plan.variance
        out(f"{what:<44} {plan.variance:>9.3f} {best:>9.3f} {of_it:>7.0f} % {bought[0]:>11} {bought[1]:>11}\n")
        if found is not None:
            out(f"{'':<44} without the shared cell {found.sharper_per_cent:.0f} % sharper\n")


def searched(task: Task, start: int) -> float:
    """What an exchange reaches from a random start under the plan's own conditions."""
    rng = np.random.default_rng([start, 41])
    counts = Counts(demand_of(task, repeats_that_connect(task)))
    block = counts.demand.repeats
    while counts.left >= block and (free := np.flatnonzero(counts.room(block))).size:
        counts.change(int(rng.choice(free)), block)
    counts.refresh()
    fill(counts)
    exchange(counts, MOST_EXCHANGES)
    return counts.value


if __name__ == "__main__":
    main()
