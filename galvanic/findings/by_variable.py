"""What a class found of the one thing it changed: volts and current against the variable, in the form that physics gives it.

The question is answered with a number and its interval by group, or with “no effect seen; if any, smaller than …”: an
interval that holds zero says how large an effect it leaves room for, never that there is none. A setting of the teacher's
own is compared like any other, without a model beside it.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from types import MappingProxyType

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.shorted import shorted
from galvanic.chemistry.varied import Level, has_model, levels_of
from galvanic.condition import Condition, condition_of, own_conditions
from galvanic.errors import GalvanicError, NotEnoughData
from galvanic.findings.compare import ElectrolyteResult
from galvanic.findings.variable_answers import answers
from galvanic.findings.variable_forms import Form, Quantity, form_of
from galvanic.notes import Note
from galvanic.reference.catalogue import electrolytes, kept
from galvanic.reference.variables import Variable
from galvanic.statistics.by_group import ByGroup, slope_by_group
from galvanic.words import mark

LINE_POINTS = 25
ADDED, BEFORE, AFTER = "added", "before", "after"
# A liquid and one made from it (`Electrolyte.made`), as a variable of two words.
ADDITION = Variable(
    ADDED, mark("what was added"), "words", "", False, 0.0, 0.0, (BEFORE, AFTER), (), "", (), "",
    ("plates", mark("depth in the liquid"), "spacing"), "",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Tick:
    """What one group found at one level, V or A; `at` is the number the cell really had (the level's own where nobody
    measured it)."""

    group: str
    condition: Condition
    value: float
    at: float


@dataclass(frozen=True)
class Changed:
    """One quantity of one pair against one variable: every group's value, the fit (None with too little), the model's
    levels, and what it comes to in words."""

    variable: Variable
    cell: Cell
    quantity: Quantity
    ticks: tuple[Tick, ...]
    form: str
    fit: ByGroup | None
    line: tuple[tuple[float, float], ...]
    model: tuple[Level, ...]
    notes: tuple[Note, ...]

    def _over(self, slope: float) -> float:
        """What a slope of the fit comes to between the lowest and the highest level, V."""
        numbers = [tick.at for tick in self.ticks]
        form = form_of(self.variable, self.quantity, numbers)
        return abs(slope * (form.x(max(numbers)) - form.x(min(numbers))))

    @property
    def moved_v(self) -> float:
        """How far the class's volts move over all levels; nothing without a fit."""
        return 0.0 if self.fit is None else self._over(self.fit.slope)

    @property
    def largest_v(self) -> float:
        """How far they could move at most, by the interval."""
        return 0.0 if self.fit is None else self._over(max(abs(self.fit.low), abs(self.fit.high)))


# What the variable really was, as groups measured it, by group, cell without its condition, and level.
Really = Mapping[tuple[str, Cell, Condition], float]
AS_PLANNED: Really = MappingProxyType({})
Value = tuple[str, Cell, float]  # group, cell with its condition, V or A


def volts_by_variable(results: Sequence[ElectrolyteResult], really: Really = AS_PLANNED) -> list[Changed]:
    """Volts of every pair that was measured at two levels at least of some variable, in the order of the results."""
    values = [
        (group.group, cell.cell, group.summary.mean_v)
        for result in results
        for cell in result.cells
        for group in cell.groups
        if group.group not in cell.outliers
    ]
    return _changed(values, "volts", really)


def current_by_variable(values: Sequence[Value], really: Really = AS_PLANNED) -> list[Changed]:
    """Short-circuit currents as (group, cell with its condition, A), likewise."""
    return _changed([value for value in values if value[2] > 0.0], "current", really)


def one_next_level(changed: Sequence[Changed]) -> list[Changed]:
    """The same, with one next level for each variable: two would be two plans."""
    out: list[Changed] = []
    said: set[str] = set()
    for one in changed:
        again = one.variable.key in said
        said |= {one.variable.key for note in one.notes if note.code == "next_level"}
        out.append(replace(one, notes=tuple(note for note in one.notes if not (again and note.code == "next_level"))))
    return out


def _changed(values: Sequence[Value], quantity: Quantity, really: Really) -> list[Changed]:
    return [*_by_setting(values, quantity, really), *_by_addition(values, quantity)]


