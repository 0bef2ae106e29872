"""The rest-potential model: where a plate settles in a liquid, and what it delivers.

Each plate alone settles where its currents cancel (mixed potential; C. Wagner, W. Traud, Z. Elektrochem. 44 (1938) 391):

    dissolution + what the liquid gives up to an inert plate = hydrogen + oxygen + solids and foreign ions reduced

The reactions are those of `currents`. Every anodic term rises and every cathodic term falls with potential, so there is
exactly one root in the bracket and bisection always converges. Ranges: 5 to 60 °C, pH 0 to 14, no other oxidant.
Potentials in V against hydrogen, current densities in A/m² of real area. `stir` divides the still layer, `oxygen`
multiplies its supply.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from galvanic.chemistry.currents import fix, net
from galvanic.chemistry.plates import (
    Array,
    Liquids,
    Pairing,
    Plates,
    drawer,
    liquids_of,
    pairing_of,
    plates_of,
)

LOWEST_V, HIGHEST_V = -3.2, 2.4
STEPS, STEPS_OF_MANY = 42, 26  # 5.6 V halved so often: a picovolt; for draws and whole curves a tenth of a microvolt
FEW = 16  # plates in liquids up to which many potentials are tried at once:
ONE, SOME = (256, 5), (32, 9)  # parts and rounds for a single plate in a liquid, and for a few; both to picovolts
DRAWS = 96


def settle(p: Plates, q: Liquids, x: Pairing, drawn_a_per_m2: Array | float = 0.0) -> Array:
    """Potential at which the net current equals what is drawn (anodic positive), V; bisection, always converges."""
    n = max(p.hydrogen_i0.shape[0], q.ph.shape[0], q.layer_m.shape[0])
    shape = np.broadcast_shapes((n, len(p.keys), len(q.keys)), np.shape(drawn_a_per_m2))
    if shape[0] == 1 and math.prod(shape) <= FEW:
        return _settle_few(p, q, x, drawn_a_per_m2, shape[1:])
    low, high = np.full(shape, LOWEST_V), np.full(shape, HIGHEST_V)
    fixed = fix(p, q, x)
    for _ in range(STEPS if shape[0] == 1 else STEPS_OF_MANY):
        middle = 0.5 * (low + high)
        above = net(middle, p, q, x, fixed) > drawn_a_per_m2
        high = np.where(above, middle, high)
        low = np.where(above, low, middle)
    return np.asarray(0.5 * (low + high))


def _settle_few(p: Plates, q: Liquids, x: Pairing, drawn_a_per_m2: Array | float, shape: tuple[int, ...]) -> Array:
    """`settle` for a few plates without draws: many potentials at once along the first axis cost little more than one."""
    low, high = np.full((1, *shape), LOWEST_V), np.full((1, *shape), HIGHEST_V)
    parts, rounds = ONE if math.prod(shape) == 1 else SOME
    part = np.linspace(0.0, 1.0, parts + 1)[:, None, None]
    fixed = fix(p, q, x)
    for _ in range(rounds):
        tried = low + (high - low) * part
        under = (net(tried, p, q, x, fixed) <= drawn_a_per_m2).sum(axis=0, keepdims=True)
        low = np.take_along_axis(tried, np.maximum(under - 1, 0), axis=0)
        high = np.take_along_axis(tried, np.minimum(under, parts), axis=0)
    return np.asarray(0.5 * (low + high))


@dataclass(frozen=True)
class Rest:
    """Rest potentials of plates (rows) in liquids (columns), V against hydrogen; `draws_v` is (n, plates, liquids)."""

    plates: tuple[str, ...]
    liquids: tuple[str, ...]
    e_v: Array
    u_v: Array | None
    draws_v: Array | None

    def at(self, plate: str, liquid: str) -> float:
        """One rest potential, V."""
        return float(self.e_v[self.plates.index(plate), self.liquids.index(liquid)])


def rest_potentials(
    plates: Sequence[str],
    liquids: Sequence[str],
    draws: int = 0,
    seed: int = 1,
    stir: float = 1.0,
    oxygen_times: float = 1.0,
    celsius: float = 25.0,
) -> Rest:
    """Rest potentials of every plate in every liquid, by keys of the catalogue.

    `draws`: how many draws from the parameters' ranges to propagate (0: no uncertainty). `stir` > 1 thins the still
    layer; `oxygen_times` multiplies the oxygen supply; `celsius` between 5 and 60. Two-solution cells are not liquids:
    name their sides.
    """
    x = pairing_of(plates, liquids)

    def run(rng: np.random.Generator | None, n: int) -> Array:
        draw = drawer(rng, n)
        q = liquids_of(liquids, rng, n, draw)
        q = replace(q, layer_m=q.layer_m / stir, oxygen=q.oxygen * oxygen_times, celsius=celsius)
        return settle(plates_of(plates, draw), q, x)

    central = run(None, 1)[0]
    drawn = run(np.random.default_rng(seed), draws) if draws else None
    u_v = None if drawn is None else np.sqrt(((drawn - central) ** 2).mean(axis=0))
    return Rest(tuple(plates), tuple(liquids), central, u_v, drawn)
