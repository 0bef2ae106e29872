"""The subtraction drill: what a cell gives by the table, with every usual wrong answer understood as what it is.

Questions come from the table of standard potentials; answers that two slips would give alike are put to the first of them.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

from galvanic.cells import Cell
from galvanic.chemistry.subtraction import WorkedLine, worked
from galvanic.notes import volts
from galvanic.reference.catalogue import electrodes, half_reactions
from galvanic.words import say

PLATES = ("magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper", "silver", "graphite")
APART_V = 0.05  # what is nearer is asked of nobody: rounding would decide
SAME_V = 0.006  # a typed answer this near to a foreseen one is that one


@dataclass(frozen=True, slots=True)
class Slip:
    """A wrong answer in V, what was done to get it, and what to look at."""

    volts_v: float
    did: str
    look: str


@dataclass(frozen=True, slots=True)
class Sum:
    """A question: two plates with their table values (None: not listed), which is negative, the right volts (None: there is
    no answer in the table), the working, and the slips that are understood."""

    first: str
    second: str
    first_v: float | None
    second_v: float | None
    negative: str
    right_v: float | None
    lines: tuple[WorkedLine, ...]
    slips: tuple[Slip, ...]


def sums() -> tuple[Sum, ...]:
    """All questions, the plates of each in the order of the list."""
    here = [key for key in PLATES if key in electrodes()]
    return tuple(one for pair in combinations(here, 2) if (one := _sum(*pair)) is not None)


def _sum(first: str, second: str) -> Sum | None:
    e = [electrodes()[key].table_v_or_none() for key in (first, second)]
    if None in e:
        return Sum(first, second, e[0], e[1], "", None, (), ())
    one, other = (v for v in e if v is not None)
    if abs(one - other) < APART_V:
        return None
    negative = first if one < other else second
    high, low = max(one, other), min(one, other)
    cell = Cell.of(first, "", second)
    return Sum(
        first, second, one, other, negative, high - low, tuple(worked(cell, negative)), _slips(high, low, negative, cell)
    )


def _slips(high: float, low: float, negative: str, cell: Cell) -> tuple[Slip, ...]:
    right = high - low
    n = _electrons(cell.positive if negative == cell.negative else cell.negative)
    m = _electrons(negative)
    taken = f"({volts(low, signed=True)})" if low < 0.0 else volts(low, signed=True)
    signs_out = [
        Slip(one, say("You left the signs out."), say("Take both values with their signs; minus a minus is plus."))
        for one in (abs(high) - abs(low), abs(low) - abs(high))
        if low < 0.0 <= high
    ]
    told = [
        Slip(
            high + low, say("You added the two values."), say("It is the higher minus the lower: \u2212 {low}.", low=taken)
        ),
        *signs_out,
    ]
    if high < 0.0:  # both ways give the same number
        told.append(
            Slip(
                -right,
                say("Lower minus higher gives this, and so does leaving both signs out. Which was it?"),
                say("The higher one is the plus and comes first, each value with its sign."),
            )
        )
    told += [
        Slip(
            -right,
            say("You read the table upside down: lower minus higher."),
            say("The higher one is the plus; it comes first."),
        ),
        Slip(
            abs(high) + abs(low), say("You added without signs."), say("Signs are kept; only minus a minus becomes a plus.")
        ),
        Slip(
            n * high - m * low,
            say("You multiplied by the electrons."),
            say("Volts do not grow with the number of electrons."),
        ),
        Slip(
            m * high - n * low,
            say("You multiplied by the electrons."),
            say("Volts do not grow with the number of electrons."),
        ),
        Slip(2.0 * right, say("You multiplied by two."), say("Volts do not grow with the number of electrons.")),
        Slip(1000.0 * right, say("That is in millivolts."), say("Give it in volts.")),
    ]
    kept: list[Slip] = []
    for slip in told:
        if abs(slip.volts_v - right) > SAME_V and all(abs(slip.volts_v - one.volts_v) > SAME_V for one in kept):
            kept.append(slip)
    return tuple(kept)


def _electrons(plate: str) -> int:
    couple = electrodes()[plate].couple
    return 1 if couple is None else half_reactions()[couple].electrons
