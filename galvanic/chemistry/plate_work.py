"""What happens at each plate of a cell that delivers current: half-reactions, and what actually carries the current.

At the negative plate the metal dissolves (oxidation: the anode). At the positive plate something of the liquid is reduced:
in juice and salt water there are no copper ions, so oxygen and hydrogen ions share the work. The shares come from the
model at the plate's potential with the cell shorted for a minute: the oxides it carried are nearly used up, and hydrogen and
oxygen carry the rest.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.currents import NERNST_V, cathodic, dissolution, oxidised, plating
from galvanic.chemistry.equations import NEUTRAL_PH, for_ph
from galvanic.chemistry.half import Half
from galvanic.chemistry.kinetics import Dissolution, surfaces
from galvanic.chemistry.plates import CHLORIDE_ACTIVITY, LEAST_CHLORIDE, couple_of
from galvanic.chemistry.polarisation import MINUTE_S, LoadedCell, sides_of
from galvanic.level import Level
from galvanic.reference.catalogue import electrodes, electrolytes, half_reactions
from galvanic.words import mark, say

DISPLACED = 0.1  # of what dissolves: from there on the plate is soon covered
LEAST_SHARE = 0.005
TRACE_LOG = -4.0  # of the ions or complexes at the plate, mol/L
SOLUTION_MOL_PER_L = 1e-4  # less than any solution that is made, more than a plate gives off in a lesson
OWN_IONS = mark("the plate’s own ions come back from the solution")
OWN_TRACES = mark("traces of its own ions that it gave off before")
OWN_SOLID = mark("what it carries of this, as long as it lasts; then only oxygen and hydrogen")
GROUPS = mark("groups on the carbon, as long as they last; then only oxygen and hydrogen")
OTHERS_IONS = mark("the other metal’s ions plate out on it")
OWN, HYDROGEN = "own ions", "hydrogen"
WHAT = {
    "oxygen": mark("oxygen"),
    HYDROGEN: mark("hydrogen"),
    OWN: mark("the plate’s own ions"),
    "solids": mark("its dull skin"),
    "peroxide": mark("oxygen, half-way"),
    "groups": mark("the carbon’s own groups"),
    "plating": mark("the other metal’s ions"),
}
PAST_THE_WIRE = 0.02  # of what dissolves: from there on the bubbles are shown
DISSOLVES = mark("metal goes into the liquid, mostly too little of it to be seen in a lesson")
BUBBLES = mark("bubbles of hydrogen, where it is enough")
NOTHING = mark("nothing to be seen")
GROWS = mark("metal grows on the plate")
BARED = mark("its dull skin turns to bright metal")
OF_THE_LIQUID = mark("what the liquid holds is oxidised; the plate itself does not dissolve")
IN_WORDS = {
    "liquid": mark("what is in the liquid gives electrons to the plate; the plate itself stays as it is"),
    "": mark("the metal goes into the liquid bit by bit and leaves its electrons in the plate"),
    "oxygen": mark("oxygen from the air, dissolved in the liquid, takes electrons from the plate"),
    HYDROGEN: mark("hydrogen in the liquid takes electrons from the metal and becomes gas"),
    OWN: mark("ions of the same metal take electrons from the plate and become metal on it"),
    "solids": mark("the plate’s own dull skin takes electrons and becomes bright metal"),
    "peroxide": mark("oxygen takes electrons from the plate, but stops half-way to water"),
    "groups": mark("groups on the carbon take electrons, as long as they last"),
    "plating": mark("ions of the other metal take electrons from the plate and become metal on it"),
}
BESIDE_THE_WIRE = mark("at this plate too: what goes this way drives nothing through the wire")
COVERED = mark("it also dissolves by itself: the liquid’s own metal plates out on it, and the reading does not last")


@dataclass(frozen=True, slots=True)
class Work:
    """One half-reaction at a plate, written for the liquid's pH, its share of the current, what is seen of it, and a remark
    (empty: none); `part`: which of `WHAT` it is (empty: the metal dissolves; “liquid”: what the liquid holds is oxidised).
    Hydrogen at the negative plate has the share of what dissolves that goes into it, past the wire. `resting`: the share
    with nothing joined, of what holds the positive plate up."""

    equation: str
    share: float
    what_is_seen: str
    remark: str
    part: str = ""
    resting: float = 1.0

    def told(self, level: Level) -> str:
        """The half-reaction as a level has it: an equation, or in words for a class that has none yet."""
        return self.equation if level.has_equations else say(IN_WORDS[self.part])


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
    """Half-reactions at both plates a minute into a short circuit, the sides swapped where the model finds the table's order
    turned round."""
    loaded = LoadedCell.of(cell)
    return under(cell, loaded, loaded.after(MINUTE_S), 0.0)


def under(cell: Cell, loaded: LoadedCell, later: LoadedCell, ohm: float | None) -> AtPlates:
    """The same of a cell at rest and `later`, through a resistance, Ω; None: nothing is joined, and it is as at rest."""
    sides = dict(zip((cell.negative, cell.positive), sides_of(cell), strict=True))
    rest_v = loaded.rest()
    rest = dict(zip((cell.negative, cell.positive), rest_v, strict=True))
    low, high = sorted((cell.negative, cell.positive), key=lambda key: (rest[key], key != cell.negative))
    resting = {cell.negative: loaded.negative, cell.positive: loaded.positive}
    density = 0.0
    if ohm is not None:
        loaded = later
        density = abs(later.at_load(ohm, rest_v).current_a) / later.geometry.area_m2
    halves = {cell.negative: loaded.negative, cell.positive: loaded.positive}
    return AtPlates(
        low,
        high,
        _anode(low, sides[low], halves[low], density),
        _cathode(high, sides[high], halves[high], density, resting[high]),
    )


def _anode(key: str, liquid: str, half: Half, density: float) -> tuple[Work, ...]:
    plates, liquids, pairing = half.plates, half.liquids, half.pairing
    at = np.reshape(half.at(density), (1, 1, 1))
    metal = max(0.0, float(dissolution(at, plates, liquids, pairing)[0, 0, 0]))
    other = max(0.0, float(oxidised(at - pairing.off_v, plates, liquids)[0, 0, 0]))
    couple = main_couple(key, liquid, float(at[0, 0, 0]))
    if couple is None or metal <= other:
        return (Work(say(OF_THE_LIQUID), 1.0, say(NOTHING), "", "liquid"),)
    remark = say("through pores in its oxide skin") if bool(plates.filmed[0, 0, 0]) else ""
    if float(plating(at - pairing.off_v, liquids, pairing)[0, 0, 0]) > DISPLACED * metal:
        remark = say(COVERED)
    bubbles = float(cathodic(at, plates, liquids, pairing)["hydrogen"][0, 0, 0]) / metal
    gas = "H+/H2" if half.ph < NEUTRAL_PH else "H2O/H2 OH-"
    own = Work(for_ph(backwards(couple), half.ph), 1.0, say(DISSOLVES), remark)
    if bubbles < PAST_THE_WIRE:
        return (own,)
    return own, Work(forwards(gas), min(1.0, bubbles), say(BUBBLES), say(BESIDE_THE_WIRE), HYDROGEN)


def main_couple(key: str, liquid: str, at_v: float) -> str | None:
    """What a plate dissolves as at a potential: its simple ion, a complex or a solid, whichever would take it furthest."""
    electrode, row = electrodes()[key], electrolytes()[liquid]
    if electrode.couple is None:
        return None
    ph = 0.5 * (row.ph.low + row.ph.high)
    chloride = CHLORIDE_ACTIVITY * max(math.sqrt(row.chloride_mol_per_l.low * row.chloride_mol_per_l.high), LEAST_CHLORIDE)

    def drive(reaction: Dissolution) -> float:
        half = half_reactions()[reaction.couple]
        ligands = reaction.chloride * math.log10(chloride) + reaction.hydroxide * (ph - 14.0)
        level = 0.0 if reaction.solid else TRACE_LOG
        return half.electrons * (at_v - half.e_v.value) / NERNST_V + ligands - level

    reactions = [reaction for reaction in surfaces()[electrode.surface].dissolution if reaction.matters_at(ph)]
    return max(reactions, key=drive).couple


def _holds_ions(liquid: str, couple: str | None) -> bool:
    """Whether a liquid is a solution of a plate's own ions, not just what the plate has given off."""
    ions = electrolytes()[liquid].ions_mol_per_l
    return couple is not None and ions.get(couple.partition("/")[0], 0.0) >= SOLUTION_MOL_PER_L


