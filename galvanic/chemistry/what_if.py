"""What a cell would do if one thing were different: acid, salt, ions, air, stirring, warmth, plates, distance, meter, film.

The rest-potential model is run with the changed numbers, all of its rates at the temperature asked for; the table's
difference beside it follows the temperature by its own coefficients.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.activity import ion_activity
from galvanic.chemistry.half import Half
from galvanic.chemistry.polarisation import Geometry, LoadedCell
from galvanic.chemistry.rubbing import rubbed
from galvanic.chemistry.shorted import short_circuit
from galvanic.chemistry.warmth import COLDEST_C, WARMEST_C, warmth
from galvanic.errors import NoTableEntry, within
from galvanic.reference.catalogue import electrodes, electrolytes, half_reactions, kept
from galvanic.words import say

METER_OHM = 1e7
LEAST_INSIDE_A, MOST_INSIDE_A, MOST_INSIDE = 1e-7, 1e-3, 0.1


@dataclass(frozen=True, slots=True)
class Change:
    """What is different; the usual values change nothing.

    `ph` None: as it is. `ions_mol_per_l`: dissolved ions of the positive plate's metal (None: as they are). `oxygen` and
    `stir` multiply the oxygen supply and thin the still layer. Of the liquid, as they are where None: `chloride_mol_per_l`,
    `conductivity_s_per_m`, and `protons_mol_per_l` that its weak acids can still give. `area_m2`, `gap_m` and `pairs` of
    the plates; `scratched`: rubbed once under the liquid, as a meter shows it; `dull`: not rubbed, with the oxide that they
    have grown.
    """

    ph: float | None = None
    ions_mol_per_l: float | None = None
    oxygen: float = 1.0
    stir: float = 1.0
    celsius: float = 25.0
    chloride_mol_per_l: float | None = None
    conductivity_s_per_m: float | None = None
    protons_mol_per_l: float | None = None
    area_m2: float = 4e-4
    gap_m: float = 0.02
    pairs: int = 1
    meter_ohm: float = METER_OHM
    scratched: bool = False
    dull: bool = False

    def __post_init__(self) -> None:
        if self.ph is not None:
            within("ph", self.ph, 0.0, 14.0, say("A pH lies between 0 and 14 here."))
        within(
            "celsius",
            self.celsius,
            COLDEST_C,
            WARMEST_C,
            say("Between {coldest_c:.0f} and {warmest_c:.0f} °C only.", coldest_c=COLDEST_C, warmest_c=WARMEST_C),
        )
        if self.ions_mol_per_l is not None:
            within("ions_mol_per_l", self.ions_mol_per_l, 1e-9, 2.0, say("Ions between 10⁻⁹ and 2 mol/L only."))
        if self.chloride_mol_per_l is not None:
            within("chloride_mol_per_l", self.chloride_mol_per_l, 0.0, 5.0, say("Chloride up to 5 mol/L."))
        if self.conductivity_s_per_m is not None:
            within(
                "conductivity_s_per_m", self.conductivity_s_per_m, 1e-4, 100.0, say("Conductivity from 0.0001 to 100 S/m.")
            )
        within("oxygen", self.oxygen, 0.0, 5.0, say("Oxygen up to 5 times what it is."))
        within("stir", self.stir, 0.2, 50.0, say("Stirring from 0.2 to 50 times."))
        within("meter_ohm", self.meter_ohm, 1.0, math.inf, say("A meter has at least 1 Ω."))


@dataclass(frozen=True, slots=True)
class Outcome:
    """Both plates' rest potentials, the open voltage and what the meter shows, V; short-circuit current, A; inner ohm.

    `short_a` flows in the first seconds, `steady_a` when the plates' oxides are used up. `internal_ohm` is stated at
    `inside_a` of the cell as it is; infinite where the changed cell cannot give that. `table_v` is the table's difference
    at this temperature, None for an inert plate or a couple without a coefficient.
    """

    negative_v: float
    positive_v: float
    open_v: float
    shown_v: float
    short_a: float
    steady_a: float
    internal_ohm: float
    table_v: float | None


@kept(256)
def inside_a(cell: Cell) -> float:
    """The current at which a cell's inner resistance is stated, A: a power of ten, a tenth at most of what it can give for
    long as it is. Nearer to a plateau of its curve the resistance would tell of the plateau."""
    steady = LoadedCell.of(cell).steady_a()
    return 10.0 ** math.floor(math.log10(min(max(MOST_INSIDE * steady, LEAST_INSIDE_A), MOST_INSIDE_A)))


def what_if(cell: Cell, change: Change) -> Outcome:
    """The cell with the change made. Raises OutOfRange for what the model does not cover (see Change)."""
    loaded = LoadedCell.of(cell, Geometry(change.area_m2, change.gap_m, change.pairs))
    negative, positive = _changed(loaded.negative, change), _changed(loaded.positive, change)
    couple = electrodes()[cell.positive].couple
    if change.ions_mol_per_l is not None and couple is not None:
        positive = positive.with_ions(ion_activity(couple.split("/")[0], change.ions_mol_per_l))
    solution_ohm = loaded.solution_ohm / warmth(change.celsius).conductivity
    if change.conductivity_s_per_m is not None:
        bridge = electrolytes()[cell.electrolyte].bridge
        if bridge is None:  # where there is one, it is what counts
            solution_ohm = change.gap_m / (change.conductivity_s_per_m * change.area_m2 * change.pairs)
    loaded = replace(loaded, negative=negative, positive=positive, solution_ohm=solution_ohm)
    rest_v = loaded.rest()
    falls = [rubbed(half).falls_v if change.scratched else 0.0 for half in (negative, positive)]
    lower, upper = rest_v[0] - falls[0], rest_v[1] - falls[1]
    open_v = rest_v[1] - rest_v[0]
    towards = math.copysign(inside_a(cell), open_v)
    left_v = float(loaded.volts(np.array([towards]))[0])
    internal = (open_v - left_v) / towards if left_v * open_v > 0.0 else math.inf
    at_once = falls[0] - falls[1]
    shown = loaded.at_load(change.meter_ohm, rest_v).volts_v + at_once
    short = short_circuit(loaded, rest_v)
    return Outcome(
        lower, upper, open_v + at_once, shown, short.first_a, short.steady_a, internal, _table(cell, change.celsius)
    )


def _changed(half: Half, change: Change) -> Half:
    changed = half.in_liquid(
        change.ph, change.oxygen, change.stir, change.celsius, change.chloride_mol_per_l, change.protons_mol_per_l
    )
    return changed.dull() if change.dull else changed


def _table(cell: Cell, celsius: float) -> float | None:
    try:
        standard = electrodes()[cell.positive].table_v() - electrodes()[cell.negative].table_v()
    except NoTableEntry:
        return None
    for plate, sign in ((cell.positive, 1.0), (cell.negative, -1.0)):
        slope = half_reactions()[electrodes()[plate].couple or ""].de_dt_v_per_k
        if slope is None:
            return None if celsius != 25.0 else standard
        standard += sign * slope.value * (celsius - 25.0)
    return standard
