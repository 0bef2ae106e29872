"""What a setting means on the bench: which surface, how much of the liquid.

A setting is what a lab varies beside plates and liquids, as its teacher writes it (“as it was”, “1 part in 10”).
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from enum import Enum

from galvanic.cells import Cell


class Surface(Enum):
    """How a plate's metal is used: rubbed bare just before, or as it lay."""

    BARE = "bare"
    DULL = "dull"


_WORK = r"(?:rubbed|scratched|cleaned|sanded|polished)"
_DULL = re.compile(rf"\b(as (it|they) (was|were|lay|is|are)|dull|tarnish\w*|oxidi[sz]ed|not {_WORK}|un{_WORK})\b", re.I)
_BARE = re.compile(rf"\b({_WORK}|bare|bright)\b", re.I)
_NEAT = re.compile(r"\b(undiluted|neat|full strength|as it is)\b", re.I)
_NUMBER = r"(\d+(?:[.,]\d+)?)"
_PART_IN = re.compile(rf"{_NUMBER}\s*parts?\s+(?:in|of)\s+{_NUMBER}\b", re.I)
_PART_TO = re.compile(rf"{_NUMBER}\s*parts?\s+to\s+{_NUMBER}\b", re.I)
_SHORT = re.compile(rf"^\s*{_NUMBER}\s*(?:in|/)\s*{_NUMBER}\s*$", re.I)  # only alone: “1/2 lemon” is half a fruit
_PER_CENT = re.compile(rf"^\s*{_NUMBER}\s*(?:%|per cent|percent)", re.I)


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
        said.append(f"Take the plates marked “{cell.condition}”. Do not rub them: rinse and dry only.")
    elif surface is Surface.BARE:
        said.append(f"Take the plates marked “{cell.condition}” and rub them now.")
    if part is not None and part < 1.0:
        said.append(f"Fill the cup from the jug marked “{cell.condition}”.")
    elif part is not None:
        said.append("Fill the cup with the liquid as it is.")
    return " ".join(said) or f"Set it up so: {cell.condition}."
