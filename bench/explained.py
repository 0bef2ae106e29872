"""Is what went wrong in a class named first, and nothing said against it?  `python bench/explained.py [classes]`

Simulated classes of 2 to 12 groups in one liquid and in two, each with one mistake of `galvanic/simulated/slips.py`.
Targets: the right note first in 90 % of the classes where the mistake can be seen at all, a contradicting one in none,
and on sound classes each kind of note falsely said in less than 3 %.
"""

from __future__ import annotations

import sys
from collections import Counter
from collections.abc import Mapping, Sequence
from functools import cache
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from galvanic.cells import Cell
from galvanic.findings.class_says import class_says
from galvanic.findings.class_standing import standing_readings
from galvanic.findings.compare import ClassReading, compare
from galvanic.planning.design import Task, design
from galvanic.simulated.rehearsal import Entry, simulated_class
from galvanic.simulated.slips import with_slips

PLATES = ("magnesium", "zinc", "steel", "tin", "nickel", "copper")
GROUPS, LIQUIDS = (2, 3, 5, 8, 12), (("lemon-juice",), ("lemon-juice", "salt-water"))
ROW = "{:<34} {:>8} {:>12} {:>13}   {}\n"
LEFT_OUT = frozenset(f"left_out_{code}" for code in ("millivolts", "comma", "too_high", "beyond"))
LADDER = frozenset({"plate_shift", "swapped", "loop", "closes", "order_drift", "copied"})
Codes = frozenset[str]

RIGHT: Mapping[str, Codes] = {
    "leads turned in one cell": frozenset({"left_out_reversed", "outlier"}),
    "leads turned in one group": frozenset({"left_out_reversed"}),
    "leads turned in all": frozenset({"left_out_reversed"}),
    "one value in millivolts": frozenset({"left_out_millivolts"}),
    "one group in millivolts": frozenset({"left_out_millivolts"}),
    "all in millivolts": frozenset({"left_out_millivolts"}),
    "a value of another cup": frozenset({"same_numbers"}),
    "a lost sign": frozenset({"left_out_reversed", "outlier"}),
    "a lost comma": LEFT_OUT,
    "one impossible value": LEFT_OUT,
    "read once, written three times": frozenset({"repeated"}),
    "one number for every cell": frozenset({"constant"}),
    "copied from the table": frozenset({"copied"}),
    "all copied from the table": frozenset({"copied"}),
    "noise of a volt": frozenset({"noise"}),
    "all zero": frozenset({"nothing_read"}),
    "one group zero": frozenset({"nothing_read"}),
    "a flat meter": frozenset({"scale"}),
    "a coarse meter": frozenset({"coarse"}),
    "a drift with the order of cells": frozenset({"order_drift"}),
    "a plate changed half-way": frozenset({"plate_changed", "outlier"}),
}
AGAINST: Mapping[str, Codes] = {
    "leads turned in all": LADDER,
    "all in millivolts": LADDER,
    "all zero": LADDER,
    "all copied from the table": LADDER - {"copied"},
    "one group zero": frozenset({"outlier", "offset", "scale", "constant"}),
    "one number for every cell": frozenset({"outlier", "offset", "scale", "repeated"}),
    "noise of a volt": frozenset({"left_out_reversed", "outlier", "offset"}),
    "one group in millivolts": frozenset({"left_out_beyond", "left_out_too_high", "scale"}),
    "leads turned in one group": frozenset({"outlier", "offset"}),
    "a flat meter": frozenset({"offset"}),
    "a drift with the order of cells": frozenset({"no_drift"}),
}
FALSE = (
    "nothing_read", "constant", "copied", "noise", "repeated", "same_numbers", "scale", "plate_changed", "order_drift",
    "left_out_reversed", *sorted(LEFT_OUT), "outlier", "offset", "loop", "turned",
)  # fmt: skip


NOT_OF_CELLS = (
    "nothing_read",
    "constant",
    "copied",
    "noise",
    "same_numbers",
    "scale",
    "plate_changed",
    "order_drift",
    "offset",
)
REFUSED_V = 10_000.0  # the bench does not take it


