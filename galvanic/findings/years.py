"""Several classes' results of one liquid laid over each other: each ladder, one for all, and what the next should find."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from galvanic.cells import Cell
from galvanic.findings.compare import ElectrolyteResult
from galvanic.notes import Note, capital, spread, volts
from galvanic.reference.catalogue import electrodes
from galvanic.statistics.between_classes import Between, Distances, Moved, distances_of, lay_over, moved
from galvanic.words import say

NOT_YET: tuple[float | None, float | None] = (None, None)
LEAST_FOR_FORETELLING = 3  # with two, the interval for the next is wider than any use


@dataclass(frozen=True, slots=True)
class YearRung:
    """A plate on the ladder of all classes, V against hydrogen with the anchor held; its place in each class (None: not
    there)."""

    electrode: str
    table_v: float | None
    all_v: float
    low_v: float
    high_v: float
    by_class: tuple[float | None, ...]


@dataclass(frozen=True, slots=True)
class YearCell:
    """A cell over the classes: each one's value (None: not measured), what all come to, and between what the next should be.

    `low_v`, `high_v` are None with fewer than three classes.
    """

    cell: Cell
    table_v: float | None
    by_class: tuple[float | None, ...]
    all_v: float
    low_v: float | None
    high_v: float | None


@dataclass(frozen=True, slots=True)
class Years:
    """Classes of one liquid and setting laid over each other; `names` in the order in which they were given."""

    electrolyte: str
    condition: str
    names: tuple[str, ...]
    anchor: str
    rungs: tuple[YearRung, ...]
    cells: tuple[YearCell, ...]
    between: Between
    moved: tuple[Moved, ...]
    notes: tuple[Note, ...]


def years(classes: Sequence[tuple[str, ElectrolyteResult]]) -> Years:
    """Lay classes over each other that measured in the same liquid and setting; each has a name of its own.

    Raises NotEnoughData for fewer than two classes with two plates in common.
    """
    found, used = [], []
    for name, result in classes:
        if result.ladder is not None and len(result.ladder.parts[0]) > 1:
            found.append(distances_of(name, result.ladder))
            used.append((name, result))
    between = lay_over(found)
    used = [(name, result) for name, result in used if name in between.classes]
    found = [one for one in found if one.name in between.classes]
    anchor = _anchor(between)
    first = used[0][1]
    off = moved(found)
    return Years(
        first.electrolyte, first.condition, between.classes, anchor, _rungs(between, found, anchor), _cells(between, used),
        between, off, _notes(between, off),
    )  # fmt: skip


def _anchor(between: Between) -> str:
    """The plate whose shift against the table is the middle one; without a metal of the table the first."""
    usable = [name for name in between.electrodes if electrodes()[name].couple is not None]
    if not usable:
        return between.electrodes[0]
    first = between.electrodes[0]
    shift = {name: between.difference_v(name, first)[0] - electrodes()[name].table_v() for name in usable}
    ordered = sorted(usable, key=lambda name: (shift[name], name))
    return ordered[(len(ordered) - 1) // 2]


def _rungs(between: Between, found: Sequence[Distances], anchor: str) -> tuple[YearRung, ...]:
    held = electrodes()[anchor].table_v_or_none() or 0.0
    rungs = []
    for name in between.electrodes:
        at, half = held + between.difference_v(name, anchor)[0], between.reach_v(name, anchor) if name != anchor else 0.0
        places = tuple(_place(one, name, between, anchor, held) for one in found)
        rungs.append(YearRung(name, electrodes()[name].table_v_or_none(), at, at - half, at + half, places))
    return tuple(sorted(rungs, key=lambda rung: -rung.all_v))


def _place(found: Distances, name: str, between: Between, anchor: str, held: float) -> float | None:
    """A plate of one class, on the common scale: the class's ladder is moved so that its plates lie best on all classes'."""
    if name not in found.electrodes:
        return None
    own = dict(zip(found.electrodes, (0.0, *found.volts_v), strict=True))
    common = [one for one in found.electrodes if one in between.electrodes]
    shift = math.fsum(between.difference_v(one, anchor)[0] - own[one] for one in common) / len(common)
    return float(held + own[name] + shift)


def _cells(between: Between, used: Sequence[tuple[str, ElectrolyteResult]]) -> tuple[YearCell, ...]:
    by_class = [{cell.cell: cell.mean_v for cell in result.cells} for _, result in used]
    every = dict.fromkeys(cell for values in by_class for cell in values)
    cells = []
    for cell in every:
        if not set(cell.pair) <= set(between.electrodes) or cell.negative == cell.positive:
            continue
        middle, _ = between.difference_v(cell.positive, cell.negative)
        low, high = between.next_class_v(cell.positive, cell.negative) if len(used) >= LEAST_FOR_FORETELLING else NOT_YET
        cells.append(YearCell(cell, cell.table_v, tuple(values.get(cell) for values in by_class), middle, low, high))
    return tuple(sorted(cells, key=lambda one: -abs(one.all_v)))


def _notes(between: Between, off: Sequence[Moved]) -> tuple[Note, ...]:
    n = len(between.classes)
    high = say("more than can be said") if math.isinf(between.tau_high_v) else spread(between.tau_high_v)
    notes = [
        Note(
            "between",
            "plain",
            say("Classes differ by {tau_v} a plate", tau_v=spread(between.tau_v)),
            say(
                "That is one standard deviation from class to class of a plate’s place, beyond what their "
                "readings explain; from {n} classes it lies between {tau_low_v} and {high} (95 of 100).",
                n=n,
                tau_low_v=spread(between.tau_low_v),
                high=high,
            ),
        )
    ]
    for one in off:
        plate = electrodes()[one.electrode].name
        where = say("higher") if one.by_v > 0.0 else say("lower")
        notes.append(
            Note(
                f"moved-{one.name}-{one.electrode}",
                "caution",
                say("{plate} moved in “{name}”", plate=capital(plate), name=one.name),
                say(
                    "It lay {by_v} {where} beside the other plates than the other classes foretell. Another lot "
                    "of plates, another juice, or a turned group?",
                    by_v=volts(abs(one.by_v)),
                    where=where,
                ),
            )
        )
    if n < LEAST_FOR_FORETELLING:
        notes.append(
            Note(
                "few",
                "plain",
                say("Two classes foretell no third"),
                say("From three classes on, each cell says between what the next class should find it."),
            )
        )
    return tuple(notes)
