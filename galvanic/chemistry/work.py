"""What a run has done: charge, energy and metal used, each with its uncertainty.

Charge and energy are sums of trapezia. Their uncertainty joins the resolution of what was read (each value counts with its
own width) and what the straight lines between the samples may miss: a third of what every second sample changes, as the
trapezium rule's error falls with the square of the step (L. F. Richardson). Metal is Faraday's law, m = QM/(zF).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from galvanic.chemistry.mixing import metal_dissolved_g
from galvanic.chemistry.plates import Array
from galvanic.errors import NotEnoughData
from galvanic.reference.catalogue import electrodes, half_reactions
from galvanic.reference.further_tables import elements
from galvanic.words import say


@dataclass(frozen=True, slots=True)
class Quantity:
    """A value with its standard uncertainty, in the unit of its name."""

    value: float
    u: float


@dataclass(frozen=True, slots=True)
class Work:
    """Charge in C and, where volts are known, energy in J."""

    charge_c: Quantity
    energy_j: Quantity | None


def area_under(t_s: Sequence[float], y: Sequence[float], u_y: float) -> Quantity:
    """Area under a trace by trapezia; `u_y`: standard uncertainty of one value. Raises NotEnoughData below two samples."""
    t, value = np.asarray(t_s, dtype=float), np.asarray(y, dtype=float)
    if len(t) < 2:
        raise NotEnoughData(say("A charge needs at least two samples."))
    whole = float(np.trapezoid(value, t))
    widths = np.zeros_like(t)
    widths[:-1] += 0.5 * np.diff(t)
    widths[1:] += 0.5 * np.diff(t)
    read = u_y * math.sqrt(float((widths**2).sum()))
    some = np.unique([*range(0, len(t), 2), len(t) - 1])
    missed = abs(float(np.trapezoid(value[some], t[some])) - whole) / 3.0 if len(t) > 2 else abs(whole)
    return Quantity(whole, math.hypot(read, missed))


def work_of(t_s: Sequence[float], current_a: Sequence[float], u_a: float, volts_v: Sequence[float] | None = None) -> Work:
    """Charge and energy of a run from its currents, and its volts where they were read."""
    charge = area_under(t_s, current_a, u_a)
    if volts_v is None or len(volts_v) != len(current_a):
        return Work(charge, None)
    power: Array = np.asarray(volts_v) * np.asarray(current_a)
    share = charge.u / abs(charge.value) if charge.value else 0.0
    energy = area_under(t_s, [float(p) for p in power], 0.0)
    return Work(charge, Quantity(energy.value, math.hypot(energy.u, share * energy.value)))


def plate_mass_g(plate: str, area_m2: float, thickness_m: float) -> float | None:
    """Mass in g of a sheet of a plate's metal; None for an inert plate or one whose density is not in the tables."""
    couple = electrodes()[plate].couple
    density = None if couple is None else elements()[couple.split("/")[1]].density_kg_per_l
    return None if density is None else 1e6 * density.value * area_m2 * thickness_m  # kg/L times m³ is 1000 kg


def metal_used_g(plate: str, charge_c: float) -> float | None:
    """Mass in g that a charge dissolves of a plate, by its couple; None for an inert plate."""
    couple = electrodes()[plate].couple
    if couple is None:
        return None
    return metal_dissolved_g(couple.split("/")[1], half_reactions()[couple].electrons, charge_c)
