"""How long a pack lasts under a load, and what runs out first.

Each end is a charge that is there, divided by the current that uses it: the positive plate's own ions in its solution and
an oxidant by the load, acid by what takes acid on either plate, metal by the load's current and by what the liquid eats by
itself, room for the metal's ions by both, water by drying. Oxygen comes in from the air all the time: it ends nothing, but
it decides how much the cell gives from the start. The currents are those of the steady state with the load joined; their
spread and that of the quantities below give the ranges. Volumes, the rate of drying and the room for ions are common
practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from galvanic.chemistry import currents
from galvanic.chemistry.circuit import Pack, in_a_row
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.expected import Expected, Spread, expect
from galvanic.chemistry.half import Half
from galvanic.chemistry.oxidants import oxidising
from galvanic.chemistry.polarisation import sides_of
from galvanic.constants import FARADAY_C_PER_MOL as F
from galvanic.errors import within
from galvanic.reference.catalogue import electrodes, electrolytes, half_reactions
from galvanic.reference.further_tables import elements
from galvanic.words import say

What = Literal["ions", "oxidant", "acid", "metal", "room", "water"]

SHEET_UM = 500.0  # a plate of sheet metal, if nothing else is said
LEAST_ML, MOST_ML, LEAST_UM, MOST_UM = 0.1, 10_000.0, 0.1, 20_000.0
HALF_LEFT = 0.5  # a liquid is called used up when half of its acid or of its water is gone
DRIES_MM_A_DAY = (1.0, 4.0)  # an open cup in a room
CUP_ML, CUP_DEPTH_CM = 40.0, 4.0
VOLUME_ML = {"whole": 30.0, "card": 0.5, "acid-card": 0.5, "paste": 2.0}  # around a pair of plates, by form; else a cup
EDGES = 0.25  # of the rate of an open cup: card between two plates dries at its edges
FRUIT_DAYS = (4.0, 20.0)  # until the flesh about the plates has dried or rotted
LEAST_ACID_MOL_PER_L = 0.005  # of acid that can still be given; less decides nothing
LEAST_SALT_MOL_PER_L, SALT_USED = 1e-3, 0.9  # own ions of the positive plate; what is gone when it fades
LONGEST_S = 100.0 * 365.0 * 86_400.0  # nothing is foretold beyond
IONS_MOL_PER_L = (0.3, 2.0)  # dissolved metal at which crusts and sludge begin
SALT_KNOWN = 1.25  # what was weighed
BULK = 2.0  # acid and metal are known within such a factor either way
DAY_S, J_PER_WH = 86_400.0, 3600.0
BOUGHT_WH, BOUGHT_PRICE, CUP_PRICE = 2.5, 0.5, 0.3  # an AA cell, and a cup with its liquid, in any currency


@dataclass(frozen=True, slots=True)
class End:
    """One thing that runs out: when, s, with its range; `share` of the metal's loss that is not the load's (metal only)."""

    what: What
    words: str
    seconds: Spread
    by_itself: float = 0.0


NEVER = End("water", "", Spread(math.inf, math.inf, math.inf))


@dataclass(frozen=True)
class Life:
    """How long a pack lasts: its ends, the first one first, and what it gives until then.

    `oxygen_share`: how much of the positive plate's work oxygen does. `charge_c`, `energy_wh` at the load until the first
    end; `metal_g` what is used of the negative plates until then; costs in any one currency per kWh.
    """

    expected: Expected
    ends: tuple[End, ...]
    oxygen_share: float
    charge_c: float
    energy_wh: float
    metal_g: float
    cost_per_kwh: float | None
    bought_per_kwh: float


def life(
    of: Pack | Sequence[PackCell],
    load: str | float,
    volume_ml: float | None = None,
    metal_um: float | None = None,
    cup_price: float = CUP_PRICE,
) -> Life:
    """What ends a pack, or cells in a row, under a load.

    `volume_ml` of liquid at each pair of plates (each of two solutions); None: as usual for a cup, a piece of fruit, a card.
    `metal_um` of metal on the negative plate. Raises OutOfRange for sizes that no cup and no plate has, UnknownMaterial for
    a load.
    """
    if volume_ml is not None:
        within(
            "volume_ml",
            volume_ml,
            LEAST_ML,
            MOST_ML,
            say("A cup holds {least_ml:g} to {most_ml:.0f} mL.", least_ml=LEAST_ML, most_ml=MOST_ML),
        )
    within(
        "metal_um",
        SHEET_UM if metal_um is None else metal_um,
        LEAST_UM,
        MOST_UM,
        say("Metal is {least_um:g} to {most_um:.0f} µm thick.", least_um=LEAST_UM, most_um=MOST_UM),
    )
    within("cup_price", cup_price, 0.0, 1e6, say("A price is zero or more."))
    pack = of if isinstance(of, Pack) else in_a_row(of)
    expected = expect(pack, load, math.inf)
    current = expected.meeting.current_a
    factor_low = max(expected.current_a.low, 1e-12) / max(expected.current_a.middle, 1e-12)
    factor_high = max(expected.current_a.high, 1e-12) / max(expected.current_a.middle, 1e-12)
    in_rows = [(cell, abs(row_a)) for row, row_a in zip(pack.rows, expected.meeting.rows_a, strict=True) for cell in row]
    each = [
        _cell(cell, amps, volume_ml if volume_ml is not None else usual_ml(cell), metal_um or SHEET_UM)
        for cell, amps in dict.fromkeys(in_rows)
    ]
    ends = []
    for what in get_args(What):
        shortest = min((cell[what] for cell in each if what in cell), key=lambda end: end.seconds.middle, default=None)
        if shortest is not None and shortest.seconds.middle < LONGEST_S:
            ends.append(_spread_by(shortest, factor_low, factor_high))
    ends.sort(key=lambda end: end.seconds.middle)
    lasts = ends[0].seconds.middle if ends else 0.0
    energy_wh = max(current * expected.meeting.volts_v, 0.0) * lasts / J_PER_WH
    metal_g = sum(_grams(cell, amps, lasts) for cell, amps in in_rows)
    cost = cup_price * pack.size / (energy_wh / 1e3) if energy_wh > 0.0 else None
    share = min(_shares(cell, amps)["oxygen"] for cell, amps in dict.fromkeys(in_rows))
    bought = BOUGHT_PRICE / BOUGHT_WH * 1e3
    return Life(expected, tuple(ends), share, current * lasts, energy_wh, metal_g, cost, bought)


def usual_ml(cell: PackCell) -> float:
    """The liquid about a pair of plates if nothing else is said, mL: a cup, a piece of fruit, a card's drops."""
    return VOLUME_ML.get(electrolytes()[cell.cell.electrolyte].form, CUP_ML)


