"""How far a class's readings decide between the accounts, reading by reading, and the cell that would decide most.

Shares are out of a hundred: before the first value each account has as many as any other, and so has “none of them”. They
are weighed on the cells that all accounts answer. `bench/deciding.py` prints how often a stated share is right.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from galvanic.cells import Cell
from galvanic.chemistry.hypotheses import NONE, READ_V, hypotheses_on, made_of, weighed_accounts
from galvanic.findings.class_accounts import NAMES, Datum, data_of, rough_v2, scatter_of, values_of
from galvanic.findings.compare import ElectrolyteResult
from galvanic.statistics.class_ladder import LEAST_V2
from galvanic.statistics.hypotheses import DECIDED, Hypothesis, Telling, further_of, telling, weigh
from galvanic.words import mark, say

Array = NDArray[np.float64]
NONE_NAME = mark("None of them")
MOST_TELLING = 5
WORTH_NATS = 0.01  # a cell that tells less than this tells nothing
MOST_SHARE = 99


@dataclass(frozen=True, slots=True)
class Step:
    """The shares after one more value: whose, of which cell, V."""

    cell: Cell
    group: str
    volts_v: float
    shares: Mapping[str, float]


@dataclass(frozen=True, slots=True)
class NextCell:
    """A cell that could be measured next: what each account says of it, V, nats that it tells, and how likely it decides."""

    cell: Cell
    says_v: Mapping[str, float]
    nats: float
    decides: float


@dataclass(frozen=True, slots=True)
class Deciding:
    """The shares of a hundred now, how they came, and the most telling cells. `cells`: on how many they are weighed; `turn`:
    which value moved the shares most, counted from 1 (None: there is none), and `turned` says so."""

    names: Mapping[str, str]
    shares: Mapping[str, int]
    steps: tuple[Step, ...]
    telling: tuple[NextCell, ...]
    cells: int
    verdict: str
    turn: int | None = None
    turned: str = ""


def deciding(
    results: Sequence[ElectrolyteResult],
    order: Sequence[tuple[Cell, str]] = (),
    candidates: Sequence[Cell] = (),
) -> Deciding:
    """Weigh the accounts on a class's values.

    `order`: cells with groups as they were first read (what is not named comes last); `candidates`: cells that could be
    built. Without values that can be weighed all shares are equal and only `telling` is of use.
    """
    data = _data(results, order)
    names, common = weighed_accounts([one.cell for one in data] or candidates)
    if not names:
        return Deciding({}, {}, (), (), 0, "")
    data = [one for one in data if one.cell in set(common)]
    able, answered = weighed_accounts([*common, *candidates])
    further = [cell for cell in answered if cell in set(candidates)] if set(names) <= set(able) else []
    cells = [*(one.cell for one in data), *further]
    n, made, whole = len(data), made_of(cells), hypotheses_on(cells, names)
    weighed = weigh(values_of(data, made[:n]), [one.first(n) for one in whole])
    shares = [dict(zip(weighed.names, map(float, row), strict=True)) for row in weighed.after]
    steps = tuple(Step(one.cell, one.group, one.summary.mean_v, after) for one, after in zip(data, shares[1:], strict=True))
    told = telling(weighed, further_of(whole, n, made, np.array([_noise_v2(cell, data) for cell in further])))
    tells = [_next(cell, one, whole, n + k) for k, (cell, one) in enumerate(zip(further, told, strict=True))]
    best = sorted((one for one in tells if one.nats >= WORTH_NATS), key=lambda one: (-one.nats, one.cell))
    measured, said = len({one.cell for one in data}), {name: _name(name) for name in weighed.names}
    verdict = _verdict(shares[-1], measured, best[0] if best else None)
    turn, turned = _turn(shares, steps)
    return Deciding(said, in_hundred(shares[-1]), steps, tuple(best[:MOST_TELLING]), measured, verdict, turn, turned)


def _turn(shares: Sequence[Mapping[str, float]], steps: Sequence[Step]) -> tuple[int | None, str]:
    """The value that moved the shares most, and that in words."""
    if not steps:
        return None, ""
    moved = [
        sum(abs(after[name] - before[name]) for name in after) for before, after in zip(shares, shares[1:], strict=False)
    ]
    turn = int(np.argmax(np.round(moved, 9))) + 1
    cell = steps[turn - 1].cell.short
    return turn, say("Value {n} of {of}, {cell}, moved the shares most.", n=turn, of=len(steps), cell=cell)


def _next(cell: Cell, found: Telling, whole: Sequence[Hypothesis], row: int) -> NextCell:
    says = {one.name: float(one.says_v[row]) for one in whole if one.name != NONE}
    return NextCell(cell, says, found.nats, found.decides)


def _name(name: str) -> str:
    return say(NONE_NAME) if name == NONE else say(NAMES[name][0])


def in_hundred(shares: Mapping[str, float]) -> dict[str, int]:
    """Shares as whole numbers of a hundred; nobody ever has all, since nothing is certain."""
    raw = {name: min(100.0 * share, 99.0) for name, share in shares.items()}
    out = {name: int(value) for name, value in raw.items()}
    rest = sorted(out, key=lambda name: (out[name] >= MOST_SHARE, out[name] - raw[name], -shares[name]))
    for name in rest[: 100 - sum(out.values())]:
        out[name] += 1
    return out


def _verdict(shares: Mapping[str, float], cells: int, best: NextCell | None) -> str:
    """What the shares come to, and what would tell more."""
    if not cells:
        return ""
    first, second = sorted(shares, key=lambda name: -shares[name])[:2]
    hundred = in_hundred(shares)
    if shares[first] >= DECIDED:
        if first == NONE:
            return say("Decided: none of the accounts fits this class ({n} of 100).", n=hundred[first])
        return say("Decided: {name} has {n} of 100.", name=_name(first), n=hundred[first])
    open_yet = say(
        "Not decided: {name} has {n} of 100, {other} {n_other}.",
        name=_name(first), n=hundred[first], other=_name(second), n_other=hundred[second],
    )  # fmt: skip
    if best is None:
        return open_yet
    return f"{open_yet} " + say(
        "The cell that would tell most is {cell}: of ten classes that measure it, {n} would have decided.",
        cell=best.cell.short, n=round(10.0 * best.decides),
    )  # fmt: skip


def _data(results: Sequence[ElectrolyteResult], order: Sequence[tuple[Cell, str]]) -> list[Datum]:
    """The values that count, in the order in which they came."""
    place = {key: k for k, key in reversed(list(enumerate(order)))}
    data = [one for one in data_of(results) if one.cell.negative != one.cell.positive]
    return sorted(data, key=lambda one: place.get((one.cell, one.group), len(place)))


def _noise_v2(cell: Cell, data: Sequence[Datum]) -> float:
    """What one more group adds to its value of a cell, V²."""
    scatter = next((one.scatter for one in data if one.cell.bath == cell.bath), None)
    cell_v, plates_v, meter_v = scatter_of(scatter)
    return cell_v**2 + 2.0 * plates_v**2 + meter_v**2 + READ_V**2 + LEAST_V2 + rough_v2(cell, scatter)
