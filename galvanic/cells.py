"""A cell: two electrodes, one electrolyte, and which lead is where.

The meter shows V = E(red lead) − E(black lead). By convention a cell is written with the plate that the table makes
negative (the anode, where oxidation happens) on the left: `Zn | rhubarb juice | Cu`.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from galvanic.reference.catalogue import electrodes, electrolytes


def standing(electrode: str) -> float:
    """Where the table puts an electrode, in V; an inert plate stands above all metals (+inf)."""
    table_v = electrodes()[electrode].table_v_or_none()
    return math.inf if table_v is None else table_v


def negative_first(one: str, other: str) -> tuple[str, str]:
    """Order two electrodes by the table, the negative one first; two of the same couple by their names."""
    return (one, other) if (standing(one), one) <= (standing(other), other) else (other, one)


def table_difference_v(positive: str, negative: str) -> float:
    """E°(positive) − E°(negative) in V. Raises NoTableEntry if one of them is an inert plate."""
    return electrodes()[positive].table_v() - electrodes()[negative].table_v()


@dataclass(frozen=True, slots=True, order=True)
class Cell:
    """A cell by keys of the catalogue, `negative` on the left as the table has it.

    `condition` is what else a lab varies, in its own words (“4 cm apart”); empty where nothing else is varied.
    """

    negative: str
    electrolyte: str
    positive: str
    condition: str = ""

    @classmethod
    def of(cls, one: str, electrolyte: str, other: str, condition: str = "") -> Cell:
        """The cell of two electrodes in any order."""
        negative, positive = negative_first(one, other)
        return cls(negative, electrolyte, positive, condition)

    @property
    def pair(self) -> tuple[str, str]:
        """The two electrodes, negative first."""
        return self.negative, self.positive

    @property
    def bath(self) -> tuple[str, str]:
        """Electrolyte and condition: what all cells of one ladder have in common."""
        return self.electrolyte, self.condition

    @property
    def short(self) -> str:
        """`Zn | Cu`."""
        return f"{electrodes()[self.negative].symbol} | {electrodes()[self.positive].symbol}"

    @property
    def notation(self) -> str:
        """`Zn | rhubarb juice | Cu`."""
        middle = electrolytes()[self.electrolyte].name
        middle = f"{middle}, {self.condition}" if self.condition else middle
        return f"{electrodes()[self.negative].symbol} | {middle} | {electrodes()[self.positive].symbol}"

    @property
    def table_v(self) -> float | None:
        """The table's difference in V, or None where an inert plate has no entry."""
        if math.isinf(standing(self.positive)) or math.isinf(standing(self.negative)):
            return None
        return table_difference_v(self.positive, self.negative)

    def as_written_v(self, volts_v: float, red: str) -> float:
        """A meter's value for red on `red`, turned to red on the positive plate: swapped leads flip the sign."""
        return volts_v if red == self.positive else -volts_v
