"""What a group can do at one press about a remark: the correction that it names, which the group sends or does not.

Nothing is changed by itself: a repair is a new reading with the old one's number put right, and the reason.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from galvanic.bench.readings import UNITS, parse
from galvanic.errors import UnreadableReading
from galvanic.words import mark, say

Unit = Literal["V", "mV"]
Kind = Literal["millivolts", "leads", "tenth", "hundredth", "tenfold"]
WORDS: Mapping[Kind, tuple[str, str]] = {
    "millivolts": (mark("It was millivolts"), mark("wrong unit")),
    "leads": (mark("The leads were swapped"), mark("leads were swapped")),
    "tenth": (mark("A decimal point was lost: {text} {unit}"), mark("decimal point lost")),
    "hundredth": (mark("A decimal point was lost: {text} {unit}"), mark("decimal point lost")),
    "tenfold": (mark("The point slipped: {text} {unit}"), mark("point slipped")),
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
