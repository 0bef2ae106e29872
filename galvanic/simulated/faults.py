"""What a group types with each fault of the list (`bench/faults.py`), for rehearsal and for testing the checks. Sizes are
common practice, no source."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from galvanic.simulated.simulate import Meter


@dataclass(frozen=True, slots=True)
class Typed:
    """What a group types: text with its unit, and whether it says that its leads are swapped."""

    text: str
    unit: str = "V"


Shown = Callable[[float, int, np.random.Generator, Meter], Typed]


def sound(true_v: float, nth: int, rng: np.random.Generator, meter: Meter) -> Typed:
    """No fault: the meter's number as it stands."""
    return Typed(meter.show(true_v))


def _reversed(true_v: float, nth: int, rng: np.random.Generator, meter: Meter) -> Typed:
    """Leads swapped without saying so."""
    return Typed(meter.show(-true_v))


def _bridged(true_v: float, nth: int, rng: np.random.Generator, meter: Meter) -> Typed:
    """Liquid joins the clips, or the plates touch: a few per cent are left."""
    return Typed(meter.show(true_v * float(rng.uniform(0.0, 0.06))))


def _same_metal(true_v: float, nth: int, rng: np.random.Generator, meter: Meter) -> Typed:
    """The same metal on both sides: a few hundredths either way."""
    return Typed(meter.show(float(rng.normal(0.0, 0.015))))


def _drifting(true_v: float, nth: int, rng: np.random.Generator, meter: Meter) -> Typed:
    """Read while it still climbs: each reading gets a part of what is missing."""
    missing = 0.28 * float(rng.uniform(0.85, 1.15)) * 0.55**nth
    return Typed(meter.show(true_v - np.sign(true_v) * min(missing, 0.9 * abs(true_v))))


def _loose(true_v: float, nth: int, rng: np.random.Generator, meter: Meter) -> Typed:
    """A loose clip: what is shown jumps between much and little of the true voltage."""
    part = float(rng.uniform(0.0, 0.5)) if nth % 2 else float(rng.uniform(0.55, 0.95))
    return Typed(meter.show(true_v * part))


def _millivolts(true_v: float, nth: int, rng: np.random.Generator, meter: Meter) -> Typed:
    """Millivolts typed as volts."""
    return Typed(f"{(true_v + meter.offset_v) * 1000.0:.0f}")


def _digit(true_v: float, nth: int, rng: np.random.Generator, meter: Meter) -> Typed:
    """The point slips by one place."""
    return Typed(f"{(true_v + meter.offset_v) * 10.0:.2f}")


def _too_high(true_v: float, nth: int, rng: np.random.Generator, meter: Meter) -> Typed:
    """A battery, or several cells, in the circuit."""
    return Typed(meter.show(true_v + float(np.sign(true_v)) * float(rng.uniform(1.5, 3.0))))


def _far(true_v: float, nth: int, rng: np.random.Generator, meter: Meter) -> Typed:
    """A wrong or uncleaned plate: 0.45 V less, or more where there is not so much."""
    return Typed(meter.show(true_v - float(np.sign(true_v)) * (0.45 if abs(true_v) > 0.7 else -0.45)))


# By the number alone a bridge and one metal on both sides are alike.
SHOWN: Mapping[str, Shown] = {
    "reversed": _reversed,
    "bridged": _bridged,
    "same_metal": _same_metal,
    "drifting": _drifting,
    "loose": _loose,
    "millivolts": _millivolts,
    "digit": _digit,
    "too_high": _too_high,
    "far": _far,
}
