"""The potential where two solutions meet, by Henderson's equation: ions that run ahead of the others leave a charge behind.

E = [Σ (λ/z)(c″ − c′)] / [Σ λ (c″ − c′)] · RT/F · ln(Σ λc′ / Σ λc″), the potential of the second solution less that of the
first, with λ molar conductivities (per mole of ion) and concentrations for activities. A bridge filled with a salt of its
own meets both solutions; its two junctions add up, and nearly cancel where the salt is strong and its ions equally fast.
Sources: P. Henderson, Zeitschrift für physikalische Chemie 59 (1907) 118; A. J. Bard, L. R. Faulkner, “Electrochemical
Methods” (2001), section 2.3.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from galvanic.cells import Cell
from galvanic.chemistry.acids import PKW_25C, acids, fractions
from galvanic.chemistry.blending import Composition, liquid
from galvanic.chemistry.nernst import thermal_v
from galvanic.constants import ROOM_K
from galvanic.reference.additions import ions
from galvanic.reference.bridges import Bridge, bridges
from galvanic.reference.catalogue import electrolytes, kept

U_PART, U_LEAST_V = 0.3, 0.001  # of a junction potential (straight profiles, no activities): common practice, no source
SAME = 1e-12

Charged = Mapping[str, float]


@dataclass(frozen=True, slots=True)
class Junction:
    """What a bridge adds to a cell, V (second solution less first), with its standard uncertainty."""

    volts_v: float
    u_v: float


NONE = Junction(0.0, 0.0)


def henderson(first: Charged, second: Charged, temperature_k: float = ROOM_K) -> float:
    """Potential of the second solution less that of the first, V; ions of additions.toml by key, mol/L."""
    table = ions()
    keys = dict.fromkeys((*first, *second))
    lam = {key: table[key].s_cm2_per_mol.value for key in keys}
    step = {key: second.get(key, 0.0) - first.get(key, 0.0) for key in keys}
    carried = [math.fsum(lam[key] * side.get(key, 0.0) for key in keys) for side in (first, second)]
    above = math.fsum(lam[key] / table[key].charge * step[key] for key in keys)
    below = math.fsum(lam[key] * step[key] for key in keys)
    if abs(below) < SAME * max(carried):  # both conduct alike: the limit of ln(x)/(x − 1)
        return thermal_v(temperature_k) * above / -carried[0]
    return thermal_v(temperature_k) * above / below * math.log(carried[0] / carried[1])


def charged(made: Composition) -> dict[str, float]:
    """The ions of a composition, mol/L; anions of weak acids as one of charge one for each charge."""
    per_l = made.per_l(made.ions_mol)
    per_l["H+"], per_l["OH-"] = 10.0**-made.ph, 10.0 ** (made.ph - PKW_25C)
    for key, amount in made.per_l(made.acids_mol).items():
        anions = amount * sum(charge * share for charge, share in enumerate(fractions(acids()[key], made.ph)))
        per_l["acid-"] = per_l.get("acid-", 0.0) + anions
    return per_l


def through(first: Charged, second: Charged, bridge: Bridge) -> Junction:
    """What a bridge between two solutions leaves."""
    met = [henderson(first, second)] if not bridge.salt else [henderson(first, bridge.salt), henderson(bridge.salt, second)]
    return Junction(math.fsum(met), math.hypot(U_LEAST_V, *(U_PART * one for one in met)))


@kept(512)
def _between(negative_side: str, positive_side: str, bridge: str) -> Junction:
    sides = [charged(liquid(side, 1.0)) for side in (negative_side, positive_side)]
    return through(sides[0], sides[1], bridges()[bridge])


def junction(cell: Cell) -> Junction:
    """What the bridge of a cell adds to its voltage; nothing in one liquid."""
    row = electrolytes()[cell.electrolyte]
    if row.negative_side is None or row.positive_side is None or row.bridge is None:
        return NONE
    return _between(row.negative_side, row.positive_side, row.bridge)