def _by_addition(values: Sequence[Value], quantity: Quantity) -> list[Changed]:
    """Pairs of plates measured both in a liquid and in one made from it: before and after, group by group."""
    by_pair: dict[tuple[str, str, str], dict[tuple[str, str], list[float]]] = defaultdict(lambda: defaultdict(list))
    for group, cell, value in values:
        by_pair[cell.negative, cell.positive, cell.condition][cell.electrolyte, group].append(value)
    out = []
    for (negative, positive, condition), every in by_pair.items():
        there = dict.fromkeys(liquid for liquid, _ in every)
        for after in there:
            made = electrolytes()[after].made
            if made is None or made.base not in there:
                continue
            levels = {made.base: Condition(ADDED, BEFORE, ADDITION), after: Condition(ADDED, AFTER, ADDITION)}
            ticks = [
                Tick(group, levels[liquid], math.fsum(each) / len(each), levels[liquid].rank)
                for (liquid, group), each in every.items()
                if liquid in levels
            ]
            out.append(of_one(ADDITION, Cell(negative, after, positive, condition), quantity, tuple(ticks)))
    return out


def _by_setting(values: Sequence[Value], quantity: Quantity, really: Really) -> list[Changed]:
    level_of = _levels([cell.condition for _, cell, _ in values])
    every: dict[tuple[Cell, str, Condition], list[float]] = defaultdict(list)
    for group, cell, value in values:
        level = level_of(cell.condition)
        if level is not None:
            every[Cell(cell.negative, cell.electrolyte, cell.positive), group, level].append(value)
    by_cell: dict[tuple[str, Cell], list[Tick]] = defaultdict(list)
    for (cell, group, level), each in every.items():  # a cell measured twice counts once
        at = really.get((group, cell, level), level.rank)
        by_cell[level.variable, cell].append(Tick(group, level, math.fsum(each) / len(each), at))
    return [
        of_one(ticks[0].condition.row, cell, quantity, tuple(ticks))
        for (_, cell), ticks in by_cell.items()
        if len({tick.condition for tick in ticks}) > 1
    ]


def _levels(texts: Sequence[str]) -> Callable[[str], Condition | None]:
    """From a cell's text to its level: a variable of the table, or, where no text fits one, the teacher's own."""
    if any(condition_of(text) is not None for text in texts):
        return condition_of
    return own_conditions(text for text in texts if text).get


@kept(256)
def of_one(variable: Variable, cell: Cell, quantity: Quantity, ticks: tuple[Tick, ...]) -> Changed:
    """One quantity of one pair against one variable."""
    numbers = [tick.at for tick in ticks]
    form = form_of(variable, quantity, numbers)
    fit, why = _fit(form, ticks)
    lowest, highest = min(numbers), max(numbers)
    line: tuple[tuple[float, float], ...] = ()
    if fit is not None and variable.kind == "number":
        steps = [lowest + (highest - lowest) * k / (LINE_POINTS - 1) for k in range(LINE_POINTS)]
        line = tuple((at, form.back(fit.at(form.x(at)))) for at in steps)
    levels = sorted({tick.condition for tick in ticks}, key=lambda one: one.rank)
    model = _model(variable, cell, levels)
    points = [(tick.group, tick.at, tick.value) for tick in ticks]
    notes = answers(variable, quantity, form, fit, why, points, levels, model)
    return Changed(variable, cell, quantity, ticks, form.name, fit, line, model, tuple(notes))


def _in_liquid(level: Condition, cell: Cell) -> Level:
    """What the model has for the cell in its liquid."""
    by_rest = predict([cell])[0]["rest"]
    short_a = shorted(cell).first_a
    return Level(level, by_rest.volts_v or 0.0, by_rest.u_v or 0.0, short_a)


def _fit(form: Form, ticks: Sequence[Tick]) -> tuple[ByGroup | None, str]:
    try:
        xs, ys = [form.x(tick.at) for tick in ticks], [form.y(tick.value) for tick in ticks]
        return slope_by_group([tick.group for tick in ticks], xs, ys), ""
    except NotEnoughData as error:
        return None, str(error)


def _model(variable: Variable, cell: Cell, levels: Sequence[Condition]) -> tuple[Level, ...]:
    made = electrolytes()[cell.electrolyte].made
    if variable is ADDITION and made is not None:
        liquids = {BEFORE: made.base, AFTER: cell.electrolyte}
        return tuple(_in_liquid(level, Cell(cell.negative, liquids[str(level.value)], cell.positive)) for level in levels)
    if not has_model(variable):
        return ()
    try:
        return tuple(levels_of(cell, levels))
    except GalvanicError:
        return ()
