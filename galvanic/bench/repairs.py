"""What a group can do at one press about a remark: the correction that it names, which the group sends or does not.

Nothing is changed by itself: a repair is a new reading with the old one's number put right, and the reason.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal, InvalidOperation
from typing import Literal

from galvanic.words import mark, say

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
    unit: str
    turned: bool = False


def repair(kind: Kind, text: str, unit: str) -> Repair | None:
    """The repair of a reading as it was typed; None where its text is no plain number."""
    plain = text.strip().replace(",", ".").replace("\u2212", "-")
    try:
        number = Decimal(plain)
    except InvalidOperation:
        return None
    if kind == "millivolts":
        unit = "mV"
    elif kind in POWERS:
        plain = f"{number.scaleb(POWERS[kind]):f}"
    label, reason = WORDS[kind]
    return Repair(kind, say(label, text=plain, unit=unit), say(reason), plain, unit, kind == "leads")
