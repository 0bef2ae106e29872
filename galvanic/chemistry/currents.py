"""What a plate's reactions deliver at a potential: each by its own name, none without what it is made from.

* dissolution: Butler–Volmer against the surface ion level c_s, which is the bulk level plus what the current itself builds
  up through the still layer, c_s = c_b + iδ/(nFD), over the complexing α. Solved for i in closed form.
* film: the dissolution current passes it in series with a passive current that grows in acid, with the rate at which strong
  alkali dissolves the film, and with a pit current beyond the breakdown potential in chloride.
* solids (oxide, chloride) form without limit, but are reduced only as far as the plate carries them: their charge per area
  over the time `after_s` since the circuit was closed, and no faster than they turn; acid dissolves oxides meanwhile.
* hydrogen: Volmer-type, 118 mV a decade, first order in H+, limited by diffusion of H+ and weak acid; from water in
  parallel, the only cathodic reaction without a transport limit. Oxygen: to water at 120 mV a decade, on inert plates also
  to peroxide, both together no faster than oxygen arrives.
* other metals' ions: plate out no faster than they arrive (copper on zinc in copper sulfate).
* groups: quinones on carbon hold its potential until their charge is used, as a solid does.

The still layer grows after the circuit is closed as the square root of πDt (Cottrell; A. J. Bard, L. R. Faulkner), up to its
steady thickness. Potentials in V against hydrogen, current densities in A/m², anodic positive unless said. What calibration
leaves of a plate in a liquid (`Pairing.off_v`) is taken off in `net`, `metal`, `dissolution` and `cathodic`; who asks for a
single reaction has taken it off.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

import numpy as np

from galvanic.chemistry.plates import (
    CHLORIDE_ACTIVITY,
    LEAST_CHLORIDE,
    READ_AFTER_S,
    USUAL_OXYGEN_ORDER,
    Array,
    Liquids,
    Mask,
    Pairing,
    Plates,
    Side,
)
from galvanic.chemistry.warmth import Warmth, warmth
from galvanic.constants import FARADAY_C_PER_MOL as F
from galvanic.reference.catalogue import half_reactions
from galvanic.reference.quantities import quantity

NERNST_V = 0.0591597
# Cited in transport.toml, standard potentials in half_reactions.toml.
D_ION, D_PROTON = quantity("diffusion_ion_m2_per_s"), quantity("diffusion_proton_m2_per_s")
D_ACID, D_ASCORBATE = quantity("diffusion_acid_m2_per_s"), quantity("diffusion_ascorbate_m2_per_s")
D_OXYGEN, D_HYDROGEN = quantity("diffusion_oxygen_m2_per_s"), quantity("diffusion_hydrogen_m2_per_s")
D_PEROXIDE = quantity("diffusion_peroxide_m2_per_s")
OXYGEN_SATURATED, HYDROGEN_AT_1_BAR = quantity("oxygen_saturated_mol_per_m3"), quantity("hydrogen_at_1_bar_mol_per_m3")
O2_BAR, TRACE_PEROXIDE = quantity("oxygen_in_air_bar"), quantity("trace_peroxide_mol_per_l")
HYDROGEN_SLOPE_V, OXYGEN_SLOPE_V = quantity("hydrogen_slope_v"), quantity("oxygen_slope_v")
OXYGEN_E0_V, PEROXIDE_E0_V, WATER_E0_V = (half_reactions()[key].e_v.value for key in ("O2/H2O", "O2/H2O2", "H2O/H2 OH-"))
OXYGEN_PER_K = half_reactions()["O2/H2O"].de_dt_v_per_k
ASCORBATE_A_M_PER_MOL, ASCORBATE_AT_V = quantity("ascorbate_a_m_per_mol"), quantity("ascorbate_at_v")
ASCORBATE_SLOPE_V = quantity("ascorbate_slope_v")
PIT_A_PER_M2, PIT_SLOPE_V = quantity("pit_a_per_m2"), quantity("pit_slope_v")
PIT_CHLORIDE = quantity("pit_chloride_mol_per_l")
PLATING_A_PER_M2, PLATING_SLOPE_V = quantity("plating_a_per_m2"), quantity("plating_slope_v")
OXYGEN_PH = 5.0  # where an order of hydrogen ions of its own leaves the rate as it is listed
OXIDE_PH = 4.5  # below which acid dissolves the oxide that keeps oxygen from zinc
OXIDE_EATEN, OXIDE_EATEN_PH = quantity("oxide_eaten_c_per_m2_per_s"), 2.3
OXIDE_EATEN_ORDER = quantity("oxide_eaten_order")
TURNING_S = quantity("solids_turning_s")
MOST_DECADES, LN10 = 40.0, 2.302585092994046


def p10(exponent: Array) -> Array:
    """Ten to the power, within what a number holds."""
    return np.asarray(np.exp(LN10 * np.minimum(np.maximum(exponent, -MOST_DECADES), MOST_DECADES)))


def limited(kinetic: Array, limit: Array) -> Array:
    """Kinetics and transport in series."""
    return kinetic * limit / (kinetic + limit + 1e-300)


def layer_m(q: Liquids, diffusion_m2_per_s: float) -> Array:
    """The still layer that something crosses, m: as thick as it is, or as it has grown since the circuit was closed."""
    w = warmth(q.celsius)
    return np.asarray(np.minimum(q.layer_m, np.sqrt(np.pi * diffusion_m2_per_s * w.diffusion * q.after_s)))


def building_layer_m(q: Liquids) -> Array:
    """The layer through which a plate's own ions leave, m: what a steady flux has built up against is 2√(Dt/π) thick."""
    grown = 2.0 * np.sqrt(D_ION * warmth(q.celsius).diffusion * q.after_s / np.pi)
    return np.asarray(np.minimum(q.layer_m, grown))


