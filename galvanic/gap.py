"""Where the volts went: from the table's difference to what was measured, one named cause at a time, exactly additive.

For each plate, in this fixed order:

1. trace ions: Nernst, from 1 mol/L to the level that the plate's own corrosion keeps up at its surface;
2. complexing: the same with the ions bound by chloride or fruit acids;
3. other reactions: from that equilibrium to the rest potential of a bare plate, where oxygen, hydrogen and the metal's own
   reluctance decide together;
4. film: what the plate's skin adds.

Then for the cell: meter loading R_m/(R_m + R_int), meter offset, and what is left over. The order matters: the causes act
together, so what one seems to add depends on which were taken before it (the traces are those that film and oxygen allow,
the film acts on the plate with all else in place). The sum does not depend on it. An inert plate has no table entry; it
starts from hydrogen at this pH instead.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from galvanic.catalogue import electrodes, half_reactions
from galvanic.cells import Cell
from galvanic.constants import FARADAY_C_PER_MOL
from galvanic.kinetics import surfaces
from galvanic.plates import CHLORIDE_ACTIVITY, LEAST_CHLORIDE, drawer, liquids_of, pairing_of, plates_of
from galvanic.polarisation import Geometry, LoadedCell, sides_of
from galvanic.rest import D_ION, NERNST_V, dissolution, settle

METER_OHM = 1e7
MOST_IONS = 5.0  # mol/L, about where salts of these metals are saturated
PROBE_A_PER_M2 = 1e-4


@dataclass(frozen=True, slots=True)
class Cause:
    """One step: what it adds to the cell's voltage, V, the equation with its numbers, and a test that would confirm it."""

    code: str
    plate: str | None
    name: str
    volts_v: float
    u_v: float
    equation: str
    test: str


@dataclass(frozen=True, slots=True)
class Gap:
    """From `start_v` through `causes` to `measured_v`; `start` says where it starts."""

    cell: Cell
    start: str
    start_v: float
    causes: tuple[Cause, ...]
    measured_v: float

    def text(self) -> str:
        """The account in plain text, a line a step."""
        lines = [f"{self.cell.notation}", f"{self.start_v:+.3f} V  {self.start}"]
        lines += [f"{c.volts_v:+.3f} V  {c.name}: {c.equation} (± {c.u_v:.3f}). Test: {c.test}" for c in self.causes]
        return "\n".join([*lines, f"{self.measured_v:+.3f} V  measured"])


@dataclass(frozen=True, slots=True)
class _Plate:
    start_v: float
    steps: tuple[tuple[str, float, float, str], ...]
    rest_v: float


def _plate(key: str, liquid: str) -> _Plate:
    """A plate from its start to its rest potential; steps are code, V, uncertainty, equation."""
    draw = drawer(None, 1)
    p, q, x = plates_of([key], draw), liquids_of([liquid], None, 1, draw), pairing_of([key], [liquid])
    rest_v = float(settle(p, q, x)[0, 0, 0])
    electrode = electrodes()[key]
    ph = float(q.ph[0, 0, 0])
    if electrode.couple is None:
        start = -NERNST_V * ph
        equation = f"rest potential {rest_v:+.3f} V against −0.0592 × pH {ph:.2f} = {start:+.3f} V"
        return _Plate(start, (("other", rest_v - start, 0.06, equation),), rest_v)
    half = half_reactions()[electrode.couple]
    start = half.e_v.value
    current = max(float(dissolution(np.full((1, 1, 1), rest_v), p, q, x)[0, 0, 0]), 1e-12)
    ion = electrode.couple.split("/")[0]
    slots = [s for s, d in enumerate(surfaces()[electrode.surface].dissolution) if d.couple == electrode.couple]
    bulk = float(x.bulk[0, 0, 0, slots[0]]) if slots else 0.0
    alpha = float(x.alpha[0, 0, 0, slots[0]]) if slots else 1.0
    built = current * float(q.layer_m[0, 0, 0]) / (half.electrons * FARADAY_C_PER_MOL * D_ION) * 1e-3
    level = min(bulk + built, MOST_IONS)
    per_decade = NERNST_V / half.electrons
    traces = per_decade * math.log10(level)
    bound = -per_decade * math.log10(alpha) if alpha > 1.0 else 0.0
    bare = float(settle(replace(p, filmed=np.zeros_like(p.filmed)), q, x)[0, 0, 0])
    equilibrium = start + traces + bound
    how_bound = f"−{per_decade:.4f} × log {alpha:.3g}"
    if electrode.surface in ("copper", "brass", "silver"):
        chloride = CHLORIDE_ACTIVITY * max(float(q.chloride[0, 0, 0]), LEAST_CHLORIDE)
        if electrode.surface == "silver":
            by_chloride = half_reactions()["AgCl/Ag"].e_v.value - NERNST_V * math.log10(chloride)
        else:
            complex_v = half_reactions()["CuCl2-/Cu"].e_v.value
            by_chloride = complex_v + NERNST_V * (math.log10(min(2.0 * level, MOST_IONS)) - 2.0 * math.log10(chloride))
        if by_chloride < equilibrium:
            how_bound = f"chloride at activity {chloride:.2g} binds the ions down to {by_chloride:+.3f} V"
            bound, equilibrium = by_chloride - start - traces, by_chloride
    steps = (
        ("traces", traces, per_decade * 0.5, f"{per_decade:.4f} × log {level:.1e} ({ion} at the surface, mol/L)"),
        ("complexing", bound, 0.3 * per_decade if bound else 0.0, how_bound),
        ("other", bare - equilibrium, 0.06, f"bare plate rests at {bare:+.3f} V, its equilibrium is {equilibrium:+.3f} V"),
        ("film", rest_v - bare, 0.08 if rest_v != bare else 0.0, f"with its film {rest_v:+.3f} V, bare {bare:+.3f} V"),
    )
    return _Plate(start, steps, rest_v)


