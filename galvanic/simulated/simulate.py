"""A simulated meter and class, for the demo and for rehearsal. Everything made here is to be marked simulated.

A reading is the true difference plus the plate's own deviation for this group, the scatter of one dip, and the
meter's offset, rounded to the meter's last digit. The generator is seeded: the same seed gives the same class.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal

import numpy as np


@dataclass(frozen=True, slots=True)
class Meter:
    """A meter: offset in V, decimals shown in V."""

    offset_v: float = 0.0
    decimals: int = 3

    def show(self, volts_v: float) -> str:
        """The display's text for a true voltage, in V."""
        return f"{Decimal(repr(float(volts_v + self.offset_v))):.{self.decimals}f}"


class Bench:
    """One group's bench: its plates deviate a little from the class's, and so does every dip.

    `potential_v`: by electrode, V on any common scale. `plate_v`, `dip_v`: standard deviations in V.
    """

    def __init__(
        self, potential_v: Mapping[str, float], rng: np.random.Generator, meter: Meter, plate_v: float, dip_v: float
    ) -> None:
        self.meter, self.rng, self.dip_v = meter, rng, dip_v
        self.potential_v = {name: value + rng.normal(0.0, plate_v) for name, value in sorted(potential_v.items())}

    def read(self, red: str, black: str) -> str:
        """One reading as the display shows it."""
        true_v = self.potential_v[red] - self.potential_v[black]
        return self.meter.show(float(true_v + self.rng.normal(0.0, self.dip_v)))
