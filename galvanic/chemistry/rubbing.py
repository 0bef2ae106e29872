"""What a meter shows when a plate with a skin is rubbed under the liquid.

A stroke lays bare a small share of the plate. The metal there reacts at once, for the tenths of a second until its film is
back, and what it gives lowers the whole plate by its charge over that of the double layer, no further than a bare plate
would stand. Then the liquid's own reactions take the plate back up. A meter that averages over some tenths of a second
misses what is over sooner. Potentials in V, charges in C/m² of the whole plate.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from galvanic.chemistry.currents import dissolution
from galvanic.chemistry.half import Half

# A stroke bares about one part in a hundred, 0.3 to 3; a film of two or three nanometres takes 5 to 20 C/m² by Faraday's
# law (Al₂O₃, 3.2 g/cm³: 5.9 C/m² a nanometre); a meter makes two or three readings a second: common practice, no source.
BARED, REGROWS_C_PER_M2, METER_S = 0.01, 10.0, 0.4
CAPACITY_F_PER_M2 = 0.3  # double layer of a metal in water, 0.1 to 0.5 F/m² (A. J. Bard, L. R. Faulkner, from memory)
FACTOR = 3.0  # how far off that is either way, two standard deviations
LEAST_A_PER_M2 = 1e-6


@dataclass(frozen=True, slots=True)
class Rubbed:
    """By how much a meter shows the plate to fall, V, with the ends of what can be expected, and how soon it is back, s."""

    falls_v: float
    low_v: float
    high_v: float
    back_s: float

    @property
    def u_v(self) -> float:
        """One standard uncertainty of the fall, V."""
        return 0.25 * (self.high_v - self.low_v)


def rubbed(half: Half) -> Rubbed:
    """A plate rubbed once under the liquid; nothing where it has no film."""
    if not half.plates.filmed.any():
        return Rubbed(0.0, 0.0, 0.0, 0.0)
    rest_v = half.rest()
    most_v = max(0.0, rest_v - half.bare().rest())
    at = np.full((1, 1, 1), rest_v)
    takes = max(float(dissolution(at, half.plates, half.liquids, half.pairing)[0, 0, 0]), LEAST_A_PER_M2)

    def shown(stroke_c_per_m2: float) -> tuple[float, float]:
        falls_v = min(most_v, stroke_c_per_m2 / CAPACITY_F_PER_M2)
        back_s = CAPACITY_F_PER_M2 * falls_v / takes
        return falls_v * -math.expm1(-back_s / METER_S), back_s

    usual = BARED * REGROWS_C_PER_M2
    falls_v, back_s = shown(usual)
    return Rubbed(falls_v, shown(usual / FACTOR)[0], shown(usual * FACTOR)[0], back_s)
