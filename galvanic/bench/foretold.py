"""How a group's prediction of a cell did: was the negative plate right, and how far off was it in volts?"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import median
from typing import Literal

from galvanic.bench.checks import MOST_CELL_V
from galvanic.notes import volts
from galvanic.words import mark, say


@dataclass(frozen=True, slots=True)
class Foretold:
    """A prediction, signed as the cell is written, against what the same group then measured, V; `as_written`: whether the
    plate that was said to be negative is the one that is written first; without volts the order alone was foretold."""

    as_written: bool
    predicted_v: float | None
    measured_v: float

    @property
    def right_plate(self) -> bool:
        """Whether the plate that was said to be negative was."""
        return self.as_written == (self.measured_v >= 0.0)

    @property
    def off_v(self) -> float | None:
        """Prediction less measurement, V; None where only the order was foretold."""
        return None if self.predicted_v is None else self.predicted_v - self.measured_v


def remark(volts_v: float) -> str:
    """What is odd about a prediction, in words; empty where it could be."""
    if abs(volts_v) <= MOST_CELL_V:
        return ""
    return say(
        "{volts_v:g}\u202fV is more than any two plates in one cup give (about {most_cell_v:.0f}\u202fV at "
        "most). It is kept; did you mean millivolts? You can predict again.",
        volts_v=abs(volts_v),
        most_cell_v=MOST_CELL_V,
    )


def in_words(found: Sequence[Foretold]) -> str:
    """How a class's predictions did, in a sentence; empty without any."""
    if not found:
        return ""
    right = sum(one.right_plate for one in found)
    off_v = [abs(one.off_v) for one in found if one.off_v is not None]
    if not off_v:
        return say("{right} of {n_found} predictions named the right negative plate.", right=right, n_found=len(found))
    return say(
        "{right} of {n_found} predictions named the right negative plate. Half of them were within "
        "{middle:.2f}\u202fV of what the group then measured.",
        right=right,
        n_found=len(found),
        middle=median(off_v),
    )


Way = Literal["more", "less", "same"]
SAME_V = 0.035  # what two readings of one cell may differ by: nobody could foretell finer (common practice, no source)
ANSWERS: dict[tuple[str, str], str] = {
    ("more", "more"): mark("You said more. It is more, by {by}."),
    ("more", "less"): mark("You said more. It is less, by {by}."),
    ("more", "same"): mark("You said more. It is about the same ({by} apart)."),
    ("less", "more"): mark("You said less. It is more, by {by}."),
    ("less", "less"): mark("You said less. It is less, by {by}."),
    ("less", "same"): mark("You said less. It is about the same ({by} apart)."),
    ("same", "more"): mark("You said about the same. It is more, by {by}."),
    ("same", "less"): mark("You said about the same. It is less, by {by}."),
    ("same", "same"): mark("You said about the same. It is, within {by}."),
}


def way_of(measured_v: float, against_v: float) -> Way:
    """Whether a size in V is more, less or about the same as another."""
    by = abs(measured_v) - abs(against_v)
    return "same" if abs(by) <= SAME_V else "more" if by > 0.0 else "less"


def order_told(right: bool, said: str, other: str) -> str:
    """What became of a prediction of the negative plate: `said` was named, `other` is the cell's other one."""
    if right:
        return say("You said {said} is the negative plate. The meter says so too.", said=said)
    return say("You said {said} is the negative plate. The meter says {other}.", said=said, other=other)


def told(said: Way, measured_v: float, against_v: float) -> str:
    """What became of “more, less or the same”: the meter's size against the table's difference, or another level's."""
    shown = abs(round(abs(measured_v), 2) - round(abs(against_v), 2))  # of the numbers as they are read
    return say(ANSWERS[said, way_of(measured_v, against_v)], by=volts(shown))