def arrives(q: Liquids, diffusion_m2_per_s: float, mol_per_m3: Array | float) -> Array:
    """What diffuses to a plate, mol/m²/s."""
    return np.asarray(diffusion_m2_per_s * warmth(q.celsius).diffusion * mol_per_m3 / layer_m(q, diffusion_m2_per_s))


@dataclass(frozen=True)
class Slot:
    """A metal's own reaction that any of the plates has: its slot, rate, ligands and standard potential, whether its product
    is a solid, and how much of that the plates carry when a circuit is closed, C/m²."""

    slot: int
    rate: Array
    ligands: Array
    e0_v: Array
    solid: Mask | None
    stock: Array


@dataclass(frozen=True)
class Fixed:
    """What does not depend on the potential, worked out once for many of them."""

    w: Warmth
    slots: tuple[Slot, ...]
    filmed: bool
    thinning: Array
    alkali: Array
    breakdown_v: Array
    inert: bool
    grouped: bool
    foreign: bool


def fix(p: Plates, q: Liquids, x: Pairing) -> Fixed:
    """The part of all currents that plates and liquids decide alone."""
    w = warmth(q.celsius)
    chloride = CHLORIDE_ACTIVITY * np.maximum(q.chloride, LEAST_CHLORIDE)
    slots: list[Slot] = []
    for slot, side in enumerate(p.sides):
        if side.i0.any():
            rate = w.metal * side.i0 * p10(side.order * (q.ph - side.reference_ph))
            ligands = chloride**side.chloride * p10((q.ph - 14.0) * side.hydroxide)
            e0_v = side.e0_v + side.per_k * (q.celsius - 25.0)
            stock = np.maximum(side.stock - READ_AFTER_S * eaten(side, q), 0.0)
            slots.append(Slot(slot, rate, ligands, e0_v, side.solid > 0 if side.solid.any() else None, stock))
    filmed = bool(p.filmed.any())
    thinning = alkali = breakdown_v = np.zeros(1)
    if filmed:
        thinning = 1.0 + p10(p.acid_order * (p.acid_below_ph - q.ph)) + p10(p.alkali_order * (q.ph - p.alkali_above_ph))
        alkali = p.alkali * p10(q.ph - 14.0)
        breakdown_v = p.pit_v - p.pit_slope_v * np.log10(np.maximum(q.chloride, LEAST_CHLORIDE) / PIT_CHLORIDE)
    return Fixed(
        w,
        tuple(slots),
        filmed,
        thinning,
        alkali,
        breakdown_v,
        bool(p.peroxide_i0.any()),
        bool(p.groups_i0.any()),
        bool(x.foreign_mol_per_m3.any()),
    )


