"""Oxidants in a liquid beside oxygen and hydrogen ions: how far they can lift the positive plate, and how much current.

How fast peroxide, peroxymonosulfate or an oxide takes electrons from a given plate nobody can vouch for, so nothing is
foretold: the cell lies between what it is without the oxidant and what its equilibrium would allow. What diffusion brings,
and the charge that a solid holds, are limits that hold whatever the plate.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from galvanic.chemistry.kinetics import forms
from galvanic.chemistry.nernst import potential_v
from galvanic.constants import FARADAY_C_PER_MOL
from galvanic.notes import capital
from galvanic.reference.additions import additions
from galvanic.reference.catalogue import electrolytes, half_reactions
from galvanic.words import mark, say

D_OXIDANT = 1.3e-9  # m²/s, of hydrogen peroxide and peroxymonosulfate in water: CRC Handbook, from memory
AREA_M2, CUP_L = 4e-4, 0.04  # of a kit's plate and cup
TRACE = 1e-3  # of what an oxidant becomes, mol/L, in the first minutes: common practice, no source
PER_MOL_OF_COUPLE = {"CuO/Cu2O": 1.0}  # electrons for a mol of it, where the equation has two
SOLID_WAY = {"MnO2/Mn2+": ("MnO2/MnOOH",)}  # what it becomes where its ions would settle: the higher one holds the plate
WITHOUT = mark(
    "an oxidant of its own: the model does not foretell it, only between what bounds it lies. Compare with the same cell "
    "without it"
)


@dataclass(frozen=True, slots=True)
class Oxidising:
    """One oxidant of a liquid: the potential it would hold a plate at, V against hydrogen; the current density that
    diffusion brings at most, A/m² (infinite for a solid); the charge in a litre, C."""

    couple: str
    name: str
    at_v: float
    limit_a_per_m2: float
    charge_c_per_l: float


def oxidising(liquid: str) -> tuple[Oxidising, ...]:
    """The oxidants of a liquid, the strongest first."""
    row = electrolytes()[liquid]
    couples = []
    for couple, amount in row.oxidants_mol_per_l.items():
        what = next(addition for addition in additions().values() if addition.oxidant == couple)
        half = half_reactions()[couple]
        ph = 0.5 * (row.ph.low + row.ph.high)
        levels = {
            "H+": 10.0**-ph,
            "OH-": 10.0 ** (ph - 14.0),
            "H2O2": amount,
            "HSO5-": amount,
            "HSO4-": amount,
            "Mn2+": TRACE,
        }
        layer_m = forms()[row.form].layer_m.value
        limit = math.inf if what.solid else half.electrons * FARADAY_C_PER_MOL * D_OXIDANT * 1e3 * amount / layer_m
        electrons = PER_MOL_OF_COUPLE.get(couple, float(half.electrons))
        at_v = max(potential_v(half_reactions()[one], levels) for one in (couple, *SOLID_WAY.get(couple, ())))
        couples.append(Oxidising(couple, what.name, at_v, limit, electrons * FARADAY_C_PER_MOL * amount))
    return tuple(sorted(couples, key=lambda one: -one.at_v))


@dataclass(frozen=True, slots=True)
class Lift:
    """How far an oxidant may lift the positive plate: from nothing to `most_v`, V."""

    by: Oxidising
    most_v: float

    @property
    def middle_v(self) -> float:
        """The middle of the range."""
        return 0.5 * self.most_v

    @property
    def u_v(self) -> float:
        """Its standard uncertainty: anywhere in the range, evenly."""
        return self.most_v / math.sqrt(12.0)


def lift(liquid: str, rest_v: float) -> Lift | None:
    """What the strongest oxidant of a liquid may add to a plate that rests at `rest_v` without it; None without one."""
    couples = oxidising(liquid)
    return Lift(couples[0], max(0.0, couples[0].at_v - rest_v)) if couples else None


def in_words(liquid: str, area_m2: float = AREA_M2, volume_l: float = CUP_L) -> str:
    """What is known of a liquid's oxidants, in sentences; empty without one."""
    said = []
    for one in oxidising(liquid):
        if math.isfinite(one.limit_a_per_m2):
            most = say("diffusion brings at most {area_m2:.2g} mA to the plate", area_m2=1e3 * one.limit_a_per_m2 * area_m2)
        else:
            most = say("it holds {volume_l:.2g} mA·h in a cup", volume_l=one.charge_c_per_l * volume_l / 3.6)
        said.append(
            say(
                "{name} would hold a plate at {at_v:+.2f} V; {most}.", name=capital(one.name), at_v=one.at_v, most=most
            ).replace("-", "\u2212")
        )
    return " ".join([*said, say("That is {without}.", without=say(WITHOUT))]) if said else ""
