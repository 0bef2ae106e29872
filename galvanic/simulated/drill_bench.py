"""A bench with something the matter: a cell, clips, leads and a meter as a circuit, and what the meter then shows.

The cell gives its EMF behind an inner resistance; liquid over the clips is a resistance across it, a bad clip one in series;
the meter draws what its input resistance asks for. A film holds the volts down until it is rubbed off, a cell that has not
settled lacks a part that goes away with time. Sizes are common practice, no source; the cell's own volts and resistance are
the core's.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

from galvanic.notes import MINUS, THIN
from galvanic.words import number, say

Dial = Literal["volts", "ohms"]
Kind = Literal["right", "nothing", "minus", "less", "more", "no_number", "climbs", "jumps"]

METER_OHM = 1e7  # input of a cheap digital meter on volts
SHUNT_OHM = 10.0  # between COM and the mA socket
DRY_CELL_V, DRY_CELL_OHM = 1.56, 0.3
NEAR_V, NOTHING_V = 0.04, 0.06
WAIT_S, SETTLES_S = 60.0, 45.0
FLAT_GAIN = 2.4  # a digital meter whose reference sags with its battery reads too much: common practice, no source


@dataclass(frozen=True, slots=True)
class FaultyBench:
    """A cell at a meter. Volts and ohms; `missing_v` is what has not settled yet, `film_v` what a film takes, `other_v` what
    other sources in the circuit add; `clips_ohm`: two values are a contact that comes and goes."""

    emf_v: float
    inner_ohm: float
    film_v: float = 0.0
    missing_v: float = 0.0
    other_v: float = 0.0
    bridge_ohm: float = math.inf
    clips_ohm: tuple[float, float] = (0.0, 0.0)
    turned: bool = False
    dial: Dial = "volts"
    ma_socket: bool = False
    flat: bool = False

    def at_meter_v(self, nth: int = 0) -> float:
        """Volts between the meter's sockets, red minus black."""
        source = self.emf_v - self.film_v - self.missing_v + self.other_v
        across = SHUNT_OHM if self.ma_socket else METER_OHM
        series = self.clips_ohm[nth % 2]
        load = across + series
        outer = load if math.isinf(self.bridge_ohm) else 1.0 / (1.0 / load + 1.0 / self.bridge_ohm)
        if math.isinf(series):
            return 0.0
        at_clips = source * outer / (self.inner_ohm + outer)
        return (-1.0 if self.turned else 1.0) * at_clips * across / load

    def shows(self, nth: int = 0) -> float | None:
        """The display's number in V; None where it shows none that is a voltage."""
        if self.dial == "ohms":
            return None
        if self.ma_socket:  # the display looks at the empty V socket, while the cell drives what it can through the shunt
            return 0.0
        return self.at_meter_v(nth) * (FLAT_GAIN if self.flat else 1.0)

    def dry_cell(self) -> FaultyBench:
        """The same meter and leads on a fresh dry cell."""
        return replace(
            self, emf_v=DRY_CELL_V, inner_ohm=DRY_CELL_OHM, film_v=0.0, missing_v=0.0, other_v=0.0, bridge_ohm=math.inf,
            clips_ohm=(0.0, 0.0), turned=False,
        )  # fmt: skip

    def later(self, seconds: float = WAIT_S) -> FaultyBench:
        """The same bench after a while."""
        return replace(self, missing_v=self.missing_v * math.exp(-seconds / SETTLES_S))


def text_of(volts_v: float | None, bench: FaultyBench, decimals: int = 2) -> str:
    """The display as it is read: on ohms a number that is no voltage."""
    if volts_v is None:
        return f"4.7{THIN}kΩ" if bench.dial == "ohms" else say("no number")
    return number(volts_v, f".{decimals}f").replace("-", MINUS) + f"{THIN}V"


def kind_of(volts_v: float | None, right_v: float) -> Kind:
    """What a number is beside the one that should be there."""
    if volts_v is None:
        return "no_number"
    if abs(volts_v - right_v) <= NEAR_V:
        return "right"
    if abs(volts_v) <= NOTHING_V:
        return "nothing"
    if volts_v < 0.0:
        return "minus"
    return "less" if volts_v < right_v else "more"
