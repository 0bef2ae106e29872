"""Parameters of many plates in many liquids as arrays, central or drawn from their ranges.

Shapes: a plate's arrays are (n, plates, 1) and a liquid's (n, 1, liquids), with n = 1 for central values, so that every
expression broadcasts to (n, plates, liquids).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from galvanic.chemistry.acids import acids, complexation
from galvanic.chemistry.activity import HIGHEST_I, SULFATE, davies_log10, ion_activity
from galvanic.chemistry.kinetics import Parameter, forms, surfaces
from galvanic.chemistry.posterior import discrepancy
from galvanic.reference.catalogue import Electrolyte, HalfReaction, electrodes, electrolytes, half_reactions
from galvanic.reference.quantities import quantity
from galvanic.reference.reader import Range

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]
MOST_DISSOLUTIONS = 3
CHLORIDE_ACTIVITY = quantity("chloride_activity")
LEAST_CHLORIDE = 1e-7
OWN_SALT = 5e-4  # mol/L of its own ions, from which a plate is held by them
KCL_S_PER_M_A_MOL_PER_L = 12.8
READ_AFTER_S = quantity("read_after_s")
USUAL_OXYGEN_ORDER = 0.0591597 / quantity("oxygen_slope_v")  # the rate moves with pH as the equilibrium does


@dataclass(frozen=True)
class Side:
    """One anodic reaction of every plate; zero `i0` where a plate has none. `slope_c_v` keeps the equilibrium exact.

    `chloride`, `hydroxide`: how many of them the step that decides takes. `stock` is the charge of a solid that the plate
    carries, C/m², `dull` that of one that was not rubbed; `per_k` how the standard potential moves, V/K.
    """

    e0_v: Array
    electrons: Array
    i0: Array
    slope_a_v: Array
    slope_c_v: Array
    chloride: Array
    hydroxide: Array
    order: Array
    reference_ph: Array
    solid: Array
    stock: Array
    dull: Array
    per_k: Array


@dataclass(frozen=True)
class Plates:
    """Kinetics of plates; see kinetics.toml for each."""

    keys: tuple[str, ...]
    sides: tuple[Side, ...]
    hydrogen_i0: Array
    oxygen_i0: Array
    oxygen_share: Array
    oxygen_bared: Array
    oxygen_order: Array
    peroxide_i0: Array
    hydrogen_alkali_i0: Array
    groups_i0: Array
    groups_v: Array
    groups_c_per_m2: Array
    filmed: Mask
    film_current: Array
    film_at_v: Array
    film_slope_v: Array
    acid_order: Array
    acid_below_ph: Array
    alkali_order: Array
    alkali_above_ph: Array
    alkali: Array
    pits: Mask
    pit_v: Array
    pit_slope_v: Array


@dataclass(frozen=True)
class Near:
    """What a plate has next to it at one moment of a run, in place of a steady still layer; see transient.py.

    `…_level`: share of the bulk's level that is left at the surface if nothing more is used; `…_supply`, mol/m²/s: the use
    that would lower it by the whole bulk level. `own`: own ions at the surface by slot, mol/L, and `ion_m` the layer
    they have to cross. `step_s`: over what time solids (`solids` by slot, C/m²) and groups may be used up; `groups_up`,
    `groups_down`: charge that carbon's groups can still give either way, C/m².
    """

    acid_level: Array
    acid_supply: Array
    oxygen_level: Array
    oxygen_supply: Array
    foreign_level: Array
    foreign_supply: Array
    own: Array
    ion_m: Array
    solids: Array
    step_s: float
    groups_up: Array
    groups_down: Array


@dataclass(frozen=True)
class Liquids:
    """Properties of liquids; `acid_mol_per_m3` counts protons that weak acids can still give.

    `after_s`: how long ago the circuit was closed, s (infinite: all is steady), for all or one for each liquid.
    """

    keys: tuple[str, ...]
    ph: Array
    chloride: Array
    oxygen: Array
    layer_m: Array
    hydrogen_bar: Array
    ascorbate_mol_per_m3: Array
    acid_mol_per_m3: Array
    conductivity_s_per_m: Array
    after_s: Array
    celsius: float = 25.0
    near: Near | None = None


@dataclass(frozen=True)
class Pairing:
    """What depends on plate and liquid together: own ions in the bulk (their activity), complexing, and the activity
    coefficient of what the plate itself sets free, (n, plates, liquids, sides).

    `off_v`, (n, plates, liquids): how far calibration found the plate from where its currents put it, V (`posterior`).
    `foreign_…`, (n, plates, liquids): ions of the noblest other metal in the liquid that plates out there, its Nernst
    potential, concentration (0: none) and electrons.
    """

    bulk: Array
    alpha: Array
    gamma: Array
    off_v: Array
    foreign_v: Array
    foreign_mol_per_m3: Array
    foreign_electrons: Array


Draw = Callable[[Parameter], Array]


def drawer(rng: np.random.Generator | None, n: int) -> Draw:
    """Central values, or draws from the range: the same parameter gets the same draws wherever it is used."""
    if rng is None:
        return lambda p: np.array([p.value])
    seen: dict[int, Array] = {}
    common: list[Array] = []

    def draw(p: Parameter) -> Array:
        if id(p) not in seen and p.factor:
            if not common:
                common.append(rng.standard_normal((len(p.factor), n)).clip(-2.5, 2.5))
            seen[id(p)] = p.along(common[0])
        elif id(p) not in seen:
            seen[id(p)] = p.draw(rng, n)
        return seen[id(p)]

    return draw


def _column(values: Sequence[Array]) -> Array:
    return np.stack(values, axis=1)[:, :, None]


def plates_of(keys: Sequence[str], draw: Draw) -> Plates:
    """Kinetics of electrodes by key of electrodes.toml."""
    chosen = [surfaces()[electrodes()[key].surface] for key in keys]
    zero, one = np.zeros(1), np.ones(1)

    def take(get: Callable[[Any], Parameter | None], otherwise: Array = zero) -> Array:
        got = [draw(p) if (p := get(s)) is not None else otherwise for s in chosen]
        n = max(len(values) for values in got)
        return _column([np.broadcast_to(values, n) for values in got])

    def side(slot: int) -> Side:
        rows = [s.dissolution[slot] if slot < len(s.dissolution) else None for s in chosen]

        def fixed(get: Callable[[Any], float], otherwise: float) -> Array:
            return _column([np.array([get(row) if row else otherwise]) for row in rows])

        def drawn(get: Callable[[Any], Parameter | None], otherwise: float) -> Array:
            got = [draw(p) if row and (p := get(row)) is not None else np.array([otherwise]) for row in rows]
            n = max(len(values) for values in got)
            return _column([np.broadcast_to(values, n) for values in got])

        electrons = fixed(lambda row: half_reactions()[row.couple].electrons, 1.0)
        slope_a = drawn(lambda row: row.slope_v, 0.1)
        steps = fixed(lambda row: row.steps, 1.0)
        nernst = 0.0591597 * steps / electrons
        slope_a = np.maximum(slope_a, 1.02 * nernst)
        return Side(
            e0_v=fixed(lambda row: half_reactions()[row.couple].e_v.value, 0.0),
            electrons=electrons,
            i0=drawn(lambda row: row.i0_a_per_m2, 0.0),
            slope_a_v=slope_a,
            slope_c_v=1.0 / (1.0 / nernst - 1.0 / slope_a),
            chloride=fixed(lambda row: row.chloride / row.steps, 0.0),
            hydroxide=fixed(lambda row: row.hydroxide / row.steps, 0.0),
            order=drawn(lambda row: row.hydroxide_order, 0.0),
            reference_ph=fixed(lambda row: row.reference_ph, 0.0),
            solid=fixed(lambda row: float(row.solid), 0.0),
            stock=drawn(lambda row: row.stock_c_per_m2, 0.0),
            dull=drawn(lambda row: row.dull_c_per_m2 or row.stock_c_per_m2, 0.0),
            per_k=fixed(lambda row: _per_k(row.couple), 0.0),
        )

    def film(name: str, otherwise: float) -> Array:
        return take(lambda s: getattr(s.film, name) if s.film else None, np.array([otherwise]))

    return Plates(
        keys=tuple(keys),
        sides=tuple(side(slot) for slot in range(MOST_DISSOLUTIONS)),
        hydrogen_i0=take(lambda s: s.hydrogen_i0_a_per_m2),
        oxygen_i0=take(lambda s: s.oxygen_i0_a_per_m2),
        oxygen_share=take(lambda s: s.oxygen_share, one),
        oxygen_bared=take(lambda s: s.oxygen_bared),
        oxygen_order=take(lambda s: s.oxygen_order, np.full(1, USUAL_OXYGEN_ORDER)),
        peroxide_i0=take(lambda s: s.peroxide_i0_a_per_m2),
        hydrogen_alkali_i0=take(lambda s: s.hydrogen_alkali_i0_a_per_m2),
        groups_i0=take(lambda s: s.groups_i0_a_per_m2),
        groups_v=take(lambda s: s.groups_v),
        groups_c_per_m2=take(lambda s: s.groups_c_per_m2),
        filmed=_column([np.array([float(s.film is not None)]) for s in chosen]) > 0,
        film_current=film("current_a_per_m2", 1.0),
        film_at_v=film("at_v", 0.0),
        film_slope_v=film("slope_v", 0.1),
        acid_order=film("acid_order", 0.0),
        acid_below_ph=film("acid_below_ph", 0.0),
        alkali_order=film("alkali_order", 0.0),
        alkali_above_ph=film("alkali_above_ph", 14.0),
        alkali=film("alkali_a_per_m2", 0.0),
        pits=_column([np.array([float(bool(s.film and s.film.pit_v))]) for s in chosen]) > 0,
        pit_v=film("pit_v", 9.0),
        pit_slope_v=film("pit_chloride_slope_v", 0.1),
    )


def _per_k(couple: str) -> float:
    slope = half_reactions()[couple].de_dt_v_per_k
    return 0.0 if slope is None else slope.value


def liquids_of(keys: Sequence[str], rng: np.random.Generator | None, n: int, draw: Draw) -> Liquids:
    """Properties of electrolytes by key; ranges are drawn evenly (pH) or evenly in the logarithm (the rest)."""
    rows = [electrolytes()[key] for key in keys]

    def across(values: Sequence[Array]) -> Array:
        size = max(len(v) for v in values)
        return np.stack([np.broadcast_to(v, size) for v in values], axis=1)[:, None, :]

    def spread(r: Range | None, logarithmic: bool) -> Array:
        if r is None:
            return np.zeros(1)
        if rng is None:
            return np.array([math.sqrt(r.low * r.high) if logarithmic else 0.5 * (r.low + r.high)])
        u = rng.random(n)
        return r.low * (r.high / r.low) ** u if logarithmic else r.low + u * (r.high - r.low)

    ph = across([spread(row.ph, False) for row in rows])
    form = [forms()[row.form] for row in rows]
    return Liquids(
        keys=tuple(keys),
        ph=ph,
        chloride=across([spread(row.chloride_mol_per_l, True) for row in rows]),
        oxygen=across([draw(f.oxygen_share) for f in form]),
        layer_m=across([draw(f.layer_m) for f in form]),
        hydrogen_bar=across([draw(f.hydrogen_bar) if f.hydrogen_bar else np.zeros(1) for f in form]),
        ascorbate_mol_per_m3=1000.0 * across([spread(row.ascorbate_mol_per_l, True) for row in rows]),
        acid_mol_per_m3=1000.0 * across([np.array([_protons(row)]) for row in rows]),
        conductivity_s_per_m=across([spread(row.conductivity_s_per_m, True) for row in rows]),
        after_s=np.array([[[math.inf if f.exposed_long else READ_AFTER_S for f in form]]]),
    )


def _protons(row: Electrolyte) -> float:
    return sum(amount * len(acids()[key].pka) for key, amount in row.acids_mol_per_l.items())


def pairing_of(plates: Sequence[str], liquids: Sequence[str]) -> Pairing:
    """Bulk activity of each plate's own ion, its complexing, and what else plates out, at the liquids' middle values."""
    shape = (1, len(plates), len(liquids), MOST_DISSOLUTIONS)
    bulk, alpha, gamma = np.zeros(shape), np.ones(shape), np.ones(shape)
    off_v = np.zeros(shape[:3])
    foreign_v, foreign, electrons = np.zeros(shape[:3]), np.zeros(shape[:3]), np.ones(shape[:3])
    for j, liquid in enumerate(liquids):
        row = electrolytes()[liquid]
        ph = 0.5 * (row.ph.low + row.ph.high)
        chloride = math.sqrt(row.chloride_mol_per_l.low * row.chloride_mol_per_l.high)
        known: dict[str, float] = {}
        for i, plate in enumerate(plates):
            own = electrodes()[plate].couple
            if row.ions_mol_per_l.get((own or "").split("/")[0], 0.0) < OWN_SALT:
                off_v[0, i, j] = discrepancy(electrodes()[plate].surface, row).mean_v
            if (found := _foreign(row, own)) is not None:
                foreign_v[0, i, j], foreign[0, i, j], electrons[0, i, j] = found
            for slot, reaction in enumerate(surfaces()[electrodes()[plate].surface].dissolution):
                ion = reaction.couple.split("/")[0]
                if reaction.solid or reaction.chloride or reaction.hydroxide:
                    continue
                if ion not in known:
                    known[ion] = complexation(ion, row.acids_mol_per_l, chloride, ph)
                alpha[0, i, j, slot] = known[ion]
                if own_ions := row.ions_mol_per_l.get(ion, 0.0):
                    bulk[0, i, j, slot] = ion_activity(ion, own_ions, row.anion or SULFATE)
                    gamma[0, i, j, slot] = bulk[0, i, j, slot] / own_ions
                else:
                    strength = min(ionic_strength(row), HIGHEST_I)
                    gamma[0, i, j, slot] = 10.0 ** davies_log10(half_reactions()[reaction.couple].electrons, strength)
    return Pairing(bulk, alpha, gamma, off_v, foreign_v, foreign, electrons)


def ionic_strength(liquid: Electrolyte) -> float:
    """A liquid's ionic strength from its conductivity, mol/L: what potassium chloride would have, whose 0.1 mol/L conducts
    1.28 S/m. Good enough for the activity coefficient of traces: a factor of two moves a plate by 3 mV."""
    conducts = liquid.conductivity_s_per_m
    return math.sqrt(conducts.low * conducts.high) / KCL_S_PER_M_A_MOL_PER_L


def couple_of(ion: str) -> HalfReaction | None:
    """The half-reaction of a simple metal ion, `Cu2+`; None where it is none."""
    return half_reactions().get(f"{ion}/{ion.rstrip('+0123456789')}")


def _foreign(liquid: Electrolyte, own: str | None) -> tuple[float, float, float] | None:
    """Potential in V, concentration in mol/m³ and electrons of the noblest ions that are nobler than a plate's own."""
    least = -math.inf if own is None else half_reactions()[own].e_v.value
    there = []
    for ion, amount in liquid.ions_mol_per_l.items():
        couple = couple_of(ion)
        if couple is not None and couple.key != own and couple.e_v.value > least:
            slope = 0.0591597 / couple.electrons
            at_v = couple.e_v.value + slope * math.log10(ion_activity(ion, amount, liquid.anion or SULFATE))
            there.append((at_v, 1000.0 * amount, float(couple.electrons)))
    return max(there, default=None)
