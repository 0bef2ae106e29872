"""Does the ladder add up? Power and false alarms by number of groups: `python bench/loops.py [classes]`.

Target: said of fewer than 3 % of sound classes; the power stated for 0.1 V is the share that is found (within 10 in 100).
Of a cell that is 0.3 V off in all groups: how often that is found, and how often it is the one named first.
"""

from __future__ import annotations

import sys
from dataclasses import replace
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from bench.coverage import CASES, JUICE, PLATES, drawn
from galvanic.errors import NotEnoughData
from galvanic.planning.design import Task, design
from galvanic.statistics.ladder import Difference
from galvanic.statistics.misfit import Misfit, misfit

ROW = "{:<34} {:>6} {:>10} {:>10} {:>10} {:>10} {:>10} {:>10} {:>8}\n"


def with_odd_cell(
    differences: list[Difference], by_v: float, rng: np.random.Generator, held: list[tuple[str, str]]
) -> tuple[list[Difference], set[str]]:
    """The same class with one of its cells off in all groups."""
    odd = set(held[int(rng.integers(len(held)))])
    return [replace(d, volts_v=d.volts_v + by_v) if {d.red, d.black} == odd else d for d in differences], odd


def found(differences: list[Difference]) -> Misfit | None:
    try:
        return misfit(differences)
    except NotEnoughData:
        return None


def main(classes: int = 100) -> None:
    """Print false alarms, power stated and met for 0.1 V, and what comes of 0.3 V."""
    sys.stdout.write(
        ROW.format("case", "groups", "false", "power for", "0.1 V: is", "0.3 V:", "named", "says", "no test")
        + ROW.format("", "", "", "0.1 V said", "found", "found", "first", "so, mean", "")
    )
    for name, case in CASES.items():
        for groups in (2, 3, 5, 8, 12):
            rng = np.random.default_rng([groups, 9])
            hands = design(Task(PLATES, (JUICE,), groups, 7)).hands
            false, power, small, large, named, says, without = 0, [], 0, 0, 0, [], 0
            for _ in range(classes):
                sound = drawn(hands, case, rng)
                one = found(sound)
                if one is None:
                    without += 1
                    continue
                false += not one.adds_up
                power.append(one.power)
                held = [(cell.red, cell.black) for cell in one.cells]
                small += not misfit(with_odd_cell(sound, 0.1, rng, held)[0]).adds_up
                odd, which = with_odd_cell(sound, 0.3, rng, held)
                told = misfit(odd)
                if not told.adds_up:
                    large += 1
                    named += {told.suspects[0].red, told.suspects[0].black} == which
                    says.append(told.suspects[0].probability)
            n = max(1, classes - without)
            sys.stdout.write(
                ROW.format(
                    name, groups, *(f"{100 * share:.0f} %" for share in (
                        false / n, np.mean(power or [0]), small / n, large / n, named / max(1, large), np.mean(says or [0]),
                    )), without,
                )
            )  # fmt: skip
            sys.stdout.flush()


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 100)
