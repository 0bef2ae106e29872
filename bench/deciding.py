"""Whether a stated share is right, and what the most telling cell saves: `python bench/deciding.py [classes]`.

Classes are drawn from each account, and from none of them, with the account's own errors, one that all plates of a metal
share, groups' plates and meters, and what is new at each cell. Targets: of the shares stated about 90 of 100, 88 to 92 are
right (2 to 12 groups); a plan decides as often as it says it will, within 10 of 100; the most telling cells decide with
fewer than those that make a ladder sharpest, or any; the most telling cell is one of the best two by brute force in all of
50 small cases.
"""

from __future__ import annotations

import math
import sys
from collections import defaultdict
from collections.abc import Callable, Sequence
from itertools import combinations
from pathlib import Path

import numpy as np
from scipy import stats

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from galvanic.cells import Cell
from galvanic.chemistry.hypotheses import hypotheses_on, made_of, weighed_accounts
from galvanic.findings.compare import ClassReading, compare
from galvanic.findings.deciding import deciding
from galvanic.planning.decide import decided, made_to_decide
from galvanic.planning.design import Task, design
from galvanic.statistics.hypotheses import DECIDED, FREEDOM, SHARED_V, USUAL_SHARED_V, Hypothesis, further_of, telling, weigh
from galvanic.statistics.scoring import Values

PLATES, JUICE = ("magnesium", "aluminium", "zinc", "steel", "tin", "nickel", "copper"), "lemon-juice"
NEW_V, KEPT_V, METER_V, READ_V = 0.012, 0.015, 0.012, 0.004
ABOUT = ((0.5, 0.7), (0.7, 0.85), (0.85, 0.95), (0.95, 1.0))
GROUPS = (2, 3, 5, 8, 12)
ROW = "{:<22}" + "{:>16}" * len(ABOUT) + "\n"
CASES, LEAST_WEIGHT = 50, 1e-3
QUANTILES = stats.norm.ppf((np.arange(9) + 0.5) / 9)  # equally likely values
Hands = Sequence[Sequence[Cell]]


def true_v(cells: Sequence[Cell], rng: np.random.Generator, shared_v: float | None) -> tuple[str, dict[Cell, float]]:
    """A hypothesis that holds for a class, and what its cells truly are, V."""
    names, answered = weighed_accounts(cells)
    of = hypotheses_on(answered, names)
    one = of[int(rng.integers(len(of)))]
    tau = math.sqrt(FREEDOM / rng.chisquare(FREEDOM)) * USUAL_SHARED_V if shared_v is None else shared_v
    made = made_of(answered)
    root = np.linalg.cholesky(one.covariance_v2 + 1e-12 * np.eye(len(answered)))
    drawn = one.says_v + root @ rng.normal(size=len(answered)) + made @ rng.normal(0.0, tau, made.shape[1])
    return one.name, dict(zip(answered, map(float, drawn), strict=True))


def readings(hands: Hands, truth: dict[Cell, float], rng: np.random.Generator) -> list[ClassReading]:
    """What a class's groups write down."""
    out = []
    for g, hand in enumerate(hands):
        own, meter = defaultdict(lambda: rng.normal(0.0, KEPT_V)), rng.normal(0.0, METER_V)
        for cell in dict.fromkeys(cell for cell in hand if cell in truth):
            level = truth[cell] + meter + own[cell.positive] - own[cell.negative] + rng.normal(0.0, NEW_V)
            for _ in range(3):
                value = round(float(level + rng.normal(0.0, READ_V)), 3)
                out.append(ClassReading(f"g{g}", cell.positive, cell.negative, JUICE, value, 0.001))
    return out


