"""How a value came from its readings, line by line, as a student is asked to show it.

Every line has a sum that can be typed into a calculator and gives what is printed, within rounding. Below the upper level a
mean stands beside how far its values lie apart. At the upper level names and steps are those of the “Guide to the expression
of uncertainty in measurement” (JCGM 100:2008): 4.2 for the scatter, 4.3.7 for the last digit, 5.1 for both together, G.3 for
the interval.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from galvanic.findings.compare import CellResult, ElectrolyteResult
from galvanic.level import Level
from galvanic.notes import MINUS, volts
from galvanic.statistics.repeats import coverage, last_digit_v, summarise
from galvanic.words import number, say

MOST_TERMS = 12  # of a sum that is written out


@dataclass(frozen=True, slots=True)
class Line:
    """One line: what is worked out, the sum (empty where there is none), and what it gives."""

    name: str
    sum: str
    gives: str


def decimals_of(resolution_v: float) -> int:
    """Decimals of a volt that a meter with this last digit shows, 1 to 5."""
    return min(5, max(1, round(-math.log10(resolution_v)))) if resolution_v > 0.0 else 3


def decimals_of_value(value_v: float) -> int:
    """Decimals that a value has, at most 4."""
    return next((n for n in range(5) if abs(round(value_v, n) - value_v) < 1e-9), 4)


def own_working(
    shown_v: Sequence[float], offsets_v: Sequence[float], resolutions_v: Sequence[float], level: Level = Level.UPPER
) -> tuple[Line, ...]:
    """How a group's value of a cell came from its readings, each with as many digits as were typed.

    `shown_v`: what the meter showed, V, red on the positive plate; `offsets_v`: what it showed with its leads together, as
    many; `resolutions_v`: the step of each one's last digit. Raises NotEnoughData for no readings.
    """
    resolution_v = last_digit_v(resolutions_v)
    own = [decimals_of(step) for step in resolutions_v]
    digits = max(own, default=3)  # of what is worked out: what is typed finer is not rounded to the coarser
    finest = max(digits, *(decimals_of_value(offset) for offset in offsets_v)) if any(offsets_v) else digits
    corrected = [shown - offset for shown, offset in zip(shown_v, offsets_v, strict=True)]
    found = summarise(corrected, resolution_v)
    lines = [
        Line(
            say("meter’s offset taken off"),
            f"{_n(shown, typed)} V {MINUS} {_in_sum(offset, finest)} V",
            volts(value, finest),
        )
        for shown, offset, value, typed in zip(shown_v, offsets_v, corrected, own, strict=True)
        if offset
    ]
    typed = [finest if offset else step for offset, step in zip(offsets_v, own, strict=True)]
    lines.append(Line(say("mean"), _mean(corrected, typed), volts(found.mean_v, digits + 1)))
    if not level.has_logarithms:
        return (*lines, *_apart(say("largest less smallest"), corrected, digits, level))
    last = Line(say("last digit of the meter"), f"{_short(resolution_v)} V ÷ √12", volts(found.u_b_v, 4))
    if found.s_v is None or found.u_a_v is None:
        return (
            *lines,
            last,
            Line(
                say("standard uncertainty"),
                "",
                say("{u_v}; one reading says nothing of its scatter", u_v=volts(found.u_v, 4)),
            ),
        )
    squares = " + ".join(
        f"({_n(v, step)} {MINUS} {_in_sum(found.mean_v, digits + 1)})²" for v, step in zip(corrected, typed, strict=True)
    )
    whole = f"√(({squares}) ÷ ({found.n} {MINUS} 1)) V" if found.n <= MOST_TERMS else ""
    return (
        *lines,
        Line(say("scatter of the readings"), whole, volts(found.s_v, 4)),
        Line(say("of their mean"), f"{_n(found.s_v, 4)} V ÷ √{found.n}", volts(found.u_a_v, 4)),
        last,
        Line(say("standard uncertainty, both together"), _together(found.u_a_v, found.u_b_v), volts(found.u_v, 4)),
    )


def class_working(result: ElectrolyteResult, cell: CellResult, level: Level = Level.UPPER) -> tuple[Line, ...]:
    """How a cell's class value came from the groups' values, with its 95 % interval."""
    means = [one.summary.mean_v for one in cell.groups if one.group not in cell.outliers]
    last_digit_v = max(one.summary.u_b_v for one in cell.groups if one.group not in cell.outliers)
    lines = [
        Line(say("{group} left out: all other cells contradict it", group=one.group), "", volts(one.summary.mean_v, 3))
        for one in cell.groups
        if one.group in cell.outliers
    ]
    lines.append(Line(say("mean of the groups"), _mean(means, [3] * len(means)), volts(cell.mean_v, 4)))
    if not level.has_logarithms:
        return (*lines, *_apart(say("largest group’s value less the smallest"), means, 3, level))
    between = result.between
    if between is None or cell.u_v is None or cell.low_v is None or cell.high_v is None:
        return (*lines, Line(say("interval"), "", say("none: no cell of this liquid was measured by two groups")))
    squares, of_mean_v = between.s_v**2 * between.dof, between.s_v / math.sqrt(len(means))
    factor, half_v = coverage(between.dof), cell.high_v - cell.mean_v
    return (
        *lines,
        Line(
            say("scatter between groups, all cells of this liquid together"),
            f"√({number(squares, '.6f')} V² ÷ {between.dof})",
            volts(between.s_v, 4),
        ),
        Line(say("of the mean"), f"{_n(between.s_v, 4)} V ÷ √{len(means)}", volts(of_mean_v, 4)),
        Line(say("last digit of the meters"), f"{_short(last_digit_v * math.sqrt(12.0))} V ÷ √12", volts(last_digit_v, 4)),
        Line(say("standard uncertainty, both together"), _together(of_mean_v, last_digit_v), volts(cell.u_v, 4)),
        Line(
            say("95 % interval, Student’s t with {dof} degrees of freedom", dof=between.dof),
            f"{number(factor, '.3f')} × {number(cell.u_v, '.4f')} V",
            say(
                "{half_v} either way: {low_v} to {high_v}",
                half_v=volts(half_v, 3),
                low_v=volts(cell.low_v, 3),
                high_v=volts(cell.high_v, 3),
            ),
        ),
    )


def _apart(name: str, values_v: Sequence[float], decimals: int, level: Level) -> tuple[Line, ...]:
    """How far values lie apart, as a difference of two of them; the first level has the mean alone."""
    if len(values_v) < 2 or level is Level.FIRST:
        return ()
    low, high = (round(value, decimals) for value in (min(values_v), max(values_v)))
    return (Line(name, f"{_n(high, decimals)} V {MINUS} {_in_sum(low, decimals)} V", volts(high - low, decimals)),)


def _n(value: float, decimals: int) -> str:
    return number(value, f".{decimals}f").replace("-", MINUS)


def _short(value: float) -> str:
    """A step of a last digit without idle zeros."""
    return number(float(f"{value:.4g}"), "g")


def _in_sum(value: float, decimals: int) -> str:
    """A number as a term: in brackets where it has a sign."""
    text = _n(value, decimals)
    return f"({text})" if text.startswith(MINUS) else text


def _mean(values: Sequence[float], decimals: Sequence[int]) -> str:
    if len(values) > MOST_TERMS:
        return ""
    first, *rest = zip(values, decimals, strict=True)
    return f"({' + '.join([_n(*first), *(_in_sum(v, step) for v, step in rest)])}) V ÷ {len(values)}"


def _together(one: float, other: float) -> str:
    return f"√({number(one, '.4f')}² + {number(other, '.4f')}²) V"
