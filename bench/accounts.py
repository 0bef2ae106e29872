"""Accounts on a class's own data: `python bench/accounts.py [classes]`. Target: 93 to 97 % of the intervals hold.

Classes are drawn from the rest-potential model, with an error that all of a class's plates of one metal share, groups' own
plates and meters, and what is new at each cell. What two accounts differ by on average over such classes is known.
"""

from __future__ import annotations

import sys
from collections.abc import Mapping, Sequence
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from galvanic.cells import Cell
from galvanic.chemistry.accounts import ACCOUNTS, predict
from galvanic.chemistry.hypotheses import LEAST_ANSWERED
from galvanic.findings.class_accounts import score_accounts
from galvanic.findings.compare import ClassReading, compare
from galvanic.planning.design import Task, design

PLATES, JUICE = ("magnesium", "zinc", "steel", "tin", "nickel", "copper"), "lemon-juice"
NEW_V, KEPT_V, METER_V, READ_V = 0.012, 0.015, 0.008, 0.004
ROW = "{:<14} {:>6} {:>15} {:>15} {:>14} {:>18}\n"
Hands = Sequence[Sequence[Cell]]
Says = Mapping[Cell, Mapping[str, float | None]]


def what_is_said(hands: Hands) -> Says:
    """What each account says of each cell of a plan, V."""
    cells = list(dict.fromkeys(cell for hand in hands for cell in hand))
    return {cell: {name: one.volts_v for name, one in of.items()} for cell, of in zip(cells, predict(cells, 0), strict=True)}


def drawn(hands: Hands, says: Says, shared_v: float, rng: np.random.Generator) -> list[ClassReading]:
    """The readings of one class."""
    common = {plate: rng.normal(0.0, shared_v) for plate in PLATES}
    readings = []
    for g, hand in enumerate(hands):
        own = {plate: rng.normal(0.0, KEPT_V) for plate in PLATES}
        meter = rng.normal(0.0, METER_V)
        for cell in dict.fromkeys(hand):
            level = (says[cell]["rest"] or 0.0) + meter + rng.normal(0.0, NEW_V)
            level += common[cell.positive] - common[cell.negative] + own[cell.positive] - own[cell.negative]
            for _ in range(3):
                value = round(float(level + rng.normal(0.0, READ_V)), 3)
                readings.append(ClassReading(f"g{g}", cell.positive, cell.negative, JUICE, value, 0.001))
    return readings


def on_average(hands: Hands, says: Says, account: str, shared_v: float) -> float:
    """rms of an account less that of the model the classes are drawn from, over all such classes, on cells all answer, V."""
    whole = [cell for hand in hands for cell in dict.fromkeys(hand)]
    least = LEAST_ANSWERED * len(set(whole))
    ranked = [name for name in ACCOUNTS if sum(says[cell][name] is not None for cell in set(whole)) >= least]
    cells = [cell for cell in whole if all(says[cell][name] is not None for name in ranked)]
    noise = 2.0 * (shared_v**2 + KEPT_V**2) + METER_V**2 + NEW_V**2 + READ_V**2 / 3.0
    off = np.array([(says[cell][account] or 0.0) - (says[cell]["rest"] or 0.0) for cell in cells])
    return float(np.sqrt((off**2).mean() + noise) - np.sqrt(noise))


def main(classes: int = 100) -> None:
    """Print coverage for two accounts against the best, and how often none is said to be good enough."""
    sys.stdout.write(
        ROW.format("plates share", "groups", "table: covered", "H+: covered", "half width, V", "none good enough")
    )
    for shared_v in (0.0, 0.05, 0.1):
        for groups in (2, 3, 5, 8, 12):
            rng = np.random.default_rng([groups, 11])
            hands = design(Task(PLATES, (JUICE,), groups, 6)).hands
            says = what_is_said(hands)
            held: dict[str, list[bool]] = {"standard": [], "hydrogen": []}
            half, none = [], 0
            for _ in range(classes):
                found = score_accounts(compare(drawn(hands, says, shared_v, rng)))
                none += found.verdict.startswith("None")
                for row in found.rows:
                    if row.account in held and row.against_best is not None and found.rows[0].account == "rest":
                        due = on_average(hands, says, row.account, shared_v)
                        held[row.account].append(row.against_best.low_v <= due <= row.against_best.high_v)
                        half.append(0.5 * (row.against_best.high_v - row.against_best.low_v))
            shares = (f"{100 * np.mean(one or [0]):.0f} % of {len(one)}" for one in held.values())
            row_half = f"{np.median(half or [0]):.3f}"
            sys.stdout.write(ROW.format(f"{shared_v:.2f} V", groups, *shares, row_half, f"{100 * none / classes:.0f} %"))
            sys.stdout.flush()


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 100)
