"""What happens at each plate of a cell that delivers current: half-reactions, and what actually carries the current.

At the negative plate the metal dissolves (oxidation: the anode). At the positive plate something of the liquid is reduced:
in juice and salt water there are no copper ions, so oxygen and hydrogen ions share the work. The shares come from the
rest-potential model at the plate's potential in the working cell, a tenth of its short-circuit current drawn.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.half import Half
from galvanic.chemistry.polarisation import LoadedCell, sides_of
from galvanic.chemistry.rest import dissolution, hydrogen, inert, oxygen
from galvanic.reference.catalogue import electrodes, electrolytes, half_reactions

PART = 0.1
LEAST_SHARE = 0.005
NEUTRAL_PH = 7.0
SOLUTION_MOL_PER_L = 1e-4  # less than any solution that is made, more than a plate gives off in a lesson
OWN_IONS = "the plate’s own ions come back from the solution"
OWN_OXIDE = "its own oxide and the traces that it gave off, as long as they last; then only oxygen and hydrogen"


@dataclass(frozen=True, slots=True)
class Work:
    """One half-reaction at a plate, its share of the current, and a remark (empty: none)."""

    equation: str
    share: float
    remark: str


@dataclass(frozen=True, slots=True)
class AtPlates:
    """The plate that is really negative and the one that is really positive, with the half-reactions at each."""

    negative: str
    positive: str
    at_negative: tuple[Work, ...]
    at_positive: tuple[Work, ...]


def forwards(couple: str) -> str:
    """A tabulated reduction as it runs: `Zn²⁺ + 2 e⁻ → Zn`."""
    return half_reactions()[couple].equation.replace("⇌", "→")


def backwards(couple: str) -> str:
    """A tabulated reduction run as an oxidation: `Zn → Zn²⁺ + 2 e⁻`."""
    left, right = (side.strip() for side in half_reactions()[couple].equation.split("⇌"))
    return f"{right} → {left}"


def at_plates(cell: Cell) -> AtPlates:
    """Half-reactions at both plates, the sides swapped where the model finds the table's order turned round."""
    loaded = LoadedCell.of(cell)
    halves = {cell.negative: loaded.negative, cell.positive: loaded.positive}
    sides = dict(zip((cell.negative, cell.positive), sides_of(cell), strict=True))
    rest_v = loaded.rest()
    rest = dict(zip((cell.negative, cell.positive), rest_v, strict=True))
    low, high = sorted(halves, key=lambda key: (rest[key], key != cell.negative))
    current = abs(loaded.at_load(0.0, rest_v).current_a) * PART
    density = current / loaded.geometry.area_m2
    return AtPlates(low, high, _anode(low, halves[low], density), _cathode(high, sides[high], halves[high], density))


def _anode(key: str, half: Half, density: float) -> tuple[Work, ...]:
    plates, liquids, pairing = half.plates, half.liquids, half.pairing
    at = np.reshape(half.at(density), (1, 1, 1))
    metal = max(0.0, float(dissolution(at, plates, liquids, pairing)[0, 0, 0]))
    other = max(0.0, float(inert(at, plates, liquids)[0, 0, 0]))
    electrode = electrodes()[key]
    if electrode.couple is None or metal <= other:
        return (Work("what the liquid holds is oxidised; the plate itself does not dissolve", 1.0, ""),)
    film = "through pores in its oxide skin" if bool(plates.filmed[0, 0, 0]) else ""
    return (Work(backwards(electrode.couple), 1.0, film),)


def _holds_ions(liquid: str, couple: str | None) -> bool:
    """Whether a liquid is a solution of a plate's own ions, not just what the plate has given off."""
    ions = electrolytes()[liquid].ions_mol_per_l
    return couple is not None and ions.get(couple.partition("/")[0], 0.0) >= SOLUTION_MOL_PER_L


def _cathode(key: str, liquid: str, half: Half, density: float) -> tuple[Work, ...]:
    plates, liquids, pairing = half.plates, half.liquids, half.pairing
    at = np.reshape(half.at(-density), (1, 1, 1))
    acid = half.ph < NEUTRAL_PH
    by_oxygen = max(0.0, float(oxygen(at, plates, liquids)[0, 0, 0]))
    by_hydrogen = max(0.0, float(hydrogen(at, plates, liquids)[0, 0, 0]))
    by_metal = max(0.0, -float(dissolution(at, plates, liquids, pairing)[0, 0, 0]))
    by_peroxide = max(0.0, -float(inert(at, plates, liquids)[0, 0, 0]))
    total = by_oxygen + by_hydrogen + by_metal + by_peroxide
    if total <= 0.0:
        return ()
    electrode = electrodes()[key]
    metal = forwards(electrode.couple) if electrode.couple else ""
    rows = [
        Work(forwards("O2/H2O" if acid else "O2/OH-"), by_oxygen / total, "oxygen from the air, dissolved in the liquid"),
        Work(forwards("H+/H2" if acid else "H2O/H2 OH-"), by_hydrogen / total, "gives bubbles where it runs fast"),
        Work(metal, by_metal / total, OWN_IONS if _holds_ions(liquid, electrode.couple) else OWN_OXIDE),
        Work(forwards("O2/H2O2"), by_peroxide / total, "oxygen, half-way"),
    ]
    return tuple(sorted((row for row in rows if row.share >= LEAST_SHARE and row.equation), key=lambda row: -row.share))
