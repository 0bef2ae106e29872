"""What can be added to a liquid, and how ions conduct: additions.toml."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from galvanic.reference.further_tables import molar_mass
from galvanic.reference.reader import Reader, Value, read_table
from galvanic.words import once


@dataclass(frozen=True, slots=True)
class Addition:
    """A solid (per g) or a bottle (per mL): the moles of weak acids and strong ions that come with one unit of it; `oxidant`
    is the half-reaction of one that takes electrons, `oxidant_mol` of it per mol; `solid`: it stays a powder."""

    key: str
    name: str
    synonyms: tuple[str, ...]
    unit: str
    formula: str
    mol_per_unit: float
    acids: Mapping[str, float]
    ions: Mapping[str, float]
    most_g_per_l: Value | None
    hazard: str
    oxidant: str | None
    oxidant_mol: float
    solid: bool


@dataclass(frozen=True, slots=True)
class Ion:
    """A strong ion: its charge and its limiting molar conductivity at 25 °C in S·cm²/mol of ions; `hydrolysis_pk` of a metal
    ion that makes water sour."""

    key: str
    charge: int
    s_cm2_per_mol: Value
    hydrolysis_pk: Value | None

    @property
    def metal(self) -> str | None:
        """A metal ion by its key in the table of half-reactions (“Zn2+”); None for other ions."""
        symbol = self.key.rstrip("+")
        return None if self.hydrolysis_pk is None else f"{symbol}{self.charge if self.charge > 1 else ''}+"


def _addition(r: Reader) -> Addition:
    unit, formula = r.take("unit", str), r.take("formula", str)
    if unit not in ("g", "mL"):
        raise r.fail("unit is g or mL")
    per_unit = 1.0 / molar_mass(formula) if unit == "g" else 1e-3 * r.value("mol_per_l").value
    most = r.value("most_g_per_l") if "most_g_per_l" in r.row else None
    return Addition(
        r.take("key", str), r.take("name", str), tuple(r.take("synonyms", list)), unit, formula, per_unit,
        r.take("acids", dict, {}), r.take("ions", dict, {}), most, r.take("hazard", str, ""),
        r.take("oxidant", str, None), float(r.take("oxidant_mol", (int, float), 0.0)), r.take("solid", bool, False),
    )  # fmt: skip


def _ion(r: Reader) -> Ion:
    pk = r.value("hydrolysis_pk") if "hydrolysis_pk" in r.row else None
    return Ion(r.take("key", str), r.take("charge", int), r.value("s_cm2_per_mol"), pk)


@once
def additions() -> Mapping[str, Addition]:
    """Additions by key."""
    return read_table("additions", "addition", _addition)


@cache
def metal_ions() -> Mapping[str, str]:
    """Keys of metal ions here by their keys in the table of half-reactions: `Zn++` by `Zn2+`."""
    return {ion.metal: key for key, ion in ions().items() if ion.metal is not None}


@cache
def ions() -> Mapping[str, Ion]:
    """Strong ions, and the anions of weak acids as one, by key."""
    return read_table("additions", "ion", _ion)
