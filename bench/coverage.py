"""How often the ladder's 95 % intervals hold on simulated classes: `python bench/coverage.py [classes]`.

Target: 93 to 97 % for complete plans; for unfinished ones 93 to 98 %, half as wide again as those of somebody who knows the
variances, and never more than 1 V on either side.

Each class is drawn from known potentials, so that every distance to the held plate has a true value. Groups keep their
plates and meters as in a room: that is what an interval has to survive. Seeded.
"""

from __future__ import annotations

import math
import sys
import time
from collections.abc import Callable, Sequence
from dataclasses import replace
from itertools import combinations
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from galvanic.cells import Cell
from galvanic.findings.compare import USUAL_SCATTER_V
from galvanic.planning.design import Task, design
from galvanic.statistics.class_ladder import fit_class
from galvanic.statistics.ladder import Difference, fit

PLATES = ("magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper", "graphite")
TRUE_V = dict(zip(PLATES, (-1.4, -0.55, -0.76, -0.4, -0.1, -0.2, 0.2, 0.4), strict=True))
JUICE = "lemon-juice"
CASES = {
    "independent": {"cell": 0.02},
    "plates kept, 20 mV": {"plates": 0.02, "cell": 0.005},
    "offsets, 20 mV": {"meter": 0.02, "cell": 0.01},
    "one metal five times as rough": {"cell": 0.0, "each": 0.007, "rough": 0.035},
    "plates kept and offsets": {"plates": 0.02, "meter": 0.02, "cell": 0.01},
}
READ_V, READINGS = 0.005, 3
ROW = "{:<34} {:>6} {:>10} {:>9} {:>9} {:>9} {:>9}\n"


def drawn(hands: Sequence[Sequence[Cell]], case: dict[str, float], rng: np.random.Generator) -> list[Difference]:
    """One class's values: each group's mean of each of its cells."""
    differences = []
    for g, hand in enumerate(hands):
        own = {plate: rng.normal(0.0, case.get("plates", 0.0)) for plate in PLATES}
        meter = rng.normal(0.0, case.get("meter", 0.0))
        for cell in hand:
            value = meter + rng.normal(0.0, case.get("cell", 0.0)) + rng.normal(0.0, READ_V / math.sqrt(READINGS))
            for plate, sign in ((cell.positive, 1.0), (cell.negative, -1.0)):
                each = case.get("rough", 0.0) if plate == "zinc" else case.get("each", 0.0)
                value += sign * (TRUE_V[plate] + own[plate] + rng.normal(0.0, each))
            differences.append(Difference(cell.positive, cell.negative, value, READ_V / math.sqrt(READINGS), f"g{g}"))
    return differences


def covered(differences: list[Difference]) -> tuple[int, int, int, float]:
    """Distances to copper inside their interval, the same by two standard uncertainties of the plain fit, all, seconds."""
    start = time.process_time()
    fitted = fit_class(differences)
    took = time.process_time() - start
    plain = fit(differences)
    inside = old = n = 0
    for plate in fitted.part_of("copper"):
        if plate == "copper":
            continue
        true = TRUE_V[plate] - TRUE_V["copper"]
        inside += abs(fitted.difference_v(plate, "copper")[0] - true) <= fitted.reach_v(plate, "copper")
        by_v, u_v = plain.difference_v(plate, "copper")
        old += abs(by_v - true) <= 2.0 * u_v
        n += 1
    return inside, old, n, took


def plans(groups: int) -> dict[str, Sequence[Sequence[Cell]]]:
    """The planner's own plan, and every pair by every group."""
    pairs = [Cell.of(a, JUICE, b) for a, b in combinations(PLATES, 2)]
    return {"planner": design(Task(PLATES, (JUICE,), groups, 7)).hands, "all pairs": [pairs] * groups}


UNFINISHED = {"3 cells a group": 3, "2 cells a group": 2, "20 % missing": 0.2, "40 % missing": 0.4}
COLUMNS = "{:<18} {:>6} {:<34} {:>9} {:>12} {:>9}\n"


def unfinished(hands: Sequence[Sequence[Cell]], how: float, rng: np.random.Generator) -> list[list[Cell]]:
    """A plan as a class leaves it: so many cells a group (1 and more), or a part of them missing (below 1)."""
    if how < 1:
        return [[cell for cell in hand if rng.random() >= how] for hand in hands]
    return [[hand[place] for place in sorted(rng.permutation(len(hand))[: int(how)])] for hand in hands]


