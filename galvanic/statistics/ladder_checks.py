"""What a fitted ladder can say of itself: loops, odd readings, order, offsets, and what one more reading would add."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from galvanic.errors import NotEnoughData
from galvanic.statistics.ladder import Difference, Ladder
from galvanic.statistics.repeats import coverage
from galvanic.statistics.robust import huber
from galvanic.words import say

ODD = 3.0  # studentised residual beyond which a reading is called odd
RANK_DRAWS = 2000
NODES, LEAST_V2 = 15, 1e-12
FALSE_OFFSETS = 0.03


def odd_readings(differences: Sequence[Difference], ladder: Ladder) -> list[tuple[Difference, float]]:
    """Readings more than three of their own standard deviations off the ladder, worst first, with that number."""
    odd = [(d, float(t)) for d, t in zip(differences, ladder.studentised, strict=True) if abs(t) > ODD]
    return sorted(odd, key=lambda item: -abs(item[1]))


@dataclass(frozen=True, slots=True)
class NextCell:
    """One more group on a cell: how many neighbours are expected in the right order now, and how many then."""

    red: str
    black: str
    now: float
    then: float


def next_cells(ladder: Ladder, order: Sequence[str], u_v: float) -> list[NextCell]:
    """Every pair inside a connected part, most useful first; `order`: the plates as found, so that neighbours are known.

    `u_v` is the uncertainty of the value to come, V. What it will be is not known, so the expectation is taken over what it
    may be (Gauss and Hermite). Sherman–Morrison: one row a with variance u² changes the covariance G by
    −G a aᵀ G/(u² + aᵀ G a).
    """
    from scipy.special import ndtr

    g, index = ladder.covariance_v2, {name: i for i, name in enumerate(ladder.electrodes)}
    pairs = [(index[a], index[b]) for a, b in zip(order, order[1:], strict=False)]
    if not pairs:
        return []
    p, q = (np.array(side) for side in zip(*pairs, strict=True))
    apart = ladder.potential_v[p] - ladder.potential_v[q]
    before = np.maximum(g[p, p] + g[q, q] - 2.0 * g[p, q], LEAST_V2)
    now = float(ndtr(np.abs(apart) / np.sqrt(before)).sum())
    nodes, weights = np.polynomial.hermite_e.hermegauss(NODES)
    cells = []
    for part in ladder.parts:
        for red, black in combinations(part, 2):
            i, j = index[red], index[black]
            column = g[:, i] - g[:, j]
            taken = (column[p] - column[q]) ** 2 / (u_v**2 + float(column[i] - column[j]))
            after = np.maximum(before - taken, LEAST_V2)
            moved = np.abs(apart[:, None] + np.sqrt(np.maximum(before - after, 0.0))[:, None] * nodes)
            then = float((ndtr(moved / np.sqrt(after)[:, None]) @ weights).sum() / weights.sum())
            cells.append(NextCell(red, black, now, then))
    return sorted(cells, key=lambda cell: -cell.then)


@dataclass(frozen=True, slots=True)
class Offset:
    """How much a group reads above the mean of the other groups, V, with its standard uncertainty and 95 % interval.

    `sure`: beyond what chance would do to any group of one class in thirty.
    """

    group: str
    volts_v: float
    u_v: float
    low_v: float
    high_v: float
    sure: bool


def group_offsets(differences: Sequence[Difference], kept_v: Mapping[str, float] | None = None) -> list[Offset]:
    """Offsets of the groups' meters, each against the mean of all others, fitted together with the ladder.

    An offset adds to every reading of a group whichever way its leads are. It is held against the others alone: a mean that
    the group is part of would move with it and hide a part of what it is off. `kept_v`: standard deviation of what a group's
    own plate adds wherever it is used, V, by plate: without it odd plates look like an odd meter. Raises NotEnoughData with
    fewer than two groups, or where offsets and ladder cannot be told apart.
    """
    groups = list(dict.fromkeys(d.group for d in differences))
    if len(groups) < 2:
        raise NotEnoughData(say("Offsets are against the class: two groups are needed."))
    a, _ = _design(differences)
    of_group = np.zeros((len(differences), len(groups)))
    of_group[np.arange(len(differences)), [groups.index(d.group) for d in differences]] = 1.0
    many, n = len(groups), a.shape[1]
    x, basis = np.hstack([a, of_group]), np.eye(many)
    if np.linalg.matrix_rank(x) < x.shape[1]:  # no loop tells what all meters have in common, which no difference needs
        basis = np.vstack([np.eye(many - 1), -np.ones(many - 1)])
        x = np.hstack([a, of_group @ basis])
    root = np.linalg.cholesky(_kept_covariance(differences, kept_v or {}))
    x, y = np.linalg.solve(root, x), np.linalg.solve(root, np.array([d.volts_v for d in differences]))
    if np.linalg.matrix_rank(x) < x.shape[1]:
        raise NotEnoughData(
            say("With these cells a group’s offset cannot be told from its plates. A shared cell would help.")
        )
    covariance = np.linalg.inv(x.T @ x)
    levels_v = basis @ (covariance @ (x.T @ y))[n:]
    levels_v2 = basis @ covariance[n:, n:] @ basis.T
    spare = max(1.0, float(len(x) - x.shape[1]))
    times, sure = coverage(spare), coverage(spare, 1.0 - FALSE_OFFSETS / many)
    off: list[int] = []  # groups that are sure to be off are no measure for the others; the furthest first
    while True:
        against = _against_the_others(many, off)
        offsets, u_v = against @ levels_v, np.sqrt(np.maximum(np.diag(against @ levels_v2 @ against.T), 0.0))
        away = np.where(np.isin(np.arange(many), off), 0.0, np.abs(offsets) / np.maximum(u_v, 1e-12))
        if len(off) + 2 >= many or away.max() <= sure:
            break
        off.append(int(away.argmax()))
    found = [
        Offset(group, volts_v, u, volts_v - times * u, volts_v + times * u, abs(volts_v) > sure * u)
        for group, volts_v, u in zip(groups, offsets.tolist(), u_v.tolist(), strict=True)
    ]
    return sorted(found, key=lambda offset: -abs(offset.volts_v))


def _against_the_others(many: int, off: Sequence[int]) -> np.ndarray:
    """Each group's level less the mean of those of the others that are not off: (groups, groups)."""
    against = np.eye(many)
    for group in range(many):
        others = [other for other in range(many) if other != group and other not in off]
        against[group, others] -= 1.0 / len(others)
    return against


