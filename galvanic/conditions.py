"""What a setting means on the bench: which surface, how much of the liquid.

A setting is what a lab varies beside plates and liquids, as its teacher writes it (“as it was”, “1 part in 10”).
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from enum import Enum

from galvanic.cells import Cell
from galvanic.words import say


class Surface(Enum):
    """How a plate's metal is used: rubbed bare just before, or as it lay."""

    BARE = "bare"
    DULL = "dull"


_WORK = r"(?:rubbed|scratched|cleaned|sanded|polished|gerieben|gekratzt|gereinigt|geschliffen|poliert)"
_DULL = re.compile(
    rf"\b(as (it|they) (was|were|lay|is|are)|dull|tarnish\w*|oxidi[sz]ed|(not|nicht|un) ?{_WORK}|"
    r"wie (es|sie) (war|waren|lag|lagen)|matt|angelaufen|oxidiert)\b",
    re.I,
)
_BARE = re.compile(rf"\b({_WORK}|bare|bright|blanke[sr]?)\b", re.I)
_NEAT = re.compile(r"\b(undiluted|neat|full strength|as it is|unverdünnt)\b", re.I)
_NUMBER = r"(\d+(?:[.,]\d+)?)"
_PART_IN = re.compile(rf"{_NUMBER}\s*(?:parts?|Teile?)\s+(?:in|of|von)\s+{_NUMBER}\b", re.I)
_PART_TO = re.compile(rf"{_NUMBER}\s*(?:parts?|Teile?)\s+(?:to|auf|zu)\s+{_NUMBER}\b", re.I)
_SHORT = re.compile(rf"^\s*{_NUMBER}\s*(?:in|/)\s*{_NUMBER}\s*$", re.I)  # only alone: “1/2 lemon” is half a fruit
_PER_CENT = re.compile(rf"^\s*{_NUMBER}\s*(?:%|per cent|percent|Prozent)", re.I)


def surface_of(condition: str) -> Surface | None:
    """The surface that a setting asks for; None where it says nothing of it."""
    if _DULL.search(condition) and part_of(condition) is None:
        return Surface.DULL
    return Surface.BARE if _BARE.search(condition) else None


def part_of(condition: str) -> float | None:
    """The part of the liquid in the mixture, by volume, 0 < part ≤ 1: 0.1 for “1 part in 10”; None where none is said."""
    if _NEAT.search(condition):
        return 1.0
    for pattern, is_to in ((_PART_TO, True), (_PART_IN, False), (_SHORT, False)):
        if found := pattern.search(condition):
            a, b = (float(number.replace(",", ".")) for number in found.groups())
            whole = a + b if is_to else b
            return a / whole if 0.0 < a <= whole else None
    if found := _PER_CENT.search(condition):
        part = float(found[1].replace(",", ".")) / 100.0
        return part if 0.0 < part <= 1.0 else None
    return None


def plate_sets(conditions: Iterable[str]) -> int:
    """How many plates of a metal a group needs: a plate that has been rubbed cannot be made dull again."""
    return max(1, len({condition for condition in conditions if surface_of(condition)}))


def setting(cell: Cell) -> str:
    """What a cell's setting asks for at the bench, in sentences; empty where nothing beside plates and liquid is varied."""
    if not cell.condition:
        return ""
    said = []
    surface, part = surface_of(cell.condition), part_of(cell.condition)
    if surface is Surface.DULL:
        said.append(
            say("Take the plates marked “{condition}”. Do not rub them: rinse and dry only.", condition=cell.condition)
        )
    elif surface is Surface.BARE:
        said.append(say("Take the plates marked “{condition}” and rub them now.", condition=cell.condition))
    if part is not None and part < 1.0:
        said.append(say("Fill the cup from the jug marked “{condition}”.", condition=cell.condition))
    elif part is not None:
        said.append(say("Fill the cup with the liquid as it is."))
    return " ".join(said) or say("Set it up so: {condition}.", condition=cell.condition)
