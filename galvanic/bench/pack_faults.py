"""What is wrong with a pack, from single voltages, the sum at every step, and what the load showed.

A cell that is joined should add what it gives alone. Turned round it takes that away; liquid between two cups, or plates
that touch, take up to one cell; a dry clip shows only under a load, as volts that are lost in the wires; a worn cell sags or
is driven backwards by the others; an LED the wrong way round leaves the whole voltage across itself; an ammeter in the wrong
socket, or with its fuse gone, shows nothing while the load has its volts. Where two causes are left, the next measurement is
the one that tells them apart. Thresholds are common practice, no source; bench/packs.py prints how often each is right.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from statistics import median
from typing import Literal

from galvanic.chemistry.demand import Demand, Diode
from galvanic.notes import volts
from galvanic.words import say

Sure = Literal["likely", "possible"]

STEP_V = 0.09  # a step that is off by less is the meter, the drift of a fresh cell, and hands
TURNED = 0.6  # of a cell's own voltage, taken away instead of added
WHOLE = 0.75  # of a cell's own voltage lost: more than a film of liquid does
SAGS = 0.2  # of the others' middle voltage under the same load; sound cells of unequal size still have a quarter
LOST_V = 0.15  # between the cells and the load
NOTHING_V, NOTHING_A = 0.05, 2e-6
MOST_PACK_A = 0.3  # more than short circuits of such packs give
ENOUGH_V = 0.2  # above an LED’s least voltage it would glow if it stood the right way round


@dataclass(frozen=True, slots=True)
class PackRecord:
    """What a group has of its pack, cell 1 at the minus; None where nothing was measured.

    `alone_v` each cell before it was joined; `sums_v` of the cells 1 to k; with the load on: `load_v` across it, `load_a`
    through it, `under_v` across each cell. `lit`: whether the load was seen to run, and `load` what it was.
    """

    alone_v: tuple[float | None, ...]
    sums_v: tuple[float | None, ...]
    load: Demand | None = None
    load_v: float | None = None
    load_a: float | None = None
    under_v: tuple[float | None, ...] = ()
    lit: bool | None = None

    @property
    def open_v(self) -> float | None:
        """The last sum that was measured."""
        return next((v for v in reversed(self.sums_v) if v is not None), None)

    @property
    def least_v(self) -> float:
        """The volts from which the load does anything."""
        return self.load.row.voltage_v.low if self.load is not None and self.load.row is not None else 0.0

    @property
    def blocked(self) -> bool:
        """Whether an LED stands across all the volts and neither shines nor takes a current."""
        if self.load is None or self.load_v is None or self.open_v is None or not isinstance(self.load.takes, Diode):
            return False
        dark = self.lit is not True and (self.load_a is None or abs(self.load_a) <= NOTHING_A)
        return dark and self.load_v > 0.9 * self.open_v


@dataclass(frozen=True, slots=True)
class PackFinding:
    """One thing about a pack: code, how sure, title, text, what to try in order, and the cell (from 1) or None."""

    code: str
    sure: Sure
    title: str
    text: str
    tries: tuple[str, ...]
    cell: int | None = None


def _leads() -> PackFinding:
    return PackFinding(
        "leads",
        "likely",
        say("The meter’s leads the other way round?"),
        say("All sums have the opposite sign of the cells."),
        (say("Black lead to the minus of cell 1, red lead to the plus of the last cell."), say("Measure again.")),
    )


def pack_findings(record: PackRecord) -> list[PackFinding]:
    """What the numbers say; empty where all is as it should be. Steps that are off are mended first: what the load shows
    follows from them."""
    steps = _steps(record)
    if steps:
        turned_leads = _steps(replace(record, sums_v=tuple(None if v is None else -v for v in record.sums_v)))
        return steps if turned_leads else [_leads()]
    if record.load is None or record.open_v is None:
        return _odd_current(record)
    return _odd_current(record) or _lost(record) or _sagging(record) or _blocks(record) or _ammeter(record) or _which(record)


def _steps(record: PackRecord) -> list[PackFinding]:
    return [finding for k in range(len(record.sums_v)) if (finding := _step(record, k)) is not None]


def _odd_current(record: PackRecord) -> list[PackFinding]:
    """A current that no pack of such cells gives, or one through a lamp that stays dark."""
    if record.load_a is None:
        return []
    if abs(record.load_a) > MOST_PACK_A:
        tries = (
            say("Look at the dial and the socket: was it milliamperes?"),
            say("Is a battery or a supply in the row? Only cells built here belong there."),
        )
        text = say("{load_a:.3g}\u202fA is far more than a pack like this gives.", load_a=abs(record.load_a))
        return [PackFinding("amperes", "likely", say("Amperes, or milliamperes?"), text, tries)]
    row = None if record.load is None else record.load.row
    if row is None or row.by_day_a is None or record.lit is not False or abs(record.load_a) < row.by_day_a.high:
        return []
    text = say(
        "{load_a:.2g}\u202fmA flows and the {name} is dark: the current goes past it.",
        load_a=1e3 * abs(record.load_a),
        name=row.name,
    )
    tries = (
        say("Is the meter across the load instead of in the loop? Then it shorts the pack."),
        say("Do the two legs touch?"),
    )
    return [PackFinding("past_the_load", "likely", say("A current, and no light"), text, tries)]


def _at(values: Sequence[float | None], k: int) -> float | None:
    return values[k] if 0 <= k < len(values) else None


def _step(record: PackRecord, k: int) -> PackFinding | None:
    """What joining cell k + 1 added, against what it gives alone."""
    alone, now, before = _at(record.alone_v, k), record.sums_v[k], 0.0 if k == 0 else record.sums_v[k - 1]
    if alone is None or now is None or before is None:
        return None
    added, cell = now - before, k + 1
    short = alone - added
    if abs(short) <= STEP_V:
        return None
    gives = say(
        "Cell {cell} alone gives {alone}, joined it adds {added}.",
        cell=cell,
        alone=volts(alone),
        added=volts(added, signed=True),
    )
    if abs(alone) > STEP_V and added * alone < 0.0 and abs(added) > TURNED * abs(alone):
        follow = (
            say("Follow the wire: the plus of cell {k} goes to the minus of cell {cell}.", k=k, cell=cell)
            if k
            else say("Its minus is the end.")
        )
        tries = (follow, say("Change the two clips of cell {cell}, measure the whole again.", cell=cell))
        title = say("Cell {cell} the wrong way round?", cell=cell)
        return PackFinding("turned", "likely", title, say("{gives} It works against the others.", gives=gives), tries, cell)
    if short < 0.0:
        tries = (say("Measure the cell alone again."), say("Is a battery, or a cell of another group, in the row?"))
        title = say("More than cell {cell} has", cell=cell)
        text = say("{gives} A sum cannot be more than its cells.", gives=gives)
        return PackFinding("more_than_its_cell", "possible", title, text, tries, cell)
    return _taken(record, k, say("{gives} {short} is missing.", gives=gives, short=volts(short)), short > WHOLE * alone)


def _taken(record: PackRecord, k: int, text: str, whole: bool) -> PackFinding:
    """A step that adds too little: liquid between two cups, or plates that touch."""
    cell, under = k + 1, _at(record.under_v, k)
    if k == 0 or (under is not None and abs(under) < NOTHING_V):
        title = say("Do the plates of cell {cell} touch?", cell=cell)
    elif whole:
        title = say("Cell {cell} adds almost nothing: do its plates touch, or does liquid join the cups?", cell=cell)
    else:
        title = say("Cell {cell} adds too little: liquid between cup {k} and cup {cell}?", cell=cell, k=k)
    tell = say(
        "Leave all joined, measure across cell {cell}, then across cell {k}: one near zero means "
        "that its plates touch; both lower than alone means that liquid joins the cups.",
        cell=cell,
        k=k,
    )
    dry = say("Dry the table and the outside of the cups, lift wires and clips out of the liquid.")
    tries = (*((tell,) if k else ()), dry, say("Measure the whole again."))
    return PackFinding("bridged", "likely", title, text, tries, cell)


def _lost(record: PackRecord) -> list[PackFinding]:
    """Volts that are lost between the cells and the load: a joint without contact."""
    load_v, open_v = record.load_v, record.open_v
    if load_v is None or open_v is None or record.load is None or record.blocked:
        return []
    under = [v for v in record.under_v if v is not None]
    whole = 0 < len(under) == len(record.sums_v)
    has_v = sum(under) if whole else open_v
    if has_v - load_v <= LOST_V + 0.05 * open_v or not (whole or load_v < NOTHING_V):
        return []
    halve = say(
        "With the load on, measure across the first half of the cells with their wires, then across the second: the half "
        "with less than its cells holds the bad joint. Halve it again."
    )
    text = say(
        "The cells have {has_v}, the {name} gets {load_v}: the rest is lost on the way.",
        has_v=volts(has_v),
        name=record.load.name,
        load_v=volts(load_v),
    )
    tries = (halve, say("Squeeze or scrape that clip; wet a dry plate."))
    return [PackFinding("loose", "likely" if whole else "possible", say("A clip or a wire makes no contact"), text, tries)]


def _sagging(record: PackRecord) -> list[PackFinding]:
    """Cells that give far less than the others under the same current."""
    known = [(k, v) for k, v in enumerate(record.under_v) if v is not None]
    out = []
    for k, value in known if len(known) > 2 else []:
        others, alone = median(v for j, v in known if j != k), _at(record.alone_v, k)
        if others < NOTHING_V or value > SAGS * others or (alone is not None and alone < STEP_V):
            continue
        driven = say(" The others drive it backwards: it takes power, warms and makes gas.") if value < -NOTHING_V else ""
        text = say(
            "In the pack it has {value} left, the others about {others}.{driven}",
            value=volts(value),
            others=volts(others),
            driven=driven,
        )
        tries = (
            say("Look at its plates: deep enough in, rubbed, not crusted?"),
            say("Fresh liquid and a rubbed plate, then measure it under the load again."),
        )
        out.append(PackFinding("worn", "likely", say("Cell {k} gives way under the load", k=k + 1), text, tries, k + 1))
    return out


def _blocks(record: PackRecord) -> list[PackFinding]:
    """An LED that takes nothing though it has volts enough."""
    if record.load is None or record.open_v is None or not record.blocked or record.open_v < record.least_v + ENOUGH_V:
        return []
    text = say("All {open_v} stand across it and nothing flows: it blocks.", open_v=volts(record.open_v))
    tries = (say("Long leg to the plus of the pack, short leg to the minus."), say("Still dark: try another LED."))
    return [PackFinding("led_turned", "likely", say("The {name} the wrong way round?", name=record.load.name), text, tries)]


def _ammeter(record: PackRecord) -> list[PackFinding]:
    """No current shown though the load has light or volts."""
    has_v = record.load_v or 0.0
    if record.load is None or record.load_a is None or abs(record.load_a) > NOTHING_A or record.blocked:
        return []
    if not record.lit and has_v <= NOTHING_V:
        return []
    has = say("is lit") if record.lit else say("has {has_v}", has_v=volts(has_v))
    text = say("The {name} {has}, so a current flows; the meter does not see it.", name=record.load.name, has=has)
    tries = (
        say("Red lead in the mA socket, dial on DC milliamperes, the meter in the loop and not across it."),
        say("Still nothing: the meter’s fuse. Ask for another meter."),
        say("Afterwards the red lead goes back into V."),
    )
    return [PackFinding("ammeter", "likely", say("The ammeter shows nothing"), text, tries)]


def _which(record: PackRecord) -> list[PackFinding]:
    """Volts enough, no light, nothing measured at the load: the one measurement that tells why."""
    if record.load is None or record.open_v is None or record.load_v is not None or record.lit is not False:
        return []
    if record.open_v <= record.least_v:
        return []
    name = record.load.name
    tell = say(
        "Leave the {name} on and measure across it. All the volts: it is the wrong way round, or "
        "broken. None: a clip or a wire makes no contact. Some: the current is not enough.",
        name=name,
    )
    text = say("{open_v} with nothing joined is enough. One measurement tells why.", open_v=volts(record.open_v))
    return [
        PackFinding("measure_across", "possible", say("Enough volts, and the {name} does nothing", name=name), text, (tell,))
    ]
