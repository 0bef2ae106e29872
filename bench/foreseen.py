"""Whether a plan's foreseen shares come true: `python bench/foreseen.py [classes]`.

Targets: within 5 of a hundred on average; the same with another seed within 3; 2 CPU seconds a plan. The classes it is laid
beside are simulated reading by reading, with the same mistakes as typed, and go through the verdict on each reading and
through Compare.
"""

from __future__ import annotations

import sys
import time
from collections import Counter
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from galvanic.bench.readings import parse
from galvanic.cells import Cell
from galvanic.chemistry.accounts import plate_u_v
from galvanic.errors import GalvanicError
from galvanic.findings.class_standing import standing_readings
from galvanic.findings.compare import ClassReading, compare
from galvanic.planning.design import Task, design
from galvanic.planning.schedule import Steps
from galvanic.planning.tell_apart import plate_potentials
from galvanic.simulated.foreseen import done_by, foresee
from galvanic.simulated.rehearsal import Spread
from galvanic.simulated.slips import usual_slips, with_slips

PLATES, JUICE = ("magnesium", "zinc", "steel", "tin", "nickel", "copper"), "lemon-juice"
MINUTES = 60.0
Pair = tuple[str, str]
ROW = "{:>6}  {:<20} {:>10} {:>13} {:>10} {:>12}\n"


def came_true(
    hands: tuple[tuple[Cell, ...], ...], pairs: list[tuple[str, str]], classes: int
) -> tuple[Counter[tuple[str, str]], float]:
    """How often each pair was said in its foreseen order, and the share of classes in which all groups got through."""
    expected = plate_potentials(PLATES, (JUICE,))[JUICE]
    spread = Spread(
        plate_v=0.015, dip_v=0.02, offset_v=0.012, faulty=0.0,
        plates_v={(plate, JUICE): plate_u_v(plate, JUICE, expected[plate] or 0.0) for plate in PLATES},
    )  # fmt: skip
    said: Counter[Pair] = Counter()
    through, first = 0, 10_000 * len(hands)  # other classes for each number of groups
    for seed in range(classes):
        rng = np.random.default_rng([77, first + seed])
        done = [done_by(len(hand), Steps(), MINUTES, rng) for hand in hands]
        through += all(n >= len(hand) for n, hand in zip(done, hands, strict=True))
        entries = [
            one for one in with_slips(hands, first + seed, usual_slips(first + seed), spread) if one.place < done[one.group]
        ]
        readings = []
        for one in entries:
            try:
                value = parse(one.typed.text)
            except GalvanicError:
                continue
            readings.append(
                ClassReading(f"g{one.group}", one.cell.positive, one.cell.negative, JUICE, value.volts_v, value.resolution_v)
            )
        results = compare(standing_readings(readings)[0])
        ladder = results[0].ladder if results else None
        for lower, upper in pairs:
            if ladder is None or not any({lower, upper} <= set(part) for part in ladder.parts):
                continue
            said[lower, upper] += ladder.difference_v(upper, lower)[0] > ladder.reach_v(upper, lower)
    return said, 100.0 * through / classes


def main(classes: int = 200) -> None:
    """Print both, pair by pair, by number of groups."""
    sys.stdout.write(ROW.format("groups", "said of 100 classes", "foreseen", "another seed", "came true", "CPU, s"))
    off, again = [], []
    for groups in (2, 3, 5, 8):
        hands = design(Task(PLATES, (JUICE,), groups, 6)).hands
        start = time.process_time()
        found = foresee(hands, Steps(), MINUTES)
        took = time.process_time() - start
        other = {(one.lower, one.upper): one.can for one in foresee(hands, Steps(), MINUTES, seed=1).sayings}
        said, through = came_true(hands, list(other), classes)
        for one in found.sayings:
            pair = one.lower, one.upper
            true = 100.0 * said[pair] / classes
            off.append(abs(true - one.can))
            again.append(abs(other[pair] - one.can))
            row = (f"{one.can:.0f}", f"{other[pair]:.0f}", f"{true:.0f}", f"{took:.2f}")
            sys.stdout.write(ROW.format(groups, f"{one.lower} < {one.upper}", *row))
        sys.stdout.write(ROW.format(groups, "all get through", f"{found.all_through:.0f}", "", f"{through:.0f}", ""))
        sys.stdout.flush()
    sys.stdout.write(
        f"off by {np.mean(off):.1f} on average, {max(off):.1f} at most; another seed {max(again):.1f} at most\n"
    )


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 200)