def eaten(side: Side, q: Liquids) -> Array:
    """How fast acid dissolves an oxide that a plate carries, C/m²/s."""
    return np.asarray(np.where(side.hydroxide > 0.0, OXIDE_EATEN * p10(-OXIDE_EATEN_ORDER * (q.ph - OXIDE_EATEN_PH)), 0.0))


def film_passes(e_v: Array, p: Plates, f: Fixed) -> Array:
    """What the film lets through, A/m²."""
    passive = f.w.film * (p.film_current * f.thinning * p10((e_v - p.film_at_v) / p.film_slope_v) + f.alkali)
    return np.asarray(passive + np.where(p.pits, PIT_A_PER_M2 * p10((e_v - f.breakdown_v) / PIT_SLOPE_V), 0.0))


def reactions(e_v: Array, p: Plates, q: Liquids, x: Pairing, f: Fixed) -> Iterator[tuple[int, Array, Array, Array]]:
    """Each of the metal's own reactions by its slot: net current into solution before the film, formation of a solid, and
    its reduction (both positive)."""
    near = q.near
    ion_layer = building_layer_m(q) if near is None else near.ion_m
    nothing = np.zeros_like(e_v)
    for own in f.slots:
        slot, rate, ligands, e0_v, solid = own.slot, own.rate, own.ligands, own.e0_v, own.solid
        side = p.sides[slot]
        forming = reduced = nothing
        over = (e_v - e0_v) / f.w.slope
        forward = ligands * p10(over / side.slope_a_v)
        backward = p10(-over / side.slope_c_v)
        if solid is not None:
            forms = rate * (forward - backward)
            lasts = own.stock / np.maximum(q.after_s, TURNING_S)
            if near is not None:
                lasts = near.solids[slot] / (near.step_s + TURNING_S)
            forming = np.where(solid, np.maximum(forms, 0.0), 0.0)
            reduced = np.where(solid, limited(np.maximum(-forms, 0.0), lasts), 0.0)
            if solid.all():
                yield slot, nothing, forming, reduced
                continue
        alpha = x.alpha[..., slot]
        bulk = (x.bulk[..., slot] if near is None else near.own[slot]) / alpha
        build_up = x.gamma[..., slot] * ion_layer / (side.electrons * F * D_ION * f.w.diffusion) * 1e-3 / alpha
        dissolved = rate * (forward - bulk * backward) / (1.0 + rate * build_up * backward)
        yield slot, dissolved if solid is None else np.where(solid, 0.0, dissolved), forming, reduced


def metal(e_v: Array, p: Plates, q: Liquids, x: Pairing) -> tuple[Array, Array]:
    """The plate's own metal: net current into solution and solids through the film, and reduction of solids (positive)."""
    return _metal(e_v - x.off_v, p, q, x, fix(p, q, x))


def _metal(e_v: Array, p: Plates, q: Liquids, x: Pairing, f: Fixed) -> tuple[Array, Array]:
    return through_film(e_v, p, f, reactions(e_v, p, q, x, f))


def through_film(e_v: Array, p: Plates, f: Fixed, own: Iterable[tuple[int, Array, Array, Array]]) -> tuple[Array, Array]:
    """`metal` from its single reactions."""
    total, reduced = np.zeros_like(e_v), np.zeros_like(e_v)
    for _, dissolved, forming, taken in own:
        total, reduced = total + dissolved + forming, reduced + taken
    if not f.filmed:
        return total, reduced
    through = np.where(total > 0.0, limited(np.maximum(total, 0.0), film_passes(e_v, p, f)), total)
    return np.where(p.filmed, through, total), reduced


def dissolution(e_v: Array, p: Plates, q: Liquids, x: Pairing) -> Array:
    """Net anodic current of the metal itself, film and solids included."""
    through, reduced = metal(e_v, p, q, x)
    return np.asarray(through - reduced)


def acid_arrives(q: Liquids) -> Array:
    """Protons that reach a plate, free and from weak acid, mol/m²/s."""
    return arrives(q, D_PROTON, 1000.0 * p10(-q.ph)) + arrives(q, D_ACID, q.acid_mol_per_m3)