def _halves(cell: PackCell) -> tuple[Half, Half, float]:
    low, high = sides_of(cell.cell)
    wetted = cell.geometry.area_m2 * cell.geometry.pairs * cell.left
    return Half.of(cell.cell.negative, low).after(math.inf), Half.of(cell.cell.positive, high).after(math.inf), wetted


def _eaten_a(cell: PackCell, current_a: float) -> tuple[float, float]:
    """Current at which the negative plate dissolves, and how much of it the liquid takes by itself, A."""
    negative, _, wetted = _halves(cell)
    drawn = current_a * cell.anchor.times / wetted
    at = negative.at(drawn)[:, None, None]
    through, _ = currents.metal(at, negative.plates, negative.liquids, negative.pairing)
    total = max(float(through[0, 0, 0]), drawn) * wetted
    return total, max(total - current_a * cell.anchor.times, 0.0)


def _cell(cell: PackCell, current_a: float, volume_ml: float, metal_um: float) -> dict[str, End]:
    low_side, high_side = (electrolytes()[key] for key in sides_of(cell.cell))
    negative, positive, wetted = _halves(cell)
    total, itself = _eaten_a(cell, current_a)
    shares = _shares(cell, current_a)
    litres = volume_ml * 1e-3
    out: dict[str, End] = {}
    upper = electrodes()[cell.cell.positive]
    salt = high_side.ions_mol_per_l.get(upper.couple.split("/")[0], 0.0) if upper.couple else 0.0
    if upper.couple and salt > LEAST_SALT_MOL_PER_L and shares["own ions"] > 0.0:
        charge = SALT_USED * litres * salt * half_reactions()[upper.couple].electrons * F
        words = say("the salt of {name} in {volume_ml:g} mL", name=upper.name, volume_ml=volume_ml)
        out["ions"] = End("ions", words, _factor(charge / max(current_a * shares["own ions"], 1e-15), SALT_KNOWN))
    oxidants = oxidising(high_side.key)
    if oxidants:
        charge = litres * math.fsum(one.charge_c_per_l for one in oxidants)
        words = say("{name} in {volume_ml:g} mL", name=oxidants[0].name, volume_ml=volume_ml)
        out["oxidant"] = End("oxidant", words, _factor(charge / max(current_a, 1e-15), BULK))
    acids = [(low_side, negative, itself)]
    taken = current_a * shares["acid"]
    acids = [(low_side, negative, itself + taken)] if low_side == high_side else [*acids, (high_side, positive, taken)]
    for liquid, half, amps in acids:
        acid_mol_per_l = 10.0**-half.ph + float(half.liquids.acid_mol_per_m3[0, 0, 0]) * 1e-3
        seconds = HALF_LEFT * litres * acid_mol_per_l * F / max(amps, 1e-15)
        if half.ph >= 6.0 or acid_mol_per_l < LEAST_ACID_MOL_PER_L or seconds > out.get("acid", NEVER).seconds.middle:
            continue
        words = say("half of the acid in {volume_ml:g} mL of {name}", volume_ml=volume_ml, name=liquid.name)
        out["acid"] = End("acid", words, _factor(seconds, BULK))
    plate = electrodes()[cell.cell.negative]
    if plate.couple is not None:
        couple, metal = half_reactions()[plate.couple], plate.couple.split("/")[1]
        element = elements()[metal]
        if element.density_kg_per_l is not None:
            grams = element.density_kg_per_l.value * wetted * metal_um  # kg/L·m²·µm is g
            charge = grams * couple.electrons * F / element.molar_mass_g_per_mol.value
            share = itself / total if total > 0.0 else 0.0
            words = say("{name}, {metal_um:g} µm thick, also eaten by the liquid itself", name=plate.name, metal_um=metal_um)
            out["metal"] = End("metal", words, _factor(charge / max(total, 1e-15), BULK), share)
        middle = math.sqrt(IONS_MOL_PER_L[0] * IONS_MOL_PER_L[1])
        seconds = litres * middle * couple.electrons * F / max(total, 1e-15)
        room = _factor(seconds, math.sqrt(IONS_MOL_PER_L[1] / IONS_MOL_PER_L[0]))
        out["room"] = End(
            "room", say("room for dissolved {metal} in {volume_ml:g} mL", metal=metal, volume_ml=volume_ml), room
        )
    out["water"] = _dries(cell, volume_ml)
    return out


