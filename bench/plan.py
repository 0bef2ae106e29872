"""How long a plan takes, and how near the best it comes: `./pipette bench`. Target: a plan in 1 s, a better one in 5 s."""

from __future__ import annotations

import sys
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from galvanic.planning.design import Task, design, improve

PLATES = ("magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper", "graphite")
LIQUIDS = ("rhubarb-juice", "kelp-brine", "soda-water", "beet-brine", "kcl-0.10")
ROUNDS = 3
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


if __name__ == "__main__":
    main()
