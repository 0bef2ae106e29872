"""How a quantity is laid against a variable: physics where it gives a form, else as it is or on a logarithm.

A current when shorted is proportional to area, depth and pairs (a power with its interval), its inverse has a fixed part and
a part per cm of distance, and with temperature it goes as Arrhenius has it.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

from galvanic.constants import GAS_CONSTANT_J_PER_MOL_K
from galvanic.notes import volts
from galvanic.reference.variables import Variable
from galvanic.statistics.by_group import ByGroup

DECADES = 0.9  # of a value's range, from which its logarithm is the scale
ZERO_K = 273.15
Quantity = Literal["volts", "current"]
POWERS = frozenset({"area", "depth", "length", "pairs"})
NO_ZERO = frozenset({"temperature"})  # its zero is a convention, so ten times as much of it means nothing


@dataclass(frozen=True, slots=True)
class Form:
    """How a quantity is laid against a variable: x of the level's number, y of the value, and what the slope means."""

    name: str
    x: Callable[[float], float]
    y: Callable[[float], float]
    back: Callable[[float], float]
    says: Callable[[ByGroup], str]


def _same(value: float) -> float:
    return value


def form_of(variable: Variable, quantity: Quantity, numbers: Sequence[float]) -> Form:
    """The form that suits: physics where it gives one, else as it is, or the logarithm of what spans a decade."""
    unit = variable.unit or ("pair" if variable.whole else "step")
    if quantity == "current" and variable.key in POWERS:
        return Form("power", math.log, math.log, math.exp, lambda fit: (
            f"Current grows as {variable.name} to the power {_range(fit)}; in proportion would be 1."))  # fmt: skip
    if quantity == "current" and variable.key == "spacing":
        return Form("inverse", _same, lambda amps: 1.0 / amps, lambda y: 1.0 / y if y > 0.0 else math.inf, _fixed_part)
    if quantity == "current" and variable.key == "temperature":
        return Form("arrhenius", lambda c: 1.0 / (c + ZERO_K), math.log, math.exp, _activation)
    counted = variable.kind == "number" and variable.key not in NO_ZERO
    spans = counted and min(numbers) > 0.0 and math.log10(max(numbers) / min(numbers)) >= DECADES
    if quantity == "current":
        return Form("log y", math.log10 if spans else _same, math.log10, lambda y: 10.0**y, lambda fit: (
            f"{_range(fit)} decades of current per {'decade of it' if spans else unit}."))  # fmt: skip
    if spans:
        return Form("log", math.log10, _same, _same, lambda fit: f"{_volts_range(fit)} per decade.")
    return Form("linear", _same, _same, _same, lambda fit: f"{_volts_range(fit)} per {unit}.")


def _range(fit: ByGroup) -> str:
    return f"{fit.slope:.2f} ({fit.low:.2f} to {fit.high:.2f})"


def _volts_range(fit: ByGroup) -> str:
    return f"{volts(fit.slope, 3, signed=True)} ({volts(fit.low, 3, signed=True)} to {volts(fit.high, 3, signed=True)})"


def _fixed_part(fit: ByGroup) -> str:
    fixed = fit.at(0.0)
    if fit.slope <= 0.0 or fixed <= 0.0:
        return "The distance has no part that could be told from the plates' own."
    return f"What is not distance holds the current back as much as {fixed / fit.slope:.1f} cm of liquid would."


def _activation(fit: ByGroup) -> str:
    low, high = sorted(-GAS_CONSTANT_J_PER_MOL_K * end / 1e3 for end in (fit.low, fit.high))
    return (
        f"As Arrhenius has it: {-GAS_CONSTANT_J_PER_MOL_K * fit.slope / 1e3:.0f} kJ/mol ({low:.0f} to {high:.0f}). "
        "Near 15 it is the liquid that lets through more, at 40 and above the plates."
    )
