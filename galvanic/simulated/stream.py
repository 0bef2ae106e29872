"""One cell as a stream of samples, for the simulated meter: it settles after each dip, drifts, scatters, and can be faulty.

The voltage approaches its end as an exponential (time constant `settle_s`) from a part of it, then drifts slowly. Sizes are
common practice, no source. The generator is seeded. Whatever is made here is to be marked simulated.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.accounts import rest

FAULTS: Mapping[str, str] = {
    "none": "a sound meter and a sound cell",
    "bridged": "liquid joins the clips: a few per cent of the voltage are left",
    "reversed": "the leads are swapped",
    "loose": "a loose clip: the reading jumps",
    "drift": "it goes on drifting",
    "nonsense": "the meter answers words",
    "silent": "the meter stops answering",
    "overload": "the meter says that its range is too small",
}


@dataclass(frozen=True, slots=True)
class CellStream:
    """What the meter hangs on. `end_v` the settled voltage, `begin` the part of it right after a dip."""

    end_v: float
    fault: str = "none"
    offset_v: float = 0.0
    settle_s: float = 7.0
    begin: float = 0.55
    drift_v_per_s: float = -2e-5
    noise_v: float = 4e-4

    def at(self, since_dip_s: float, rng: np.random.Generator) -> float:
        """One sample in V, `since_dip_s` after the plates went in."""
        gone = math.exp(-since_dip_s / self.settle_s)
        drift = (1e-3 if self.fault == "drift" else self.drift_v_per_s) * since_dip_s
        true = self.end_v * (1.0 - (1.0 - self.begin) * gone) + drift
        if self.fault == "bridged":
            true *= 0.03
        if self.fault == "reversed":
            true = -true
        if self.fault == "loose" and rng.random() < 0.4:
            true *= float(rng.uniform(0.0, 0.5))
        return true + self.offset_v + float(rng.normal(0.0, self.noise_v))

    def of(self, cell: Cell) -> CellStream:
        """The same meter on another cell: its rest account, positive lead on the positive plate."""
        rest_v = rest([cell])[0].volts_v
        return self if rest_v is None else replace(self, end_v=rest_v)
