"""How long cells in a row last under a load, and what runs out first.

Each end is a charge that is there, divided by the current that uses it: acid by every reduction on both plates, metal by the
load's current and by what the liquid eats by itself, room for the metal's ions by both, water by drying. Oxygen comes in
from the air all the time: it ends nothing, but it decides how much the cell gives from the start. The currents are those of
the steady state with the load joined; their spread and that of the quantities below give the ranges. The rate of drying and
the room for ions are common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from galvanic.chemistry import currents
from galvanic.chemistry.circuit import in_a_row
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.expected import Expected, Spread, expect
from galvanic.chemistry.half import Half
from galvanic.chemistry.polarisation import sides_of
from galvanic.constants import FARADAY_C_PER_MOL as F
from galvanic.errors import within
from galvanic.reference.catalogue import electrodes, electrolytes, half_reactions
from galvanic.reference.further_tables import elements
from galvanic.words import say

What = Literal["acid", "metal", "room", "water"]

SHEET_UM = 500.0  # a plate of sheet metal, if nothing else is said
LEAST_ML, MOST_ML, LEAST_UM, MOST_UM = 0.1, 10_000.0, 0.1, 20_000.0
HALF_LEFT = 0.5  # a liquid is called used up when half of its acid or of its water is gone
DRIES_MM_A_DAY = (1.0, 4.0)  # an open cup in a room
CUP_DEPTH_CM = 4.0
IONS_MOL_PER_L = (0.3, 2.0)  # dissolved metal at which crusts and sludge begin
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


@dataclass(frozen=True)
class Life:
    """How long a row lasts: its ends, the first one first, and what it gives until then.

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
    cells: Sequence[PackCell],
    load: str | float,
    volume_ml: float,
    metal_um: float | None = None,
    cup_price: float = CUP_PRICE,
) -> Life:
    """What ends a row of cells under a load; `volume_ml` of liquid in each cup, `metal_um` of metal on the negative plate.

    Raises OutOfRange for sizes that no cup and no plate has, UnknownMaterial for a load.
    """
    within(
        "volume_ml",
        volume_ml,
        LEAST_ML,
        MOST_ML,
        say("A cup holds {least_ml:g} to {most_ml:.0f} mL.", least_ml=LEAST_ML, most_ml=MOST_ML),
    )
    within(
        "metal_um",
        metal_um or SHEET_UM,
        LEAST_UM,
        MOST_UM,
        say("Metal is {least_um:g} to {most_um:.0f} µm thick.", least_um=LEAST_UM, most_um=MOST_UM),
    )
    within("cup_price", cup_price, 0.0, 1e6, say("A price is zero or more."))
    pack = in_a_row(cells)
    expected = expect(pack, load, math.inf)
    current = expected.meeting.current_a
    factor_low = max(expected.current_a.low, 1e-12) / max(expected.current_a.middle, 1e-12)
    factor_high = max(expected.current_a.high, 1e-12) / max(expected.current_a.middle, 1e-12)
    each = [_cell(one, current, volume_ml, metal_um or SHEET_UM) for one in dict.fromkeys(cells)]
    ends = []
    for what in ("acid", "metal", "room", "water"):
        shortest = min((cell[what] for cell in each if what in cell), key=lambda end: end.seconds.middle, default=None)
        if shortest is not None and math.isfinite(shortest.seconds.middle):
            ends.append(_spread_by(shortest, factor_low, factor_high))
    ends.sort(key=lambda end: end.seconds.middle)
    lasts = ends[0].seconds.middle if ends else 0.0
    energy_wh = max(current * expected.meeting.volts_v, 0.0) * lasts / J_PER_WH
    metal_g = sum(_grams(one, current, lasts) for one in cells)
    cost = cup_price * len(cells) / (energy_wh / 1e3) if energy_wh > 0.0 else None
    share = min(_oxygen_share(one, current) for one in cells)
    bought = BOUGHT_PRICE / BOUGHT_WH * 1e3
    return Life(expected, tuple(ends), share, current * lasts, energy_wh, metal_g, cost, bought)


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
    liquid = electrolytes()[sides_of(cell.cell)[0]]
    negative, _, wetted = _halves(cell)
    total, itself = _eaten_a(cell, current_a)
    litres = volume_ml * 1e-3
    out: dict[str, End] = {}
    acid_mol = litres * (10.0**-negative.ph + float(negative.liquids.acid_mol_per_m3[0, 0, 0]) * 1e-3)
    if negative.ph < 6.0 and acid_mol > 0.0:
        seconds = HALF_LEFT * acid_mol * F / max(current_a + itself, 1e-15)
        out["acid"] = End(
            "acid",
            say("half of the acid in {volume_ml:g} mL of {name}", volume_ml=volume_ml, name=liquid.name),
            _factor(seconds, BULK),
        )
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
    millimetres = 10.0 * CUP_DEPTH_CM * HALF_LEFT * min(1.0, (volume_ml / 40.0) ** (1.0 / 3.0))
    slow, fast = (millimetres / rate * DAY_S for rate in DRIES_MM_A_DAY)
    out["water"] = End(
        "water", say("half of the water, by drying in an open cup"), Spread(math.sqrt(slow * fast), fast, slow)
    )
    return out


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


def _oxygen_share(cell: PackCell, current_a: float) -> float:
    """How much of the positive plate's reduction is oxygen's."""
    _, positive, wetted = _halves(cell)
    at = positive.at(-current_a * cell.anchor.times / wetted)[:, None, None]
    parts = currents.cathodic(at, positive.plates, positive.liquids, positive.pairing)
    total = sum(float(np.sum(part)) for part in parts.values())
    return float(np.sum(parts["oxygen"] + parts["peroxide"])) / total if total > 0.0 else 0.0
