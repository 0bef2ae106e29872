"""Four ways to predict the signed voltage E(positive) − E(negative) of any cell.

* standard: the difference of the printed table. An inert plate has no entry, and the account says so.
* hydrogen: no copper ions in juice, so the positive plate carries 2 H⁺ + 2 e⁻ at this pH and 1 bar; the negative one is its
  metal with 10⁻⁶ mol/L of its ions, the usual convention of corrosion diagrams (M. Pourbaix, “Atlas”, 1966).
* series: difference of the middles of the galvanic series in flowing sea water, whatever the liquid.
* rest: each plate's rest potential in this liquid, by `galvanic.rest`.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.activity import SULFATE, ion_activity
from galvanic.chemistry.junction import junction
from galvanic.chemistry.nernst import standard_v
from galvanic.chemistry.oxidants import WITHOUT, lift
from galvanic.chemistry.polarisation import sides_of
from galvanic.chemistry.posterior import discrepancy
from galvanic.chemistry.rest import rest_potentials
from galvanic.chemistry.warmth import ROOM_C, warmth
from galvanic.errors import NoTableEntry, OutOfRange
from galvanic.reference.catalogue import electrodes, electrolytes, half_reactions
from galvanic.reference.reader import Range, Reader, read_table
from galvanic.words import say

ACCOUNTS = ("standard", "hydrogen", "series", "rest")
TRACE_LOG10, TRACE_U_LOG10 = -6.0, 1.0
PLATE_U_V = 0.04  # between plates of one metal on benches, beside what calibration leaves: common practice, no source
SAME_METAL_U_V = 0.03  # two plates of one metal differ by tens of millivolts: common practice, no source
# A plate in its own salt that rests within NEAR_V of its equilibrium is known far better: common practice, no source.
NEAR_V, NEAR_U_V, LEAST_IONS = 0.03, 0.01, 5e-4
ROOM_NERNST_V = 0.0591597
DRAWS = 64
KELVIN = 273.15


@dataclass(frozen=True, slots=True)
class Prediction:
    """One account's answer for one cell, V, or None with the reason."""

    account: str
    volts_v: float | None
    u_v: float | None
    reason: str


def _series_row(r: Reader) -> Range:
    r.take("key", str)
    return r.range("e_v")


@cache
def series() -> dict[str, Range]:
    """Ranges of rest potentials in flowing sea water by surface, V against hydrogen."""
    return dict(read_table("galvanic_series", "rest_range", _series_row))


def _flat_u(low: float, high: float) -> float:
    return (high - low) / math.sqrt(12.0)


def standard(cell: Cell, celsius: float = ROOM_C) -> Prediction:
    """Difference of table values, moved by the table's own temperature slopes; the uncertainty is the spread between
    compilations."""
    total, variance = 0.0, 0.0
    for plate, sign in ((cell.positive, 1.0), (cell.negative, -1.0)):
        try:
            total += sign * _table_v(plate, celsius)
        except (NoTableEntry, OutOfRange) as error:
            return Prediction("standard", None, None, str(error))
        variance += table_u_v(plate) ** 2
    return Prediction("standard", total, math.sqrt(variance), say("difference of table values"))


def table_u_v(plate: str) -> float:
    """By how much compilations differ on a plate's table value, V; 0 where only one is known."""
    half = half_reactions()[electrodes()[plate].couple or ""]
    if not half.spread_v:
        return 0.0
    return _flat_u(min(*half.spread_v, half.e_v.value), max(*half.spread_v, half.e_v.value))


def _table_v(plate: str, celsius: float) -> float:
    """A plate's table value, V. Raises NoTableEntry, or OutOfRange where its temperature slope is not known."""
    table_v = electrodes()[plate].table_v()
    if celsius == ROOM_C:
        return table_v
    return standard_v(half_reactions()[electrodes()[plate].couple or ""], celsius + KELVIN)


def hydrogen(cell: Cell, celsius: float = ROOM_C) -> Prediction:
    """Hydrogen at the positive plate, the metal with trace ions at the negative one."""
    plate = electrodes()[cell.negative]
    if plate.couple is None:
        return Prediction(
            "hydrogen", None, None, say("The negative plate would have to dissolve. {inert}", inert=plate.inert)
        )
    half = half_reactions()[plate.couple]
    ph = electrolytes()[sides_of(cell)[1]].ph
    nernst_v = warmth(celsius).nernst_v
    per_decade = nernst_v / half.electrons
    try:
        table_v = _table_v(cell.negative, celsius)
    except OutOfRange as error:
        return Prediction("hydrogen", None, None, str(error))
    volts = -nernst_v * 0.5 * (ph.low + ph.high) - (table_v + per_decade * TRACE_LOG10)
    u = math.hypot(nernst_v * _flat_u(ph.low, ph.high), per_decade * TRACE_U_LOG10)
    return Prediction("hydrogen", volts, u, say("hydrogen at the positive plate, trace ions at the negative"))