def knowing(differences: Sequence[Difference], case: dict[str, float]) -> tuple[list[str], np.ndarray]:
    """Plates, and the covariance of their potentials for somebody who knows the variances (generalised least squares)."""
    names = list(dict.fromkeys(name for d in differences for name in (d.red, d.black)))
    a = np.zeros((len(differences), len(names)))
    for row, d in enumerate(differences):
        a[row, names.index(d.red)], a[row, names.index(d.black)] = 1.0, -1.0
    each = [
        d.u_v**2 + case.get("cell", 0.0) ** 2
        + sum(case.get("rough" if plate == "zinc" else "each", 0.0) ** 2 for plate in (d.red, d.black))
        for d in differences
    ]  # fmt: skip
    same = np.array([[d.group == other.group for other in differences] for d in differences])
    kept = case.get("meter", 0.0) ** 2 + case.get("plates", 0.0) ** 2 * (a @ a.T)
    return names, np.linalg.pinv(a.T @ np.linalg.inv(np.diag(each) + same * kept) @ a, hermitian=True)


def half_widths(differences: list[Difference], case: dict[str, float]) -> list[tuple[bool, float, float]]:
    """Of each distance to a plate: whether it is covered, half its interval, and the same for somebody who knows, V."""
    fitted = fit_class(differences)
    if fitted.dof < 1:  # as `findings/compare.py` has it
        fitted = fit_class([replace(d, u_v=math.hypot(d.u_v, USUAL_SCATTER_V)) for d in differences])
    names, covariance = knowing(differences, case)
    held, *others = fitted.parts[0]
    out = []
    for plate in others:
        i, j, reach = names.index(plate), names.index(held), fitted.reach_v(plate, held)
        known = 1.96 * math.sqrt(max(1e-12, covariance[i, i] + covariance[j, j] - 2.0 * covariance[i, j]))
        off = fitted.difference_v(plate, held)[0] - (TRUE_V[plate] - TRUE_V[held])
        out.append((abs(off) <= reach, reach, known))
    return out


def half_way(classes: int = 40, write: Callable[[str], object] = sys.stdout.write) -> list[tuple[float, float, float]]:
    """Print coverage, median half-width against somebody who knows the variances, and the widest, of unfinished classes."""
    write(COLUMNS.format("plan", "groups", "scatter", "covered", "× who knows", "widest V"))
    rows = []
    for what, how in UNFINISHED.items():
        for groups in (2, 4, 8, 12):
            hands = plans(groups)["planner"]
            for name, case in CASES.items():
                rng = np.random.default_rng([groups, len(what), len(name)])
                found = []
                for _ in range(classes):
                    if differences := drawn(unfinished(hands, how, rng), case, rng):
                        found += half_widths(differences, case)
                covered_part = float(np.mean([inside for inside, *_ in found]))
                ratio, widest = float(np.median([h / k for _, h, k in found])), max(h for _, h, _ in found)
                rows.append((covered_part, ratio, widest))
                write(COLUMNS.format(what, groups, name, f"{100 * covered_part:.1f} %", f"{ratio:.2f}", f"{widest:.2f}"))
    return rows


def main(classes: int = 100, write: Callable[[str], object] = sys.stdout.write) -> dict[tuple[str, int, str], float]:
    """Print the table; the share covered by scatter, groups and plan."""
    shares = {}
    write(ROW.format("scatter", "groups", "plan", "covered", "2u plain", "CPU ms", "values"))
    for groups in (3, 8, 12):
        for plan, hands in plans(groups).items():
            for what, case in CASES.items():
                rng = np.random.default_rng([groups, len(what), len(plan)])
                sums = np.zeros(4)
                for _ in range(classes):
                    sums += covered(drawn(hands, case, rng))
                shares[what, groups, plan] = sums[0] / sums[2]
                values = sum(map(len, hands))
                write(
                    ROW.format(
                        what, groups, plan, f"{100 * sums[0] / sums[2]:.1f} %", f"{100 * sums[1] / sums[2]:.1f} %",
                        f"{1000 * sums[3] / classes:.1f}", values,
                    )
                )  # fmt: skip
    return shares


if __name__ == "__main__":
    many = int(sys.argv[1]) if len(sys.argv) > 1 else 100
    main(many)
    half_way(many)
