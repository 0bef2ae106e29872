"""What a group has of its pack, and what is said of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from galvanic.chemistry.demand import Demand, Diode

Sure = Literal["likely", "possible"]
NOTHING_V, NOTHING_A = 0.05, 2e-6


@dataclass(frozen=True, slots=True)
class PackRecord:
    """What a group has of its pack, cell 1 at the minus; None where nothing was measured.

    `alone_v` each cell before it was joined; `sums_v` of the cells 1 to k; `across_v` each cell with all joined
    and no load; with the load on: `load_v` across it, `load_a` through it, `under_v` across each cell. `lit`: whether the
    load was seen to run, and `load` what it was.
    """

    alone_v: tuple[float | None, ...]
    sums_v: tuple[float | None, ...]
    load: Demand | None = None
    load_v: float | None = None
    load_a: float | None = None
    under_v: tuple[float | None, ...] = ()
    lit: bool | None = None
    across_v: tuple[float | None, ...] = ()

    @property
    def open_v(self) -> float | None:
        """The last sum that was measured."""
        return next((v for v in reversed(self.sums_v) if v is not None), None)

    @property
    def least_v(self) -> float:
        """The volts from which the load does anything."""
        return self.load.row.voltage_v.low if self.load is not None and self.load.row is not None else 0.0

    @property
    def blocked(self) -> bool:
        """Whether an LED stands across all the volts and neither shines nor takes a current."""
        if self.load is None or self.load_v is None or self.open_v is None or not isinstance(self.load.takes, Diode):
            return False
        dark = self.lit is not True and (self.load_a is None or abs(self.load_a) <= NOTHING_A)
        return dark and self.load_v > 0.9 * self.open_v


@dataclass(frozen=True, slots=True)
class PackFinding:
    """One thing about a pack: code, how sure, title, text, what to try in order, and the cell (from 1) or None."""

    code: str
    sure: Sure
    title: str
    text: str
    tries: tuple[str, ...]
    cell: int | None = None


def at_place(values: Sequence[float | None], k: int) -> float | None:
    """What is known of a place, from 0; None beyond the ends."""
    return values[k] if 0 <= k < len(values) else None
