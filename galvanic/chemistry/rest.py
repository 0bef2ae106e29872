"""The rest-potential model: where a plate settles in a liquid, and what it delivers.

Each plate alone settles where its currents cancel (mixed potential; C. Wagner, W. Traud, Z. Elektrochem. 44 (1938) 391):

    dissolution + hydrogen oxidation + peroxide and vitamin C oxidation = hydrogen evolution + oxygen reduction

* dissolution: Butler–Volmer against the surface ion level c_s, which is the bulk level plus what the current itself builds
  up through the still layer, c_s = c_b + iδ/(nFD), over the complexing α. Solved for i in closed form.
* film: the dissolution current passes it in series with a passive current that grows in acid or alkali, and with a pit
  current beyond the breakdown potential in chloride.
* hydrogen: Volmer-type, 118 mV a decade, first order in H+, limited by diffusion of H+ and weak acid; from water in
  parallel. Oxygen: 120 mV a decade against 1.229 V − 59 mV·pH, limited by diffusion through the still layer.

Every anodic term rises and every cathodic term falls with potential, so there is exactly one root in the bracket and
bisection always converges. Ranges: 25 °C, pH 0 to 14, no other oxidant, fresh plates. Potentials in V against hydrogen,
current densities in A/m² of real area. `stir` divides the still layer, `oxygen` multiplies its supply.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from galvanic.chemistry.plates import (
    CHLORIDE_ACTIVITY,
    LEAST_CHLORIDE,
    Array,
    Liquids,
    Pairing,
    Plates,
    drawer,
    liquids_of,
    pairing_of,
    plates_of,
)
from galvanic.constants import FARADAY_C_PER_MOL as F
from galvanic.reference.catalogue import half_reactions
from galvanic.reference.quantities import quantity

NERNST_V = 0.0591597
LOWEST_V, HIGHEST_V = -3.2, 2.4
STEPS = 42  # 5.6 V halved 42 times: a picovolt
PARTS, ROUNDS, FEW = 32, 9, 16  # or parted 9 times into 32, which is faster for up to about 50 plates in liquids
DRAWS = 96

# Cited in transport.toml, standard potentials in half_reactions.toml.
D_ION, D_PROTON = quantity("diffusion_ion_m2_per_s"), quantity("diffusion_proton_m2_per_s")
D_ACID, D_ASCORBATE = quantity("diffusion_acid_m2_per_s"), quantity("diffusion_ascorbate_m2_per_s")
D_OXYGEN, D_HYDROGEN = quantity("diffusion_oxygen_m2_per_s"), quantity("diffusion_hydrogen_m2_per_s")
OXYGEN_SATURATED, HYDROGEN_AT_1_BAR = quantity("oxygen_saturated_mol_per_m3"), quantity("hydrogen_at_1_bar_mol_per_m3")
O2_BAR, TRACE_PEROXIDE = quantity("oxygen_in_air_bar"), quantity("trace_peroxide_mol_per_l")
HYDROGEN_SLOPE_V, OXYGEN_SLOPE_V = quantity("hydrogen_slope_v"), quantity("oxygen_slope_v")
OXYGEN_E0_V, PEROXIDE_E0_V, WATER_E0_V = (half_reactions()[key].e_v.value for key in ("O2/H2O", "O2/H2O2", "H2O/H2 OH-"))
ASCORBATE_A_M_PER_MOL, ASCORBATE_AT_V = quantity("ascorbate_a_m_per_mol"), quantity("ascorbate_at_v")
ASCORBATE_SLOPE_V = quantity("ascorbate_slope_v")
PIT_A_PER_M2, PIT_SLOPE_V = quantity("pit_a_per_m2"), quantity("pit_slope_v")
PIT_CHLORIDE = quantity("pit_chloride_mol_per_l")
MOST_DECADES, LN10 = 40.0, 2.302585092994046


def _p10(exponent: Array) -> Array:
    return np.asarray(np.exp(LN10 * np.minimum(np.maximum(exponent, -MOST_DECADES), MOST_DECADES)))


def _limited(kinetic: Array, limit: Array) -> Array:
    """Kinetics and transport in series."""
    return kinetic * limit / (kinetic + limit + 1e-300)


def dissolution(e_v: Array, p: Plates, q: Liquids, x: Pairing) -> Array:
    """Net anodic current of the metal itself, film included, A/m²."""
    total = np.zeros_like(e_v)
    chloride = CHLORIDE_ACTIVITY * np.maximum(q.chloride, LEAST_CHLORIDE)
    for slot, side in enumerate(p.sides):
        if not side.i0.any():
            continue
        ligands = chloride**side.chloride * _p10((q.ph - 14.0) * side.hydroxide)
        rate = side.i0 * _p10(side.order * (q.ph - side.reference_ph))
        forward = ligands * _p10((e_v - side.e0_v) / side.slope_a_v)
        backward = _p10(-(e_v - side.e0_v) / side.slope_c_v)
        build_up = q.layer_m / (side.electrons * F * D_ION) * 1e-3 / x.alpha[..., slot]
        dissolved = rate * (forward - x.bulk[..., slot] / x.alpha[..., slot] * backward) / (1.0 + rate * build_up * backward)
        total = total + np.where(side.solid > 0, rate * (forward - backward), dissolved)
    thinning = 1.0 + _p10(p.acid_order * (p.acid_below_ph - q.ph)) + _p10(p.alkali_order * (q.ph - p.alkali_above_ph))
    passive = p.film_current * thinning * _p10((e_v - p.film_at_v) / p.film_slope_v)
    breakdown = p.pit_v - p.pit_slope_v * np.log10(np.maximum(q.chloride, LEAST_CHLORIDE) / PIT_CHLORIDE)
    passive = passive + np.where(p.pits, PIT_A_PER_M2 * _p10((e_v - breakdown) / PIT_SLOPE_V), 0.0)
    through = np.where(total > 0.0, _limited(np.maximum(total, 0.0), passive), total)
    return np.where(p.filmed, through, total)


def hydrogen(e_v: Array, p: Plates, q: Liquids) -> Array:
    """Net hydrogen evolution (cathodic positive), A/m²."""
    protons = _p10(-q.ph)
    forward = p.hydrogen_i0 * protons * _p10(-e_v / HYDROGEN_SLOPE_V)
    limit = F * (D_PROTON * 1000.0 * protons + D_ACID * q.acid_mol_per_m3) / q.layer_m
    from_water = p.hydrogen_i0 * _p10(-(e_v - WATER_E0_V) / HYDROGEN_SLOPE_V)
    over_v = e_v + NERNST_V * q.ph
    back = p.hydrogen_i0 * np.sqrt(protons * q.hydrogen_bar) * _p10(over_v / HYDROGEN_SLOPE_V)
    back = _limited(back, 2.0 * F * D_HYDROGEN * HYDROGEN_AT_1_BAR * q.hydrogen_bar / q.layer_m)
    return _limited(forward, limit) + from_water - back


def oxygen(e_v: Array, p: Plates, q: Liquids) -> Array:
    """Oxygen reduction to water (cathodic positive), A/m²."""
    kinetic = p.oxygen_i0 * _p10(-(e_v - OXYGEN_E0_V + NERNST_V * q.ph) / OXYGEN_SLOPE_V)
    limit = 4.0 * F * D_OXYGEN * OXYGEN_SATURATED * q.oxygen * p.oxygen_share / q.layer_m
    return _limited(kinetic * np.minimum(1.0, q.oxygen), limit)


def inert(e_v: Array, p: Plates, q: Liquids) -> Array:
    """Peroxide and vitamin C on plates that do not dissolve (anodic positive), A/m²."""
    pressure = np.maximum(O2_BAR * q.oxygen, 1e-6)
    balance_v = PEROXIDE_E0_V - NERNST_V * q.ph + 0.5 * NERNST_V * np.log10(pressure / TRACE_PEROXIDE)
    over = (e_v - balance_v) / HYDROGEN_SLOPE_V
    peroxide = p.peroxide_i0 * (_p10(over) - _p10(-over))
    shift = (e_v - ASCORBATE_AT_V + NERNST_V * (q.ph - 2.3)) / ASCORBATE_SLOPE_V
    ascorbate = ASCORBATE_A_M_PER_MOL * q.ascorbate_mol_per_m3 * _p10(shift)
    ascorbate = _limited(ascorbate, 2.0 * F * D_ASCORBATE * q.ascorbate_mol_per_m3 / q.layer_m)
    return np.where(p.peroxide_i0 > 0.0, peroxide + ascorbate, 0.0)


def net(e_v: Array, p: Plates, q: Liquids, x: Pairing) -> Array:
    """All currents, anodic positive, A/m²; strictly rising with potential."""
    return dissolution(e_v, p, q, x) + inert(e_v, p, q) - hydrogen(e_v, p, q) - oxygen(e_v, p, q)


def settle(p: Plates, q: Liquids, x: Pairing, drawn_a_per_m2: Array | float = 0.0) -> Array:
    """Potential at which the net current equals what is drawn (anodic positive), V; bisection, always converges."""
    n = max(p.hydrogen_i0.shape[0], q.ph.shape[0], q.layer_m.shape[0])
    shape = np.broadcast_shapes((n, len(p.keys), len(q.keys)), np.shape(drawn_a_per_m2))
    if shape[0] == 1 and math.prod(shape) <= FEW:
        return _settle_few(p, q, x, drawn_a_per_m2, shape[1:])
    low, high = np.full(shape, LOWEST_V), np.full(shape, HIGHEST_V)
    for _ in range(STEPS):
        middle = 0.5 * (low + high)
        above = net(middle, p, q, x) > drawn_a_per_m2
        high = np.where(above, middle, high)
        low = np.where(above, low, middle)
    return np.asarray(0.5 * (low + high))


def _settle_few(p: Plates, q: Liquids, x: Pairing, drawn_a_per_m2: Array | float, shape: tuple[int, ...]) -> Array:
    """`settle` for a few plates without draws: many potentials at once along the first axis cost little more than one."""
    low, high = np.full((1, *shape), LOWEST_V), np.full((1, *shape), HIGHEST_V)
    part = np.linspace(0.0, 1.0, PARTS + 1)[:, None, None]
    for _ in range(ROUNDS):
        tried = low + (high - low) * part
        under = (net(tried, p, q, x) <= drawn_a_per_m2).sum(axis=0, keepdims=True)
        low = np.take_along_axis(tried, np.maximum(under - 1, 0), axis=0)
        high = np.take_along_axis(tried, np.minimum(under, PARTS), axis=0)
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
) -> Rest:
    """Rest potentials of every plate in every liquid, by keys of the catalogue.

    `draws`: how many draws from the parameters' ranges to propagate (0: no uncertainty). `stir` > 1 thins the still
    layer; `oxygen_times` multiplies the oxygen supply. Two-solution cells are not liquids: name their sides.
    """
    x = pairing_of(plates, liquids)

    def run(rng: np.random.Generator | None, n: int) -> Array:
        draw = drawer(rng, n)
        q = liquids_of(liquids, rng, n, draw)
        q = replace(q, layer_m=q.layer_m / stir, oxygen=q.oxygen * oxygen_times)
        return settle(plates_of(plates, draw), q, x)

    central = run(None, 1)[0]
    drawn = run(np.random.default_rng(seed), draws) if draws else None
    u_v = None if drawn is None else np.sqrt(((drawn - central) ** 2).mean(axis=0))
    return Rest(tuple(plates), tuple(liquids), central, u_v, drawn)
