"""The ring of a cell, for drawing: what goes round and what happens at each plate, open or joined by meter, load or wire.

Every arrow is the model's: its share of the current a minute after joining, bubbles where it gives gas. With nothing joined
no electron goes through the wire, and what an acid does to the negative plate by itself goes on.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from galvanic.cells import Cell
from galvanic.chemistry.plate_work import HYDROGEN, OWN, AtPlates, Work, under
from galvanic.chemistry.polarisation import MINUTE_S, LoadedCell
from galvanic.level import Level
from galvanic.notes import volts
from galvanic.reference.catalogue import electrodes, electrolytes, kept
from galvanic.words import mark, number, say

METER_OHM, LOAD_OHM = 1e7, 470.0
STATES: Mapping[str, float | None] = {"open": None, "meter": METER_OHM, "load": LOAD_OHM, "wire": 0.0}
LEAST_SHARE = 0.01
JOINED = {
    "open": mark("nothing joined"),
    "meter": mark("through a voltmeter"),
    "load": mark("through {ohm} Ω"),
    "wire": mark("by a wire"),
}
PLAIN: Mapping[str, str] = {
    "": mark("metal leaves"),
    "liquid": mark("the liquid gives"),
    HYDROGEN: mark("gas forms"),
    "oxygen": mark("oxygen from the air"),
    OWN: mark("metal forms"),
    "solids": mark("its skin turns to metal"),
    "peroxide": mark("oxygen, half-way"),
    "groups": mark("groups on the carbon"),
    "plating": mark("the other metal forms"),
}
ION = re.compile(r"([A-Z][A-Za-z()₀-₉]*[⁰-⁹²³¹]*[⁺⁻])")
THOUSAND, MILLI_A = 1e3, 1e-3


@dataclass(frozen=True, slots=True)
class Arrow:
    """One thing that happens at a plate, in a few words; its share, 0 to 1; whether gas rises; `part` as in `plate_work`."""

    words: str
    share: float
    gas: bool
    part: str


@dataclass(frozen=True, slots=True)
class Loop:
    """The ring in one state: what joins the plates (Ω, None: nothing), volts between them and current, a minute on; what the
    negative plate gives and the positive one takes; all of it in words."""

    state: str
    ohm: float | None
    volts_v: float
    current_a: float
    negative: str
    positive: str
    gives: tuple[Arrow, ...]
    takes: tuple[Arrow, ...]
    told: str

    @property
    def flows(self) -> bool:
        """Whether electrons go round."""
        return self.ohm is not None


@kept(64)
def loops(cell: Cell, level: Level = Level.UPPER) -> tuple[Loop, ...]:
    """The ring of a cell in all its states."""
    loaded = LoadedCell.of(cell)
    later = loaded.after(MINUTE_S)
    return tuple(_loop(cell, loaded, later, state, level) for state in STATES)


def _loop(cell: Cell, loaded: LoadedCell, later: LoadedCell, state: str, level: Level) -> Loop:
    ohm, rest_v = STATES[state], loaded.rest()
    work = under(cell, loaded, later, ohm)
    volts_v, current_a = abs(rest_v[1] - rest_v[0]), 0.0
    if ohm is not None:
        met = later.at_load(ohm, rest_v)
        volts_v, current_a = abs(met.volts_v), abs(met.current_a)
    gives = tuple(_gives(row, level) for row in work.at_negative)
    takes = () if ohm is None else tuple(_takes(row, level) for row in work.at_positive if row.share >= LEAST_SHARE)
    told = _told(cell, state, ohm, volts_v, current_a, work, gives, takes)
    return Loop(state, ohm, volts_v, current_a, work.negative, work.positive, gives, takes, told)


def _ion(equation: str, side: int) -> str:
    """The first ion on a side of an equation that is neither acid nor electron; empty where there is none."""
    found = ION.findall(equation.split("→")[side])
    return next((one for one in found if one not in {"H⁺", "OH⁻", "e⁻"}), "")


def _gives(row: Work, level: Level) -> Arrow:
    words = say(PLAIN[row.part])
    if level.has_equations:
        if row.part == "" and (ion := _ion(row.equation, 1)):
            words = say("{ion} leaves", ion=ion)
        elif row.part == HYDROGEN:
            words = say("gas here too: {what}", what=_acid(row))
    return Arrow(words, row.share, row.part == HYDROGEN, row.part)


def _takes(row: Work, level: Level) -> Arrow:
    words = say(PLAIN[row.part])
    if level.has_equations:
        if row.part == HYDROGEN:
            words = say("{what} takes electrons: gas", what=_acid(row))
        elif row.part == "oxygen":
            words = say("O₂ from the air")
        elif row.part in {OWN, "plating"} and (ion := _ion(row.equation, 0)):
            words = say("{ion} becomes metal", ion=ion)
    return Arrow(words, row.share, row.part == HYDROGEN, row.part)


def _acid(row: Work) -> str:
    return "H⁺" if "H⁺" in row.equation.split("→")[0] else say("water")


def current(amps: float) -> str:
    """A current for reading: milliamperes, or microamperes where it is little."""
    if amps < MILLI_A / 10.0:
        return f"{number(amps * 1e6, '.2g')}\u202fµA"
    return f"{number(amps * THOUSAND, '.2g')}\u202fmA"


def _told(
    cell: Cell,
    state: str,
    ohm: float | None,
    volts_v: float,
    current_a: float,
    work: AtPlates,
    gives: tuple[Arrow, ...],
    takes: tuple[Arrow, ...],
) -> str:
    """The drawing for somebody who hears it."""
    low, high = electrodes()[work.negative].name, electrodes()[work.positive].name
    joined = say(JOINED[state], ohm=number(ohm or 0.0, "g"))
    head = f"{low} | {electrolytes()[cell.electrolyte].name} | {high}, {joined}: {volts(volts_v, 2)}"
    if ohm is None:
        parts = [f"{head}.", say("No electrons go through the wire, and no ions drift.")]
        if any(one.gas for one in gives):
            parts.append(say("At the {name} the liquid dissolves metal and gas rises all the same.", name=low))
        return " ".join(parts)
    return " ".join(
        [
            f"{head}, {current(current_a)}.",
            say("Electrons go through the wire from {low} to {high}.", low=low, high=high),
            say("At the {name}: {what}.", name=low, what=_listed(gives[:1])),
            *([say("Past the wire: {what}.", what=_listed(gives[1:]))] if gives[1:] else []),
            say("At the {name}: {what}.", name=high, what=_listed(takes)) if takes else "",
            say("In the liquid positive ions drift to the {high}, negative ones to the {low}.", low=low, high=high),
        ]
    ).replace("  ", " ")


def _listed(arrows: tuple[Arrow, ...]) -> str:
    if len(arrows) == 1:
        return arrows[0].words
    return "; ".join(say("{what}, {n} of 100", what=one.words, n=round(100.0 * one.share)) for one in arrows)
