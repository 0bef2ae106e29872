"""A meter that is off, found against the rest of its class: `python bench/offsets.py [classes]`.

One group's meter reads 60 mV high, the others' lie within what meters do. Target: the interval holds the true difference
to the mean of the other groups in 93 to 97 %, without bias; of classes with sound meters fewer than 3 % have a group that is
said to be off.
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from bench.coverage import CASES, JUICE, PLATES, TRUE_V
from galvanic.findings.class_notes import class_offsets
from galvanic.findings.compare import ClassReading, compare
from galvanic.planning.design import Task, design

OFF_V, METER_V = 0.060, 0.004
ROW = "{:<34} {:>6} {:>9} {:>10} {:>9} {:>8} {:>13}\n"


def one_class(
    groups: int, case: dict[str, float], off_v: float, rng: np.random.Generator
) -> tuple[list[ClassReading], list[float]]:
    """The readings of a class by the planner's plan, and each group's true offset, V."""
    hands = design(Task(PLATES, (JUICE,), groups, 7)).hands
    offsets = [float(rng.normal(0.0, METER_V)) + (off_v if g == 0 else 0.0) for g in range(groups)]
    readings = []
    for g, hand in enumerate(hands):
        own = {plate: rng.normal(0.0, case.get("plates", 0.0)) for plate in PLATES}
        for cell in hand:
            level = offsets[g] + rng.normal(0.0, case.get("cell", 0.0))
            for plate, sign in ((cell.positive, 1.0), (cell.negative, -1.0)):
                each = case.get("rough", 0.0) if plate == "zinc" else case.get("each", 0.0)
                level += sign * (TRUE_V[plate] + own[plate] + rng.normal(0.0, each))
            for _ in range(3):
                value = round(float(level + rng.normal(0.0, 0.004)), 3)
                readings.append(ClassReading(f"g{g}", cell.positive, cell.negative, JUICE, value, 0.001))
    return readings, offsets


def main(classes: int = 150) -> None:
    """Print coverage, bias and half width for the group that is off, coverage for the others, and false certainty."""
    sys.stdout.write(ROW.format("case", "groups", "covered", "bias, mV", "reach, mV", "others", "falsely sure"))
    for name, case in CASES.items():
        if "offsets" in name:
            continue
        for groups in (3, 5, 8, 12):
            rng = np.random.default_rng([groups, 6])
            held, error, reach, others, false, told = 0, [], [], [], 0, 0
            for _ in range(classes):
                readings, true = one_class(groups, case, OFF_V, rng)
                offsets = class_offsets(compare(readings))
                out = {0} if any(one.group == "g0" and one.sure for one in offsets) and groups > 2 else set()
                for found in offsets:
                    at = int(found.group[1:])
                    due = true[at] - float(np.mean([true[other] for other in range(groups) if other not in {at, *out}]))
                    inside = found.low_v <= due <= found.high_v
                    if at == 0:
                        told += 1
                        held += inside
                        error.append(found.volts_v - due)
                        reach.append(0.5 * (found.high_v - found.low_v))
                    else:
                        others.append(inside)
                readings, _ = one_class(groups, case, 0.0, rng)
                false += any(found.sure and abs(found.volts_v) > 0.03 for found in class_offsets(compare(readings)))
            sys.stdout.write(
                ROW.format(
                    name, groups, f"{100 * held / max(1, told):.1f} %", f"{1e3 * np.mean(error):+.1f}",
                    f"{1e3 * np.median(reach):.0f}", f"{100 * np.mean(others):.1f} %", f"{100 * false / classes:.1f} %",
                )
            )  # fmt: skip
            sys.stdout.flush()


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 150)
