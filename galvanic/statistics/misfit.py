"""Does a class's ladder add up, and if not, what is it that does not fit: a cell, a group's meter, a group's plate?

Around a loop cells should add up to nothing. How much they may miss it by chance is known from groups that measured the
same cell: the variances are those of a model in which every cell has a value of its own, so that what the ladder cannot
explain is in none of them (a lack-of-fit test: G. A. F. Seber, A. J. Lee, “Linear Regression Analysis”, on replicates).
Each suspect (a shift of one cell in all groups, of all values of a group, of one plate of a group) is fitted beside the
ladder; its size has Student's t with Satterthwaite's degrees of freedom. Which one it is is weighed by Bayes' rule.
`bench/loops.py` prints power and false alarms.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from galvanic.errors import NotEnoughData
from galvanic.statistics.class_ladder import (
    FREEDOM,
    LEAST_V2,
    MOST_ROUGH,
    components,
    restricted,
    rough_plate,
    touching,
    usual_v2,
)
from galvanic.statistics.class_ladder import Values as ClassValues
from galvanic.statistics.ladder import Difference, fit
from galvanic.words import say

Array = NDArray[np.float64]
Kind = Literal["cell", "meter", "plate"]
FALSE_ALARMS = 0.012  # nominally: of sound simulated classes up to 4 in 100, since variances are estimated too
SEEN_V = 0.1  # what a class should be able to see: power is stated for it
USUAL_SHIFT_V = 0.2  # of something that is off; common practice, no source
BEFORE = {"none": 0.7, "cell": 0.1, "meter": 0.1, "plate": 0.1}  # as above; shared out among the suspects of a kind
LEAST_INFORMATION = 1e-6  # of the greatest; a cell in no loop has none
STEP = 0.05


@dataclass(frozen=True, slots=True)
class Suspect:
    """Something that may be off, by `shift_v` with standard uncertainty `u_v`; `p` two-sided, `probability` that it is this.

    `red` and `black` name a cell, `red` alone a plate; `group` is empty where all groups share it.
    """

    kind: Kind
    group: str
    red: str
    black: str
    shift_v: float
    u_v: float
    freedom: float
    p: float
    probability: float


@dataclass(frozen=True, slots=True)
class Misfit:
    """Whether a ladder adds up. `cells` that loops hold, worst first; `suspects` of all kinds, likeliest first.

    `adds_up`: no cell is further off than chance does to any cell of a few classes in 100. `power`: in what share of such
    classes a cell that is `SEEN_V` off would be found.
    """

    cells: tuple[Suspect, ...]
    suspects: tuple[Suspect, ...]
    adds_up: bool
    power: float
    loops: int


def misfit(differences: Sequence[Difference]) -> Misfit:
    """Test whether a class's ladder adds up. Raises NotEnoughData without a loop or a cell that two groups measured."""
    from scipy.special import nctdtr, stdtr, stdtrit

    plain = fit(differences)
    leads = {frozenset((d.red, d.black)): (d.red, d.black) for d in reversed(differences)}  # as they are first written
    pairs = list(leads)
    groups = list(dict.fromkeys(d.group for d in differences))
    loops = len(pairs) - len(plain.electrodes) + len(plain.parts)
    if loops < 1 or len(differences) <= len(pairs) or len(groups) < 2:
        raise NotEnoughData(say("Loops of cells and a cell that two groups measured are needed to see whether it adds up."))
    index = {name: i for i, name in enumerate(plain.electrodes)}
    order = sorted(differences, key=lambda d: groups.index(d.group))
    a = np.zeros((len(order), len(index)))
    for row, d in enumerate(order):
        a[row, index[d.red]], a[row, index[d.black]] = 1.0, -1.0
    sign = np.array([1.0 if leads[frozenset((d.red, d.black))][0] == d.red else -1.0 for d in order])
    of_cell = np.zeros((len(order), len(pairs)))
    of_cell[np.arange(len(order)), [pairs.index(frozenset((d.red, d.black))) for d in order]] = sign
    of_group = np.equal.outer([d.group for d in order], groups).astype(float)
    theta, uncertainty, parts = _variances(plain.electrodes, order, groups, a, of_cell, of_group)
    free = [index[name] for part in plain.parts for name in part[1:]]
    own, y = np.diag([d.u_v**2 for d in order]), np.array([d.volts_v for d in order])
    plates = [
        (group, plate, column)
        for g, group in enumerate(groups)
        for plate, i in index.items()
        if np.count_nonzero(column := a[:, i] * of_group[:, g]) > 1
    ]
    names: list[tuple[Kind, str, str, str]] = [("cell", "", *leads[pair]) for pair in pairs]
    names += [("meter", group, "", "") for group in groups]
    names += [("plate", group, plate, "") for group, plate, _ in plates]
    suspected = np.column_stack([of_cell, of_group, *(column for *_, column in plates)])

    def information(at: Array) -> tuple[Array, Array]:
        inverse = np.linalg.inv(own + np.tensordot(at, parts, axes=1))
        weighted = inverse @ a[:, free]
        left = inverse - weighted @ np.linalg.solve(a[:, free].T @ weighted, weighted.T)
        seen = left @ suspected
        return np.einsum("ij,ij->j", suspected, seen), seen.T @ y

    held, pulled = information(theta)
    known = held > LEAST_INFORMATION * float(held.max())
    held, pulled, names = held[known], pulled[known], [name for name, there in zip(names, known, strict=True) if there]
    variance = 1.0 / held
    moved = np.array(
        [
            1.0 / information(theta * np.where(np.arange(len(theta)) == k, 1.0 + STEP, 1.0))[0][known]
            for k in range(len(theta))
        ]
    )
    slopes = (moved - variance) / math.log1p(STEP)
    freedom = np.maximum(1.0, 2.0 * variance**2 / np.maximum(np.einsum("ik,ij,jk->k", slopes, uncertainty, slopes), 1e-30))
    shift, u = pulled * variance, np.sqrt(variance)
    p = 2.0 * stdtr(freedom, -np.abs(shift / u))
    likely = _weighed([name[0] for name in names], p, u)
    found = tuple(
        Suspect(*name, *(float(value) for value in numbers))
        for name, *numbers in zip(names, shift, u, freedom, p, likely, strict=True)
    )
    cells = tuple(sorted((one for one in found if one.kind == "cell"), key=lambda one: one.p))
    if not cells:
        raise NotEnoughData(say("Loops of cells and a cell that two groups measured are needed to see whether it adds up."))
    level = FALSE_ALARMS / len(cells)
    at = np.array([(one.freedom, one.u_v) for one in cells])
    limit = -stdtrit(at[:, 0], level / 2.0)
    seen_at = SEEN_V / at[:, 1]
    power = 1.0 - nctdtr(at[:, 0], seen_at, limit) + nctdtr(at[:, 0], seen_at, -limit)
    power = np.where(np.isnan(power), seen_at > limit, power)  # where the series does not converge it is all or nothing
    return Misfit(
        cells, tuple(sorted(found, key=lambda one: -one.probability)), cells[0].p >= level, float(power.mean()), loops
    )