def from_acid(e_v: Array, p: Plates, q: Liquids) -> Array:
    """Hydrogen made from protons and weak acid (cathodic positive), no faster than they arrive."""
    w = warmth(q.celsius)
    kinetic = w.hydrogen * p.hydrogen_i0 * p10(-q.ph) * p10(-e_v / (HYDROGEN_SLOPE_V * w.slope))
    if q.near is None:
        return limited(kinetic, F * acid_arrives(q))
    return limited(q.near.acid_level * kinetic, F * q.near.acid_level * q.near.acid_supply)


def hydrogen(e_v: Array, p: Plates, q: Liquids) -> Array:
    """Net hydrogen evolution (cathodic positive)."""
    w = warmth(q.celsius)
    protons, slope = p10(-q.ph), HYDROGEN_SLOPE_V * w.slope
    i0 = w.hydrogen * p.hydrogen_i0
    from_water = w.hydrogen * np.maximum(p.hydrogen_i0, p.hydrogen_alkali_i0) * p10(-(e_v - WATER_E0_V) / slope)
    if not q.hydrogen_bar.any():
        return np.asarray(from_acid(e_v, p, q) + from_water)
    over_v = e_v + w.nernst_v * q.ph
    back = i0 * np.sqrt(protons * q.hydrogen_bar) * p10(over_v / slope)
    back = limited(back, 2.0 * F * arrives(q, D_HYDROGEN, HYDROGEN_AT_1_BAR * w.hydrogen_dissolved * q.hydrogen_bar))
    return np.asarray(from_acid(e_v, p, q) + from_water - back)


def oxygen_arrives(p: Plates, q: Liquids) -> Array:
    """Oxygen that reaches a plate, mol/m²/s."""
    return arrives(q, D_OXYGEN, oxygen_level(p, q))


def oxygen_level(p: Plates, q: Liquids) -> Array:
    """Dissolved oxygen as far as a plate's surface lets it react, mol/m³."""
    open_share = np.minimum(1.0, p.oxygen_share * p10(p.oxygen_bared * np.maximum(OXIDE_PH - q.ph, 0.0)))
    return np.asarray(OXYGEN_SATURATED * warmth(q.celsius).oxygen_dissolved * q.oxygen * open_share)


def oxygen(e_v: Array, p: Plates, q: Liquids) -> tuple[Array, Array]:
    """Oxygen reduction to water and (on inert plates) to peroxide, cathodic positive; both share what arrives."""
    w = warmth(q.celsius)
    share = np.minimum(1.0, q.oxygen)
    e0_v = OXYGEN_E0_V + (OXYGEN_PER_K.value if OXYGEN_PER_K else 0.0) * (q.celsius - 25.0)
    at_ph = p10((USUAL_OXYGEN_ORDER - p.oxygen_order) * (q.ph - OXYGEN_PH))
    whole = w.oxygen * p.oxygen_i0 * share * at_ph * p10(-(e_v - e0_v + w.nernst_v * q.ph) / (OXYGEN_SLOPE_V * w.slope))
    # One slope for both: the first electron decides. So their ratio is fixed, and together they rise as potential falls.
    if q.near is None:
        level, arriving = np.ones(1), oxygen_arrives(p, q) + 1e-300
    else:
        level, arriving = q.near.oxygen_level, q.near.oxygen_level * q.near.oxygen_supply + 1e-300
    whole = level * whole
    if not p.peroxide_i0.any():
        return limited(whole, 4.0 * F * arriving), np.zeros_like(whole)
    half = level * w.oxygen * p.peroxide_i0 * share * p10(-_over_peroxide(e_v, q, w) / (OXYGEN_SLOPE_V * w.slope))
    crowded = 1.0 + (whole / 4.0 + half / 2.0) / (F * arriving)
    return np.asarray(whole / crowded), np.asarray(half / crowded)


def _over_peroxide(e_v: Array, q: Liquids, w: Warmth) -> Array:
    pressure = np.maximum(O2_BAR * q.oxygen, 1e-6)
    return np.asarray(e_v - PEROXIDE_E0_V + w.nernst_v * q.ph - 0.5 * w.nernst_v * np.log10(pressure / TRACE_PEROXIDE))