def readings(entries: Sequence[Entry]) -> list[ClassReading]:
    """A simulated class as a table has it."""
    rows = []
    for one in entries:
        digits, volt = len(one.typed.text.partition(".")[2]), 0.001 if one.typed.unit == "mV" else 1.0
        value = float(one.typed.text) * volt
        cell = one.cell
        rows.append(
            ClassReading(
                f"Bench {one.group + 1}", cell.positive, cell.negative, cell.electrolyte, value, volt * 10.0**-digits
            )
        )
    return rows


@cache
def hands(groups: int, liquids: tuple[str, ...]) -> tuple[tuple[Cell, ...], ...]:
    """A plan's cells, by group."""
    return tuple(tuple(hand) for hand in design(Task(PLATES, liquids, groups, 6)).hands)


def said_of(entries: Sequence[Entry]) -> list[str]:
    """The codes of a class's notes, in order."""
    every = readings(entries)
    counting, left_out = standing_readings(every)
    return [note.code for note in class_says(every, counting, left_out, compare(counting)).in_order]


def seen(name: str, was: Sequence[Entry], now: Sequence[Entry]) -> bool:
    """Whether a mistake can be told from the numbers at all: it has changed them by more than benches differ.

    Numbers written three times by somebody whose meter shows hundredths look like anybody's; a plate that is another one
    in one cell only is that cell's; and two groups that share one cell in two liquids have nothing to hold a drift against.
    """
    changed = [(a, b) for a, b in zip(was, now, strict=False) if a.typed != b.typed]
    if name == "read once, written three times":
        who = {b.group for b in now if b.kind == "repeated"}
        return all(len(b.typed.text.partition(".")[2]) >= 3 for b in now if b.group in who)
    if name == "a plate changed half-way" and len({(b.group, b.place) for _, b in changed}) < 2:
        return False
    if name == "a drift with the order of cells":
        return len({one.group for one in now}) > 2 or len({one.cell.electrolyte for one in now}) < 2
    if name == "a coarse meter":
        return True
    return any(abs(float(a.typed.text) - float(b.typed.text)) > LEAST.get(name, 0.02) for a, b in changed)


LEAST: Mapping[str, float] = {
    "a value of another cup": 0.3, "leads turned in one cell": 0.5, "a lost sign": 0.5, "a plate changed half-way": 0.1,
}  # fmt: skip


def classes(count: int) -> list[tuple[tuple[tuple[Cell, ...], ...], int]]:
    """Hands and seed of each class."""
    kinds = [(groups, liquids) for liquids in LIQUIDS for groups in GROUPS]
    return [(hands(*kinds[seed % len(kinds)]), seed) for seed in range(count)]


def main(count: int = 100) -> None:
    """Print the table."""
    out = sys.stdout.write
    out(ROW.format("mistake", "visible", "right first", "contradicted", "first otherwise"))
    for name, right in RIGHT.items():
        first: Counter[str] = Counter()
        against: Counter[str] = Counter()
        for plan, seed in classes(count):
            was, now = with_slips(plan, seed, []), with_slips(plan, seed, [name])
            if seen(name, was, now):
                codes = said_of(now)
                first[codes[0] if codes else "-"] += 1
                against.update(set(codes) & AGAINST.get(name, frozenset()))
        n = sum(first.values())
        share = f"{100 * sum(first[code] for code in right) / n:.0f} %" if n else "-"
        worst = f"{100 * max(against.values(), default=0) / n:.0f} %" if n else "-"
        others = ", ".join(f"{code} {times}" for code, times in first.most_common() if code not in right)
        out(ROW.format(name, n, share, worst, f"{others} {dict(against) if against else ''}"))
    false: Counter[str] = Counter()
    for plan, seed in classes(3 * count):
        false.update(set(said_of(with_slips(plan, 10_000 + seed, []))))
    for code in FALSE:
        out(ROW.format(f"sound: {code}", 3 * count, "", "", f"{100 * false[code] / (3 * count):.1f} % false (target < 3 %)"))
    of_faulty: Counter[str] = Counter()
    for plan, seed in classes(count):
        of_faulty.update(
            set(said_of([one for one in simulated_class(plan, seed) if abs(float(one.typed.text)) < REFUSED_V]))
        )
    for code in NOT_OF_CELLS:  # classes in which single cells went wrong, as many as at benches
        out(
            ROW.format(
                f"single cells wrong: {code}", count, "", "", f"{100 * of_faulty[code] / count:.1f} % false (target < 3 %)"
            )
        )


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 100)