NAMES = {
    "traces": (
        "Traces of ions at {}, not 1 mol/L",
        "add a drop of that metal’s salt solution: the plate rises",
    ),
    "complexing": ("Ions bound in the liquid at {}", "add salt (or the fruit’s acid): the plate falls"),
    "other": ("Other reactions on {}", "stir, or blow air past it: if oxygen decides, the plate moves"),
    "film": ("Skin on {}", "rub the plate under the surface: the reading jumps and sinks back"),
}


def explain(
    cell: Cell,
    measured_v: float,
    meter_ohm: float = METER_OHM,
    offset_v: float = 0.0,
    geometry: Geometry | None = None,
    u_measured_v: float = 0.01,
) -> Gap:
    """Account for every millivolt between the table and the meter.

    `measured_v`: the class's value in V with red on the positive plate; `offset_v`: what the meter showed with its leads
    together, taken to be still in `measured_v`. The causes add up to the measured value to rounding.
    """
    low_side, high_side = sides_of(cell)
    lower, upper = _plate(cell.negative, low_side), _plate(cell.positive, high_side)
    causes: list[Cause] = []
    for found, key, sign in ((upper, cell.positive, 1.0), (lower, cell.negative, -1.0)):
        for code, volts_v, u_v, equation in found.steps:
            title, test = NAMES[code]
            if volts_v != 0.0:
                causes.append(Cause(code, key, title.format(electrodes()[key].name), sign * volts_v, u_v, equation, test))
    open_v = upper.rest_v - lower.rest_v
    internal = _internal_ohm(LoadedCell(cell, geometry))
    loading = open_v * (meter_ohm / (meter_ohm + internal) - 1.0)
    causes.append(
        Cause(
            "loading",
            None,
            "Meter loading",
            loading,
            abs(loading) * 0.5,
            f"{meter_ohm:.3g} Ω against {internal:.3g} Ω inside",
            "use a meter of higher resistance: the reading rises",
        )  # fmt: skip
    )
    if offset_v:
        shown = f"leads together show {offset_v:+.3f} V"
        causes.append(Cause("offset", None, "Meter offset", offset_v, 0.001, shown, "read with the leads together"))
    start_v = upper.start_v - lower.start_v
    left = measured_v - start_v - math.fsum(cause.volts_v for cause in causes)
    u_left = math.sqrt(u_measured_v**2 + math.fsum(cause.u_v**2 for cause in causes))
    again = "repeat the cell with fresh plates; ask another group"
    causes.append(Cause("left", None, "Left over", left, u_left, "measured − all of the above", again))
    inert = [electrodes()[key].name for key in (cell.positive, cell.negative) if electrodes()[key].couple is None]
    start = f"table difference, with hydrogen at this pH for {' and '.join(inert)}" if inert else "table difference"
    return Gap(cell, start, start_v, tuple(causes), measured_v)


def _internal_ohm(loaded: LoadedCell) -> float:
    """Small-signal resistance around open circuit: polarisation of both plates and the liquid, Ω."""
    current = PROBE_A_PER_M2 * loaded.geometry.area_m2 * loaded.geometry.pairs
    low, high = loaded.volts(np.array([current, -current]))
    return max(float(high - low) / (2.0 * current), loaded.solution_ohm)
