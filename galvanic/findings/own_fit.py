"""What a class's own numbers of one cell say of oxygen, area, oxide and ions, in words, and what would say more."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from galvanic.cells import Cell
from galvanic.chemistry.class_fit import RANGES, ClassFit, Found, Measured, fit_cell
from galvanic.reference.catalogue import electrodes
from galvanic.words import NBSP, mark, number, say

LEAST_LOADS = 1
POOR_FIT = 4.0  # weighted squares for each value: twice as far off as values can be
NAMES = {
    "oxygen": mark("Oxygen at the plates"),
    "area": mark("Wetted area"),
    "oxide": mark("Oxide on the plates"),
    "ions": mark("The positive plate’s own ions"),
}
WHAT = {
    "oxygen": mark("beside what a still liquid open to the air has"),
    "area": mark("beside 4 cm² of a plate"),
    "oxide": mark("beside what a rubbed plate carries"),
    "ions": mark("traces in the liquid next to {plate}"),
}


@dataclass(frozen=True, slots=True)
class Quantity:
    """One quantity: its name, what it stands beside, what is said of it, and best, low and high on its own scale; `least`
    and `most` are the ends of that scale, `usual` what the model takes (None: it takes none)."""

    key: str
    name: str
    beside: str
    says: str
    verdict: str
    best: float
    low: float
    high: float
    least: float
    most: float
    usual: float | None


@dataclass(frozen=True, slots=True)
class LeftOut:
    """One value beside what the others foretell, with the fit and by the model alone, as text with units."""

    what: str
    measured: str
    fitted: str
    plain: str


@dataclass(frozen=True)
class OwnFit:
    """The class's own fit of a cell; without values under load there are no `quantities`, and `verdict` says why."""

    quantities: tuple[Quantity, ...]
    left_out: tuple[LeftOut, ...]
    verdict: str
    measure_next: str


def own_fit(cell: Cell, measured: Sequence[Measured]) -> OwnFit:
    """The fit of a cell from its class's values. Raises OutOfRange for too many."""
    under = [one for one in measured if not math.isinf(one.load_ohm)]
    if len(under) < LEAST_LOADS or len(measured) < LEAST_LOADS + 1:
        return OwnFit(
            (),
            (),
            say("From open voltages alone nothing can be fitted: they hardly change with oxygen or area."),
            say("Measure the same cell across 100 Ω and across 1 kΩ, each read after 10 s."),
        )
    found = fit_cell(cell, measured)
    plate = electrodes()[cell.positive].name
    return OwnFit(
        tuple(_quantity(one, plate) for one in found.found),
        tuple(
            LeftOut(_asked(one.measured), *(_value(one.measured, v) for v in (one.measured.value, one.fitted, one.plain)))
            for one in found.held_out
        ),
        _verdict(found),
        _next(found),
    )


def _quantity(found: Found, plate: str) -> Quantity:
    ions = found.knob == "ions"
    return Quantity(
        found.knob,
        say(NAMES[found.knob]),
        say(WHAT[found.knob], plate=plate) if ions else say(WHAT[found.knob]),
        _says(found, ions),
        found.verdict,
        found.best,
        found.low,
        found.high,
        *RANGES[found.knob],
        None if ions else 1.0,
    )


def _says(found: Found, ions: bool) -> str:
    best, low, high = ((_molar if ions else _times)(value) for value in (found.best, found.low, found.high))
    if found.verdict == "cannot tell":
        return say("These numbers cannot tell: from {low} to {high} all fit alike.", low=low, high=high)
    if found.verdict == "at least":
        return say("At least {low}; how much more, these numbers cannot tell.", low=low)
    if found.verdict == "at most":
        return say("At most {high}; how much less, these numbers cannot tell.", high=high)
    return say("About {best}, likely {low} to {high}.", best=best, low=low, high=high)


def _times(value: float) -> str:
    return say("{value} times", value=number(float(f"{value:.2g}"), "g"))


def _molar(value: float) -> str:
    return say("{value} mol/L", value=number(value, ".0e"))


def _asked(one: Measured) -> str:
    if math.isinf(one.load_ohm):
        return say("open")
    after = f"{number(one.after_s, 'g')}{NBSP}s"
    if one.load_ohm == 0.0:
        return say("short circuit, after {after}", after=after)
    return say("across {ohm}, after {after}", ohm=_ohm(one.load_ohm), after=after)


def _ohm(ohm: float) -> str:
    return f"{number(ohm / 1e3, 'g')}{NBSP}kΩ" if ohm >= 1e3 else f"{number(ohm, 'g')}{NBSP}Ω"


def _value(one: Measured, value: float) -> str:
    if one.load_ohm == 0.0:
        return f"{number(1e3 * value, '.3g')} mA"
    return f"{number(value, '.3f')} V"


def _verdict(found: ClassFit) -> str:
    if found.misfit > POOR_FIT:
        return say("No oxygen, area, oxide or ions bring the model near these numbers: something else goes on here.")
    if found.helps:
        return say("Each value was left out in turn: the others foretell it better with this fit than the model does alone.")
    return say("Each value was left out in turn: the others foretell it no better with this fit than the model does alone.")


def _next(found: ClassFit) -> str:
    if found.next_best is None:
        if all(one.verdict == "known" for one in found.found):
            return say("Nothing is missing.")
        return say("No one value more would say much about what is not known yet.")
    load_ohm, after_s = found.next_best
    if load_ohm == 0.0:
        return say("What would say most: its short-circuit current, read within {after:g} s.", after=after_s)
    when = say("{n:g} min", n=after_s / 60.0) if after_s >= 60.0 else say("{n:g} s", n=after_s)
    return say("What would say most: its voltage across {ohm}, read after {when}.", ohm=_ohm(load_ohm), when=when)
