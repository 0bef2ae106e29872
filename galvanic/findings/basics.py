"""Nine short pieces on what everything else takes for granted, each with a number of the class's own where there is one.

Definitions of volt and ampere: SI Brochure (BIPM 2019), in plain words. The LED's volts are those of its row in loads.toml.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from galvanic.chemistry.loop import METER_OHM, current
from galvanic.findings.compare import ElectrolyteResult
from galvanic.notes import volts
from galvanic.reference.catalogue import electrodes
from galvanic.reference.further_tables import loads
from galvanic.words import mark, say, say_n

AA_V, LED = 1.5, "led-red"
LEAST_V = 0.05  # of an example that says something


@dataclass(frozen=True, slots=True)
class Own:
    """A cell of the class's own: how it is written, its two plates as they were found, its mean and the table's, V, and the
    plate that its ladder is held at (empty: none)."""

    short: str
    negative: str
    positive: str
    volts_v: float
    table_v: float | None
    held: str


@dataclass(frozen=True, slots=True)
class Basic:
    """One piece: the sentence to begin with, what more there is to say, and a number of one's own (empty: none)."""

    key: str
    title: str
    sentence: str
    more: str
    own: str


PIECES: Mapping[str, tuple[str, str, str]] = {
    "volt": (
        mark("What is a volt?"),
        mark("A volt says how hard each bit of charge is pushed from one place to another."),
        mark("So it takes two places: a plate by itself has no volts. Volts are there even when nothing flows."),
    ),
    "ampere": (
        mark("What is an ampere?"),
        mark("An ampere says how much charge goes by in a second."),
        mark("Volts push, amperes flow. A cell can push hard and still let little through, if its inside is in the way."),
    ),
    "add": (
        mark("Why do the volts of one fruit not add?"),
        mark("Volts add from cup to cup; all plates in one cup or fruit stand in one liquid, so they are one cell."),
        mark(
            "More pairs in one cup give more current at the same volts. For more volts, join plus to minus of another cup."
        ),
    ),
    "liquid": (
        mark("What is the liquid for?"),
        mark("The liquid carries charge inside the cell, as ions, and so closes the ring; electrons stay in the metal."),
        mark("It also brings what the plus plate takes up: acid, oxygen, or ions of a metal."),
    ),
    "anode": (
        mark("Anode and cathode: which is which?"),
        mark("At the anode electrons are given off, at the cathode they are taken up."),
        mark("A way to remember: anode, away they go. In a cell that drives something the anode is the minus."),
    ),
    "led": (
        mark("What does an LED need?"),
        mark("An LED lets nothing through until it has its volts, and then one way only: the long leg is plus."),
        mark("It needs a little current too. Volts alone, from cells that give hardly any current, leave it dark."),
    ),
    "voltmeter": (
        mark("Why does a voltmeter change nothing?"),
        mark("A voltmeter lets hardly any current through, so it shows how hard a cell pushes and takes nothing from it."),
        mark("An ammeter is the opposite: it lets everything through. Across a cell alone it is a short circuit."),
    ),
    "potential": (
        mark("What is a standard potential?"),
        mark("Only differences between plates can be measured, so one was called zero and the others measured against it."),
        mark(
            "The list of those differences is the table. It holds for a metal in a solution of its own ions, not for juice."
        ),
    ),
    "held": (
        mark("Why is one plate held?"),
        mark("Your ladder has no zero of its own, so one plate is put where the table has it and the others hang on it."),
        mark("Hold another plate, and all move together: no distance between two plates changes."),
    ),
}


def basics(own: Own | None = None) -> list[Basic]:
    """All pieces, with numbers of the class's own cell if there is one."""
    return [
        Basic(key, say(title), say(sentence), say(more), _OWN[key](own) if own and key in _OWN else "")
        for key, (title, sentence, more) in PIECES.items()
    ]


def example(results: Sequence[ElectrolyteResult]) -> Own | None:
    """The cell with the most readings that shows something, of a class or a group; None without one."""
    found = [(one, result) for result in results for one in result.cells if abs(one.mean_v) >= LEAST_V]
    if not found:
        return None
    one, result = max(found, key=lambda row: (row[0].n, row[0].mean_v))
    low, high = (one.cell.negative, one.cell.positive) if one.mean_v > 0.0 else (one.cell.positive, one.cell.negative)
    names = electrodes()
    held = names[result.anchor].name if result.anchor else ""
    return Own(one.cell.short, names[low].name, names[high].name, abs(one.mean_v), one.table_v, held)


def _volt(own: Own) -> str:
    return say(
        "Your {cell} pushes with {v}, a fresh AA cell with about {aa}.",
        cell=own.short,
        v=volts(own.volts_v, 2),
        aa=volts(AA_V, 1),
    )


def _add(own: Own) -> str:
    return say(
        "Two cups of your {cell} in a row push with {twice}; two pairs in one cup with {v}.",
        cell=own.short, twice=volts(2.0 * round(own.volts_v, 2), 2), v=volts(own.volts_v, 2),  # twice what is printed
    )  # fmt: skip


def _anode(own: Own) -> str:
    return say(
        "In your {cell} the {low} is the anode and the minus, the {high} the cathode and the plus.",
        cell=own.short, low=own.negative, high=own.positive,
    )  # fmt: skip


def _led(own: Own) -> str:
    row = loads()[LED]
    least_v = row.voltage_v.low
    return say_n(
        "A red LED shows from about {least}: {n} cup like your {cell} at least.",
        "A red LED shows from about {least}: {n} cups like your {cell} in a row at least.",
        math.ceil(least_v / own.volts_v), least=volts(least_v, 1), cell=own.short,
    )  # fmt: skip


def _voltmeter(own: Own) -> str:
    return say(
        "Ten million ohms across your {cell} let {amps} through; a red LED needs {least} to show at all.",
        cell=own.short, amps=current(own.volts_v / METER_OHM), least=current(loads()[LED].current_a.low),
    )  # fmt: skip


def _potential(own: Own) -> str:
    if own.table_v is None:
        return ""
    return say(
        "For {cell} the table's difference is {table}; you read {v}.",
        cell=own.short,
        table=volts(abs(own.table_v), 2),
        v=volts(own.volts_v, 2),
    )


def _held(own: Own) -> str:
    return say("In your ladder it is {plate}.", plate=own.held) if own.held else ""


_OWN: Mapping[str, Callable[[Own], str]] = {
    "volt": _volt,
    "add": _add,
    "anode": _anode,
    "led": _led,
    "voltmeter": _voltmeter,
    "potential": _potential,
    "held": _held,
}