def _variances(
    plates: Sequence[str], order: Sequence[Difference], groups: Sequence[str], a: Array, of_cell: Array, of_group: Array
) -> tuple[Array, Array, Array]:
    """The variances in V², the covariance of their logarithms, and the matrix of each, where every cell has a value of its
    own."""
    rows = [np.flatnonzero(of_group[:, g]) for g in range(len(groups))]
    longest = max(len(places) for places in rows)

    def padded(values: Array, rest: float = 0.0) -> Array:
        out = np.full((len(groups), longest, *values.shape[1:]), rest)
        for g, places in enumerate(rows):
            out[g, : len(places)] = values[places]
        return out

    whole, there = padded(a), padded(np.ones(len(order)))
    names, blocks = components(whole, there)
    own, y = np.array([d.u_v**2 for d in order]), np.array([d.volts_v for d in order])
    values = ClassValues(padded(of_cell), padded(y), padded(own, 1.0), np.array(blocks))
    fitted = restricted(values, usual_v2(names))
    for _ in range(MOST_ROUGH):
        rough = rough_plate(plates, values, whole, names, fitted)
        if rough is None:
            break
        names.append(rough)
        values = replace(values, parts=np.concatenate([values.parts, touching(whole, plates.index(rough))[None]]))
        fitted = restricted(values, usual_v2(names))
    uncertainty = np.linalg.inv(fitted.information + 0.5 * FREEDOM * np.eye(len(fitted.theta)))
    full = np.zeros((len(fitted.theta), len(order), len(order)))
    for k in range(len(fitted.theta)):
        for g, places in enumerate(rows):
            full[k][np.ix_(places, places)] = values.parts[k, g, : len(places), : len(places)]
    return np.maximum(fitted.theta, LEAST_V2), np.asarray(uncertainty), full


def _weighed(kinds: Sequence[Kind], p: Array, u: Array) -> Array:
    """Each suspect's probability, “none of them” among them: Bayes factors for a shift of the usual size, at the normal
    deviate that has its p-value."""
    from scipy.special import ndtri

    z = -ndtri(np.clip(p, 1e-300, 1.0) / 2.0)
    share = USUAL_SHIFT_V**2 / (USUAL_SHIFT_V**2 + u**2)
    logs = 0.5 * (np.log1p(-share) + z**2 * share)
    logs = logs + np.log([BEFORE[kind] / kinds.count(kind) for kind in kinds])
    none = math.log(BEFORE["none"])
    most = max(none, float(logs.max()))
    weights = np.exp(logs - most)
    return np.asarray(weights / (weights.sum() + math.exp(none - most)))
