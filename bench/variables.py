"""How often an effect is seen where there is none, how often intervals hold, and how fast one variable is answered.

Targets: an effect that is none in 5 % of simulated classes at most; 93 to 97 % of intervals hold; what is kept under 100 ms.
Seeded. Classes are `galvanic/simulated/one_changed.py`; rules and simulator have one author.
"""

from __future__ import annotations

import sys
import time
from collections.abc import Callable
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.varied import levels_of, usual_levels
from galvanic.findings.by_variable import volts_by_variable
from galvanic.findings.compare import ClassReading, compare
from galvanic.reference.variables import variables
from galvanic.simulated.one_changed import a_class
from galvanic.statistics.by_group import slope_by_group

CLASSES = 2000
CASES = (  # groups, levels each, how true slopes differ (V per unit)
    (4, 4, 0.0),
    (8, 4, 0.0),
    (12, 4, 0.0),
    (4, 3, 0.0),
    (8, 3, 0.0),
    (8, 3, 0.01),
    (12, 4, 0.02),
    (6, 2, 0.01),
    (12, 2, 0.01),
)


def cpu_ms(what: Callable[[], object]) -> float:
    """CPU milliseconds of one call."""
    begun = time.process_time()
    what()
    return 1e3 * (time.process_time() - begun)


def main() -> None:
    """Print coverage, false effects and times."""
    out = sys.stdout.write
    out(f"{CLASSES} classes a row; scatter 0.02 V, groups 0.05 V, levels 1 2 4 8\n")
    out("groups  levels each  slopes differ  effect where none (≤ 5 %)  interval holds (93 to 97 %)\n")
    for groups, each, differ in CASES:
        rng = np.random.default_rng(7)
        none = sum(slope_by_group(*a_class(rng, groups, each, 0.0, differ)).shown for _ in range(CLASSES))
        held = 0
        for _ in range(CLASSES):
            slope = slope_by_group(*a_class(rng, groups, each, 0.03, differ))
            held += slope.low <= 0.03 <= slope.high
        out(f"{groups:6d}{each:13d}{differ:15.2f}{none / CLASSES:27.1%}{held / CLASSES:30.1%}\n")
    cell = Cell("zinc", "lemon-juice", "copper")
    for key in ("spacing", "temperature", "salt", "time"):
        levels = usual_levels(variables()[key])
        first = cpu_ms(lambda levels=levels: levels_of(cell, levels))  # type: ignore[misc]
        again = cpu_ms(lambda levels=levels: levels_of(cell, levels))  # type: ignore[misc]
        out(f"the model at {len(levels)} levels of {key}: {first:.0f} ms CPU, kept {again:.1f}\n")
    rng = np.random.default_rng(1)
    readings = [
        ClassReading(
            f"g{g}", "copper", "zinc", "lemon-juice", round(0.95 + rng.normal(0.0, 0.02), 3), 0.001, f"{x} cm apart"
        )
        for g in range(12)
        for x in (1, 2, 4, 8)
        for _ in range(3)
    ]
    results = compare(readings)
    first = cpu_ms(lambda: volts_by_variable(results))
    out(f"twelve groups at four distances: {first:.0f} ms CPU, kept {cpu_ms(lambda: volts_by_variable(results)):.1f}\n")


if __name__ == "__main__":
    main()
