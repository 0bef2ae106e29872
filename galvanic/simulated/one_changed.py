"""Simulated classes that change one thing: for testing what answers them. Sizes: common practice, no source."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

LEVELS = (1.0, 2.0, 4.0, 8.0)


def a_class(
    rng: np.random.Generator,
    groups: int = 6,
    each: int = 3,
    slope: float = 0.0,
    differ: float = 0.0,
    own: float = 0.05,
    noise: float = 0.02,
    levels: Sequence[float] = LEVELS,
) -> tuple[list[str], list[float], list[float]]:
    """Groups, levels and values, V: each group with `each` of the levels at random; `own` is what a group has for itself,
    `differ` how its true slope differs from the class's, per unit of the level, `noise` the scatter of one value."""
    names: list[str] = []
    x: list[float] = []
    y: list[float] = []
    for g in range(groups):
        shift, b = rng.normal(0.0, own), slope + rng.normal(0.0, differ)
        for at in rng.choice(levels, size=each, replace=False):
            names.append(f"g{g}")
            x.append(float(at))
            y.append(float(1.0 + shift + b * at + rng.normal(0.0, noise)))
    return names, x, y
