"""A class's readings beside the table: every cell, and one ladder per electrolyte.

A group's readings of one cell are averaged first, so a group counts once however often it read. Two kinds of scatter are
pooled over all cells of an electrolyte, since three equal readings, or two groups that agree by chance, do not mean no
scatter: that inside groups, and that between the groups' means. A cell's uncertainty is the pooled scatter between groups
over the root of its number of groups, so a cell with one group has one too.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from hashlib import sha256

from galvanic.bench.checks import MOST_CELL_V
from galvanic.cells import Cell
from galvanic.reference.catalogue import electrodes, kept
from galvanic.statistics import ladder
from galvanic.statistics.class_ladder import fit_class
from galvanic.statistics.ladder import Difference, Ladder
from galvanic.statistics.outliers import Outlier, downweight_outliers
from galvanic.statistics.repeats import Pooled, Repeats, coverage, last_digit_v, pooled, summarise, unsteady

FALSE_SWAPS = 0.03  # of classes in which any change of places is found that is none, all pairs of plates counted in
USUAL_SCATTER_V = 0.03  # between groups, one cell: common practice, no source
LEAST_SWAP_V = 0.01  # less is not seen on a meter


@dataclass(frozen=True, slots=True)
class ClassReading:
    """One reading in V as the meter showed it, E(red lead) − E(black lead), with the step of its last digit."""

    group: str
    red: str
    black: str
    electrolyte: str
    volts_v: float
    resolution_v: float
    condition: str = ""


@dataclass(frozen=True, slots=True)
class GroupValue:
    """What one group found for one cell, V, red on the positive plate.

    `restless`: its readings differ more from each other than anybody's, so its scatter says nothing of the class's.
    """

    group: str
    summary: Repeats
    restless: bool = False


@dataclass(frozen=True, slots=True)
class CellResult:
    """One cell beside the table. `u_v` and the 95 % interval are None where no cell was measured by two groups.

    `groups` are all groups; those in `outliers` have a value that all other cells contradict: the mean is without it.
    """

    cell: Cell
    table_v: float | None
    mean_v: float
    u_v: float | None
    low_v: float | None
    high_v: float | None
    groups: tuple[GroupValue, ...]
    n: int
    outliers: tuple[str, ...] = ()

    @property
    def gap_v(self) -> float | None:
        """Class mean minus table difference, V."""
        return None if self.table_v is None else self.mean_v - self.table_v

    @property
    def gap_percent(self) -> float | None:
        """The gap in per cent of the table difference, None where that is zero or not there."""
        return None if not self.table_v or self.gap_v is None else 100.0 * self.gap_v / abs(self.table_v)


@dataclass(frozen=True, slots=True)
class Rung:
    """One electrode on both stems, V against hydrogen; `u_v` and the 95 % interval are of its distance to the anchor."""

    electrode: str
    table_v: float | None
    class_v: float
    u_v: float
    low_v: float
    high_v: float


@dataclass(frozen=True, slots=True)
class Swap:
    """Two electrodes the class found in the other order: the table puts `lower` below, the class by `by_v` above."""

    upper: str
    lower: str
    by_v: float
    u_v: float


@dataclass(frozen=True, slots=True, eq=False)
class ElectrolyteResult:
    """All cells of one electrolyte, widest gap first, and their ladder held to the table at `anchor`.

    `loose` are electrodes that no chain of cells connects to the anchor. `tau_v` is the scatter between groups beyond
    their own, None where nothing is measured twice over; `inside` and `between` are the pooled scatter inside groups and
    between groups' means. `anchor` is None when no metal of the table was used. `outliers` are values that all others
    contradict: they stay and are shown, but do not pull the `ladder`, which is the fit of `fitted`.
    """

    electrolyte: str
    condition: str
    cells: tuple[CellResult, ...]
    rungs: tuple[Rung, ...]
    anchor: str | None
    anchors: tuple[str, ...]
    loose: tuple[str, ...]
    swaps: tuple[Swap, ...]
    tau_v: float | None
    dof: int
    inside: Pooled | None
    between: Pooled | None
    outliers: tuple[Outlier, ...]
    ladder: Ladder | None
    fitted: tuple[Difference, ...] = ()

    def bears_out(self, group: str, pair: Iterable[str]) -> bool:
        """Whether a group's value of a pair is no outlier."""
        return (group, frozenset(pair)) not in {outlier.key for outlier in self.outliers}