def calibration(classes: int) -> None:
    """Print how often the account stated with such a share is the true one."""
    sys.stdout.write(ROW.format("stated, of 100", *(f"{100 * low:.0f} to {100 * high:.0f}" for low, high in ABOUT)))
    every: dict[tuple[float, float], list[bool]] = {at: [] for at in ABOUT}
    for shared_v in (None, 0.03, 0.1):
        for groups in GROUPS:
            rng, found = np.random.default_rng([groups, 41]), {at: list[bool]() for at in ABOUT}
            for k in range(classes):
                # Few plates and few cells, since a whole class leaves little in doubt.
                plates = tuple(rng.permutation(PLATES)[: 3 + k % 4])
                hands = design(Task(plates, (JUICE,), groups, 2 + k % 3)).hands
                cells = list(dict.fromkeys(cell for hand in hands for cell in hand))
                name, truth = true_v(cells, rng, shared_v)
                read = readings(hands, truth, rng)
                order = [(Cell.of(one.black, JUICE, one.red), one.group) for one in read]
                for step in deciding(compare(read), order).steps:
                    for stated, share in step.shares.items():
                        for low, high in ABOUT:
                            if low <= share < high:
                                found[low, high].append(stated == name)
            if shared_v is None:
                for at, those in found.items():
                    every[at] += those
            what = f"{groups} groups, " + ("as usual" if shared_v is None else f"{shared_v:.2f} V")
            sys.stdout.write(ROW.format(what, *(_share(those) for those in found.values())))
            sys.stdout.flush()
    sys.stdout.write(ROW.format("all, as usual", *(_share(those) for those in every.values())))


def _share(those: Sequence[bool]) -> str:
    return f"{100 * np.mean(those):.0f} of {len(those)}" if those else "-"


def ahead(classes: int) -> None:
    """Print in how many of a hundred classes a plan says it will decide, as it is and made to decide, and in how many that
    were read and compared it did."""
    sys.stdout.write(f"\n{'plan':<34}{'said of 100':>14}{'came, of 100':>14}\n")
    for plates, groups, places in (
        (PLATES, 2, 4),
        (PLATES, 4, 5),
        (PLATES[2:], 3, 4),
        (PLATES[2:], 8, 6),
        (PLATES[4:], 3, 4),
    ):
        task = Task(plates, (JUICE,), groups, places)
        plan = design(task)
        made = made_to_decide(task, plan)
        for name, hands in (("as it is", plan.hands), *([("made to decide", made[1].hands)] if made else [])):
            rng = np.random.default_rng([groups, places, 53])
            cells = list(dict.fromkeys(cell for hand in hands for cell in hand))
            ends = []
            for _ in range(classes):
                shares = deciding(compare(readings(hands, true_v(cells, rng, None)[1], rng))).steps[-1].shares
                ends.append(max(shares.values()) >= DECIDED)
            what = f"{len(plates)} plates, {groups} groups, {name}"
            sys.stdout.write(f"{what:<34}{decided(hands) or 0.0:>14.0f}{100 * np.mean(ends):>14.0f}\n")
            sys.stdout.flush()


def choose(classes: int) -> None:
    """Print how many cells it takes until one has DECIDED, by how the next is chosen."""
    cells = [Cell.of(a, JUICE, b) for a, b in combinations(PLATES, 2)]
    noise = NEW_V**2 + 2.0 * KEPT_V**2 + METER_V**2 + READ_V**2 / 3.0
    rules: dict[str, Callable[[list[Cell], list[Cell], list[float], np.random.Generator], Cell]] = {
        "any": lambda left, done, values, rng: left[int(rng.integers(len(left)))],
        "sharpest ladder": lambda left, done, values, rng: _sharpest(left, done),
        "most telling": lambda left, done, values, rng: _most_telling(left, done, values, noise),
    }
    sys.stdout.write(f"\n{'next cell':<18}{'cells until decided':>22}{'decided by 6':>16}{'right':>10}\n")
    for rule, take in rules.items():
        rng, needed, right = np.random.default_rng(43), [], []
        for _ in range(classes):
            name, truth = true_v(cells, rng, None)
            left, done, values = [cell for cell in cells if cell in truth], list[Cell](), list[float]()
            while left:
                cell = take(left, done, values, np.random.default_rng([len(done), len(needed)]))
                left.remove(cell)
                done.append(cell)
                values.append(truth[cell] + float(rng.normal(0.0, math.sqrt(noise))))
                now = weighed(done, values, noise)
                best = max(now, key=lambda one: now[one])
                if now[best] >= DECIDED:
                    right.append(best == name)
                    break
            needed.append(len(done) if left or now[best] >= DECIDED else len(cells) + 1)
        by6 = np.mean([n <= 6 for n in needed])
        sys.stdout.write(f"{rule:<18}{np.mean(needed):>22.2f}{100 * by6:>14.0f} %{100 * np.mean(right):>8.0f} %\n")
        sys.stdout.flush()


