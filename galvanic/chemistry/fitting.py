"""Which plates may stand in which of two solutions, and which solutions may meet; what cannot be has its reason."""

from __future__ import annotations

from galvanic.cells import Cell
from galvanic.chemistry.plates import couple_of
from galvanic.notes import capital
from galvanic.reference.catalogue import Electrolyte, electrodes, electrolytes, half_reactions, plate_of
from galvanic.words import mark, say

SECOND = "-second"  # of the key of a plate that stands opposite one of its own metal
DISSOLVED = 1e-3  # mol/L of a metal's ions, from which a liquid is a solution of its salt: common practice, no source
CHLORIDE = 0.01  # mol/L, above what taps and traces bring: common practice, no source
ALKALINE_PH, CARBONATE_PH = 9.0, 7.0  # from which hydroxides and carbonates of these metals fall out: any general text
# What does not dissolve, by metal ion and what it meets (solubility rules of any general chemistry text).
INSOLUBLE = {
    ("Ag+", "Cl-"): mark("silver chloride"),
    ("Ag+", "SO4--"): mark("silver sulfate"),
    ("Pb2+", "Cl-"): mark("lead chloride"),
    ("Pb2+", "SO4--"): mark("lead sulfate"),
}


def refusal(cell: Cell) -> str:
    """Why a cell cannot be, in a sentence; empty where it can. In one liquid all but a lone second plate can."""
    twin = next((plate.removesuffix(SECOND) for plate in cell.pair if plate.endswith(SECOND)), "")
    if twin and twin not in cell.pair:
        name = electrodes()[twin].name
        return say("The second plate of {name} is for cells with {name} on both sides.", name=name)
    row = electrolytes()[cell.electrolyte]
    for plate, side in zip(cell.pair, (row.negative_side, row.positive_side), strict=True):
        if side is not None and (why := _in_side(plate, electrolytes()[side])):
            return why
    return ""


def _in_side(plate: str, side: Electrolyte) -> str:
    own = electrodes()[plate]
    ions = {ion: amount for ion, amount in side.ions_mol_per_l.items() if amount >= DISSOLVED}
    for ion in ions:
        couple = couple_of(ion)
        if couple is None or couple.key == own.couple or own.couple is None:
            continue
        if half_reactions()[own.couple].e_v.value < couple.e_v.value:
            metal = plate_of(couple.key)
            named = couple.key.split("/")[1] if metal is None else metal.name
            return say(
                "{name} in {name2} is covered with {named} at once (displacement).",
                name=capital(own.name),
                name2=side.name,
                named=named,
            )
    if ions and own.couple is not None and own.couple.split("/")[0] not in ions:
        return say("{name} has none of its own ions in {name2}.", name=capital(own.name), name2=side.name)
    return ""


def falls_out(negative_side: str, positive_side: str) -> str:
    """What falls out where two liquids meet, in a sentence; empty where nothing does."""
    for one, other in ((negative_side, positive_side), (positive_side, negative_side)):
        ions, met = electrolytes()[one].ions_mol_per_l, electrolytes()[other]
        for ion in (ion for ion, amount in ions.items() if amount >= DISSOLVED):
            anions = [met.anion] if met.anion else []
            anions += ["Cl-"] if met.chloride_mol_per_l.high > CHLORIDE else []
            solid = next((say(INSOLUBLE[ion, anion]) for anion in anions if (ion, anion) in INSOLUBLE), "")
            metal = half.key.split("/")[1] if (half := couple_of(ion)) is not None else ion
            if not solid and met.ph.high > ALKALINE_PH:
                solid = say("the hydroxide of {metal}", metal=metal)
            if not solid and "carbonic" in met.acids_mol_per_l and met.ph.high > CARBONATE_PH:
                solid = say("the carbonate of {metal}", metal=metal)
            if solid:
                return say(
                    "Where {name} meets {name2}, {solid} falls out and clogs the bridge.",
                    name=electrolytes()[one].name,
                    name2=met.name,
                    solid=solid,
                )
    return ""
