"""How far a class goes: the same numbers and pictures, told for its year.

First: order, sign and what is seen, without logarithms. Middle: differences of E°. Upper: Nernst, activities, mixed
potentials and the uncertainty of each value.
"""

from __future__ import annotations

from enum import StrEnum


class Level(StrEnum):
    """A level of words and workings; each has what those before it have."""

    FIRST = "first"
    MIDDLE = "middle"
    UPPER = "upper"

    @property
    def has_equations(self) -> bool:
        """Whether half-reactions are written as equations, and a cell as a difference of E°."""
        return self is not Level.FIRST

    @property
    def has_logarithms(self) -> bool:
        """Whether Nernst's logarithms, square roots and standard uncertainties are worked out."""
        return self is Level.UPPER
