"""The reading drill: what a meter shows, needle or digits, in its range, and every usual misreading understood."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from galvanic.notes import MINUS
from galvanic.words import say

SAME = 0.004  # of the range: a typed answer this near is that one
SEED, MANY = 7, 24
DIGITAL = ((0.2, "mV", 1), (2.0, "V", 3), (20.0, "V", 2))  # range in V, unit on the dial, decimals shown
NEEDLE = (1.0, 3.0, 10.0)  # full scale in V


@dataclass(frozen=True, slots=True)
class Misread:
    """A wrong answer in V and what was overlooked."""

    volts_v: float
    did: str


@dataclass(frozen=True, slots=True)
class Display:
    """A meter: `needle` (0 to 1 of its scale, numbered to `scale`) or `digits` as shown, the range on the dial in V with its
    unit, whether the battery sign is lit, the value in V, and misreadings that are understood."""

    needle: float | None
    scale: int
    digits: str
    range_v: float
    unit: str
    battery: bool
    volts_v: float
    step_v: float
    misread: tuple[Misread, ...]


def displays(many: int = MANY, seed: int = SEED) -> tuple[Display, ...]:
    """So many displays, the same for the same seed: digits, needles, minus signs, an empty battery."""
    rng = np.random.default_rng(seed)
    return tuple(_needle(rng) if nth % 3 == 2 else _digital(rng, nth) for nth in range(many))


def _digital(rng: np.random.Generator, nth: int) -> Display:
    range_v, unit, decimals = DIGITAL[nth % len(DIGITAL)]
    volts = float(rng.uniform(0.15, 0.9)) * range_v * (-1.0 if nth % 4 == 1 else 1.0)
    shown = volts * 1000.0 if unit == "mV" else volts
    text = f"{shown:.{decimals}f}"
    value = float(text) / (1000.0 if unit == "mV" else 1.0)
    wrong = (
        [Misread(-value, say("The minus sign is part of the reading: it says which plate is negative."))]
        if value < 0
        else []
    )
    if unit == "mV":
        wrong.append(Misread(float(text), say("The dial says mV: a thousand millivolts are one volt.")))
    wrong += [
        Misread(10.0 * value, say("Look where the point stands.")),
        Misread(value / 10.0, say("Look where the point stands.")),
        Misread(value * 1000.0, say("The dial says volts, not millivolts.")),
    ]
    step = 10.0**-decimals / (1000.0 if unit == "mV" else 1.0)
    return Display(
        None, 0, text.replace("-", MINUS), range_v, unit, nth % 7 == 3, value, step, _apart(wrong, value, range_v)
    )


def _needle(rng: np.random.Generator) -> Display:
    full = float(NEEDLE[int(rng.integers(len(NEEDLE)))])
    parts = int(rng.integers(6, 46))
    at = parts / 50.0
    value = round(at * full, 4)
    other = [one for one in NEEDLE if one != full]
    wrong = [
        Misread(
            round(at * one, 4), say("The dial stands at {full:g}\u202fV full scale, not at {one:g}.", full=full, one=one)
        )
        for one in other
    ]
    wrong.append(
        Misread(round((parts // 5 + (parts % 5) / 10.0) / 10.0 * full, 4), say("Count the small marks: five to a number."))
    )
    return Display(at, 10, "", full, "V", False, value, full / 100.0, _apart(wrong, value, full))


def _apart(wrong: list[Misread], value: float, range_v: float) -> tuple[Misread, ...]:
    kept: list[Misread] = []
    for one in wrong:
        if abs(one.volts_v - value) > SAME * range_v and all(abs(one.volts_v - k.volts_v) > 1e-9 for k in kept):
            kept.append(one)
    return tuple(kept)
