"""The four accounts on a class's own data: each scored, the best against every other, and cell by cell where each fails.

They are ranked on the cells that all of them answer; one that answers too few is scored beside them and not ranked. A
group's mean of a cell is one datum. Electronegativity is there as an order only: without volts it cannot be scored in volts.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from galvanic.cells import Cell
from galvanic.chemistry.accounts import ACCOUNTS, Prediction, predict
from galvanic.chemistry.hypotheses import LEAST_ANSWERED, made_of
from galvanic.errors import NotEnoughData
from galvanic.findings.compare import ElectrolyteResult
from galvanic.notes import volts
from galvanic.reference.catalogue import electrodes
from galvanic.reference.further_tables import elements
from galvanic.statistics.class_ladder import LEAST_V2, USUAL_V
from galvanic.statistics.ladder import Scatter
from galvanic.statistics.repeats import Repeats
from galvanic.statistics.scoring import GOOD_V, Contest, Score, Values, contest, score, surely_misses_v
from galvanic.words import mark, say, say_n

Array = NDArray[np.float64]
NAMES: Mapping[str, tuple[str, str]] = {
    "standard": (mark("Table of standard potentials"), mark("what the printed table says")),
    "hydrogen": (mark("Hydrogen at the positive plate"), mark("acid gives H⁺, there are no copper ions")),
    "series": (mark("Galvanic series"), mark("rest potentials in flowing sea water")),
    "rest": (mark("Rest-potential model"), mark("both plates in this liquid, with its acid and oxygen")),
}
TEXTBOOK = mark(
    "A textbook starts from the table of standard potentials, and that is the right first step: it needs nothing but the "
    "two metals, it is right within hundredths of a volt where its conditions hold (each metal in 1 mol/L of its own "
    "ions, 25 °C, no films; what is left are activities), and every "
    "other account starts from its numbers and adds what is different here."
)


@dataclass(frozen=True, slots=True)
class AccountRow:
    """One account: its score in V on all cells it answers, its rms on those all ranked accounts answer (None: not ranked),
    and how much worse that is than the best one's (None for the best, or unknown)."""

    account: str
    name: str
    about: str
    score: Score | None
    common_rms_v: float | None
    against_best: Contest | None


@dataclass(frozen=True, slots=True)
class CellRow:
    """One cell of one bath: the class's mean and what each account says of it, V."""

    cell: Cell
    measured_v: float
    predictions: Mapping[str, Prediction]


@dataclass(frozen=True, slots=True)
class Ranking:
    """Electronegativity as an order of the class's plates: pairs whose negative plate it gets right, of those it can say."""

    right: int
    of: int
    order: tuple[str, ...]
    wrong: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class AccountsResult:
    """All accounts, best first, and all cells; `outliers` values that nothing else bears out are left out.

    `common`: on how many cells they are ranked; `verdict`: what that comes to, in words.
    """

    rows: tuple[AccountRow, ...]
    cells: tuple[CellRow, ...]
    ranking: Ranking
    outliers: int
    common: int
    verdict: str


def score_accounts(results: Sequence[ElectrolyteResult], draws: int = 0) -> AccountsResult:
    """Score the accounts on the cells of all electrolytes. Raises NotEnoughData where nothing is measured."""
    found = [one for result in results for one in result.cells]
    if not found:
        raise NotEnoughData(say("There is no cell to score the accounts on yet."))
    predictions = dict(zip((one.cell for one in found), predict([one.cell for one in found], draws), strict=True))
    data = data_of(results)
    measured = [one.summary.mean_v for one in data]
    by = {name: [predictions[one.cell][name].volts_v for one in data] for name in ACCOUNTS}
    scores = {name: _score(by[name], measured) for name in ACCOUNTS}
    answered = {name: {one.cell for one in data if predictions[one.cell][name].volts_v is not None} for name in ACCOUNTS}
    cells = {one.cell for one in data}
    ranked = [name for name in ACCOUNTS if answered[name] and len(answered[name]) >= LEAST_ANSWERED * len(cells)]
    common = {cell for cell in cells if all(cell in answered[name] for name in ranked)}
    places = [k for k, one in enumerate(data) if one.cell in common]
    chosen = [data[k] for k in places]
    values = values_of(chosen, made_of([one.cell for one in chosen]))
    says = {name: np.array([by[name][k] for k in places], dtype=float) for name in ranked}
    missed = {name: float(np.sqrt(((says[name] - values.measured_v) ** 2).mean())) for name in ranked} if places else {}
    order = sorted(ACCOUNTS, key=lambda name: (missed.get(name, math.inf), _rms(scores[name])))
    best = order[0]
    rows = tuple(
        AccountRow(
            name, say(NAMES[name][0]), say(NAMES[name][1]), scores[name], missed.get(name),
            None if name == best or name not in missed else _contest(says[name], says[best], values),
        )
        for name in order
    )  # fmt: skip
    verdict = _verdict(rows, says, values, len(common)) if missed else ""
    listed = tuple(CellRow(one.cell, one.mean_v, predictions[one.cell]) for one in found)
    return AccountsResult(rows, listed, _ranking(results), sum(len(one.outliers) for one in found), len(common), verdict)