def oxidised(e_v: Array, p: Plates, q: Liquids) -> Array:
    """Traces of peroxide and vitamin C oxidised on plates that do not dissolve (anodic positive)."""
    if not p.peroxide_i0.any():
        return np.zeros_like(e_v)
    w = warmth(q.celsius)
    peroxide = w.oxygen * p.peroxide_i0 * p10(_over_peroxide(e_v, q, w) / (HYDROGEN_SLOPE_V * w.slope))
    peroxide = limited(peroxide, 2.0 * F * arrives(q, D_PEROXIDE, 1000.0 * TRACE_PEROXIDE))
    shift = (e_v - ASCORBATE_AT_V + w.nernst_v * (q.ph - 2.3)) / (ASCORBATE_SLOPE_V * w.slope)
    ascorbate = w.oxygen * ASCORBATE_A_M_PER_MOL * q.ascorbate_mol_per_m3 * p10(shift)
    ascorbate = limited(ascorbate, 2.0 * F * arrives(q, D_ASCORBATE, q.ascorbate_mol_per_m3))
    return np.where(p.peroxide_i0 > 0.0, peroxide + ascorbate, 0.0)


def groups(e_v: Array, p: Plates, q: Liquids) -> Array:
    """Net oxidation of the surface groups of carbon, either way no faster than their charge lasts."""
    if not p.groups_i0.any():
        return np.zeros_like(e_v)
    w = warmth(q.celsius)
    over = (e_v - p.groups_v + w.nernst_v * q.ph) / (HYDROGEN_SLOPE_V * w.slope)
    turned = p.groups_i0 * (p10(over) - p10(-over))
    if q.near is None:
        return np.asarray(np.sign(turned) * limited(np.abs(turned), p.groups_c_per_m2 / q.after_s))
    lasts = np.where(turned > 0.0, q.near.groups_up, q.near.groups_down) / q.near.step_s
    return np.asarray(np.sign(turned) * limited(np.abs(turned), lasts))


def plating(e_v: Array, q: Liquids, x: Pairing) -> Array:
    """Ions of a nobler metal in the liquid that plate out (cathodic positive), no faster than they arrive."""
    if not x.foreign_mol_per_m3.any():
        return np.zeros_like(e_v)
    w = warmth(q.celsius)
    kinetic = w.metal * PLATING_A_PER_M2 * p10(-(e_v - x.foreign_v) / (PLATING_SLOPE_V * w.slope))
    if q.near is None:
        return limited(kinetic, x.foreign_electrons * F * arrives(q, D_ION, x.foreign_mol_per_m3))
    level = q.near.foreign_level
    return limited(level * kinetic, x.foreign_electrons * F * level * q.near.foreign_supply)


def cathodic(e_v: Array, p: Plates, q: Liquids, x: Pairing) -> dict[str, Array]:
    """Each reduction by its name, cathodic positive, none below zero; together what a positive plate takes up."""
    e_v = e_v - x.off_v
    through, solids = _metal(e_v, p, q, x, fix(p, q, x))
    whole, half = oxygen(e_v, p, q)
    parts = {
        "oxygen": whole,
        "peroxide": half,
        "hydrogen": hydrogen(e_v, p, q),
        "own ions": -through,
        "solids": solids,
        "groups": -groups(e_v, p, q),
        "plating": plating(e_v, q, x),
    }
    return {name: np.maximum(part, 0.0) for name, part in parts.items()}


def net(e_v: Array, p: Plates, q: Liquids, x: Pairing, f: Fixed | None = None) -> Array:
    """All currents, anodic positive; strictly rising with potential. `f`: what `fix` gave, if it is known."""
    f, e_v = f or fix(p, q, x), e_v - x.off_v
    whole, half = oxygen(e_v, p, q)
    through, reduced = _metal(e_v, p, q, x, f)
    total = through - reduced - hydrogen(e_v, p, q) - whole
    if f.inert:
        total = total + oxidised(e_v, p, q) - half
    if f.grouped:
        total = total + groups(e_v, p, q)
    return np.asarray(total - plating(e_v, q, x) if f.foreign else total)
