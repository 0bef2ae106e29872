"""What can be expected of a cell before it is read: the rest account, sharpened by what the other groups have found.

Each plate's potential in a bath starts from the rest account with that account's uncertainty, and from what earlier classes
found, where there are enough of them; every other group's value of
any cell then pulls two plates together or apart (Bayesian linear regression: Gelman et al., “Bayesian Data Analysis”).
Values that the rest deny (leave-one-out residual beyond `DENIED` standard deviations) are left out, the worst first, so a
group's fault does not make the others look wrong.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from galvanic.bench.checks import Expectation
from galvanic.cells import Cell
from galvanic.planning.tell_apart import plate_potentials

PLATE_V = 0.09  # how far a class's plate lies from the rest account: its rms in sea water, V
UNKNOWN_V = 1.0  # where no account knows a plate
OWN_V = 0.03  # how far one group's value of a cell lies from the class's, V
DENIED = 4.0
HEADROOM_V = 0.3  # above the largest that table, account and class expect

Bath = tuple[str, str]


@dataclass(frozen=True, slots=True)
class GroupCell:
    """One group's mean of one cell, V, red on the positive plate."""

    group: str
    cell: Cell
    volts_v: float


@dataclass(frozen=True, slots=True)
class Earlier:
    """What earlier classes foretell of one bath: distances of plates from the first, V, with their covariance in V²."""

    classes: int
    plates: tuple[str, ...]
    volts_v: tuple[float, ...]
    covariance_v2: tuple[tuple[float, ...], ...]

    def of(self, cell: Cell) -> tuple[float, float] | None:
        """Volts of a cell and their standard uncertainty; None where a plate was in no earlier class."""
        if not {cell.positive, cell.negative} <= set(self.plates):
            return None
        along = np.zeros(len(self.plates))
        along[self.plates.index(cell.positive)] += 1.0
        along[self.plates.index(cell.negative)] -= 1.0
        return float(along[1:] @ self.volts_v), math.sqrt(float(along[1:] @ np.array(self.covariance_v2) @ along[1:]))


@dataclass(frozen=True)
class Believed:
    """Plates of one bath: expected potentials (V on the account's scale), their covariance, values used and left out."""

    plates: tuple[str, ...]
    potential_v: np.ndarray
    covariance_v2: np.ndarray
    used: int
    denied: tuple[GroupCell, ...]


def believe(prior_v: Mapping[str, float | None], values: Sequence[GroupCell], earlier: Earlier | None = None) -> Believed:
    """Potentials of a bath's plates from the account's (None: unknown), earlier classes and other groups' values."""
    return _believe(tuple(prior_v.items()), tuple(values), earlier)


@lru_cache(maxsize=1024)  # everybody who looks at a lab asks for the same
def _believe(
    prior: tuple[tuple[str, float | None], ...], values: tuple[GroupCell, ...], earlier: Earlier | None
) -> Believed:
    prior_v = dict(prior)
    plates = tuple(prior_v)
    row = {plate: i for i, plate in enumerate(plates)}
    spread = np.array([UNKNOWN_V if v is None else PLATE_V for v in prior_v.values()])
    start = np.array([0.0 if v is None else v for v in prior_v.values()])
    fit = [value for value in values if set(value.cell.pair) <= set(row) and abs(value.volts_v) < 20.0]
    denied: list[GroupCell] = [value for value in values if abs(value.volts_v) >= 20.0]
    high = np.array([row[one.cell.positive] for one in fit], dtype=int)
    low = np.array([row[one.cell.negative] for one in fit], dtype=int)
    y = np.array([one.volts_v for one in fit])
    a = np.eye(len(plates))[high] - np.eye(len(plates))[low]
    information, pulls = _before(plates, spread, start, earlier)
    information, pulls = information + a.T @ a / OWN_V**2, pulls + a.T @ y / OWN_V**2
    out = np.zeros(len(fit), dtype=bool)
    while True:
        covariance = np.linalg.inv(information)
        potential = covariance @ pulls
        own = covariance.diagonal()
        leverage = (own[high] + own[low] - 2.0 * covariance[high, low]) / OWN_V**2
        odd = np.abs(y - potential[high] + potential[low]) / (OWN_V * np.sqrt(np.maximum(1.0 - leverage, 1e-9)))
        odd[out] = 0.0
        worst = int(odd.argmax()) if fit else -1
        if worst < 0 or odd[worst] <= DENIED:
            return Believed(plates, potential, covariance, len(fit) - int(out.sum()), tuple(denied))
        out[worst] = True
        denied.append(fit[worst])
        information -= np.outer(a[worst], a[worst]) / OWN_V**2
        pulls -= a[worst] * y[worst] / OWN_V**2


