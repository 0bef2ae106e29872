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
from galvanic.words import say

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
    unit = say(variable.unit) if variable.unit else say("pair") if variable.whole else say("step")
    if quantity == "current" and variable.key in POWERS:
        return Form("power", math.log, math.log, math.exp, lambda fit: (
            say("Current grows as {name} to the power {power}; in proportion would be 1.",
                name=variable.said, power=_range(fit))))  # fmt: skip
    if quantity == "current" and variable.key == "spacing":
        return Form("inverse", _same, lambda amps: 1.0 / amps, lambda y: 1.0 / y if y > 0.0 else math.inf, _fixed_part)
    if quantity == "current" and variable.key == "temperature":
        return Form("arrhenius", lambda c: 1.0 / (c + ZERO_K), math.log, math.exp, _activation)
    counted = variable.kind == "number" and variable.key not in NO_ZERO
    spans = counted and min(numbers) > 0.0 and math.log10(max(numbers) / min(numbers)) >= DECADES
    if quantity == "current":
        return Form("log y", math.log10 if spans else _same, math.log10, lambda y: 10.0**y, lambda fit: (
            say("{times} decades of current per decade of it.", times=_range(fit)) if spans
            else say("{times} decades of current per {unit}.", times=_range(fit), unit=unit)))  # fmt: skip
    if spans:
        return Form(
            "log", math.log10, _same, _same, lambda fit: say("{volts_range} per decade.", volts_range=_volts_range(fit))
        )
    return Form(
        "linear", _same, _same, _same, lambda fit: say("{volts_range} per {unit}.", volts_range=_volts_range(fit), unit=unit)
    )


def _range(fit: ByGroup) -> str:
    return say("{slope:.2f} ({low:.2f} to {high:.2f})", slope=fit.slope, low=fit.low, high=fit.high)


def _volts_range(fit: ByGroup) -> str:
    return say(
        "{slope} ({low} to {high})",
        slope=volts(fit.slope, 3, signed=True),
        low=volts(fit.low, 3, signed=True),
        high=volts(fit.high, 3, signed=True),
    )


def _fixed_part(fit: ByGroup) -> str:
    fixed = fit.at(0.0)
    if fit.slope <= 0.0 or fixed <= 0.0:
        return say("The distance has no part that could be told from the plates' own.")
    return say(
        "What is not distance holds the current back as much as {slope:.1f} cm of liquid would.", slope=fixed / fit.slope
    )


def _activation(fit: ByGroup) -> str:
    low, high = sorted(-GAS_CONSTANT_J_PER_MOL_K * end / 1e3 for end in (fit.low, fit.high))
    return say(
        "As Arrhenius has it: {slope:.0f} kJ/mol ({low:.0f} to {high:.0f}). Near 15 it is the liquid "
        "that lets through more, at 40 and above the plates.",
        slope=-GAS_CONSTANT_J_PER_MOL_K * fit.slope / 1e3,
        low=low,
        high=high,
    )
