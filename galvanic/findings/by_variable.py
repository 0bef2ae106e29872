"""What a class found of the one thing it changed: volts and current against the variable, in the form that physics gives it.

The question is answered with a number and its interval by group, or with “no effect seen; if any, smaller than …”: an
interval that holds zero says how large an effect it leaves room for, never that there is none. Forms: volts go with the
value itself (with its logarithm for strengths and amounts that span decades); current when shorted is proportional to area,
depth and pairs (a power with its interval), its inverse has a fixed part and a part per cm of distance, and with
temperature it goes as Arrhenius has it.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from galvanic.cells import Cell
from galvanic.chemistry.varied import Level, has_model, levels_of
from galvanic.condition import Condition, condition_of
from galvanic.constants import GAS_CONSTANT_J_PER_MOL_K
from galvanic.errors import GalvanicError, NotEnoughData
from galvanic.findings.compare import ElectrolyteResult
from galvanic.notes import Note, volts
from galvanic.reference.catalogue import kept
from galvanic.reference.variables import Variable, variables
from galvanic.statistics.by_group import ByGroup, slope_by_group

LEAST_V = 0.001  # the last digit of a usual school meter: common practice, no source
MATTERS_V = 0.05  # a change below this nobody sees on a school meter: common practice, no source
DECADES = 0.9  # of a value's range, from which its logarithm is the scale
ZERO_K = 273.15
Quantity = Literal["volts", "current"]
POWERS = frozenset({"area", "depth", "length", "pairs"})


@dataclass(frozen=True, slots=True)
class Tick:
    """What one group found at one level, V or A."""

    group: str
    condition: Condition
    value: float


@dataclass(frozen=True, slots=True)
class Form:
    """How a quantity is laid against a variable: x of the level's number, y of the value, and what the slope means."""

    name: str
    x: Callable[[float], float]
    y: Callable[[float], float]
    back: Callable[[float], float]
    says: Callable[[ByGroup], str]


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

    @property
    def levels(self) -> list[Condition]:
        """The levels that were measured, in their order."""
        return sorted({tick.condition for tick in self.ticks}, key=lambda one: one.rank)

    def _over(self, slope: float) -> float:
        """What a slope of the fit comes to between the lowest and the highest level, V."""
        ranks = [tick.condition.rank for tick in self.ticks]
        form = _form(self.variable, self.quantity, ranks)
        return abs(slope * (form.x(max(ranks)) - form.x(min(ranks))))

    @property
    def moved_v(self) -> float:
        """How far the class's volts move over all levels; nothing without a fit."""
        return 0.0 if self.fit is None else self._over(self.fit.slope)

    @property
    def largest_v(self) -> float:
        """How far they could move at most, by the interval."""
        return 0.0 if self.fit is None else self._over(max(abs(self.fit.low), abs(self.fit.high)))


def volts_by_variable(results: Sequence[ElectrolyteResult]) -> list[Changed]:
    """Volts of every pair that was measured at two levels at least of some variable, in the order of the results."""
    found: dict[tuple[str, Cell], list[Tick]] = defaultdict(list)
    for result in results:
        condition = condition_of(result.condition)
        if condition is None:
            continue
        for one in result.cells:
            plain = Cell(one.cell.negative, one.cell.electrolyte, one.cell.positive)
            for group in one.groups:
                if group.group not in one.outliers:
                    found[condition.variable, plain].append(Tick(group.group, condition, group.summary.mean_v))
    return _changed(found, "volts")


def current_by_variable(values: Sequence[tuple[str, Cell, float]]) -> list[Changed]:
    """Short-circuit currents as (group, cell with its condition, A), likewise."""
    every: dict[tuple[Cell, str, Condition], list[float]] = defaultdict(list)
    for group, cell, ampere in values:
        condition = condition_of(cell.condition)
        if condition is not None and ampere > 0.0:
            every[Cell(cell.negative, cell.electrolyte, cell.positive), group, condition].append(ampere)
    found: dict[tuple[str, Cell], list[Tick]] = defaultdict(list)
    for (cell, group, condition), amps in every.items():  # a cell measured twice counts once
        found[condition.variable, cell].append(Tick(group, condition, math.fsum(amps) / len(amps)))
    return _changed(found, "current")


