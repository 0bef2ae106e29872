"""A cell's curve held to what the class has measured of it: open voltages, and voltages or currents under a load.

The open voltage moves the curve at rest, and less the further a load pulls it down (`curves.Anchor`); each voltage across a
resistor and each short-circuit current then says how much more or less than the model's current the cell gives at the same
voltage, `times` in the denominator. Their logarithms are averaged; one measurement is as uncertain as cells built alike
differ.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from galvanic.chemistry.curves import CELL_SCATTER, Anchor, PackCell, curve, left_of
from galvanic.chemistry.polarisation import FIRST_S, solution_ohm

LEAST_TIMES, MOST_TIMES = 0.02, 50.0  # beyond this a measurement says that something else was measured
U_LOG_OF_ONE = 0.2  # one reading under load falls while it is read: common practice, no source


@dataclass(frozen=True, slots=True)
class UnderLoad:
    """One measurement: volts across `load_ohm`, or amperes with 0 Ω."""

    load_ohm: float
    value: float


def anchored(
    cell: PackCell,
    open_v: float | None,
    u_open_v: float = 0.0,
    under: Sequence[UnderLoad] = (),
    after_s: float = FIRST_S,
) -> PackCell:
    """The cell with its anchor, from the class's open voltage with its standard uncertainty in V and what was measured under
    loads; without either, the model alone. What no cell of this voltage could give (none, the wrong sign, more volts under
    the load than without it) is passed over."""
    bare = replace(cell, anchor=Anchor(), turned=False, touching_ohm=math.inf, contact_ohm=0.0)
    drawn = curve(bare, after_s)
    zero = int(np.searchsorted(drawn.current_a, 0.0))
    shift = 0.0 if open_v is None else open_v - float(drawn.volts_v[0, zero])
    inside_ohm = solution_ohm(cell.cell, cell.geometry)
    plates = drawn.volts_v + drawn.current_a * inside_ohm
    volts = drawn.volts_v[0] + shift * left_of(plates, plates[:, [zero]])[0]
    logs = []
    for measured in under:
        at_v, amps = (
            (0.0, measured.value) if measured.load_ohm == 0.0 else (measured.value, measured.value / measured.load_ohm)
        )
        if not (amps > 0.0 and 0.0 <= at_v < float(volts[zero])):
            continue
        plates_v = at_v + amps * inside_ohm  # what the liquid takes is Ohm's law; `times` is of the plates
        model_a = float(np.interp(-plates_v, -(volts + drawn.current_a * inside_ohm), drawn.current_a))
        if model_a > 0.0:
            logs.append(math.log(min(max(model_a / amps, LEAST_TIMES), MOST_TIMES)))
    times, u_times = (1.0, 0.0)
    if logs:
        times = math.exp(math.fsum(logs) / len(logs))
        u_times = math.hypot(CELL_SCATTER, U_LOG_OF_ONE) / math.sqrt(len(logs))
    anchor = Anchor(shift, u_open_v, times, u_times, open_v is not None, bool(logs))
    return replace(cell, anchor=anchor)
