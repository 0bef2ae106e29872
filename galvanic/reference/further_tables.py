"""Cited tables beside the main catalogue: elements, measured conductivities, bottles as bought, loads."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Literal

from galvanic.errors import BadTable, OutOfRange
from galvanic.reference.quantities import quantity
from galvanic.reference.reader import Range, Reader, Value, read_table
from galvanic.words import once, say

CONDUCTIVITY_PER_K = quantity("conductivity_per_k")


@dataclass(frozen=True, slots=True)
class Element:
    """Atomic weight in g/mol, electronegativity on Pauling's scale (a ranking, not a voltage scale), density of metals."""

    key: str
    molar_mass_g_per_mol: Value
    electronegativity: Value
    density_kg_per_l: Value | None


@dataclass(frozen=True, slots=True)
class Conductivity:
    """Measured conductivity at 20 °C, S/m, by mass per cent."""

    key: str
    mass_percent: tuple[float, ...]
    s_per_m: tuple[float, ...]
    source: str
    locator: str
    checked: str


@dataclass(frozen=True, slots=True)
class Load:
    """Something to run: its voltage (V) and current (A) as ranges, and how far parts of one kind differ (V).

    What may harm it is a voltage, `most_v`, or for a diode a current, `most_a`; `by_day_a` (where a glow is seen in a lit
    room, A) and `ideality` are a diode's too. See loads.toml for what each means.
    """

    key: str
    name: str
    kind: Literal["diode", "resistor", "constant"]
    voltage_v: Range
    current_a: Range
    u_v: Value
    most_v: Value | None
    most_a: Value | None
    by_day_a: Range | None
    ideality: Value | None

    @property
    def synonyms(self) -> tuple[str, ...]:
        """The name with its words the other way round."""
        return (" ".join(reversed(self.name.split())),)


@dataclass(frozen=True, slots=True)
class Stock:
    """A bottle as bought: what is in it, per cent by mass, density in kg/L."""

    key: str
    formula: str
    mass_percent: Value
    density_kg_per_l: Value

    @property
    def mol_per_l(self) -> float:
        """Concentration of the bottle."""
        return 10.0 * self.mass_percent.value * self.density_kg_per_l.value / molar_mass(self.formula)


def _stock(r: Reader) -> Stock:
    return Stock(r.take("key", str), r.take("formula", str), r.value("mass_percent"), r.value("density_kg_per_l"))


def _element(r: Reader) -> Element:
    density = r.value("density_kg_per_l") if "density_kg_per_l" in r.row else None
    return Element(r.take("key", str), r.value("molar_mass_g_per_mol"), r.value("electronegativity"), density)


def _conductivity(r: Reader) -> Conductivity:
    percent, found = (tuple(float(x) for x in r.take(field, list)) for field in ("mass_percent", "s_per_m"))
    if len(percent) != len(found) or list(percent) != sorted(percent):
        raise r.fail("mass_percent must rise and have a conductivity each")
    source = r.source(r.take("source", str))
    return Conductivity(r.take("key", str), percent, found, source, r.take("locator", str), r.take("checked", str))


def _load(r: Reader) -> Load:
    kind = r.take("kind", str)
    if kind not in ("diode", "resistor", "constant"):
        raise r.fail(f"kind {kind!r} is unknown")
    diode = kind == "diode"
    return Load(
        r.take("key", str),
        r.take("name", str),
        kind,
        r.range("voltage_v"),
        r.range("current_a"),
        r.value("u_v"),
        None if diode else r.value("most_v"),
        r.value("most_a") if diode else None,
        r.range("by_day_a") if diode else None,
        r.value("ideality") if diode else None,
    )


@cache
def elements() -> Mapping[str, Element]:
    """Elements by symbol."""
    return read_table("elements", "element", _element)


@cache
def conductivities() -> Mapping[str, Conductivity]:
    """Measured conductivities by solute."""
    return read_table("conductivity", "solution", _conductivity)


@cache
def stocks() -> Mapping[str, Stock]:
    """Solutions as bought, by name."""
    return read_table("stocks", "stock", _stock)


@once
def loads() -> Mapping[str, Load]:
    """Loads by key."""
    return read_table("loads", "load", _load)


def molar_mass(formula: str) -> float:
    """Molar mass in g/mol of a formula such as `CuSO4.5H2O` or `Ca(OH)2`. Raises BadTable for anything else."""
    total = 0.0
    for part in formula.replace("·", ".").split("."):
        match = re.fullmatch(r"(\d*)(.+)", part)
        if match is None:
            raise BadTable(f"“{formula}” is not a formula.")
        total += int(match[1] or 1) * _mass(match[2], formula)
    return total


def _mass(part: str, whole: str) -> float:
    total, place = 0.0, 0
    for found in re.finditer(r"\(([^()]+)\)(\d*)|([A-Z][a-z]?)(\d*)", part):
        if found.start() != place:
            break
        place = found.end()
        if found[1]:
            total += _mass(found[1], whole) * int(found[2] or 1)
        elif found[3] in elements():
            total += elements()[found[3]].molar_mass_g_per_mol.value * int(found[4] or 1)
        else:
            raise BadTable(f"There is no element {found[3]} in the table.")
    if place != len(part) or not part:
        raise BadTable(f"“{whole}” is not a formula.")
    return total


def conductivity_s_per_m(solute: str, mass_percent: float, celsius: float = 25.0) -> float:
    """Measured conductivity by log–log interpolation, 2 % of the 25 °C value a kelvin from 20 °C.

    Raises OutOfRange outside the table or outside 10 to 40 °C.
    """
    if solute not in conductivities():
        raise OutOfRange(say("There is a table for {conductivities} only.", conductivities=", ".join(conductivities())))
    row = conductivities()[solute]
    if not row.mass_percent[0] <= mass_percent <= row.mass_percent[-1]:
        raise OutOfRange(
            say(
                "The table of {solute} runs from {mass_percent} to {mass_percent2} % by mass.",
                solute=solute,
                mass_percent=row.mass_percent[0],
                mass_percent2=row.mass_percent[-1],
            )
        )
    if not 10.0 <= celsius <= 40.0:
        raise OutOfRange(say("The temperature rule holds from 10 to 40 °C."))
    points = list(zip(row.mass_percent, row.s_per_m, strict=True))
    for (m0, k0), (m1, k1) in zip(points, points[1:], strict=False):
        if mass_percent <= m1:
            part = math.log(mass_percent / m0) / math.log(m1 / m0)
            at_20 = k0 * (k1 / k0) ** part
            return float(at_20 * (1.0 + CONDUCTIVITY_PER_K * (celsius - 25.0)) / (1.0 - 5.0 * CONDUCTIVITY_PER_K))
    return row.s_per_m[-1]
