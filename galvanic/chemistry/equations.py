"""Equations of half-reactions as they are written for a liquid: with H⁺ and water in acid, with OH⁻ and water in alkali.

H⁺ + OH⁻ → H₂O is added as often as it takes, and water that then stands on both sides goes (how textbooks balance redox
equations in acid and in alkali).
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Mapping

ARROW, WATER, PROTON, HYDROXIDE, ELECTRON = "→", "H₂O", "H⁺", "OH⁻", "e⁻"
NEUTRAL_PH = 7.0
_LOW = str.maketrans("₀₁₂₃₄₅₆₇₈₉", "0123456789")
_HIGH = str.maketrans("⁰¹²³⁴⁵⁶⁷⁸⁹", "0123456789")
_CHARGE = re.compile(r"([⁰¹²³⁴⁵⁶⁷⁸⁹]*)([⁺⁻])$")
_ATOM = re.compile(r"([A-Z][a-z]?)(\d*)")
_GROUP = re.compile(r"\(([^()]*)\)(\d*)")

Side = dict[str, int]


def sides(equation: str) -> tuple[Side, Side]:
    """What stands left and right of the arrow, with its coefficient."""
    left, right = re.split("[⇌→]", equation)
    return _side(left), _side(right)


def _side(text: str) -> Side:
    out: Side = {}
    for term in text.split(" + "):
        times, _, rest = term.strip().partition(" ")
        of, n = (rest, int(times)) if times.isdigit() else (term.strip(), 1)
        out[of] = out.get(of, 0) + n
    return out


def written(left: Mapping[str, int], right: Mapping[str, int]) -> str:
    """An equation from its sides."""
    said = (" + ".join(of if n == 1 else f"{n} {of}" for of, n in side.items()) for side in (left, right))
    return f" {ARROW} ".join(said)


def for_ph(equation: str, ph: float) -> str:
    """An equation with `→` as it is written at a pH: without OH⁻ below 7, without H⁺ above."""
    left, right = sides(equation)
    unwanted, instead = (HYDROXIDE, PROTON) if ph < NEUTRAL_PH else (PROTON, HYDROXIDE)
    for here, there in ((left, right), (right, left)):
        n = here.pop(unwanted, 0)
        if n:
            here[WATER] = here.get(WATER, 0) + n
            there[instead] = there.get(instead, 0) + n
    both = min(left.get(WATER, 0), right.get(WATER, 0))
    for side in (left, right):
        if WATER in side:
            side[WATER] -= both
            if not side[WATER]:
                del side[WATER]
    return written(_electrons_last(left), _electrons_last(right))


def _electrons_last(side: Side) -> Side:
    return {of: n for of, n in side.items() if of != ELECTRON} | {of: n for of, n in side.items() if of == ELECTRON}


def unbalanced(equation: str) -> dict[str, int]:
    """Atoms and charge that do not balance, right less left; empty where an equation does."""
    total: Counter[str] = Counter()
    for sign, side in zip((-1, 1), sides(equation), strict=True):
        for of, n in side.items():
            for what, times in _made_of(of).items():
                total[what] += sign * n * times
    return {what: n for what, n in total.items() if n}


def _made_of(formula: str) -> Counter[str]:
    """The atoms of a formula, and its charge under `charge`."""
    found: Counter[str] = Counter()
    charge = _CHARGE.search(formula)
    if charge is not None:
        size = int(charge[1].translate(_HIGH) or 1)
        found["charge"] = size if charge[2] == "⁺" else -size
        formula = formula[: charge.start()]
    if formula == "e":
        return found
    plain = formula.translate(_LOW)
    for inner, times in _GROUP.findall(plain):
        for atom, n in _ATOM.findall(inner):
            found[atom] += int(n or 1) * int(times or 1)
    for atom, n in _ATOM.findall(_GROUP.sub("", plain)):
        found[atom] += int(n or 1)
    return found
