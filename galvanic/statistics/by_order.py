"""What goes with the order in which a class's values were taken: a voltage that fades from cell to cell, a plate that is
another one from some cell on.

Each is one more column beside the ladder, fitted by generalised least squares with the variances that the class's fit has
found (S. R. Searle, G. Casella, C. E. McCulloch, “Variance Components”): size and standard uncertainty of the column.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from galvanic.statistics.class_ladder import FREEDOM
from galvanic.statistics.ladder import Difference, Ladder
from galvanic.statistics.repeats import coverage

Array = NDArray[np.float64]
Places = Sequence[int]
SURE_DRIFT, SURE_CHANGE = 0.99, 0.97  # levels; the second is shared by all changes that are tried
USUAL = 3.0 * FREEDOM  # what is known of the three variances before: degrees of freedom
ALIKE_SIGMA, ALIKE_PART = 2.0, 0.35  # how far the cells with a changed plate may differ in what they say of it
WILD = 2.5  # standard deviations of a value of its class
STILL = 2.0  # standard uncertainties, without any one group
LEAST_INFORMATION = 1e-9


@dataclass(frozen=True, slots=True)
class Fading:
    """Part of the voltage that is lost from one cell of the list to the next (negative), with its standard uncertainty;
    `shown`: beyond what chance does to one class in a hundred."""

    per_cell: float
    u: float
    shown: bool
    most_places: int


@dataclass(frozen=True, slots=True)
class Change:
    """A plate of a group that lies `shift_v` elsewhere from its cell number `since` (from 0) on."""

    group: str
    plate: str
    since: int
    shift_v: float
    u_v: float


@dataclass(frozen=True)
class _Beside:
    """What is left of a set of values when the ladder has had its part, ready for one more column."""

    projector: Array
    y: Array
    spare: int

    def column(self, w: Array) -> tuple[float, float]:
        """What the values say of one more column: its pull and its information; nothing where the ladder takes all of it."""
        taken = self.projector @ w
        information = float(w @ taken)
        return (float(taken @ self.y), information) if information > LEAST_INFORMATION * float(w @ w) else (0.0, 0.0)


Bath = tuple[Sequence[Difference], Places, Ladder]


def _beside(values: Sequence[Difference], ladder: Ladder) -> _Beside | None:
    scatter = ladder.scatter
    if scatter is None:
        return None
    names = list(dict.fromkeys(name for d in values for name in (d.red, d.black)))
    index = {name: i for i, name in enumerate(names)}
    a = np.zeros((len(values), len(names)))
    for row, d in enumerate(values):
        a[row, index[d.red]], a[row, index[d.black]] = 1.0, -1.0
    own = a * np.array([math.hypot(scatter.plates_v, scatter.rough.get(name, 0.0)) for name in names])
    groups = np.array([d.group for d in values])
    same = np.equal.outer(groups, groups)
    v = np.diag([d.u_v**2 + scatter.cell_v**2 for d in values]) + same * (own @ own.T + scatter.meter_v**2)
    inverse = np.linalg.inv(v)
    taken = inverse @ a
    projector = inverse - taken @ np.linalg.pinv(a.T @ taken) @ taken.T
    return _Beside(projector, np.array([d.volts_v for d in values]), len(values) - int(np.linalg.matrix_rank(a)))


def fading(baths: Sequence[Bath]) -> Fading | None:
    """The part of the voltage that is lost from cell to cell in all groups alike; None where nothing can be told.

    `baths`: of each liquid the values, each value's place in its group's list, and the class's fit. It is shown only if it
    is still there without any one of the groups.
    """
    found = _fading(baths, "")
    if found is None:
        return None
    per_cell, u, spare = found
    shown = abs(per_cell) > coverage(spare, SURE_DRIFT) * u
    groups = {d.group for values, _, _ in baths for d in values}
    if shown and len(groups) > 1:
        rest = [_fading(baths, group) for group in groups]
        shown = all(one is not None and one[0] * per_cell > STILL * one[1] * abs(per_cell) for one in rest)
    return Fading(per_cell, u, shown, max(place for _, places, _ in baths for place in places))


def _fading(baths: Sequence[Bath], without: str) -> tuple[float, float, float] | None:
    """The part lost from cell to cell, its standard uncertainty and spare values, one group left out."""
    information = pull = 0.0
    spare = USUAL - 1.0
    for values, places, ladder in baths:
        rows = [(d, place) for d, place in zip(values, places, strict=True) if d.group != without and not _wild(d, ladder)]
        beside = _beside([d for d, _ in rows], ladder) if rows else None
        if beside is None:
            continue
        index = {name: i for i, name in enumerate(ladder.electrodes)}
        level = [(ladder.potential_v[index[d.red]] - ladder.potential_v[index[d.black]]) * place for d, place in rows]
        pulled, told = beside.column(np.array(level))
        information, pull, spare = information + told, pull + pulled, spare + beside.spare
    return (pull / information, information**-0.5, spare) if information > 0.0 and spare > 0 else None


def _wild(d: Difference, ladder: Ladder) -> bool:
    """Whether a value lies so far off the class's ladder that something went wrong with it alone."""
    scatter = ladder.scatter
    if scatter is None:
        return False
    expected_v, _ = ladder.difference_v(d.red, d.black)
    rough = (scatter.rough.get(d.red, 0.0), scatter.rough.get(d.black, 0.0))
    u_v = math.hypot(d.u_v, scatter.cell_v, 2.0**0.5 * scatter.plates_v, scatter.meter_v, *rough)
    return abs(d.volts_v - expected_v) > WILD * u_v


