"""How often the 95 % intervals of a fitted trace hold: `python bench/fits.py [TRACES]`.

One exponential (0.95 V, falling by 0.12 V in 40 s) read every 5 s for 4 minutes: with noise alone, rounded to 1 and 10 mV,
and with noise that remembers (each reading takes after the one before). Target: 93 to 97 of 100 hold.
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from galvanic.statistics.decay import Interval, fit_decay

LEVEL_V, FALLS_V, TIME_S = 0.83, 0.12, 40.0
CASES = {  # noise, V; rounded to, V; how much a reading's noise is that of the one before
    "noise 3 mV": (0.003, 1e-5, 0.0),
    "noise 3 mV, rounded to 1 mV": (0.003, 0.001, 0.0),
    "noise 3 mV, rounded to 10 mV": (0.003, 0.01, 0.0),
    "noise 1 mV, rounded to 10 mV": (0.001, 0.01, 0.0),
    "noise 10 mV, rounded to 10 mV": (0.01, 0.01, 0.0),
    "noise 3 mV that remembers by half": (0.003, 1e-5, 0.5),
    "noise 3 mV that remembers by four fifths": (0.003, 1e-5, 0.8),
}


def holds(interval: Interval, truth: float) -> bool:
    """Whether an interval holds the truth; one without an end does on that side."""
    return (interval.low is None or interval.low <= truth) and (interval.high is None or truth <= interval.high)


def trace(rng: np.random.Generator, noise_v: float, digit_v: float, memory: float) -> tuple[np.ndarray, np.ndarray, float]:
    """One trace: times in s, volts, and its level."""
    t = np.arange(0.0, 240.1, 5.0)
    noise = rng.normal(0.0, noise_v, len(t))
    for k in range(1, len(t)):
        noise[k] = memory * noise[k - 1] + (1.0 - memory**2) ** 0.5 * noise[k]
    level = LEVEL_V + rng.uniform(0.0, 0.01)  # where the digits change is chance
    return t, np.round((level + FALLS_V * np.exp(-t / TIME_S) + noise) / digit_v) * digit_v, level


def main(count: int = 200) -> None:
    """Print the table."""
    sys.stdout.write(f"{'':<44}{'level':>8}{'amount':>8}{'time':>8}\n")
    for name, (noise_v, digit_v, memory) in CASES.items():
        rng, held = np.random.default_rng(7), np.zeros(3)
        for _ in range(count):
            t, volts, level = trace(rng, noise_v, digit_v, memory)
            found = fit_decay(t, volts, parts=1)
            part = found.parts[0]
            held += [holds(found.level, level), holds(part.amount, FALLS_V), holds(part.time, TIME_S)]
        sys.stdout.write(f"{name:<44}" + "".join(f"{100.0 * share / count:>6.1f} %" for share in held) + "\n")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 200)