def _changed(found: Mapping[tuple[str, Cell], Sequence[Tick]], quantity: Quantity) -> list[Changed]:
    out = []
    for (variable, cell), ticks in found.items():
        if len({tick.condition for tick in ticks}) > 1:
            out.append(of_one(variables()[variable], cell, quantity, tuple(ticks)))
    return out


@kept(256)
def of_one(variable: Variable, cell: Cell, quantity: Quantity, ticks: tuple[Tick, ...]) -> Changed:
    """One quantity of one pair against one variable."""
    numbers = [tick.condition.rank for tick in ticks]
    form = _form(variable, quantity, numbers)
    fit, why = _fit(form, ticks, numbers)
    lowest, highest = min(numbers), max(numbers)
    line: tuple[tuple[float, float], ...] = ()
    if fit is not None and variable.kind == "number":
        steps = [lowest + (highest - lowest) * k / 24 for k in range(25)]
        line = tuple((at, form.back(fit.at(form.x(at)))) for at in steps)
    model = _model(variable, cell, sorted({tick.condition for tick in ticks}, key=lambda one: one.rank))
    notes = _notes(variable, quantity, form, fit, why, ticks, model)
    return Changed(variable, cell, quantity, ticks, form.name, fit, line, model, tuple(notes))


def _fit(form: Form, ticks: Sequence[Tick], numbers: Sequence[float]) -> tuple[ByGroup | None, str]:
    try:
        xs = [form.x(number) for number in numbers]
        ys = [form.y(tick.value) for tick in ticks]
        return slope_by_group([tick.group for tick in ticks], xs, ys), ""
    except NotEnoughData as error:
        return None, str(error)


def _same(value: float) -> float:
    return value


def _form(variable: Variable, quantity: Quantity, numbers: Sequence[float]) -> Form:
    """The form that suits: physics where it gives one, else as it is, or the logarithm of what spans a decade."""
    unit = variable.unit or ("pair" if variable.whole else "step")
    if quantity == "current" and variable.key in POWERS:
        return Form("power", math.log, math.log, math.exp, lambda fit: (
            f"Current grows as {variable.name} to the power {_range(fit)}; in proportion would be 1."))  # fmt: skip
    if quantity == "current" and variable.key == "spacing":
        return Form("inverse", _same, lambda amps: 1.0 / amps, lambda y: 1.0 / y if y > 0.0 else math.inf, _fixed_part)
    if quantity == "current" and variable.key == "temperature":
        return Form("arrhenius", lambda c: 1.0 / (c + ZERO_K), math.log, math.exp, _activation)
    spans = min(numbers) > 0.0 and math.log10(max(numbers) / min(numbers)) >= DECADES and variable.kind == "number"
    if quantity == "current":
        return Form("log y", math.log10 if spans else _same, math.log10, lambda y: 10.0**y, lambda fit: (
            f"{_range(fit)} decades of current per {'decade of it' if spans else unit}."))  # fmt: skip
    if spans:
        return Form("log", math.log10, _same, _same, lambda fit: f"{_volts_range(fit)} per decade.")
    return Form("linear", _same, _same, _same, lambda fit: f"{_volts_range(fit)} per {unit}.")


def _range(fit: ByGroup) -> str:
    return f"{fit.slope:.2f} ({fit.low:.2f} to {fit.high:.2f})"


def _volts_range(fit: ByGroup) -> str:
    return f"{volts(fit.slope, 3, signed=True)} ({volts(fit.low, 3, signed=True)} to {volts(fit.high, 3, signed=True)})"


def _fixed_part(fit: ByGroup) -> str:
    fixed = fit.at(0.0)
    if fit.slope <= 0.0 or fixed <= 0.0:
        return "The distance has no part that could be told from the plates' own."
    return f"What is not distance holds the current back as much as {fixed / fit.slope:.1f} cm of liquid would."