def changed_plates(baths: Sequence[Bath]) -> list[Change]:
    """Plates that are elsewhere from some cell of a group's list on, at most one a group, the surest first.

    `baths` as for `fading`: a plate is the same piece in every liquid. It is in one cell at least before and in two
    after; beyond what chance does to any plate and group of one class in thirty.
    """
    ready = [(values, places, beside) for values, places, ladder in baths if (beside := _beside(values, ladder))]
    if not ready:
        return []
    spare = USUAL - 1.0 + sum(beside.spare for _, _, beside in ready)
    tried = []
    for group in dict.fromkeys(d.group for values, _, _ in ready for d in values):
        for plate in dict.fromkeys(name for values, _, _ in ready for d in values for name in (d.red, d.black)):
            tried += _changes_of(ready, group, plate)
    limit = coverage(spare, 1.0 - (1.0 - SURE_CHANGE) / max(1, len(tried)))
    sure: dict[str, Change] = {}
    for change in sorted(tried, key=lambda one: -abs(one.shift_v) / one.u_v):
        if abs(change.shift_v) > limit * change.u_v:
            sure.setdefault(change.group, change)
    return list(sure.values())


def _alike(each: Sequence[tuple[float, float]], shift_v: float) -> bool:
    """Whether each value by itself says the same shift: one cell that went wrong is no other plate."""
    own = [(pull / told, told**-0.5) for pull, told in each if told > 0.0]
    return len(own) > 1 and all(
        one_v * shift_v > 0.0 and abs(one_v - shift_v) < max(ALIKE_SIGMA * u_v, ALIKE_PART * abs(shift_v))
        for one_v, u_v in own
    )


def _changes_of(ready: Sequence[tuple[Sequence[Difference], Places, _Beside]], group: str, plate: str) -> list[Change]:
    """How far a plate of a group would lie elsewhere from each of its cells on."""
    signed = [
        np.array([(d.group == group) * ((d.red == plate) - (d.black == plate)) for d in values], dtype=float)
        for values, _, _ in ready
    ]
    at = [np.array(places)[column != 0.0] for column, (_, places, _) in zip(signed, ready, strict=True)]
    places_of = np.sort(np.concatenate(at))
    found = []
    for since in dict.fromkeys(places_of[places_of > places_of[:1]].tolist()):
        if (places_of >= since).sum() < 2:
            continue
        information = pull = 0.0
        each = []
        for column, (_, places, beside) in zip(signed, ready, strict=True):
            later = column * (np.array(places) >= since)
            pulled, told = beside.column(later)
            information, pull = information + told, pull + pulled
            each += [beside.column(np.where(np.arange(len(later)) == i, later, 0.0)) for i in np.flatnonzero(later)]
        if information > 0.0 and _alike(each, pull / information):
            found.append(Change(group, plate, since, pull / information, information**-0.5))
    return found