def from_series(cell: Cell) -> Prediction:
    """Difference of the galvanic series' middles, its ranges as uncertainty."""
    total, variance = 0.0, 0.0
    for plate, sign in ((cell.positive, 1.0), (cell.negative, -1.0)):
        rung = series().get(electrodes()[plate].surface)
        if rung is None:
            return Prediction("series", None, None, say("The chart has no range for {name}.", name=electrodes()[plate].name))
        total += sign * 0.5 * (rung.low + rung.high)
        variance += series_u_v(plate) ** 2
    return Prediction("series", total, math.sqrt(variance), say("middles of the galvanic series in flowing sea water"))


def series_u_v(plate: str) -> float:
    """Standard deviation of a plate's range in the chart, V. The chart has to have one."""
    rung = series()[electrodes()[plate].surface]
    return _flat_u(rung.low, rung.high)


def rest(cells: Sequence[Cell], draws: int = DRAWS, seed: int = 1, celsius: float = ROOM_C) -> list[Prediction]:
    """Rest potentials of both plates in their liquids; all cells in one run."""
    if not cells:
        return []
    plates = tuple(dict.fromkeys(plate for cell in cells for plate in (cell.negative, cell.positive)))
    liquids = tuple(dict.fromkeys(side for cell in cells for side in sides_of(cell)))
    rested = rest_potentials(plates, liquids, draws, seed, celsius=celsius)
    predictions = []
    for cell in cells:
        low_side, high_side = sides_of(cell)
        i, j = plates.index(cell.negative), liquids.index(low_side)
        k, m = plates.index(cell.positive), liquids.index(high_side)
        bridge = junction(cell)
        apart = float(rested.e_v[k, m] - rested.e_v[i, j])
        volts = apart + bridge.volts_v
        spread = 0.0
        if rested.draws_v is not None:
            spread = float(np.sqrt(np.mean((rested.draws_v[:, k, m] - rested.draws_v[:, i, j] - apart) ** 2)))
        own = math.hypot(
            plate_u_v(cell.negative, low_side, float(rested.e_v[i, j])),
            plate_u_v(cell.positive, high_side, float(rested.e_v[k, m])),
        )
        same = electrodes()[cell.negative].surface == electrodes()[cell.positive].surface and low_side == high_side
        u = SAME_METAL_U_V if same else math.hypot(spread, own, bridge.u_v)
        reason = say("rest potentials of both plates in this liquid")
        if (lifted := lift(high_side, float(rested.e_v[k, m]))) is not None:
            volts, u, reason = (
                volts + lifted.middle_v,
                math.hypot(u, lifted.u_v),
                say("{name} is {without}", name=lifted.by.name, without=say(WITHOUT)),
            )
        predictions.append(Prediction("rest", volts, u, reason))
    return predictions


def plate_u_v(plate: str, liquid: str, rest_v: float) -> float:
    """What the parameters' ranges leave out of a plate: how far off the calibrated model is, and how benches differ, V."""
    if _at_equilibrium(plate, liquid, rest_v):
        return NEAR_U_V
    return math.hypot(discrepancy(electrodes()[plate].surface, electrolytes()[liquid]).u_v, PLATE_U_V)


def _at_equilibrium(plate: str, liquid: str, rest_v: float) -> bool:
    """Whether a plate rests where its own dissolved ions hold it."""
    couple, row = electrodes()[plate].couple, electrolytes()[liquid]
    ion = (couple or "").split("/")[0]
    if couple is None or row.ions_mol_per_l.get(ion, 0.0) < LEAST_IONS:
        return False
    half = half_reactions()[couple]
    activity = ion_activity(ion, row.ions_mol_per_l[ion], row.anion or SULFATE)
    return abs(rest_v - half.e_v.value - ROOM_NERNST_V / half.electrons * math.log10(activity)) < NEAR_V


def predict(
    cells: Sequence[Cell], draws: int = DRAWS, seed: int = 1, celsius: float = ROOM_C
) -> list[dict[str, Prediction]]:
    """All four accounts for each cell, by name of the account, at a temperature (the chart of the series has only its own).

    Raises OutOfRange outside 5 to 60 °C.
    """
    warmth(celsius)
    return [
        {
            "standard": standard(cell, celsius),
            "hydrogen": hydrogen(cell, celsius),
            "series": from_series(cell),
            "rest": by_rest,
        }
        for cell, by_rest in zip(cells, rest(cells, draws, seed, celsius), strict=True)
    ]
