"""A class's ladder: groups keep their plates and their meter from cell to cell, so their values are not independent.

Each value is y = E(red) − E(black) + p(group, red) − p(group, black) + o(group) + e: what a group's own plates add wherever
they are used, what its meter adds to every value, and what is new at each cell. The variances are found by restricted
maximum likelihood (Fisher scoring) with a weak prior at what classes usually have, which keeps them off zero and off what no
class shows (A. Gelman and others, “Bayesian Data Analysis”, on variance components); a plate that scatters more than the
others, by a score test, has a variance of its own. The potentials are those of generalised least squares (S. R. Searle,
G. Casella, C. E. McCulloch, “Variance Components”), the degrees of freedom of each distance Satterthwaite's.
`bench/coverage.py` prints how often the intervals hold.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from galvanic.statistics.ladder import Difference, Ladder, Scatter, fit

Array = NDArray[np.float64]
ROUNDS, LONGEST_STEP, SETTLED = 40, 1.5, 1e-3
LEAST_V2 = 1e-10  # ten microvolts
USUAL_V = {"cell": 0.012, "plates": 0.015, "meter": 0.012}  # of classes, common practice, no source; a rough plate: ROUGH_V
ROUGH_V, FREEDOM = 0.03, 1.5  # and for how many values of a class's own that counts
ROUGH_P, MOST_ROUGH = 0.01, 2  # the level is shared by all plates that are looked at


@dataclass(frozen=True)
class Values:
    """A class's values by group, each group's padded to the longest: design, values, own variances, variance matrices."""

    a: Array  # (groups, rows, unknowns)
    y: Array  # (groups, rows)
    own: Array  # (groups, rows); 1 where there is no value
    parts: Array  # (variances, groups, rows, rows)


@dataclass(frozen=True)
class _Fit:
    theta: Array
    beta: Array
    covariance: Array  # of beta
    slopes: Array  # of that covariance with the logarithm of each variance
    score: Array  # of the likelihood with those logarithms
    information: Array
    residual: Array  # (groups, rows)


def fit_class(differences: Sequence[Difference]) -> Ladder:
    """Fit the ladder of a class. Raises NotEnoughData as `ladder.fit` does; without spare values it is that fit."""
    plain = fit(differences)
    if plain.dof < 1:
        return plain
    groups = list(dict.fromkeys(d.group for d in differences))
    place = {id(d): (groups.index(d.group), i) for group in groups for i, d in enumerate(_of(differences, group))}
    index = {name: i for i, name in enumerate(plain.electrodes)}
    longest = 1 + max(row for _, row in place.values())
    whole = np.zeros((len(groups), longest, len(index)))
    y, own = np.zeros((len(groups), longest)), np.ones((len(groups), longest))
    for d in differences:
        at = place[id(d)]
        whole[at][index[d.red]], whole[at][index[d.black]] = 1.0, -1.0
        y[at], own[at] = d.volts_v, d.u_v**2
    basis = _basis(plain)
    free = [index[name] for part in plain.parts for name in part[1:]]
    there = (np.abs(whole).sum(axis=2) > 0.0).astype(float)
    names, parts = components(whole, there)
    values = Values(whole[:, :, free], y, own, np.array(parts))
    fitted = restricted(values, usual_v2(names))
    for _ in range(MOST_ROUGH):
        rough = rough_plate(plain.electrodes, values, whole, names, fitted)
        if rough is None:
            break
        names.append(rough)
        values = replace(values, parts=np.concatenate([values.parts, touching(whole, index[rough])[None]]))
        fitted = restricted(values, usual_v2(names))
    covariance = basis @ fitted.covariance @ basis.T
    sds = {name: math.sqrt(value) for name, value in zip(names, fitted.theta, strict=True)}
    scatter = Scatter(
        sds.pop("cell"), sds.pop("plates", 0.0), sds.pop("meter", 0.0), sds, basis @ fitted.slopes @ basis.T,
        np.asarray(np.linalg.inv(fitted.information + 0.5 * FREEDOM * np.eye(len(fitted.theta))), dtype=np.float64),
    )  # fmt: skip
    added = np.einsum("p,pgii->gi", fitted.theta, values.parts)
    rows = tuple(np.array([place[id(d)] for d in differences]).T)
    leverage = np.einsum("gij,jk,gik->gi", values.a, fitted.covariance, values.a)
    spare = np.maximum(own + added - leverage, LEAST_V2)
    return replace(
        plain, potential_v=basis @ fitted.beta, covariance_v2=covariance, residual_v=fitted.residual[rows],
        studentised=(fitted.residual / np.sqrt(spare))[rows], tau_v=math.sqrt(float(added[rows].mean())), scatter=scatter,
    )  # fmt: skip


def _of(differences: Sequence[Difference], group: str) -> list[Difference]:
    return [d for d in differences if d.group == group]


def _basis(plain: Ladder) -> Array:
    """From the unknowns, one plate of each part left out, to all potentials with zero mean in each part."""
    index = {name: i for i, name in enumerate(plain.electrodes)}
    spread = np.eye(len(index))[:, [index[name] for part in plain.parts for name in part[1:]]]
    for part in plain.parts:
        members = [index[name] for name in part]
        spread[members] -= spread[members].mean(axis=0)
    return spread


def components(whole: Array, there: Array) -> tuple[list[str], list[Array]]:
    """Names and matrices of the variances: new at each cell, kept with a group's plates, kept with its meter."""
    names, parts = ["cell"], [there[:, :, None] * np.eye(there.shape[1])]
    if len(there) > 1 and there.shape[1] > 1:
        names += ["plates", "meter"]
        parts += [whole @ whole.transpose(0, 2, 1), there[:, :, None] * there[:, None, :]]
    return names, parts


