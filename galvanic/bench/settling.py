"""Is a reading still moving? Slope and spread of the last seconds of a trace, and how long still to wait.

Over the last `window_s` a straight line gives the drift with its uncertainty; a reading is steady when the drift, at the
upper end of its interval, is under the limit. The wait comes from an exponential through three equal parts of the trace
(the ratio of their successive changes), valid when the trace approaches its end from one side.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from galvanic.errors import NotEnoughData
from galvanic.statistics.effects import slope
from galvanic.statistics.repeats import coverage
from galvanic.words import say

STEADY_V_PER_S = 2e-4  # 2 mV in 10 s: common practice, no source
WINDOW_S = 10.0


@dataclass(frozen=True, slots=True)
class Settling:
    """Drift in V/s with its standard uncertainty, scatter about it in V; `wait_s` is None where it cannot be known."""

    drift_v_per_s: float
    u_drift_v_per_s: float
    scatter_v: float
    steady: bool
    wait_s: float | None
    end_v: float | None


def settling(
    times_s: Sequence[float], volts_v: Sequence[float], window_s: float = WINDOW_S, limit_v_per_s: float = STEADY_V_PER_S
) -> Settling:
    """Judge a trace: times in s, rising; readings in V. Raises NotEnoughData with fewer than three samples in the window."""
    t, v = np.asarray(times_s, dtype=float), np.asarray(volts_v, dtype=float)
    if len(t) != len(v) or np.any(np.diff(t) <= 0.0):
        raise NotEnoughData(say("A trace needs one voltage for each time, and times that rise."))
    last = t >= (t[-1] if len(t) else 0.0) - window_s
    if int(last.sum()) < 3:
        raise NotEnoughData(say("At least three samples in the last {window_s:.0f} s are needed.", window_s=window_s))
    line = slope(list(t[last] - t[-1]), list(v[last]))
    reach = abs(line.slope) + coverage(line.n - 2) * line.u_slope
    steady = reach < limit_v_per_s
    end_v, wait_s = _ahead(t, v, limit_v_per_s)
    return Settling(line.slope, line.u_slope, line.s, steady, 0.0 if steady else wait_s, end_v)


def _ahead(t: np.ndarray, v: np.ndarray, limit: float) -> tuple[float | None, float | None]:
    """Where an exponential through the thirds of the trace ends, and the time until its slope is under the limit."""
    span = (t[-1] - t[0]) / 3.0
    thirds = [v[(t >= t[0] + k * span) & (t <= t[0] + (k + 1) * span)] for k in range(3)]
    if min(len(part) for part in thirds) < 2:
        return None, None
    first, second, third = (float(part.mean()) for part in thirds)
    if first == second or not 0.0 < (ratio := (third - second) / (second - first)) < 0.98:
        return None, None
    tau = -span / math.log(ratio)
    end = third + (third - second) * ratio / (1.0 - ratio)
    now = abs(end - third) * math.exp(-0.5 * span / tau) / tau
    return end, max(0.0, tau * math.log(now / limit)) if now > 0.0 else 0.0