def compare(readings: Iterable[ClassReading], anchors: Mapping[str, str] | None = None) -> tuple[ElectrolyteResult, ...]:
    """Lay readings beside the table, one result per electrolyte and condition in order of appearance.

    `anchors`: electrode to hold at its table value, by electrolyte; where absent or unusable, the middle shift is used
    (see `middle_anchor`). Readings of one material against itself are left out of the ladder.
    """
    by_bath: dict[tuple[str, str], list[ClassReading]] = defaultdict(list)
    for reading in readings:
        by_bath[reading.electrolyte, reading.condition].append(reading)
    return tuple(_one(*bath, tuple(found), (anchors or {}).get(bath[0])) for bath, found in by_bath.items())


@kept(256)  # a new reading changes one bath of a lab
def _one(electrolyte: str, condition: str, readings: tuple[ClassReading, ...], wanted: str | None) -> ElectrolyteResult:
    values: dict[Cell, dict[str, list[ClassReading]]] = defaultdict(lambda: defaultdict(list))
    for reading in readings:
        values[Cell.of(reading.black, electrolyte, reading.red, condition)][reading.group].append(reading)
    series = {
        (cell, group): [cell.as_written_v(r.volts_v, r.red) for r in by_cell]
        for cell, groups in values.items()
        for group, by_cell in groups.items()
    }
    step = last_digit_v(reading.resolution_v for reading in readings)
    odd = unsteady(list(series.values()), step)
    inside = pooled([volts for place, volts in enumerate(series.values()) if place not in odd])
    restless = {key for place, key in enumerate(series) if place in odd}
    by_cell = {cell: _group_values(cell, groups, series, restless) for cell, groups in values.items()}
    differences = _differences(by_cell, inside)
    weighted, outliers = downweight_outliers(differences, MOST_CELL_V) if differences else ([], [])
    out = {outlier.key for outlier in outliers}
    fitting = {
        cell: tuple(g for g in groups if (g.group, frozenset(cell.pair)) not in out) or groups
        for cell, groups in by_cell.items()
    }
    between = pooled([[g.summary.mean_v for g in groups] for groups in fitting.values()])
    cells = sorted((_cell(cell, groups, fitting[cell], between) for cell, groups in by_cell.items()), key=_widest_gap_first)
    if not differences:
        return ElectrolyteResult(
            electrolyte, condition, tuple(cells), (), None, (), (), (), None, 0, inside, between, (), None
        )
    fitted = fit_class(weighted)
    if fitted.dof < 1:  # nothing is measured twice over: the scatter between groups is taken as usual, not as none
        weighted = [replace(d, u_v=math.hypot(d.u_v, USUAL_SCATTER_V)) for d in weighted]
        fitted = fit_class(weighted)
    main = fitted.parts[0]
    usable = tuple(name for name in main if electrodes()[name].couple is not None)
    anchor = wanted if wanted in usable else middle_anchor(fitted, usable)
    rungs = pinned(fitted, anchor) if anchor else ()
    loose = tuple(name for part in fitted.parts[1:] for name in part) if anchor else fitted.electrodes
    swaps = found_swaps(fitted, usable)
    return ElectrolyteResult(
        electrolyte, condition, tuple(cells), rungs, anchor, usable, loose, swaps, fitted.tau_v, fitted.dof, inside, between,
        tuple(outliers), fitted, tuple(weighted),
    )  # fmt: skip


def fingerprint(results: Iterable[ElectrolyteResult]) -> str:
    """What tells a class's values from any other's: the same for a copy, whatever it and its groups are called.

    Empty without values.
    """
    rows = sorted(
        (*cell.cell.pair, result.electrolyte, result.condition, group.summary.n, f"{group.summary.mean_v:.6f}")
        for result in results
        for cell in result.cells
        for group in cell.groups
    )
    return sha256(repr(rows).encode()).hexdigest() if rows else ""


def _differences(found: Mapping[Cell, Sequence[GroupValue]], inside: Pooled | None) -> list[ladder.Difference]:
    return [
        ladder.Difference(cell.positive, cell.negative, g.summary.mean_v, _own_u_v(g, inside), g.group)
        for cell, groups in found.items()
        for g in groups
        if cell.positive != cell.negative
    ]


