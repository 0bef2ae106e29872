"""What a group can do at one press about a remark: the correction that it names, which the group sends or does not.

Nothing is changed by itself: a repair is a new reading with the old one's number put right, and the reason.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from galvanic.bench.readings import UNITS, parse, parse_current
from galvanic.errors import UnreadableReading
from galvanic.words import MINUS, mark, say

Unit = Literal["V", "mV"]
Kind = Literal["millivolts", "leads", "tenth", "hundredth", "tenfold", "cell"]
SMALLER = {"V": "mV", "A": "mA", "mA": "µA"}
NAMES = {"mV": mark("millivolts"), "mA": mark("milliamperes"), "µA": mark("microamperes")}
WORDS: Mapping[Kind, tuple[str, str]] = {
    "millivolts": (mark("It was millivolts"), mark("wrong unit")),
    "leads": (mark("The leads were swapped"), mark("leads were swapped")),
    "tenth": (mark("A decimal point was lost: {text} {unit}"), mark("decimal point lost")),
    "hundredth": (mark("A decimal point was lost: {text} {unit}"), mark("decimal point lost")),
    "tenfold": (mark("The point slipped: {text} {unit}"), mark("point slipped")),
    "cell": (mark("That was cell {position}, {short}"), mark("belongs to another cell")),
}
POWERS: Mapping[Kind, int] = {"tenth": -1, "hundredth": -2, "tenfold": 1}


@dataclass(frozen=True, slots=True)
class Repair:
    """A correction at one press: what the button says, the reason that goes along, the text and unit of the new reading;
    `turned`: with red and black the other way round."""

    kind: Kind
    label: str
    reason: str
    text: str
    unit: Unit
    turned: bool = False


def repair(kind: Kind, text: str, unit: str) -> Repair | None:
    """The repair of a reading as it was typed, with the digits it had; None where there is nothing to put right so."""
    try:
        read = parse(text, unit)
    except UnreadableReading:
        return None
    if kind == "millivolts" and read.unit == "mV":
        return None
    size, power = float(UNITS[read.unit]), POWERS.get(kind, 0)
    decimals = max(0, round(-math.log10(read.resolution_v / size)) - power)
    plain = f"{read.volts_v / size * 10.0**power:.{decimals}f}"
    now: Unit = "mV" if kind == "millivolts" or read.unit == "mV" else "V"
    label, reason = WORDS[kind]
    return Repair(kind, say(label, text=plain, unit=now), say(reason), plain, now, kind == "leads")


def to_other_cell(text: str, unit: Unit, position: int, short: str) -> Repair:
    """The number as it was typed, at the cell of the group's list where it was read."""
    label, reason = WORDS["cell"]
    return Repair("cell", say(label, position=position, short=short), say(reason), text, unit)


@dataclass(frozen=True, slots=True)
class NumberRepair:
    """The same for a number of a pack, which has no red and black of its own."""

    label: str
    reason: str
    text: str
    unit: str


def number_repair(code: str, text: str, unit: str, current: bool) -> NumberRepair | None:
    """What puts a pack's number right by the code of its verdict (`load_standing`); None where nothing does at a press."""
    try:
        unit = parse_current(text, unit).unit if current else parse(text, unit).unit
    except UnreadableReading:
        return None
    digits = "".join(sign for sign in text if sign.isdigit() or sign in ".,")
    if code in ("millivolts", "thousandth") and unit in SMALLER:
        less = SMALLER[unit]
        negative = "−" if text.strip()[:1] in ("-", MINUS) else ""
        return NumberRepair(say("It was {unit}", unit=say(NAMES[less])), say("wrong unit"), f"{negative}{digits}", less)
    if code in ("tenth", "hundredth") and not current:
        found = repair("tenth" if code == "tenth" else "hundredth", text, unit)
        return None if found is None else NumberRepair(found.label, found.reason, found.text, found.unit)
    if code == "reversed":
        label, reason = WORDS["leads"]
        return NumberRepair(say(label), say(reason), digits, unit)
    return None
