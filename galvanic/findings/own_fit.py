"""What a class's own numbers of one cell say of oxygen, area, oxide and ions, in words, and what would say more."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean

from galvanic.cells import Cell
from galvanic.chemistry.anchoring import UnderLoad
from galvanic.chemistry.class_fit import MOST_MEASURED, RANGES, SHORT_S, ClassFit, Found, Measured, fit_cell
from galvanic.chemistry.curves import CELL_SCATTER
from galvanic.chemistry.polarisation import FIRST_S
from galvanic.findings.runs import Done, RunPoint
from galvanic.reference.catalogue import electrodes
from galvanic.words import NBSP, mark, number, say

LEAST_LOADS = 1
LEAST_AFTER_S, MOMENTS_S = 1.0, (3.0, 10.0, 30.0, 60.0, 300.0, 600.0)  # of a run: what lies between is not new
MOST_RUNS = 5
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


@dataclass(frozen=True, slots=True)
class OneRun:
    """A run of a row of one kind of cell into a resistor, Ω: how many cells, points in s and V, and what was done when."""

    cells: int
    load_ohm: float
    volts_v: Sequence[RunPoint]
    events: Sequence[Done]


def class_values(open_v: float, u_open_v: float, under: Sequence[UnderLoad], runs: Sequence[OneRun]) -> list[Measured]:
    """A class's values of one cell for its fit: the open voltage, the mean of each load, and a few moments of each run."""
    out = [Measured(math.inf, FIRST_S, abs(open_v), u_open_v)]
    for load_ohm in sorted({one.load_ohm for one in under}):
        values = [one.value for one in under if one.load_ohm == load_ohm and one.value > 0.0]
        if values:
            mean, u = fmean(values), CELL_SCATTER / math.sqrt(len(values))
            short = load_ohm == 0.0
            out.append(Measured(load_ohm, SHORT_S if short else FIRST_S, mean, u if short else u * mean))
    for n, run in enumerate(runs[:MOST_RUNS]):
        out += _moments(run, str(n + 1))
    return out[:MOST_MEASURED]


def _moments(run: OneRun, trace: str) -> list[Measured]:
    """One cell's share of a run's volts, from when it was joined to what was done next, at moments that differ."""
    at_s = next((event.t_s for event in run.events if event.what == "joined"), None)
    if at_s is None:
        return []
    until_s = min((event.t_s for event in run.events if event.t_s > at_s), default=math.inf)
    points = [
        (one.t_s - at_s, one.value / run.cells)
        for one in run.volts_v
        if one.t_s - at_s >= LEAST_AFTER_S and one.t_s < until_s and one.value > 0.0
    ]
    taken = dict.fromkeys(_nearest(points, moment_s) for moment_s in MOMENTS_S if points)
    return [Measured(run.load_ohm / run.cells, t, v, CELL_SCATTER * v, trace) for t, v in taken]


def _nearest(points: Sequence[tuple[float, float]], moment_s: float) -> tuple[float, float]:
    return min(points, key=lambda one: abs(math.log(one[0] / moment_s)))


def own_fit(cell: Cell, measured: Sequence[Measured]) -> OwnFit:
    """The fit of a cell from its class's values. Raises OutOfRange for too many."""
    under = [one for one in measured if not math.isinf(one.load_ohm)]
    if len(under) < LEAST_LOADS or len(measured) < LEAST_LOADS + 1:
        return OwnFit(
            (),
            (),
            say("From open voltages alone nothing can be fitted: they hardly change with oxygen or area."),
            say("Build this cell alone as a pack, once into 100 Ω and once into 1 kΩ, and write its volts down over time."),
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
    return say(
        "What would say most: its voltage across {ohm} after {when}, as a pack of this one cell, over time.",
        ohm=_ohm(load_ohm),
        when=when,
    )
