"""What an account foretells of many cells at once: means, and a covariance, since its errors come back with each plate.

A table value that is wrong is wrong in every cell of that plate; a pH that is wrong moves every cell of that liquid. So the
errors of two cells with a plate in common are related, and a class cannot average them away.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from galvanic.cells import Cell
from galvanic.chemistry.accounts import (
    ACCOUNTS,
    DRAWS,
    ROOM_NERNST_V,
    TRACE_U_LOG10,
    plate_u_v,
    predict,
    series_u_v,
    table_u_v,
)
from galvanic.chemistry.polarisation import sides_of
from galvanic.chemistry.rest import rest_potentials
from galvanic.reference.catalogue import electrodes, electrolytes, half_reactions, kept

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Joint:
    """An account on cells in their order: E(positive) − E(negative), V, and the covariance of its errors, V².

    Where it has no answer, NaN and rows of zeros.
    """

    account: str
    says_v: Array
    covariance_v2: Array


@kept(64)
def jointly(cells: tuple[Cell, ...], draws: int = DRAWS, seed: int = 1) -> Mapping[str, Joint]:
    """All accounts on these cells, by name."""
    predictions = predict(cells, draws, seed)
    shared: dict[str, Callable[[Sequence[Cell]], Array]] = {
        "standard": lambda at: _by_plate(at, lambda plate, _: table_u_v(plate), True),
        "hydrogen": _hydrogen,
        "series": lambda at: _by_plate(at, lambda plate, _: series_u_v(plate), True),
        "rest": lambda at: _rest(at, draws, seed),
    }
    out = {}
    for account in ACCOUNTS:
        says = np.array([math.nan if (v := row[account].volts_v) is None else v for row in predictions], dtype=float)
        u = np.array([row[account].u_v or 0.0 for row in predictions])
        there = np.flatnonzero(~np.isnan(says))
        covariance = np.zeros((len(cells), len(cells)))
        answered = [cells[k] for k in there]
        if answered:
            covariance[np.ix_(there, there)] = shared[account](answered)
        # What is one cell's own (a bridge, an oxidant): the rest of its variance.
        covariance[np.diag_indices(len(cells))] = np.maximum(np.diag(covariance), u**2)
        out[account] = Joint(account, says, covariance)
    return out


def _by_plate(cells: Sequence[Cell], u_v: Callable[[str, str], float], everywhere: bool) -> Array:
    """Errors of plates, each the same wherever the plate stands, or in each liquid one of its own."""
    made: dict[tuple[str, str], Array] = {}
    for row, cell in enumerate(cells):
        for plate, liquid, sign in zip((cell.negative, cell.positive), sides_of(cell), (-1.0, 1.0), strict=True):
            at = made.setdefault((plate, "" if everywhere else liquid), np.zeros(len(cells)))
            at[row] += sign
    total = np.zeros((len(cells), len(cells)))
    for (plate, liquid), column in made.items():
        total += u_v(plate, liquid) ** 2 * np.outer(column, column)
    return total


def _hydrogen(cells: Sequence[Cell]) -> Array:
    """The negative plate's trace ions, and each liquid's pH."""
    total = np.zeros((len(cells), len(cells)))
    negatives = np.array([cell.negative for cell in cells])
    liquids = np.array([sides_of(cell)[1] for cell in cells])
    for plate in set(negatives):
        electrons = half_reactions()[electrodes()[plate].couple or ""].electrons
        here = (negatives == plate).astype(float)
        total += (ROOM_NERNST_V / electrons * TRACE_U_LOG10) ** 2 * np.outer(here, here)
    for liquid in set(liquids):
        ph = electrolytes()[liquid].ph
        here = (liquids == liquid).astype(float)
        total += (ROOM_NERNST_V * (ph.high - ph.low)) ** 2 / 12.0 * np.outer(here, here)
    return total


def _rest(cells: Sequence[Cell], draws: int, seed: int) -> Array:
    """The model's parameters as they are drawn, and what calibration leaves of each plate in each kind of liquid."""
    plates = tuple(dict.fromkeys(plate for cell in cells for plate in (cell.negative, cell.positive)))
    liquids = tuple(dict.fromkeys(side for cell in cells for side in sides_of(cell)))
    rested = rest_potentials(plates, liquids, draws, seed)
    total = _by_plate(cells, lambda plate, liquid: plate_u_v(plate, liquid, rested.at(plate, liquid)), False)
    if rested.draws_v is not None:
        off = np.stack([_between(cell, rested.draws_v, plates, liquids) for cell in cells], axis=1)
        off -= np.array([_between(cell, rested.e_v[None], plates, liquids)[0] for cell in cells])
        total += off.T @ off / len(off)
    for row, cell in enumerate(cells):
        if electrodes()[cell.negative].surface == electrodes()[cell.positive].surface and len(set(sides_of(cell))) == 1:
            total[row, :] = total[:, row] = 0.0  # what moves one plate of it moves the other
    return total


def _between(cell: Cell, at: Array, plates: tuple[str, ...], liquids: tuple[str, ...]) -> Array:
    low_side, high_side = sides_of(cell)
    high = at[:, plates.index(cell.positive), liquids.index(high_side)]
    return np.asarray(high - at[:, plates.index(cell.negative), liquids.index(low_side)], dtype=np.float64)
