"""The meter check at the start: leads together show the offset and the last digit, a fresh dry cell shows that all is sound.

Limits are common practice, no source; the dry cell's 1.5 to 1.6 V is any battery's label.
"""

from __future__ import annotations

from dataclasses import dataclass

from galvanic.bench.readings import ParsedReading
from galvanic.notes import Tone, volts
from galvanic.words import say

SMALL_OFFSET_V = 0.005
ODD_OFFSET_V, LARGE_OFFSET_V = 0.03, 0.15
DRY_MILLIVOLTS = (1200.0, 1800.0)  # what a dry cell reads in millivolts
COARSE_V = 0.05
LARGE_OFFSET, IN_MILLIVOLTS = "large_offset", "dry_millivolts"
DRY_LOW_V, DRY_HIGH_V = 1.45, 1.68


@dataclass(frozen=True, slots=True)
class MeterVerdict:
    """What a check found: offset and step of the last digit in V, a code, a tone, a sentence, and what to do."""

    offset_v: float
    resolution_v: float
    code: str
    tone: Tone
    text: str
    do: str

    @property
    def taken_off_v(self) -> float:
        """What is taken off the readings from now on, V: nothing where it cannot be an offset, or the unit is wrong."""
        return 0.0 if self.code in (LARGE_OFFSET, IN_MILLIVOLTS) else self.offset_v


def judge(leads: ParsedReading, dry: ParsedReading) -> MeterVerdict:
    """The verdict on a meter from its reading with the leads together and its reading of a fresh dry cell."""
    offset = leads.volts_v
    cell_v = abs(dry.volts_v) - (offset if dry.volts_v >= 0 else -offset)
    step = max(leads.resolution_v, dry.resolution_v)

    def verdict(code: str, tone: Tone, text: str, do: str) -> MeterVerdict:
        return MeterVerdict(offset, step, code, tone, text, do)

    if DRY_MILLIVOLTS[0] <= abs(dry.volts_v) <= DRY_MILLIVOLTS[1]:
        return verdict(
            IN_MILLIVOLTS,
            "caution",
            say(
                "{dry} is what a dry cell reads in millivolts: {volts_v}.",
                dry=volts(dry.volts_v, 0),
                volts_v=volts(dry.volts_v / 1e3),
            ),
            say("Check again and type both numbers in volts, as {volts_v}.", volts_v=volts(abs(dry.volts_v) / 1e3)),
        )
    if abs(offset) > LARGE_OFFSET_V:
        return verdict(
            LARGE_OFFSET,
            "wrong",
            say("{offset} with the leads together is too much for an offset.", offset=volts(offset, 3, signed=True)),
            say("Do the two leads really touch, metal on metal? Is the meter on DC volts? Then check again."),
        )
    if step > COARSE_V:
        return verdict(
            "coarse", "caution", say("The last digit is {step:g} V: too coarse for these cells.", step=step),
            say("Turn the meter to the 2 V range, if it has one, and check again."),
        )  # fmt: skip
    if dry.volts_v < 0.0 and cell_v >= DRY_LOW_V:
        return verdict(
            "dry_cell_turned",
            "caution",
            say(
                "{volts_v}: red was on the flat end of the dry cell, or the leads sit in each other’s sockets.",
                volts_v=volts(dry.volts_v),
            ),
            say(
                "Put black in COM and red in V, red on the cell’s knob, and check again: a minus sign must mean the plates."
            ),
        )
    if cell_v < DRY_LOW_V:
        return verdict(
            "low_dry_cell",
            "caution",
            say("The dry cell shows {cell_v}; a fresh one shows 1.5 to 1.6 V.", cell_v=volts(cell_v)),
            say("Try another dry cell. If that is low as well, change the battery in the meter or the leads."),
        )
    if cell_v > DRY_HIGH_V:
        return verdict(
            "high_dry_cell",
            "caution",
            say("The dry cell shows {cell_v}, more than one fresh cell gives.", cell_v=volts(cell_v)),
            say("Is it one cell of 1.5 V? If so, the meter’s own battery may be weak: change it and check again."),
        )
    if abs(offset) > ODD_OFFSET_V:
        return verdict(
            "odd_offset",
            "caution",
            say("{offset} with the leads together is much for a meter.", offset=volts(offset, 3, signed=True)),
            say(
                "Hold the leads together once more, metal on metal, and check again. What the latest check shows is taken "
                "off the readings; the numbers you type are kept as they are."
            ),
        )
    if abs(offset) > SMALL_OFFSET_V:
        return verdict(
            "offset", "good", say("Sound, with an offset of {offset}.", offset=volts(offset, 3, signed=True)),
            say("It is taken off the readings from now on; the numbers you type are kept as they are."),
        )  # fmt: skip
    return verdict("sound", "good", say("Sound: the meter and its leads can be trusted."), say("Go on with your cells."))
