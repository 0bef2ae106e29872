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


LEADS = PackFinding(
    "leads",
    "likely",
    "The meter’s leads the other way round?",
    "All sums have the opposite sign of the cells.",
    ("Black lead to the minus of cell 1, red lead to the plus of the last cell.", "Measure again."),
)


def pack_findings(record: PackRecord) -> list[PackFinding]:
    """What the numbers say; empty where all is as it should be. Steps that are off are mended first: what the load shows
    follows from them."""
    steps = _steps(record)
    if steps:
        turned_leads = _steps(replace(record, sums_v=tuple(None if v is None else -v for v in record.sums_v)))
        return steps if turned_leads else [LEADS]
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
            "Look at the dial and the socket: was it milliamperes?",
            "Is a battery or a supply in the row? Only cells built here belong there.",
        )
        text = f"{abs(record.load_a):.3g}\u202fA is far more than a pack like this gives."
        return [PackFinding("amperes", "likely", "Amperes, or milliamperes?", text, tries)]
    row = None if record.load is None else record.load.row
    if row is None or row.by_day_a is None or record.lit is not False or abs(record.load_a) < row.by_day_a.high:
        return []
    text = f"{1e3 * abs(record.load_a):.2g}\u202fmA flows and the {row.name} is dark: the current goes past it."
    tries = ("Is the meter across the load instead of in the loop? Then it shorts the pack.", "Do the two legs touch?")
    return [PackFinding("past_the_load", "likely", "A current, and no light", text, tries)]


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
    gives = f"Cell {cell} alone gives {volts(alone)}, joined it adds {volts(added, signed=True)}."
    if abs(alone) > STEP_V and added * alone < 0.0 and abs(added) > TURNED * abs(alone):
        follow = f"Follow the wire: the plus of cell {k} goes to the minus of cell {cell}." if k else "Its minus is the end."
        tries = (follow, f"Change the two clips of cell {cell}, measure the whole again.")
        title = f"Cell {cell} the wrong way round?"
        return PackFinding("turned", "likely", title, f"{gives} It works against the others.", tries, cell)
    if short < 0.0:
        tries = ("Measure the cell alone again.", "Is a battery, or a cell of another group, in the row?")
        title = f"More than cell {cell} has"
        text = f"{gives} A sum cannot be more than its cells."
        return PackFinding("more_than_its_cell", "possible", title, text, tries, cell)
    return _taken(record, k, f"{gives} {volts(short)} is missing.", short > WHOLE * alone)


def _taken(record: PackRecord, k: int, text: str, whole: bool) -> PackFinding:
    """A step that adds too little: liquid between two cups, or plates that touch."""
    cell, under = k + 1, _at(record.under_v, k)
    if k == 0 or (under is not None and abs(under) < NOTHING_V):
        title = f"Do the plates of cell {cell} touch?"
    elif whole:
        title = f"Cell {cell} adds almost nothing: do its plates touch, or does liquid join the cups?"
    else:
        title = f"Cell {cell} adds too little: liquid between cup {k} and cup {cell}?"
    tell = (
        f"Leave all joined, measure across cell {cell}, then across cell {k}: one near zero means that its plates touch; "
        "both lower than alone means that liquid joins the cups."
    )
    dry = "Dry the table and the outside of the cups, lift wires and clips out of the liquid."
    tries = (*((tell,) if k else ()), dry, "Measure the whole again.")
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
    halve = (
        "With the load on, measure across the first half of the cells with their wires, then across the second: the half "
        "with less than its cells holds the bad joint. Halve it again."
    )
    text = f"The cells have {volts(has_v)}, the {record.load.name} gets {volts(load_v)}: the rest is lost on the way."
    tries = (halve, "Squeeze or scrape that clip; wet a dry plate.")
    return [PackFinding("loose", "likely" if whole else "possible", "A clip or a wire makes no contact", text, tries)]


def _sagging(record: PackRecord) -> list[PackFinding]:
    """Cells that give far less than the others under the same current."""
    known = [(k, v) for k, v in enumerate(record.under_v) if v is not None]
    out = []
    for k, value in known if len(known) > 2 else []:
        others, alone = median(v for j, v in known if j != k), _at(record.alone_v, k)
        if others < NOTHING_V or value > SAGS * others or (alone is not None and alone < STEP_V):
            continue
        driven = " The others drive it backwards: it takes power, warms and makes gas." if value < -NOTHING_V else ""
        text = f"In the pack it has {volts(value)} left, the others about {volts(others)}.{driven}"
        tries = (
            "Look at its plates: deep enough in, rubbed, not crusted?",
            "Fresh liquid and a rubbed plate, then measure it under the load again.",
        )
        out.append(PackFinding("worn", "likely", f"Cell {k + 1} gives way under the load", text, tries, k + 1))
    return out


def _blocks(record: PackRecord) -> list[PackFinding]:
    """An LED that takes nothing though it has volts enough."""
    if record.load is None or record.open_v is None or not record.blocked or record.open_v < record.least_v + ENOUGH_V:
        return []
    text = f"All {volts(record.open_v)} stand across it and nothing flows: it blocks."
    tries = ("Long leg to the plus of the pack, short leg to the minus.", "Still dark: try another LED.")
    return [PackFinding("led_turned", "likely", f"The {record.load.name} the wrong way round?", text, tries)]


def _ammeter(record: PackRecord) -> list[PackFinding]:
    """No current shown though the load has light or volts."""
    has_v = record.load_v or 0.0
    if record.load is None or record.load_a is None or abs(record.load_a) > NOTHING_A or record.blocked:
        return []
    if not record.lit and has_v <= NOTHING_V:
        return []
    has = "is lit" if record.lit else f"has {volts(has_v)}"
    text = f"The {record.load.name} {has}, so a current flows; the meter does not see it."
    tries = (
        "Red lead in the mA socket, dial on DC milliamperes, the meter in the loop and not across it.",
        "Still nothing: the meter’s fuse. Ask for another meter.",
        "Afterwards the red lead goes back into V.",
    )
    return [PackFinding("ammeter", "likely", "The ammeter shows nothing", text, tries)]


def _which(record: PackRecord) -> list[PackFinding]:
    """Volts enough, no light, nothing measured at the load: the one measurement that tells why."""
    if record.load is None or record.open_v is None or record.load_v is not None or record.lit is not False:
        return []
    if record.open_v <= record.least_v:
        return []
    name = record.load.name
    tell = (
        f"Leave the {name} on and measure across it. All the volts: it is the wrong way round, or broken. None: a clip or a "
        "wire makes no contact. Some: the current is not enough."
    )
    text = f"{volts(record.open_v)} with nothing joined is enough. One measurement tells why."
    return [PackFinding("measure_across", "possible", f"Enough volts, and the {name} does nothing", text, (tell,))]