def weighed(done: Sequence[Cell], values: Sequence[float], noise: float) -> dict[str, float]:
    """The shares after these cells, one group each."""
    names = weighed_accounts(done)[0]
    spread = Values(np.array(values), made_of(done), noise * np.eye(len(done)), len(done))
    return weigh(spread, hypotheses_on(done, names)).now


def _most_telling(left: Sequence[Cell], done: Sequence[Cell], values: Sequence[float], noise: float) -> Cell:
    cells, n = [*done, *left], len(done)
    whole, made = hypotheses_on(cells, weighed_accounts(cells)[0]), made_of(cells)
    now = weigh(Values(np.array(values), made[:n], noise * np.eye(n), n), [one.first(n) for one in whole])
    told = telling(now, further_of(whole, n, made, np.full(len(left), noise)))
    return left[max(range(len(left)), key=lambda k: told[k].nats)]


def _sharpest(left: Sequence[Cell], done: Sequence[Cell]) -> Cell:
    """The cell whose two plates are worst known against each other."""
    cells = [*done, *left]
    made, n = made_of(cells), len(done)
    covariance = np.linalg.inv(made[:n].T @ made[:n] + 1e-3 * np.eye(made.shape[1]))
    return left[int(np.argmax([row @ covariance @ row for row in made[n:]]))]


def by_force(cases: int) -> None:
    """In how many small cases the most telling cell is among the best two of brute force: every value that could come, each
    time all hypotheses weighed from the beginning."""
    rng = np.random.default_rng(47)
    same = first = 0
    worst = 0.0
    for _ in range(cases):
        plates = [PLATES[k] for k in sorted(rng.choice(len(PLATES), 4, replace=False))]
        cells = [Cell.of(a, JUICE, b) for a, b in combinations(plates, 2)]
        cells = [cells[k] for k in rng.permutation(len(cells))]
        n = int(rng.integers(1, 4))
        _, true = true_v(cells, rng, None)
        noise = NEW_V**2 + READ_V**2
        whole, made = hypotheses_on(cells, weighed_accounts(cells)[0]), made_of(cells)
        so_far = np.array([true[cell] + rng.normal(0.0, math.sqrt(noise)) for cell in cells[:n]])
        values = Values(so_far, made[:n], noise * np.eye(n), n)
        now = weigh(values, [one.first(n) for one in whole])
        told = [one.nats for one in telling(now, further_of(whole, n, made, np.full(len(cells) - n, noise)))]
        forced = [_forced(whole, values, made, noise, n, k) for k in range(n, len(cells))]
        best, order = int(np.argmax(told)), list(np.argsort(forced)[::-1])
        first += best == order[0]
        same += best in order[:2]
        worst = max(worst, max(forced) - forced[best])
    out = "most telling is one of brute force's best two in {} of {} cases, the best in {}; at worst {:.3f} nats less\n"
    sys.stdout.write(out.format(same, cases, first, worst))


def _forced(whole: Sequence[Hypothesis], values: Values, made: np.ndarray, noise: float, n: int, k: int) -> float:
    """Expected information of one further value, nats: over hypotheses, what plates share, and what the value may be."""
    places = [*range(n), k]
    rows = made[places]
    prior = weigh(values, [one.first(n) for one in whole])
    information = 0.0
    for h, one in enumerate(whole):
        for t, shared_v in enumerate(SHARED_V):
            if (weight := float(prior.joint[h, t])) < LEAST_WEIGHT:
                continue
            covariance = one.covariance_v2[np.ix_(places, places)] + shared_v**2 * rows @ rows.T + noise * np.eye(n + 1)
            gain = np.linalg.solve(covariance[:n, :n], covariance[:n, n])
            mean = one.says_v[k] + gain @ (values.measured_v - one.says_v[:n])
            sd = math.sqrt(covariance[n, n] - gain @ covariance[:n, n])
            for z in QUANTILES:
                came = Values(np.append(values.measured_v, mean + sd * z), rows, noise * np.eye(n + 1), n + 1)
                first = [Hypothesis(g.name, g.says_v[places], g.covariance_v2[np.ix_(places, places)]) for g in whole]
                after, before = weigh(came, first).after[-1], prior.after[-1]
                told = np.where(after > 0.0, after * np.log(np.maximum(after, 1e-300) / before), 0.0)
                information += weight / len(QUANTILES) * float(told.sum())
    return information


def main(classes: int = 200) -> None:
    """Print all three."""
    calibration(classes)
    ahead(classes)
    choose(classes)
    by_force(CASES)


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 200)
