"""Amounts for making up solutions, and how much metal a charge dissolves.

Masses in g, volumes in L, amounts of substance concentration in mol/L. Formulas may carry crystal water: the mass is that
of the solid in the bottle, its water counted. "Made up to" means: dissolve, then fill up to the volume.
"""

from __future__ import annotations

import math
from collections.abc import Mapping

from galvanic.constants import FARADAY_C_PER_MOL
from galvanic.errors import OutOfRange
from galvanic.reference.further_tables import elements, molar_mass
from galvanic.words import say


def _above_zero(**amounts: float) -> None:
    for name, amount in amounts.items():
        if not (amount > 0.0 and math.isfinite(amount)):
            raise OutOfRange(
                say("{replace} must be above zero.", replace=name.replace("_", " ")), field=name, value=amount, limit=0.0
            )


def mass_for_molarity(formula: str, mol_per_l: float, volume_l: float) -> float:
    """Mass in g of a solid to be made up to a volume. Raises OutOfRange for amounts not above zero."""
    _above_zero(concentration=mol_per_l, volume=volume_l)
    return mol_per_l * volume_l * molar_mass(formula)


def parts_for_mass_percent(
    mass_percent: float, total_g: float, formula: str = "", anhydrous: str = ""
) -> tuple[float, float]:
    """Solid and water in g for a per cent by mass of the solution.

    For a hydrate give its `formula` and the `anhydrous` one that the per cent is meant for: its crystal water then counts as
    water. Raises OutOfRange where the solid would carry more water than the solution holds.
    """
    _above_zero(total_mass=total_g)
    if not 0.0 < mass_percent < 100.0:
        raise OutOfRange(say("A per cent by mass lies between 0 and 100."))
    solid = total_g * mass_percent / 100.0
    if formula and anhydrous:
        solid *= molar_mass(formula) / molar_mass(anhydrous)
    if solid > total_g:
        raise OutOfRange(
            say(
                "{formula} carries too much water of its own for {mass_percent} %.",
                formula=formula,
                mass_percent=mass_percent,
            )
        )
    return solid, total_g - solid


def stock_volume(from_mol_per_l: float, to_mol_per_l: float, volume_l: float) -> float:
    """Volume in L of a stronger solution to be made up to a volume, c₁V₁ = c₂V₂. Raises OutOfRange if it is not stronger."""
    _above_zero(stock=from_mol_per_l, concentration=to_mol_per_l, volume=volume_l)
    if to_mol_per_l > from_mol_per_l:
        raise OutOfRange(say("Diluting cannot make a solution stronger."))
    return volume_l * to_mol_per_l / from_mol_per_l


def by_parts(parts: Mapping[str, float], total: float) -> dict[str, float]:
    """Amounts of a recipe given in parts, whatever the parts add up to, for a total in any unit."""
    _above_zero(total=total)
    whole = math.fsum(parts.values())
    if not parts or any(part < 0.0 for part in parts.values()) or whole <= 0.0:
        raise OutOfRange(say("A recipe needs parts, none of them below zero."))
    return {name: total * part / whole for name, part in parts.items()}


def for_groups(per_group: float, groups: int, spare: float = 0.1, step: float = 0.0) -> float:
    """Total for a class with a share of spare, rounded up to a step (0: not rounded), in the unit of `per_group`."""
    _above_zero(amount=per_group, groups=float(groups))
    if spare < 0.0 or step < 0.0:
        raise OutOfRange(say("Spare and step cannot be below zero."))
    total = per_group * groups * (1.0 + spare)
    return math.ceil(total / step - 1e-9) * step if step else total


def metal_dissolved_g(symbol: str, electrons: int, charge_c: float) -> float:
    """Mass in g of a metal that a charge in C dissolves (or deposits), m = QM/(zF): Faraday’s law."""
    if symbol not in elements():
        raise OutOfRange(say("There is no element {symbol} in the table.", symbol=symbol))
    _above_zero(charge=charge_c, electrons=float(electrons))
    return charge_c * elements()[symbol].molar_mass_g_per_mol.value / (electrons * FARADAY_C_PER_MOL)
