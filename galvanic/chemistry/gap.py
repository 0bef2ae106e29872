"""Where the volts went: from the table's difference to what was measured, one named cause at a time, exactly additive.

For each plate, in this fixed order:

1. trace ions: Nernst, from 1 mol/L to the level that the plate's own corrosion keeps up at its surface;
2. complexing: the same with the ions bound by chloride, hydroxide or fruit acids, whichever lies lowest;
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
import re
from dataclasses import dataclass

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.accounts import PLATE_U_V
from galvanic.chemistry.currents import D_ION, NERNST_V, dissolution
from galvanic.chemistry.half import Half
from galvanic.chemistry.kinetics import Dissolution, surfaces
from galvanic.chemistry.plates import CHLORIDE_ACTIVITY, LEAST_CHLORIDE
from galvanic.chemistry.polarisation import Geometry, LoadedCell, sides_of
from galvanic.constants import FARADAY_C_PER_MOL
from galvanic.errors import OutOfRange
from galvanic.reference.catalogue import electrodes, half_reactions, kept

METER_OHM = 1e7
MOST_IONS = 5.0  # mol/L, about where salts of these metals are saturated
LEAST_A_PER_M2 = 1e-12
LEFT = "left"
SMALL_V = 0.0125  # what is smaller is less than the height of a line on the smallest chart
BIG_PART = 0.4  # of the whole gap: a step this large is what there is to explain
FILM_U_V = 0.08  # films differ from plate to plate by more than bare metal


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
class Step:
    """One step as it is drawn, from where the last one ended: a cause, or several small ones together.

    `u_v` takes the causes as independent; `big` where the step is a large part of the whole gap.
    """

    code: str
    name: str
    from_v: float
    to_v: float
    u_v: float
    big: bool
    causes: tuple[Cause, ...]


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


def drawn(gap: Gap) -> tuple[Step, ...]:
    """The causes as steps from the start to what was measured; those below `SMALL_V` are one step, before what is left."""
    small = tuple(cause for cause in gap.causes if cause.code != LEFT and abs(cause.volts_v) < SMALL_V)
    small = small if len(small) > 1 else ()
    rows: list[tuple[str, str, tuple[Cause, ...]]] = []
    for place, cause in enumerate(gap.causes):
        if cause.code == LEFT and small:
            rows.append(("small", f"{len(small)} small causes", small))
        if cause not in small:
            rows.append((f"{cause.code}-{place}", cause.name, (cause,)))
    whole = abs(gap.start_v - gap.measured_v)
    steps: list[Step] = []
    at = gap.start_v
    for code, name, causes in rows:
        by = math.fsum(cause.volts_v for cause in causes)
        u_v = math.hypot(*(cause.u_v for cause in causes))
        steps.append(Step(code, name, at, at + by, u_v, abs(by) > BIG_PART * whole, causes))
        at += by
    return tuple(steps)


@dataclass(frozen=True, slots=True)
class _Step:
    code: str
    volts_v: float
    u_v: float
    equation: str


@dataclass(frozen=True, slots=True)
class _Plate:
    start_v: float
    steps: tuple[_Step, ...]
    rest_v: float


def _equilibrium(reaction: Dissolution, level: float, alpha: float, chloride: float, ph: float) -> float:
    """Nernst potential of one anodic reaction, V: `level` mol/L of dissolved metal, of which 1/alpha is free."""
    half = half_reactions()[reaction.couple]
    product = 0.0 if reaction.solid else math.log10(level / alpha)
    ligands = reaction.chloride * math.log10(chloride) + reaction.hydroxide * (ph - 14.0)
    return half.e_v.value + NERNST_V / half.electrons * (product - ligands)


@kept(1024)  # a plate in a liquid is the same in every cell
def _plate(key: str, liquid: str) -> _Plate:
    """A plate from its start to its rest potential."""
    half_cell = Half.of(key, liquid)
    p, q, x = half_cell.plates, half_cell.liquids, half_cell.pairing
    rest_v, ph = half_cell.rest(), half_cell.ph
    electrode = electrodes()[key]
    if electrode.couple is None:
        start = -NERNST_V * ph
        equation = f"rest potential {rest_v:+.3f} V against −0.0592 × pH {ph:.2f} = {start:+.3f} V"
        return _Plate(start, (_Step("other", rest_v - start, PLATE_U_V, equation),), rest_v)
    reactions = surfaces()[electrode.surface].dissolution
    main = next(slot for slot, reaction in enumerate(reactions) if reaction.couple == electrode.couple)
    half = half_reactions()[electrode.couple]
    per_decade, start = NERNST_V / half.electrons, half.e_v.value
    bulk, alpha = (float(of[0, 0, 0, main]) for of in (x.bulk, x.alpha))
    current = max(float(dissolution(np.full((1, 1, 1), rest_v), p, q, x)[0, 0, 0]), LEAST_A_PER_M2)
    built = current * float(q.layer_m[0, 0, 0]) / (half.electrons * FARADAY_C_PER_MOL * D_ION) * 1e-3
    level = min(bulk + built, MOST_IONS)
    free_v = start + per_decade * math.log10(level)
    chloride = CHLORIDE_ACTIVITY * max(float(q.chloride[0, 0, 0]), LEAST_CHLORIDE)
    bound_v, by = min(
        (_equilibrium(reaction, level, alpha if slot == main else 1.0, chloride, ph), reaction.couple)
        for slot, reaction in enumerate(reactions)
    )
    bound_v = min(bound_v, free_v)
    bare_v = half_cell.bare().rest()
    ion = electrode.couple.split("/")[0]
    by_level = f"{per_decade:.4f} × log {level:.1e} ({ion} at the surface, mol/L)"
    by_binding = f"−{per_decade:.4f} × log {alpha:.3g} (all over free ions)"
    if by != electrode.couple:
        by_binding = f"as {by}: {bound_v:+.3f} V"
    by_others = f"bare plate rests at {bare_v:+.3f} V, its equilibrium is {bound_v:+.3f} V"
    return _Plate(
        start,
        (
            _Step("traces", free_v - start, 0.5 * per_decade, by_level),
            _Step("complexing", bound_v - free_v, 0.3 * per_decade, by_binding),
            _Step("other", bare_v - bound_v, PLATE_U_V, by_others),
            _Step("film", rest_v - bare_v, FILM_U_V, f"with its film {rest_v:+.3f} V, bare {bare_v:+.3f} V"),
        ),
        rest_v,
    )


NAMES = {
    "traces": (
        "Traces of ions at {}",
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
    together, taken to be still in `measured_v`. The causes add up to the measured value to rounding. Raises OutOfRange for a
    meter without resistance.
    """
    if not (meter_ohm > 0.0 and math.isfinite(meter_ohm)):
        raise OutOfRange("A meter's resistance is above zero ohm.", field="meter_ohm", value=meter_ohm, limit=0.0)
    low_side, high_side = sides_of(cell)
    lower, upper = _plate(cell.negative, low_side), _plate(cell.positive, high_side)
    causes: list[Cause] = []
    for found, key, sign in ((upper, cell.positive, 1.0), (lower, cell.negative, -1.0)):
        for step in found.steps:
            title, test = NAMES[step.code]
            if step.volts_v != 0.0:
                name = title.format(electrodes()[key].name)
                causes.append(Cause(step.code, key, name, sign * step.volts_v, step.u_v, _minus(step.equation), test))
    open_v = upper.rest_v - lower.rest_v
    shown_v, internal = _at_meter(cell, geometry or Geometry(), meter_ohm)
    loading = shown_v - open_v
    causes.append(
        Cause(
            "loading",
            None,
            "Meter loading",
            loading,
            abs(loading) * 0.5,
            f"{_ohm(meter_ohm)} against {_ohm(internal)} inside",
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
    causes.append(Cause(LEFT, None, "Left over", left, u_left, "measured − all of the above", again))
    inert = [electrodes()[key].name for key in (cell.positive, cell.negative) if electrodes()[key].couple is None]
    start = f"table difference, with hydrogen at this pH for {' and '.join(inert)}" if inert else "table difference"
    return Gap(cell, start, start_v, tuple(causes), measured_v)


def _ohm(value: float) -> str:
    """A resistance for reading, three digits."""
    for size, unit in ((1e6, "MΩ"), (1e3, "kΩ")):
        if value >= size:
            return f"{value / size:.3g} {unit}"
    return f"{value:.3g} Ω"


def _minus(text: str) -> str:
    """True minus signs before numbers; powers of ten stay as they are."""
    return re.sub(r"(?<![\de])-(?=\d)", "\u2212", text)


@kept(1024)
def _at_meter(cell: Cell, geometry: Geometry, meter_ohm: float) -> tuple[float, float]:
    """What a meter of this resistance shows, V, and the cell's apparent resistance at that working point, Ω.

    Not the resistance around open circuit in a divider: a plate that only traces hold up gives way at once and then no
    further, so that such a formula takes far too much off (magnesium and graphite in vinegar: 0.75 V instead of 0.3 V).
    """
    point = LoadedCell.of(cell, geometry).at_load(meter_ohm)
    return point.volts_v, point.internal_ohm