def _shares(half: Half, density: float) -> dict[str, float]:
    """What reduces at a half from which a current density is drawn, by its part of it all; none where nothing does."""
    at = np.reshape(half.at(-density), (1, 1, 1))
    parts = {name: float(part[0, 0, 0]) for name, part in cathodic(at, half.plates, half.liquids, half.pairing).items()}
    total = sum(parts.values())
    return {name: part / total for name, part in parts.items()} if total > 0.0 else {}


def _cathode(key: str, liquid: str, half: Half, density: float, resting: Half) -> tuple[Work, ...]:
    parts, at_rest = _shares(half, density), _shares(resting, 0.0)
    if not parts:
        return ()
    acid = half.ph < NEUTRAL_PH
    electrode = electrodes()[key]
    own = forwards(electrode.couple) if electrode.couple else ""
    solid = next((r.couple for r in surfaces()[electrode.surface].dissolution if r.solid), None)
    foreign = next((c for ion in electrolytes()[liquid].ions_mol_per_l if (c := couple_of(ion)) is not None), None)
    rows = {
        "oxygen": (forwards("O2/H2O" if acid else "O2/OH-"), NOTHING, say("oxygen from the air, dissolved in the liquid")),
        "hydrogen": (forwards("H+/H2" if acid else "H2O/H2 OH-"), BUBBLES, say("gives bubbles where it runs fast")),
        OWN: (own, GROWS, say(OWN_IONS if _holds_ions(liquid, electrode.couple) else OWN_TRACES)),
        "solids": (for_ph(forwards(solid), half.ph) if solid else "", BARED, say(OWN_SOLID)),
        "peroxide": (for_ph(forwards("O2/H2O2"), half.ph), NOTHING, say("oxygen, half-way")),
        "groups": (say("quinone + 2 H⁺ + 2 e⁻ → hydroquinone, on the carbon"), NOTHING, say(GROUPS)),
        "plating": (forwards(foreign.key) if foreign else "", GROWS, say(OTHERS_IONS)),
    }
    works = [
        Work(equation, parts[name], say(seen), remark, name, at_rest.get(name, 0.0))
        for name, (equation, seen, remark) in rows.items()
        if equation
    ]
    return tuple(sorted((row for row in works if row.share >= LEAST_SHARE or row.resting >= LEAST_SHARE), key=_most))


def _most(row: Work) -> float:
    return -row.share
