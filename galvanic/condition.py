"""A condition as data: which variable, at which value. Written and read in one way; today's free words are understood.

A planned cell carries its condition as text in this one form (“spacing 4 cm”, “surface dull”), so that it comes back from
every table as it went out. What no variable fits stays a setting of the teacher's own, in their words.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from galvanic.cells import Cell
from galvanic.conditions import Surface, part_of, setting, surface_of
from galvanic.errors import OutOfRange
from galvanic.reference.catalogue import electrodes
from galvanic.reference.names import find
from galvanic.reference.variables import Variable, variables

NOTHING_TOUCHES = "The plates must not touch. Clips stay above the liquid."
_NUMBER = r"([-+]?\d+(?:[.,]\d+)?(?:e[-+]?\d+)?)"
SHOWN = 6  # digits of a number that is written


@dataclass(frozen=True, slots=True, order=True)
class Condition:
    """A variable (by key) at a value: a number in the variable's unit, or one of its words."""

    variable: str
    value: float | str

    def __post_init__(self) -> None:
        row = variables()[self.variable]
        if row.kind != "number":
            if self.value not in row.words:
                raise OutOfRange(f"{row.name} is one of: {', '.join(row.words)}.", field=row.key)
            return
        value = self.value
        if not isinstance(value, int | float) or not row.low <= value <= row.high:
            limits = f"{row.low:g} and {row.high:g} {row.unit}".strip()
            raise OutOfRange(f"{row.name} lies between {limits}, not at {value}.", field=row.key)
        if row.whole and value != int(value):
            raise OutOfRange(f"{row.name} are counted: no {value:g}.", field=row.key, value=value)

    @property
    def row(self) -> Variable:
        """What is known of its variable."""
        return variables()[self.variable]

    @property
    def rank(self) -> float:
        """Where it stands among the values of its variable: the number, or the place of the word."""
        return self.row.words.index(self.value) if isinstance(self.value, str) else float(self.value)

    def __str__(self) -> str:
        if isinstance(self.value, str):
            return f"{self.row.name} {self.value}"
        return f"{self.row.name} {self.value:.{SHOWN}g} {self.row.unit}".rstrip()


def variable_named(name: str) -> Variable:
    """A variable by key or name. Raises UnknownMaterial with the nearest."""
    return find(name, variables(), "variable")


def level(variable: Variable, text: str) -> Condition:
    """A level as typed: a number (with or without the unit), or a word. Raises OutOfRange."""
    plain = " ".join(text.split())
    if variable.kind != "number":
        words = {word.casefold(): word for word in variable.words}
        if plain.casefold() not in words:
            raise OutOfRange(f"{variable.name} is one of: {', '.join(variable.words)}.", field=variable.key)
        return Condition(variable.key, words[plain.casefold()])
    bare = plain.removesuffix(variable.unit).strip() if variable.unit else plain
    if not re.fullmatch(_NUMBER, bare):
        raise OutOfRange(f"“{plain[:30]}” is no number of {variable.unit or variable.name}.", field=variable.key)
    return Condition(variable.key, float(bare.replace(",", ".")))


@lru_cache(512)
def condition_of(text: str) -> Condition | None:
    """A condition from text, its own form or a teacher's words (“4 cm apart”, “1 part in 10”); None where none fits.

    Two variables in one text are not one condition: then None.
    """
    plain = " ".join(text.split())
    if not plain:
        return None
    found = dict.fromkeys(_readings(plain))
    return next(iter(found)) if len(found) == 1 else None


def _readings(text: str) -> Iterator[Condition]:
    for row in variables().values():
        if (own := _own_form(row, text)) is not None:
            yield own
            return
    part, surface = part_of(text), surface_of(text)
    if part is not None:
        yield Condition("dilution", part)
        return
    for row in variables().values():
        for pattern in row.synonyms:
            if (made := _worded(row, pattern, text)) is not None:
                yield made
    if surface is not None:
        yield Condition("surface", "dull" if surface is Surface.DULL else "rubbed")


def _own_form(row: Variable, text: str) -> Condition | None:
    for name in (row.name, row.key):
        if text.casefold().startswith(f"{name.casefold()} "):
            try:
                return level(row, text[len(name) :])
            except OutOfRange:
                return None
    return None


def _worded(row: Variable, pattern: str, text: str) -> Condition | None:
    """A teacher's words that are all of the text, with “#” for the number."""
    regex = re.escape(pattern).replace(r"\#", "#").replace("#", _NUMBER).replace(r"\ ", r"\s*")
    found = re.fullmatch(regex, text, re.IGNORECASE)
    if found is None:
        return None
    if row.kind != "number":
        return None  # words without a number say which variable, not always which of its words
    try:
        return Condition(row.key, float(found[1].replace(",", ".")))
    except OutOfRange:
        return None


SAID_BEFORE = frozenset({"surface", "dilution"})  # which have sentences of their own in conditions.py


def set_up(cell: Cell) -> str:
    """What a cell's condition asks for at the bench, in sentences; empty where only plates and liquids are varied."""
    condition = condition_of(cell.condition)
    if condition is None or condition.variable in SAID_BEFORE:
        return setting(cell)
    words = str(condition)
    return f"{words[:1].upper()}{words[1:]}. {condition.row.set_up} {condition.row.hazard}".strip()


def preparation(cell: Cell) -> str:
    """How to build a cell, in sentences for the bench: what its setting asks for, and each plate's own preparation."""
    dull = surface_of(cell.condition) is Surface.DULL
    plates = [] if dull else [f"{electrodes()[key].symbol}: {electrodes()[key].prepare}" for key in cell.pair]
    return " ".join(one for one in (set_up(cell), *plates, NOTHING_TOUCHES) if one)