def differences_of(result: ElectrolyteResult) -> list[ladder.Difference]:
    """One difference for each group and cell of a result, as measured."""
    return _differences({cell.cell: cell.groups for cell in result.cells}, result.inside)


def _group_values(
    cell: Cell,
    groups: Mapping[str, list[ClassReading]],
    series: Mapping[tuple[Cell, str], list[float]],
    restless: Collection[tuple[Cell, str]],
) -> tuple[GroupValue, ...]:
    return tuple(
        GroupValue(
            group, summarise(series[cell, group], last_digit_v(r.resolution_v for r in readings)), (cell, group) in restless
        )
        for group, readings in groups.items()
    )


def _cell(cell: Cell, groups: tuple[GroupValue, ...], fitting: tuple[GroupValue, ...], between: Pooled | None) -> CellResult:
    """One cell; its mean and interval are of the groups whose value is no outlier."""
    n = sum(g.summary.n for g in fitting)
    mean_v = math.fsum(g.summary.mean_v for g in fitting) / len(fitting)
    outliers = tuple(g.group for g in groups if g not in fitting)
    if between is None:
        return CellResult(cell, cell.table_v, mean_v, None, None, None, groups, n, outliers)
    # The last digit does not average away: it is the same step for every group.
    u_v = math.hypot(between.s_v / math.sqrt(len(fitting)), max(g.summary.u_b_v for g in fitting))
    half = coverage(between.dof) * u_v
    return CellResult(cell, cell.table_v, mean_v, u_v, mean_v - half, mean_v + half, groups, n, outliers)


def _own_u_v(value: GroupValue, inside: Pooled | None) -> float:
    """Standard uncertainty of a group's mean, V, above zero: from the class's pooled scatter, or from its own where that is
    another, and from its last digit."""
    own = value.summary
    s_v = own.s_v or 0.0 if value.restless else inside.s_v if inside else 0.0
    return max(1e-6, math.hypot(s_v / math.sqrt(own.n), own.u_b_v))


def _widest_gap_first(result: CellResult) -> tuple[bool, float, Cell]:
    gap = result.gap_v
    return gap is None, -abs(gap or 0.0), result.cell


def middle_anchor(fitted: ladder.Ladder, usable: Sequence[str]) -> str | None:
    """The electrode whose shift against the table is the middle one, so that as many plates sit higher as lower.

    Only differences are measured, so one electrode must be held; the middle one is moved least by one odd plate.
    """
    if not usable:
        return None
    shift = {name: fitted.potential_v[fitted.electrodes.index(name)] - electrodes()[name].table_v() for name in usable}
    ordered = sorted(usable, key=lambda name: (shift[name], name))
    return ordered[(len(ordered) - 1) // 2]


def pinned(fitted: ladder.Ladder, anchor: str) -> tuple[Rung, ...]:
    """The anchor's part of the ladder with the anchor held at its table value, highest first."""
    held = electrodes()[anchor].table_v()
    rungs = []
    for name in fitted.part_of(anchor):
        above_v, u_v = fitted.difference_v(name, anchor)
        at_v, reach_v = held + above_v, fitted.reach_v(name, anchor) if name != anchor else 0.0
        rungs.append(Rung(name, electrodes()[name].table_v_or_none(), at_v, u_v, at_v - reach_v, at_v + reach_v))
    return tuple(sorted(rungs, key=lambda rung: -rung.class_v))


def found_swaps(fitted: ladder.Ladder, usable: Sequence[str]) -> tuple[Swap, ...]:
    """Pairs the class found in the other order than the table, beyond what chance would do in one class of thirty."""
    pairs = [(low, up) for low in usable for up in usable if electrodes()[low].table_v() < electrodes()[up].table_v()]
    if not pairs:
        return ()
    level = 1.0 - 2.0 * FALSE_SWAPS / len(pairs)
    swaps = []
    for lower, upper in pairs:
        by_v, u_v = fitted.difference_v(lower, upper)
        if by_v > max(LEAST_SWAP_V, fitted.reach_v(lower, upper, level)):
            swaps.append(Swap(upper, lower, by_v, u_v))
    return tuple(sorted(swaps, key=lambda swap: -swap.by_v))