def _kept_covariance(differences: Sequence[Difference], kept_v: Mapping[str, float]) -> np.ndarray:
    """Own variances, and what values of one group share because they share a plate."""
    names = list(dict.fromkeys(name for d in differences for name in (d.black, d.red)))
    index = {name: i for i, name in enumerate(names)}
    signed = np.zeros((len(differences), len(names)))
    for row, d in enumerate(differences):
        signed[row, index[d.red]], signed[row, index[d.black]] = kept_v.get(d.red, 0.0), -kept_v.get(d.black, 0.0)
    groups = np.array([d.group for d in differences])
    shared = (signed @ signed.T) * np.equal.outer(groups, groups)
    return np.asarray(shared + np.diag([d.u_v**2 for d in differences]))


def _design(differences: Sequence[Difference]) -> tuple[np.ndarray, list[str]]:
    """Incidence matrix with the first electrode of each connected part left out, so that it has full rank."""
    from galvanic.statistics.ladder import connected

    names = list(dict.fromkeys(name for d in differences for name in (d.black, d.red)))
    parts = connected(names, [(d.red, d.black) for d in differences])
    free = [name for part in parts for name in part[1:]]
    a = np.zeros((len(differences), len(free)))
    for row, d in enumerate(differences):
        for name, sign in ((d.red, 1.0), (d.black, -1.0)):
            if name in free:
                a[row, free.index(name)] += sign
    return a, free


def robust_ladder(differences: Sequence[Difference]) -> tuple[dict[str, float], list[float]]:
    """Potentials that wild readings cannot drag along, and each reading's weight between 0 and 1.

    Potentials in V against the first electrode of each connected part. Raises NotEnoughData for no readings.
    """
    if not differences:
        raise NotEnoughData(say("There are no readings to build a ladder from."))
    a, free = _design(differences)
    fitted = huber(a, np.array([d.volts_v for d in differences]), np.array([d.u_v**-2 for d in differences]))
    potentials = dict.fromkeys((name for d in differences for name in (d.black, d.red)), 0.0)
    potentials.update(zip(free, (float(value) for value in fitted.coefficients), strict=True))
    return potentials, [float(weight) for weight in fitted.weights]


@dataclass(frozen=True, slots=True)
class Rank:
    """Kendall's τ between the found order and the table's, with its 95 % interval from the ladder's covariance."""

    tau: float
    low: float
    high: float
    n: int


def rank_agreement(ladder: Ladder, table_v: Mapping[str, float], seed: int = 1) -> Rank:
    """Agreement of order with a table, within the largest connected part. Raises NotEnoughData with fewer than three."""
    from scipy.stats import kendalltau

    names = [name for name in ladder.parts[0] if name in table_v]
    if len(names) < 3:
        raise NotEnoughData(say("Three plates of the table are needed to compare an order."))
    places = [ladder.electrodes.index(name) for name in names]
    table = [table_v[name] for name in names]
    tau = float(kendalltau(ladder.potential_v[places], table).statistic)
    if not math.isfinite(tau):
        raise NotEnoughData(say("All plates stand at one place, which is no order."))
    values, vectors = np.linalg.eigh(ladder.covariance_v2[np.ix_(places, places)])
    noise = np.random.default_rng(seed).standard_normal((RANK_DRAWS, len(names))) * np.sqrt(np.maximum(values, 0.0))
    drawn = ladder.potential_v[places] + noise @ vectors.T
    taus = _kendall(drawn, np.array(table))
    low, high = np.quantile(taus, [0.025, 0.975])
    return Rank(tau, float(low), float(high), len(names))


def _kendall(drawn: np.ndarray, table: np.ndarray) -> np.ndarray:
    """τ of each row against the table (no ties)."""
    i, j = np.triu_indices(drawn.shape[1], 1)
    return np.asarray((np.sign(drawn[:, i] - drawn[:, j]) * np.sign(table[i] - table[j])).mean(axis=1))
