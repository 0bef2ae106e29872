"""What calibration made of the published ranges: parameters of the rest-potential model, and how wrong it is left.

`posterior.toml` is written by `tools/calibrate.py` from kinetics.toml (priors) and benchmark/published.csv (data). Each
parameter's deviation is `factor`·z with one z for all of them, so that draws keep what parameters have in common. What is
left is a discrepancy of each plate in each kind of liquid, V: known with an uncertainty where something is published there,
nothing with a wider one where not. It belongs to the model: plates stand there, and currents are those of the potential
without it.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, fields, is_dataclass, replace
from functools import cache
from typing import Any, TypeVar

from galvanic.reference.catalogue import Electrolyte
from galvanic.reference.reader import Reader, read_table

T = TypeVar("T")
ACID_PH, ALKALI_PH, SALTY_MOL_PER_L = 4.5, 9.5, 0.1


@dataclass(frozen=True, slots=True)
class Fitted:
    """A calibrated parameter: its value, and its row of the factor (natural logarithms for what spreads so)."""

    value: float
    factor: tuple[float, ...]


def _fitted(r: Reader) -> Fitted:
    r.take("key", str)
    return Fitted(float(r.take("value", (int, float))), tuple(float(x) for x in r.take("factor", list)))


@dataclass(frozen=True, slots=True)
class Off:
    """How far a plate is from where its currents put it, V, with one standard uncertainty."""

    mean_v: float
    u_v: float


def _discrepancy(r: Reader) -> Off:
    r.take("key", str)
    return Off(float(r.take("mean_v", (int, float))), float(r.take("u_v", (int, float))))


@cache
def posterior() -> Mapping[str, Fitted]:
    """Calibrated parameters by their path, such as `copper.oxygen_i0_a_per_m2`."""
    return read_table("posterior", "parameter", _fitted)


@cache
def discrepancies() -> Mapping[str, Off]:
    """What is left over, by `surface kind` and `kind`."""
    return read_table("posterior", "discrepancy", _discrepancy)


def kind_of(liquid: Electrolyte) -> str:
    """Which kind of liquid a discrepancy belongs to: acid, alkali, salt (chloride of 0.1 mol/L and more), or weak."""
    chloride = (liquid.chloride_mol_per_l.low * liquid.chloride_mol_per_l.high) ** 0.5
    return kind_at(0.5 * (liquid.ph.low + liquid.ph.high), chloride)


def kind_at(ph: float, chloride_mol_per_l: float) -> str:
    """The same of a liquid with this pH and chloride."""
    if ph < ACID_PH:
        return "acid"
    if ph > ALKALI_PH:
        return "alkali"
    return "salt" if chloride_mol_per_l > SALTY_MOL_PER_L else "weak"


def discrepancy(surface: str, liquid: Electrolyte) -> Off:
    """How far the calibrated model is still off for a surface in such a liquid."""
    return discrepancy_in(surface, kind_of(liquid))


def discrepancy_in(surface: str, kind: str) -> Off:
    """The same in a kind of liquid."""
    known = discrepancies()
    return known.get(f"{surface} {kind}", known[kind])


def parameters(part: Any, path: str) -> Iterator[tuple[str, Any]]:
    """Every parameter inside a surface or a form, with its path."""
    for field in fields(part):
        value = getattr(part, field.name)
        here = f"{path}.{field.name}"
        if hasattr(value, "logarithmic"):
            yield here, value
        elif is_dataclass(value):
            yield from parameters(value, here)
        elif isinstance(value, tuple):
            for row in value:
                if is_dataclass(row):
                    yield from parameters(row, f"{path}.{getattr(row, 'couple', field.name)}")


def calibrated(part: T, path: str) -> T:
    """The same with its parameters as calibration left them."""
    known = posterior()
    changed: dict[str, Any] = {}
    for field in fields(part):  # type: ignore[arg-type]
        value = getattr(part, field.name)
        here = f"{path}.{field.name}"
        if hasattr(value, "logarithmic"):
            if here in known:
                changed[field.name] = value.moved(known[here].value, known[here].factor)
        elif is_dataclass(value):
            changed[field.name] = calibrated(value, here)
        elif isinstance(value, tuple) and value and is_dataclass(value[0]):
            changed[field.name] = tuple(calibrated(row, f"{path}.{getattr(row, 'couple', field.name)}") for row in value)
    return replace(part, **changed)  # type: ignore[type-var]