@dataclass(frozen=True, slots=True)
class Datum:
    """A group's mean of a cell, with the scatter of its bath's ladder (None: what is usual)."""

    cell: Cell
    group: str
    summary: Repeats
    scatter: Scatter | None


def data_of(results: Sequence[ElectrolyteResult]) -> list[Datum]:
    """The groups' values that count, of two different plates or not, as they stand."""
    return [
        Datum(one.cell, group.group, group.summary, result.ladder.scatter if result.ladder else None)
        for result in results
        for one in result.cells
        for group in one.groups
        if group.group not in one.outliers
    ]


def scatter_of(found: Scatter | None) -> tuple[float, float, float]:
    """What is new at each cell, kept with a group's plates and with its meter, V: by a ladder's fit, or what is usual."""
    if found is None:
        return USUAL_V["cell"], USUAL_V["plates"], USUAL_V["meter"]
    return found.cell_v, found.plates_v, found.meter_v


def rough_v2(cell: Cell, found: Scatter | None) -> float:
    """What plates that scatter more than the others add to a cell, V²."""
    return 0.0 if found is None else sum(found.rough.get(plate, 0.0) ** 2 for plate in cell.pair)


def values_of(data: Sequence[Datum], made: Array) -> Values:
    """The values as the statistics take them, with what their groups add; `made`: of which rungs (`hypotheses.made_of`)."""
    n = len(data)
    kept, meter, own = np.zeros((n, made.shape[1])), np.zeros(n), np.zeros(n)
    for row, one in enumerate(data):
        cell_v, plates_v, meter[row] = scatter_of(one.scatter)
        kept[row] = plates_v * made[row]
        own[row] = cell_v**2 + one.summary.u_b_v**2 + LEAST_V2 + rough_v2(one.cell, one.scatter)
    groups = [one.group for one in data]
    same = np.equal.outer(groups, groups) if n else np.zeros((0, 0))
    covariance = np.diag(own) + (kept @ kept.T + np.outer(meter, meter)) * same
    return Values(np.array([one.summary.mean_v for one in data]), made, covariance, len(set(groups)))


def _verdict(rows: Sequence[AccountRow], says: Mapping[str, Array], values: Values, cells: int) -> str:
    """What the contest comes to: none is good enough, the best is surely nearer, or it cannot be told."""
    best = rows[0]
    missed = best.common_rms_v or 0.0
    if surely_misses_v(says[best.account], values) > GOOD_V:
        return say_n(
            "None of them is good enough: even the nearest, {name}, misses the {n} cell that all answer by {missed}.",
            "None of them is good enough: even the nearest, {name}, misses the {n} cells that all answer by {missed}.",
            cells, name=best.name, missed=volts(missed),
        )  # fmt: skip
    unsure = [row.name for row in rows[1:] if row.against_best is not None and row.against_best.low_v <= 0.0]
    if unsure:
        return say_n(
            "{name} comes nearest on the {n} cell that all answer ({missed}), but this class cannot tell it from {others}.",
            "{name} comes nearest on the {n} cells that all answer ({missed}), but this class cannot tell it from {others}.",
            cells, name=best.name, missed=volts(missed), others=say(" and ").join(unsure),
        )  # fmt: skip
    return say_n(
        "{name} comes nearest on the {n} cell that all answer: it misses it by {missed}.",
        "{name} comes nearest on the {n} cells that all answer: it misses them by {missed}.",
        cells, name=best.name, missed=volts(missed),
    )  # fmt: skip


def _rms(found: Score | None) -> float:
    return math.inf if found is None else found.rms_v


def _score(predicted: Sequence[float | None], measured: Sequence[float]) -> Score | None:
    try:
        return score(predicted, measured)
    except NotEnoughData:
        return None


def _contest(one: Array, best: Array, values: Values) -> Contest | None:
    try:
        return contest(one, best, values)
    except NotEnoughData:
        return None


def electronegativity(electrode: str) -> float | None:
    """Pauling's value for a plate of one element, None for alloys and for what has no row."""
    couple = electrodes()[electrode].couple
    if couple is None:
        return None
    symbol = couple.split("/")[1].split()[0]
    row = elements().get(symbol)
    return None if row is None else row.electronegativity.value


def _ranking(results: Sequence[ElectrolyteResult]) -> Ranking:
    plates = sorted({plate for result in results for one in result.cells for plate in one.cell.pair})
    values = {plate: value for plate in plates if (value := electronegativity(plate)) is not None}
    right, of, wrong = 0, 0, []
    measured: dict[tuple[str, str], list[float]] = {}
    for result in results:
        for cell in result.cells:
            if set(cell.cell.pair) <= set(values):
                measured.setdefault((cell.cell.negative, cell.cell.positive), []).append(cell.mean_v)
    for (low, high), found in measured.items():
        if values[low] == values[high]:
            continue
        of += 1
        agrees = (values[high] > values[low]) == (sum(found) > 0.0)
        right += agrees
        if not agrees:
            wrong.append((low, high))
    return Ranking(right, of, tuple(sorted(values, key=lambda plate: values[plate])), tuple(wrong))
