"""What a class found of a variable, in words: the answer first, then steps and bends, the model, what the design lacks."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence

import numpy as np

from galvanic.chemistry.varied import Level
from galvanic.condition import Condition
from galvanic.errors import NotEnoughData
from galvanic.findings.variable_forms import Form, Quantity
from galvanic.notes import Note, capital, volts
from galvanic.planning.next_level import next_level
from galvanic.reference.variables import Variable
from galvanic.statistics.by_group import ByGroup, slope_by_group
from galvanic.words import number, say

LEAST_V = 0.001  # the last digit of a usual school meter: common practice, no source
MATTERS_V = 0.05  # a change below this nobody sees on a school meter: common practice, no source
MOST_TIMES = 1000.0  # beyond, a line only says that it does not know
FLAT = 1e-9  # of a group's spread in x², from which three levels can show a bend

Point = tuple[str, float, float]  # group, what the variable really was, V or A


def answers(
    variable: Variable,
    quantity: Quantity,
    form: Form,
    fit: ByGroup | None,
    why: str,
    points: Sequence[Point],
    levels: Sequence[Condition],
    model: Sequence[Level],
) -> list[Note]:
    """All that is said of one quantity against one variable; `why` there is no fit, `levels` as planned and in order."""
    out = []
    name = capital(variable.said)
    if fit is None:
        out.append(Note("too_little", "caution", say("{name}: not answered yet", name=name), why))
    else:
        out.append(_answer(name, variable, quantity, form, fit, points))
    if quantity == "volts" and variable.kind != "number" and len(levels) > 2:
        out += _steps(levels, points)
    if (said := _beside(quantity, model)) is not None:
        out.append(said)
    if fit is not None and variable.kind == "number" and (bend := _bend(form, points)) is not None:
        out.append(bend)
    if variable.kind == "number" and len(levels) == 2:
        text = say("Two levels draw a straight line through anything. One in the middle would show a bend.")
        out.append(Note("two_levels", "plain", say("A third level"), text))
    if fit is not None and not fit.within:
        text = say("Every group has one level, so what the groups have for themselves is in it. Let each measure two.")
        out.append(Note("between", "caution", say("Group against group"), text))
    following = next_level(variable, form.x, [level.rank for level in levels])
    if following is not None:
        text = f"{number(following, 'g')} {say(variable.unit)}".rstrip() + say(
            ": there a bend and the slope would both show best."
        )
        out.append(Note("next_level", "plain", say("Next level worth measuring"), text))
    return out


def _factor(form: Form, fit: ByGroup, reach: float, first: float) -> float | None:
    """By how much a current could change over all levels and not be seen; None where the line says nothing."""
    most = max(abs(fit.low), abs(fit.high)) * reach
    if form.name in ("power", "arrhenius"):
        return math.exp(most)
    if form.name == "log y":
        return float(10.0**most)
    at_first = fit.at(first)
    return 1.0 + most / at_first if at_first > 0.0 else None


def _times(form: Form, fit: ByGroup, first: float, last: float) -> tuple[float, float, float] | None:
    """How many times the current of the first level there is at the last, with the interval of its slope (95 %); None where
    the line says nothing that a meter could show."""
    step = form.x(last) - form.x(first)
    start, at_first = fit.at(form.x(first)), form.back(fit.at(form.x(first)))
    try:
        middle, *ends = (form.back(start + slope * step) / at_first for slope in (fit.slope, fit.low, fit.high))
    except (OverflowError, ZeroDivisionError):
        return None
    low, high = sorted(ends)
    return (middle, low, high) if 0.0 < low <= middle <= high < MOST_TIMES else None


def _answer(name: str, variable: Variable, quantity: Quantity, form: Form, fit: ByGroup, points: Sequence[Point]) -> Note:
    numbers = [at for _, at, _ in points]
    reach = abs(form.x(max(numbers)) - form.x(min(numbers)))
    groups = say("{groups} groups", groups=fit.groups)
    if quantity == "volts":
        most = max(abs(fit.low), abs(fit.high)) * reach
        span = say(
            "from {numbers:g} to {numbers2:g} {unit}", numbers=min(numbers), numbers2=max(numbers), unit=say(variable.unit)
        ).rstrip()
        if variable.kind != "number":
            span = say(
                "from {words} to {words2}",
                words=say(variable.words[round(min(numbers))]),
                words2=say(variable.words[round(max(numbers))]),
            )
        if not fit.shown:
            text = say(
                "If there is any {span}, it is smaller than {most} ({groups}).",
                span=span,
                most=volts(max(most, LEAST_V), 3),
                groups=groups,
            )
            return Note("no_effect", "plain", say("{name}: no effect on the volts seen", name=name), text)
        whole = fit.slope * reach * (1.0 if form.x(max(numbers)) > form.x(min(numbers)) else -1.0)
        small = say(" That is too little to matter.") if most < MATTERS_V else ""
        text = f"{volts(whole, 3, signed=True)} {span} ({groups}). {form.says(fit)}{small}"
        return Note(
            "effect",
            "good",
            (say("{name} move the volts", name=name) if variable.whole else say("{name} moves the volts", name=name)),
            text,
        )
    if not fit.shown:
        factor = _factor(form, fit, reach, form.x(min(numbers)))
        more = (
            ""
            if factor is None
            else say(" If there is any, it is smaller than a factor of {factor:.2f} over all levels.", factor=factor)
        )
        return Note("no_effect", "plain", say("{name}: no effect on the current seen", name=name), f"{groups}.{more}")
    ratio = _times(form, fit, min(numbers), max(numbers))
    times = (
        say(
            "At the last level {times:.2f} times the current of the first, likely {low:.2f} to {high:.2f} ({groups}). ",
            times=ratio[0],
            low=ratio[1],
            high=ratio[2],
            groups=groups,
        )
        if ratio is not None
        else ""
    )
    return Note(
        "effect",
        "good",
        (say("{name} move the current", name=name) if variable.whole else say("{name} moves the current", name=name)),
        f"{times}{form.says(fit)}",
    )


def _steps(levels: Sequence[Condition], points: Sequence[Point]) -> list[Note]:
    """From each word to the next, with its interval by group; nothing where too few groups have both."""
    said = []
    for one, other in zip(levels, levels[1:], strict=False):
        both = [point for point in points if point[1] in (one.rank, other.rank)]
        try:
            fit = slope_by_group([p[0] for p in both], [p[1] for p in both], [p[2] for p in both])
        except NotEnoughData:
            continue
        step, low, high = (value * (other.rank - one.rank) for value in (fit.slope, fit.low, fit.high))
        span = say("{low} to {high}", low=volts(low, 3, signed=True), high=volts(high, 3, signed=True))
        said.append(
            say(
                "{value} to {value2}: {step} ({span}).",
                value=say(str(one.value)),
                value2=say(str(other.value)),
                step=volts(step, 3, signed=True),
                span=span,
            )
        )
    return [Note("steps", "plain", say("Step by step"), " ".join(said))] if said else []


def _bend(form: Form, points: Sequence[Point]) -> Note | None:
    """Whether the groups' values bend away from a straight line in this form: x² less what a line in each group takes of
    it, weighed by group as slopes are."""
    by_group: dict[str, list[tuple[float, float]]] = defaultdict(list)
    for group, at, value in points:
        by_group[group].append((form.x(at), form.y(value)))
    names, xs, ys = [], [], []
    for group, own in by_group.items():
        x, y = (np.array(column) for column in zip(*own, strict=True))
        line = np.column_stack([np.ones(len(x)), x])
        square = x**2
        square = square - line @ np.linalg.lstsq(line, square, rcond=None)[0]
        if len(set(x)) > 2 and float(square @ square) > FLAT * float(x @ x) ** 2:
            names += [group] * len(x)
            xs += list(square)
            ys += list(y - line @ np.linalg.lstsq(line, y, rcond=None)[0])
    try:
        fit = slope_by_group(names, xs, ys)
    except NotEnoughData:
        return None
    if not fit.shown:
        return None
    way = say("upwards") if fit.slope > 0.0 else say("downwards")
    return Note(
        "bend",
        "plain",
        say("It bends"),
        say("The values bend {way} from the dashed line, by more than their scatter.", way=way),
    )


def _beside(quantity: Quantity, model: Sequence[Level]) -> Note | None:
    """What the model foretells between the lowest and the highest level."""
    if len(model) < 2:
        return None
    if quantity == "volts":
        step = model[-1].open_v - model[0].open_v
        text = say("{step} from the first level to the last.", step=volts(step, 3, signed=True))
        return Note("model", "plain", say("The model"), text)
    first, last = model[0].short_a, model[-1].short_a
    if not first or last is None:
        return None
    return Note(
        "model",
        "plain",
        say("The model"),
        say("{first:.2f} times the current, from the first level to the last.", first=last / first),
    )