def _activation(fit: ByGroup) -> str:
    low, high = sorted(-GAS_CONSTANT_J_PER_MOL_K * end / 1e3 for end in (fit.low, fit.high))
    return (
        f"As Arrhenius has it: {-GAS_CONSTANT_J_PER_MOL_K * fit.slope / 1e3:.0f} kJ/mol ({low:.0f} to {high:.0f}). "
        "Near 15 it is the liquid that lets through more, at 40 and above the plates."
    )


def _model(variable: Variable, cell: Cell, levels: Sequence[Condition]) -> tuple[Level, ...]:
    if not has_model(variable):
        return ()
    try:
        return tuple(levels_of(cell, levels))
    except GalvanicError:
        return ()


def _notes(
    variable: Variable,
    quantity: Quantity,
    form: Form,
    fit: ByGroup | None,
    why: str,
    ticks: Sequence[Tick],
    model: Sequence[Level],
) -> list[Note]:
    """The answer first, then what the model says, then what the design lacks."""
    out = []
    name = f"{variable.name[:1].upper()}{variable.name[1:]}"
    if fit is None:
        out.append(Note("too_little", "caution", f"{name}: not answered yet", why))
    else:
        out.append(_answer(name, variable, quantity, form, fit, ticks))
    if (said := _beside(quantity, model)) is not None:
        out.append(said)
    levels = {tick.condition for tick in ticks}
    if variable.kind == "number" and len(levels) == 2:
        text = "Two levels draw a straight line through anything. One in the middle would show a bend."
        out.append(Note("two_levels", "plain", "A third level", text))
    if fit is not None and not fit.within:
        text = "Every group has one level, so what the groups have for themselves is in it. Let each measure two."
        out.append(Note("between", "caution", "Group against group", text))
    return out


def _answer(name: str, variable: Variable, quantity: Quantity, form: Form, fit: ByGroup, ticks: Sequence[Tick]) -> Note:
    numbers = [tick.condition.rank for tick in ticks]
    reach = abs(form.x(max(numbers)) - form.x(min(numbers)))
    groups = f"{fit.groups} groups"
    if quantity == "volts":
        most = max(abs(fit.low), abs(fit.high)) * reach
        span = f"from {min(numbers):g} to {max(numbers):g} {variable.unit}".rstrip()
        if variable.kind != "number":
            span = f"from {variable.words[int(min(numbers))]} to {variable.words[int(max(numbers))]}"
        if not fit.shown:
            text = f"If there is any {span}, it is smaller than {volts(max(most, LEAST_V), 3)} ({groups})."
            return Note("no_effect", "plain", f"{name}: no effect on the volts seen", text)
        whole = fit.slope * reach * (1.0 if form.x(max(numbers)) > form.x(min(numbers)) else -1.0)
        small = " That is too little to matter." if most < MATTERS_V else ""
        text = f"{volts(whole, 3, signed=True)} {span} ({groups}). {form.says(fit)}{small}"
        return Note("effect", "good", f"{name} moves the volts", text)
    if not fit.shown:
        factor = math.exp(max(abs(fit.low), abs(fit.high)) * reach) if form.name in ("power", "arrhenius") else None
        more = "" if factor is None else f" If there is any, it is smaller than a factor of {factor:.1f} over all levels."
        return Note("no_effect", "plain", f"{name}: no effect on the current seen", f"{groups}.{more}")
    first, last = (form.back(fit.at(form.x(number))) for number in (min(numbers), max(numbers)))
    times = f"{last / first:.2f} times the current at the last level ({groups}). " if first > 0.0 < last < math.inf else ""
    return Note("effect", "good", f"{name} moves the current", f"{times}{form.says(fit)}")


def _beside(quantity: Quantity, model: Sequence[Level]) -> Note | None:
    """What the model foretells between the lowest and the highest level."""
    if len(model) < 2:
        return None
    if quantity == "volts":
        step = model[-1].open_v - model[0].open_v
        text = f"{volts(step, 3, signed=True)} from the first level to the last."
        return Note("model", "plain", "The model", text)
    first, last = model[0].short_a, model[-1].short_a
    if not first or last is None:
        return None
    return Note("model", "plain", "The model", f"{last / first:.2f} times the current, from the first level to the last.")
