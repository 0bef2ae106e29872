"""Regression that a few wild readings cannot drag along: Huber's M-estimate by re-weighting.

P. J. Huber, “Robust Statistics” (1981): weights min(1, k/|r/s|) with k = 1.345 (95 % efficient for normal errors) and the
scale s = median|r|/0.6745, repeated until it settles.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from galvanic.errors import NotEnoughData
from galvanic.words import say

Array = NDArray[np.float64]
TUNING = 1.345
NORMAL_MAD = 0.6744897501960817
ROUNDS, PLAIN_ROUNDS = 200, 20


@dataclass(frozen=True)
class Robust:
    """Coefficients, weights between 0 and 1, and the robust scale of the residuals."""

    coefficients: Array
    weights: Array
    scale: float


def huber(x: Array, y: Array, prior: Array | None = None) -> Robust:
    """Fit y ≈ x·b. `prior`: weights from known uncertainties. Raises NotEnoughData with fewer rows than coefficients."""
    if len(y) < x.shape[1]:
        raise NotEnoughData(say("A robust fit needs at least as many readings as unknowns."))
    root = np.sqrt(np.ones_like(y) if prior is None else prior)
    scaled_x, scaled_y = x * root[:, None], y * root
    weights = np.ones_like(y)
    b = np.linalg.lstsq(scaled_x, scaled_y, rcond=None)[0]
    scale = 0.0
    for number in range(ROUNDS):
        residual = scaled_y - scaled_x @ b
        scale = float(np.median(np.abs(residual))) / NORMAL_MAD
        if scale <= 1e-12 * max(1.0, float(np.abs(scaled_y).max())):
            break
        weights = np.minimum(1.0, TUNING * scale / np.maximum(np.abs(residual), 1e-300))
        half = np.sqrt(weights)
        after = np.linalg.lstsq(scaled_x * half[:, None], scaled_y * half, rcond=None)[0]
        if float(np.abs(after - b).max()) < 1e-10 * max(1.0, float(np.abs(b).max())):
            b = after
            break
        # The scale is a median and jumps from reading to reading, so that plain steps can go to and fro for ever.
        b = after if number < PLAIN_ROUNDS else 0.5 * (b + after)
    return Robust(np.asarray(b, dtype=np.float64), weights, scale)
