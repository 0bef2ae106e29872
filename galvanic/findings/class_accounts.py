"""The four accounts on a class's own data: each scored, the best against every other, and cell by cell where each fails.

A group's mean of a cell is one datum, so that groups can be drawn whole for the intervals. Electronegativity is beside them
as an order only: it has no volts, so it cannot be scored in volts.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from galvanic.cells import Cell
from galvanic.chemistry.accounts import ACCOUNTS, Prediction, predict
from galvanic.errors import NotEnoughData
from galvanic.findings.compare import ElectrolyteResult
from galvanic.reference.catalogue import electrodes
from galvanic.reference.further_tables import elements
from galvanic.statistics.scoring import Contest, Score, contest, score
from galvanic.words import mark, say

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
    """One account: its score in V, and how much worse its rms is than the best one's (None for the best, or unknown)."""

    account: str
    name: str
    about: str
    score: Score | None
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
    """All accounts, best first by rms, and all cells; `outliers` values that nothing else bears out are left out."""

    rows: tuple[AccountRow, ...]
    cells: tuple[CellRow, ...]
    ranking: Ranking
    outliers: int


def score_accounts(results: Sequence[ElectrolyteResult], draws: int = 0) -> AccountsResult:
    """Score the accounts on the cells of all electrolytes. Raises NotEnoughData where nothing is measured."""
    found = [one for result in results for one in result.cells]
    if not found:
        raise NotEnoughData(say("There is no cell to score the accounts on yet."))
    predictions = dict(zip((one.cell for one in found), predict([one.cell for one in found], draws), strict=True))
    data = [
        (one.cell, group.summary.mean_v, group.group)
        for one in found
        for group in one.groups
        if group.group not in one.outliers
    ]
    measured, groups = [v for _, v, _ in data], [g for *_, g in data]
    by = {name: [predictions[cell][name].volts_v for cell, *_ in data] for name in ACCOUNTS}
    scores = {name: _score(by[name], measured) for name in ACCOUNTS}
    known = [name for name in ACCOUNTS if scores[name] is not None]
    best = min(known, key=lambda name: _rms(scores[name]))
    rows = [
        AccountRow(
            name,
            say(NAMES[name][0]),
            say(NAMES[name][1]),
            scores[name],
            None if name == best else _contest(by[name], by[best], measured, groups),
        )
        for name in sorted(ACCOUNTS, key=lambda name: _rms(scores[name]))
    ]
    cells = tuple(CellRow(one.cell, one.mean_v, predictions[one.cell]) for one in found)
    return AccountsResult(tuple(rows), cells, _ranking(results), sum(len(one.outliers) for one in found))


def _rms(found: Score | None) -> float:
    return float("inf") if found is None else found.rms_v


def _score(predicted: Sequence[float | None], measured: Sequence[float]) -> Score | None:
    try:
        return score(predicted, measured)
    except NotEnoughData:
        return None


def _contest(
    one: Sequence[float | None], best: Sequence[float | None], measured: Sequence[float], groups: Sequence[str]
) -> Contest | None:
    try:
        return contest(one, best, measured, groups)
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
    for (low, high), volts in measured.items():
        if values[low] == values[high]:
            continue
        of += 1
        agrees = (values[high] > values[low]) == (sum(volts) > 0.0)
        right += agrees
        if not agrees:
            wrong.append((low, high))
    return Ranking(right, of, tuple(sorted(values, key=lambda plate: values[plate])), tuple(wrong))
