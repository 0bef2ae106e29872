"""What the model says of a cell as one variable is changed on purpose: volts and short-circuit current at each level.

Every variable that the model has a part in is turned into a `Change` of what-if (a plate further away, a warmer liquid, a
liquid with salt in it); time since dipping is read off the transient model. Ordered words stand for one number each, named
below. The uncertainty of a voltage is the model's for the cell as it has become: what it does not know of a plate depends on
the kind of liquid. Differences between levels in one kind of liquid are surer than that.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.accounts import predict
from galvanic.chemistry.blending import Composition, added, diluted, liquid, strengthened
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.half import Half
from galvanic.chemistry.polarisation import Geometry, sides_of
from galvanic.chemistry.posterior import discrepancy, discrepancy_in, kind_at
from galvanic.chemistry.rubbing import rubbed
from galvanic.chemistry.transient import simulate
from galvanic.chemistry.what_if import Change, what_if
from galvanic.condition import Condition
from galvanic.errors import OutOfRange
from galvanic.reference.additions import additions
from galvanic.reference.catalogue import electrodes, electrolytes, kept
from galvanic.reference.variables import Variable, variables
from galvanic.words import say

PLATE_WIDTH_M = 0.02  # of a kit's strip, of which one face works: common practice, no source
STIRRED = 4.0  # how much thinner stirring makes the still layer: common practice, no source
BOILED = 0.15  # of the oxygen that air leaves in water, in water boiled and cooled: common practice, no source
DOSED_L = 0.1  # amounts are “in 100 mL”
LEAST_U_V = 0.01
FRESH_S, LONGEST_S = 1.0, 3.0 * 3600.0


@dataclass(frozen=True, slots=True)
class Level:
    """A level with what is foretold: open voltage with its standard uncertainty, V, and current when shorted, A, in the
    first seconds (None where it was not asked for the cell at rest)."""

    condition: Condition
    open_v: float
    u_open_v: float
    short_a: float | None


def has_model(variable: Variable) -> bool:
    """Whether the model has a part in it."""
    return bool(variable.moves)


def levels_of(cell: Cell, conditions: Sequence[Condition]) -> list[Level]:
    """What is foretold at each level. Raises OutOfRange for a variable without a model, or a level it does not cover."""
    return [_level(cell, condition) for condition in conditions]


def usual_levels(variable: Variable) -> list[Condition]:
    """The levels a class would choose: numbers of the table, or all its words."""
    values: Sequence[float | str] = variable.levels or variable.words
    return [Condition(variable.key, value) for value in values]


@kept(512)
def _level(cell: Cell, condition: Condition) -> Level:
    row = condition.row
    if not has_model(row):
        raise OutOfRange(
            say(
                "The model has no part in {name}: it can be compared, not foretold. It foretells {values}.",
                name=row.said,
                values=", ".join(variable.said for variable in variables().values() if variable.moves),
            ),
            field=row.key,
        )
    if row.moves == "time":
        at = 60.0 * float(condition.value)
        trace = simulate([PackCell(cell)], [], min(max(at, FRESH_S) + 1.0, LONGEST_S + 1.0))
        return Level(condition, float(trace.at(np.array([at]))[0][0]), _u(cell), None)
    change = change_of(cell, condition)
    answer = what_if(cell, change)
    shown = answer.shown_v if row.moves == "meter" else answer.open_v
    u_v = _u_changed(cell, change)
    if row.moves == "skin" and str(condition.value) == "yes":
        both = (Half.of(plate, side) for plate, side in zip((cell.negative, cell.positive), sides_of(cell), strict=True))
        u_v = math.hypot(u_v, *(rubbed(half).u_v for half in both))
    return Level(condition, shown, u_v, abs(answer.short_a))


@kept(256)
def _u(cell: Cell) -> float:
    return predict([cell])[0]["rest"].u_v or 0.0


def _u_changed(cell: Cell, change: Change) -> float:
    """The uncertainty of the changed cell: its plates' discrepancies are those of the kind of liquid that it has become."""
    variance = _u(cell) ** 2
    for plate, side in zip((cell.negative, cell.positive), sides_of(cell), strict=True):
        surface, half = electrodes()[plate].surface, Half.of(plate, side)
        ph = half.ph if change.ph is None else change.ph
        own = change.chloride_mol_per_l
        chloride = float(half.liquids.chloride[0, 0, 0]) if own is None else own
        was, now = discrepancy(surface, electrolytes()[side]), discrepancy_in(surface, kind_at(ph, chloride))
        variance += now.u_v**2 - was.u_v**2
    return math.sqrt(max(variance, LEAST_U_V**2))


def change_of(cell: Cell, condition: Condition) -> Change:
    """The change that a condition asks the model for. Raises OutOfRange where the liquid cannot be changed so."""
    moves, value, usual = condition.row.moves, condition.value, Geometry()
    if moves.startswith("add:"):
        what = additions()[moves.removeprefix("add:")]
        return in_liquid(added(_base(cell), what, float(value)))
    if moves == "dilution":
        return in_liquid(diluted(_base(cell), float(value)))
    if moves == "concentration":
        return in_liquid(_at_strength(cell, float(value)))
    if moves == "gap":
        return Change(gap_m=1e-2 * float(value))
    if moves == "depth":
        return Change(area_m2=PLATE_WIDTH_M * 1e-2 * float(value))
    if moves == "area":
        return Change(area_m2=1e-4 * float(value))
    if moves == "pairs":
        return Change(pairs=int(value), area_m2=usual.area_m2)
    if moves == "celsius":
        return Change(celsius=float(value))
    if moves == "meter":
        return Change(meter_ohm=1e6 * float(value))
    words = {
        ("stirring", "stirred"): Change(stir=STIRRED),
        ("oxygen", "boiled off"): Change(oxygen=BOILED),
        ("oxygen", "blown in"): Change(oxygen=max(1.0, 1.0 / _oxygen_share(cell))),
        ("surface", "dull"): Change(dull=True),
        ("skin", "yes"): Change(scratched=True),
    }
    return words.get((moves, str(value)), Change())


def in_liquid(made: Composition) -> Change:
    """The change that a liquid made up anew asks for."""
    return Change(
        ph=min(14.0, max(0.0, made.ph)),
        chloride_mol_per_l=made.chloride_mol_per_l,
        conductivity_s_per_m=max(1e-4, made.conductivity_s_per_m),
        protons_mol_per_l=made.protons_mol_per_l,
    )


def _oxygen_share(cell: Cell) -> float:
    return float(Half.of(cell.positive, cell.electrolyte).liquids.oxygen[0, 0, 0])


def _base(cell: Cell) -> Composition:
    return liquid(cell.electrolyte, DOSED_L)


def _at_strength(cell: Cell, mol_per_l: float) -> Composition:
    """The cell's solution at another strength. Raises OutOfRange where it is no solution of one thing."""
    base, row = _base(cell), electrolytes()[cell.electrolyte]
    if row.form in ("juice", "whole") or len(row.acids_mol_per_l) > 1:
        raise OutOfRange(say("{name} has no one concentration: vary its dilution.", name=row.name), field="concentration")
    own = max([*base.per_l(base.acids_mol).values(), *base.per_l(base.ions_mol).values()], default=0.0)
    if own < 1e-3:
        raise OutOfRange(
            say("{name} has too little in it to speak of its strength: add salt.", name=row.name), field="concentration"
        )
    return strengthened(base, mol_per_l / own)