def _dries(cell: PackCell, volume_ml: float) -> End:
    """When half of the water is gone: from an open cup, from a card between its plates, from the flesh about a slit."""
    form = electrolytes()[cell.cell.electrolyte].form
    if form == "whole":
        soon, late = (days * DAY_S for days in FRUIT_DAYS)
        return End(
            "water", say("the flesh about the plates, by drying or rotting"), Spread(math.sqrt(soon * late), soon, late)
        )
    if form in VOLUME_ML:
        millimetres = 1e-3 * volume_ml / (cell.geometry.area_m2 * cell.geometry.pairs) * HALF_LEFT / EDGES
        words = say("half of the water of the card, by drying at its edges")
    else:
        millimetres = 10.0 * CUP_DEPTH_CM * HALF_LEFT * min(1.0, (volume_ml / CUP_ML) ** (1.0 / 3.0))
        words = say("half of the water, by drying in an open cup")
    slow, fast = (millimetres / rate * DAY_S for rate in DRIES_MM_A_DAY)
    return End("water", words, Spread(math.sqrt(slow * fast), fast, slow))


def _factor(seconds: float, by: float) -> Spread:
    return Spread(seconds, seconds / by, seconds * by)


def _spread_by(end: End, low: float, high: float) -> End:
    """An end with the spread of the current joined to its own (not for water, which dries without one)."""
    if end.what == "water":
        return end
    own = math.log(end.seconds.high / end.seconds.middle)
    slower, faster = (math.exp(math.hypot(own, math.log(max(ratio, 1e-6)))) for ratio in (1.0 / low, high))
    return End(
        end.what,
        end.words,
        Spread(end.seconds.middle, end.seconds.middle / faster, end.seconds.middle * slower),
        end.by_itself,
    )


def _grams(cell: PackCell, current_a: float, seconds: float) -> float:
    plate = electrodes()[cell.cell.negative]
    if plate.couple is None:
        return 0.0
    couple = half_reactions()[plate.couple]
    mass = elements()[plate.couple.split("/")[1]].molar_mass_g_per_mol.value
    return _eaten_a(cell, current_a)[0] * seconds * mass / (couple.electrons * F)


def _shares(cell: PackCell, current_a: float) -> dict[str, float]:
    """How much of the positive plate's reduction is oxygen's, its own ions', and takes acid."""
    _, positive, wetted = _halves(cell)
    at = positive.at(-current_a * cell.anchor.times / wetted)[:, None, None]
    parts = {
        name: float(np.sum(part))
        for name, part in currents.cathodic(at, positive.plates, positive.liquids, positive.pairing).items()
    }
    total = sum(parts.values())
    if total <= 0.0:
        return {"oxygen": 0.0, "own ions": 0.0, "acid": 0.0}
    own = (parts["own ions"] + parts["plating"]) / total
    return {
        "oxygen": (parts["oxygen"] + parts["peroxide"]) / total,
        "own ions": parts["own ions"] / total,
        "acid": 1.0 - own,
    }