def _before(
    plates: Sequence[str], spread: np.ndarray, start: np.ndarray, earlier: Earlier | None
) -> tuple[np.ndarray, np.ndarray]:
    """What is known before this class measures, as information and information times potentials."""
    known, pulls = np.diag(spread**-2), start / spread**2
    if earlier is None:
        return known, pulls
    here = [place for place, plate in enumerate(earlier.plates) if plate in plates]
    if len(here) < 2:
        return known, pulls
    whole = np.vstack([np.zeros(len(earlier.volts_v)), np.eye(len(earlier.volts_v))])[here]
    to_first = whole[1:] - whole[0]
    information = np.linalg.inv(to_first @ np.array(earlier.covariance_v2) @ to_first.T)
    a = np.zeros((len(here) - 1, len(plates)))
    a[np.arange(len(here) - 1), [plates.index(earlier.plates[place]) for place in here[1:]]] = 1.0
    a[:, plates.index(earlier.plates[here[0]])] -= 1.0
    return known + a.T @ information @ a, pulls + a.T @ information @ (to_first @ np.array(earlier.volts_v))


class Reference:
    """Expectations for one group's cells: the account and the other groups' values."""

    def __init__(
        self,
        plates: Sequence[str],
        liquids: Sequence[str],
        values: Sequence[GroupCell],
        without: str,
        earlier: Mapping[Bath, Earlier] | None = None,
    ) -> None:
        self.earlier = earlier or {}
        self.prior = plate_potentials(tuple(plates), tuple(liquids))
        self.values: dict[Bath, list[GroupCell]] = defaultdict(list)
        for value in values:
            if value.group != without and math.isfinite(value.volts_v):
                self.values[value.cell.bath].append(value)
        self.believed: dict[Bath, Believed] = {}
        self.expected: dict[Cell, Expectation] = {}

    def of(self, cell: Cell) -> Expectation:
        """What can be expected of a cell."""
        if cell not in self.expected:
            self.expected[cell] = self._of(cell)
        return self.expected[cell]

    def _of(self, cell: Cell) -> Expectation:
        bath = cell.bath
        prior = self.prior[cell.electrolyte]
        if bath not in self.believed:
            self.believed[bath] = believe(prior, self.values[bath], self.earlier.get(bath))
        expectation = self.believed[bath]
        i, j = expectation.plates.index(cell.positive), expectation.plates.index(cell.negative)
        volts_v = float(expectation.potential_v[i] - expectation.potential_v[j])
        c = expectation.covariance_v2
        u_v = math.sqrt(max(0.0, float(c[i, i] + c[j, j] - 2.0 * c[i, j])))
        high, low = prior[cell.positive], prior[cell.negative]
        model_v = None if high is None or low is None else high - low
        most = max(abs(v) for v in (volts_v, model_v, cell.table_v) if v is not None)
        before = self.earlier.get(bath)
        foretold = None if before is None else before.of(cell)
        if before is None or foretold is None:
            return Expectation(volts_v, u_v, expectation.used, most + HEADROOM_V)
        middle, half = foretold[0], 2.0 * foretold[1]
        return Expectation(volts_v, u_v, expectation.used, most + HEADROOM_V, before.classes, middle - half, middle + half)