def touching(whole: Array, plate: int) -> Array:
    """The values that a plate takes part in, as a diagonal matrix of each group."""
    return np.asarray(np.abs(whole[:, :, plate])[:, :, None] * np.eye(whole.shape[1]))


def usual_v2(names: Sequence[str]) -> Array:
    """The variances that classes usually have, V²."""
    return np.array([USUAL_V.get(name, ROUGH_V) ** 2 for name in names])


def restricted(values: Values, usual: Array) -> _Fit:
    """Restricted maximum likelihood of the variances with what classes usually have as a scaled inverse chi-square prior of
    `FREEDOM` degrees of freedom, by Fisher scoring on their logarithms.

    Where a class says little of a variance it is the usual one, and never without bound.
    """
    fitted = _at(usual, values)
    for _ in range(ROUNDS):
        pull = 0.5 * FREEDOM * (usual / fitted.theta - 1.0)
        step = np.linalg.solve(
            fitted.information + 0.5 * FREEDOM * np.diag(np.maximum(1.0, usual / fitted.theta)), fitted.score + pull
        )
        step = np.clip(step, -LONGEST_STEP, LONGEST_STEP)
        fitted = _at(np.maximum(fitted.theta * np.exp(step), LEAST_V2), values)
        if float(np.abs(step).max()) < SETTLED:
            break
    return fitted


def _at(theta: Array, values: Values) -> _Fit:
    """The fit at given variances, with the score and the information of their logarithms, group by group."""
    a, parts, many = values.a, values.parts, len(theta)
    diagonal = values.own[:, :, None] * np.eye(a.shape[1])
    inverse = np.linalg.inv(diagonal + (theta @ parts.reshape(many, -1)).reshape(diagonal.shape))
    weighted = inverse @ a
    covariance = np.linalg.inv((a.transpose(0, 2, 1) @ weighted).sum(axis=0))
    beta = covariance @ (weighted.transpose(0, 2, 1) @ values.y[:, :, None]).sum(axis=0)[:, 0]
    residual = values.y - a @ beta
    pulled = inverse @ residual[:, :, None]
    turned = inverse @ parts
    lifted = parts @ weighted
    inner = (weighted.transpose(0, 2, 1) @ lifted).sum(axis=1)
    across = (inverse @ lifted) @ covariance
    slopes = covariance @ inner @ covariance
    traces = np.trace(turned, axis1=2, axis2=3).sum(axis=1) - (inner * covariance).sum(axis=(1, 2))
    pairs = turned.reshape(many, -1) @ turned.transpose(0, 1, 3, 2).reshape(many, -1).T
    pairs = pairs - 2.0 * lifted.reshape(many, -1) @ across.reshape(many, -1).T
    bent = covariance @ inner
    pairs = pairs + bent.reshape(many, -1) @ bent.transpose(0, 2, 1).reshape(many, -1).T
    score = 0.5 * theta * (((parts @ pulled) * pulled).sum(axis=(1, 2, 3)) - traces)
    information = 0.5 * np.outer(theta, theta) * pairs
    return _Fit(theta, beta, covariance, theta[:, None, None] * slopes, score, information, residual)


def rough_plate(electrodes: Sequence[str], values: Values, whole: Array, names: Sequence[str], found: _Fit) -> str | None:
    """The plate whose cells scatter most beyond what the others lead to expect, if a score test bears it out."""
    from scipy.special import ndtri

    plates = [i for i, name in enumerate(electrodes) if name not in names]
    tried = replace(values, parts=np.concatenate([values.parts, [touching(whole, i) for i in plates]]))
    one = _at(np.concatenate([found.theta, np.full(len(plates), LEAST_V2)]), tried)
    n = len(found.theta)
    spread = np.sqrt(np.maximum(np.diag(one.information)[n:], 1e-300))
    z = one.score[n:] / spread
    worst = int(np.argmax(z))
    return electrodes[plates[worst]] if z[worst] > -float(ndtri(ROUGH_P / len(plates))) else None
