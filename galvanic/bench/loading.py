"""A cell under load at the bench: what a short circuit and a known resistor say about its inside.

With the open voltage E: a short-circuit current I gives an inner resistance E/I, a voltage V across a known resistor R gives
R(E/V − 1) (Ohm's law, any physics text). A simple cell is no ideal source: its plates polarise, so the two need not agree,
and a resistance is stated for its load. Limits of time are common practice, no source: long loads change the plates.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from galvanic.errors import OutOfRange, within
from galvanic.words import mark, number, say

SHORT_LIMIT_S = 3
LOAD_LIMIT_S = 10
LEAST_OHM, MOST_OHM = 0.1, 1e7
NO_OHM_RANGE = mark(
    "Never use the ohm range across a cell: the meter pushes its own current through it, so the number means nothing and "
    "the meter can be damaged. The inner resistance comes from the voltage with and without a known resistor."
)


def how_short() -> str:
    """How a short-circuit current is measured, in words."""
    return say(
        "Meter on DC milliamps, red lead in the mA socket. Hold it on for {short_limit_s} s at most, "
        "read, take it off. Then put the red lead back into V: left in mA, the meter shorts the next "
        "cell.",
        short_limit_s=SHORT_LIMIT_S,
    )


MOST_CELL_A = 1.0  # a short circuit of one bench cell gives thousandths to tenths of an ampere (common practice, no source)


@dataclass(frozen=True, slots=True)
class Inner:
    """Inner resistance in ohm with its standard uncertainty, and how it was found (short or load)."""

    ohm: float
    u_ohm: float
    by: str


def by_short(open_v: float, u_open_v: float, short_a: float, u_short_a: float) -> Inner:
    """From the open voltage and the short-circuit current. Raises OutOfRange where one of them is zero."""
    if not (abs(open_v) > 0.0 and abs(short_a) > 0.0):
        raise OutOfRange(say("Without a voltage or a current there is no inner resistance to find."))
    ohm = abs(open_v / short_a)
    return Inner(ohm, ohm * math.hypot(u_open_v / open_v, u_short_a / short_a), "short")


def by_load(open_v: float, u_open_v: float, load_v: float, u_load_v: float, load_ohm: float) -> Inner:
    """From the voltages without and with a known resistor.

    Raises OutOfRange where the loaded voltage is zero, of the other sign, or not below the open one.
    """
    within(
        "load_ohm",
        load_ohm,
        LEAST_OHM,
        MOST_OHM,
        say("A load lies between {least_ohm:g} and {most_ohm:.0f} Ω.", least_ohm=LEAST_OHM, most_ohm=MOST_OHM),
    )
    if not 0.0 < load_v / open_v < 1.0 if open_v else True:
        raise OutOfRange(say("A cell gives less under a load than without one, with the same sign. Measure both again."))
    ratio = open_v / load_v
    u_ohm = load_ohm * abs(ratio) * math.hypot(u_open_v / open_v, u_load_v / load_v)
    return Inner(load_ohm * (ratio - 1.0), u_ohm, "load")


def remark(kind: str, value: float, open_v: float | None) -> str:
    """What is odd about a measurement under load (`short`: A, `load`: V), in words; empty where nothing is.

    `open_v`: the cell's voltage without a load as the group has it, V.
    """
    if kind == "short":
        if abs(value) > MOST_CELL_A:
            return say(
                "{value:.3g}\u202fA is far more than a cell like this gives. Was it milliamperes? Is there a "
                "battery or a supply in the circuit? Look at the display and the socket, and measure again.",
                value=value,
            )
        return ""
    if open_v is None or open_v == 0.0:
        return ""
    if value / open_v > 1.0:
        return say(
            "{value:.3g}\u202fV across the resistor is more than the {open_v:.3g}\u202fV without it. A load only "
            "takes: is the resistor really across the two plates? Measure both again.",
            value=abs(value),
            open_v=abs(open_v),
        )
    if value * open_v < 0.0:
        return say("The sign is the other way round than without the resistor: are red and black where they were?")
    return ""


def in_words(inner: Inner) -> str:
    """The resistance for reading, two digits."""
    digits = max(0, 1 - math.floor(math.log10(inner.ohm))) if inner.ohm > 0.0 else 0
    rounded = round(inner.ohm, 1 - math.floor(math.log10(inner.ohm))) if inner.ohm > 0.0 else 0.0
    how = say("from the short-circuit current") if inner.by == "short" else say("under this resistor")
    return say("About {rounded}\u202fΩ inside, {how}.", rounded=number(rounded, f".{digits}f"), how=how)


def how_to_load(load_ohm: float) -> str:
    """What a group does to measure the voltage across a resistor (Ω)."""
    return say(
        "Hang the {load_ohm:g}\u202fΩ resistor across the two clips, read within {load_limit_s} s, take it off.",
        load_ohm=load_ohm,
        load_limit_s=LOAD_LIMIT_S,
    )
