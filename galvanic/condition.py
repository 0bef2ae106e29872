"""A condition as data: which variable, at which value. Written and read in one way; today's free words are understood.

A planned cell carries its condition as text in this one form (“spacing 4 cm”, “surface dull”), so that it comes back from
every table as it went out. What no variable fits stays a setting of the teacher's own, in their words.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from functools import lru_cache

from galvanic.conditions import Surface, part_of, surface_of
from galvanic.errors import OutOfRange
from galvanic.reference.names import find
from galvanic.reference.variables import Variable, variables
from galvanic.units import converted
from galvanic.words import in_all_languages, number, say

_NUMBER = r"([-+]?\d+(?:[.,]\d+)?(?:e[-+]?\d+)?)"
SHOWN = 6  # digits of a number that is written


@dataclass(frozen=True, slots=True, order=True)
class Condition:
    """A variable (by key) at a value: a number in the variable's unit, or one of its words; `own` is the variable where it
    is a teacher's own."""

    variable: str
    value: float | str
    own: Variable | None = field(default=None, compare=False)

    def __post_init__(self) -> None:
        row = self.row
        if row.kind != "number":
            if self.value not in row.words:
                raise OutOfRange(
                    say("{name} is one of: {words}.", name=say(row.name), words=", ".join(say(word) for word in row.words)),
                    field=row.key,
                )
            return
        value = self.value
        if not isinstance(value, int | float) or not row.low <= value <= row.high:
            limits = say("{low:g} and {high:g} {unit}", low=row.low, high=row.high, unit=say(row.unit)).strip()
            raise OutOfRange(
                say("{name} lies between {limits}, not at {value}.", name=say(row.name), limits=limits, value=value),
                field=row.key,
            )
        if row.whole and value != int(value):
            raise OutOfRange(
                say("{name} are counted: no {value:g}.", name=say(row.name), value=value), field=row.key, value=value
            )

    @property
    def row(self) -> Variable:
        """What is known of its variable."""
        return self.own or variables()[self.variable]

    @property
    def rank(self) -> float:
        """Where it stands among the values of its variable: the number, or the place of the word."""
        return self.row.words.index(self.value) if isinstance(self.value, str) else float(self.value)

    def __str__(self) -> str:
        if isinstance(self.value, str):
            return f"{self.row.name} {self.value}"
        return f"{self.row.name} {self.value:.{SHOWN}g} {self.row.unit}".rstrip()

    @property
    def said(self) -> str:
        """The same for reading, in the language around: “Abstand 4 cm”."""
        if isinstance(self.value, str):
            return f"{say(self.row.name)} {say(self.value)}"
        return f"{say(self.row.name)} {number(self.value, f'.{SHOWN}g')} {say(self.row.unit)}".rstrip()


def said(text: str) -> str:
    """A setting for reading, in the language around; a teacher's own words as they are."""
    condition = condition_of(text)
    return text if condition is None or str(condition) != text else condition.said


def variable_named(name: str) -> Variable:
    """A variable by key or name. Raises UnknownMaterial with the nearest."""
    return find(name, variables(), "variable")


def level(variable: Variable, text: str) -> Condition:
    """A level as typed: a number (alone, with its unit or one that measures the same), or a word. Raises OutOfRange."""
    plain = " ".join(text.split())
    if variable.kind != "number":
        words = {form.casefold(): word for word in variable.words for form in in_all_languages(word)}
        if plain.casefold() not in words:
            raise OutOfRange(
                say(
                    "{name} is one of: {words}.",
                    name=say(variable.name),
                    words=", ".join(say(word) for word in variable.words),
                ),
                field=variable.key,
            )
        return Condition(variable.key, words[plain.casefold()])
    found = re.fullmatch(rf"{_NUMBER}\s*(.*)", plain)
    value = None
    if found is not None:
        value, unit = float(found[1].replace(",", ".")), found[2]
        if unit and unit not in in_all_languages(variable.unit):
            value = converted(value, unit, variable.unit)
    if value is None:
        raise OutOfRange(
            say("“{plain}” is no number of {value}.", plain=plain[:30], value=say(variable.unit or variable.name)),
            field=variable.key,
        )
    return Condition(variable.key, value)


@lru_cache(512)
def condition_of(text: str) -> Condition | None:
    """A condition from text, its own form or a teacher's words (“4 cm apart”, “1 part in 10”), in any language; None where
    none fits.

    Two variables in one text are not one condition: then None.
    """
    plain = " ".join(text.split())
    if not plain:
        return None
    parts = dict.fromkeys(_readings(plain))
    return next(iter(parts)) if len(parts) == 1 else None


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
    for name in sorted((row.key, *in_all_languages(row.name)), key=len, reverse=True):
        if text.casefold().startswith(f"{name.casefold()} "):
            try:
                return level(row, text[len(name) :])
            except OutOfRange:
                return None
    return None


def _worded(row: Variable, pattern: str, text: str) -> Condition | None:
    """A teacher's words that are all of the text, with “#” for the number, or that mean a word of the variable."""
    if text.casefold() == pattern.casefold() and (word := dict(row.meant).get(text.casefold())):
        return Condition(row.key, word)
    regex = re.escape(pattern).replace(r"\#", "#").replace("#", _NUMBER).replace(r"\ ", r"\s*")
    match = re.fullmatch(regex, text, re.IGNORECASE)
    if match is None:
        return None
    if row.kind != "number":
        return None  # words without a number say which variable, not always which of its words
    try:
        return Condition(row.key, float(match[1].replace(",", ".")))
    except OutOfRange:
        return None


def canonical(text: str, variable: Variable | None = None) -> str:
    """A setting as it is kept: a number of a variable in its one form (“4 cm apart” is “spacing 4 cm”), else as it was
    written, which is understood where it is used (“as it was” is a dull surface, “1 part in 10” a dilution).

    `variable`: what the lab changes, so that a level alone (“4”) is one of it. Raises OutOfRange where that is a number, and
    the text is none of it: a lab cannot compare 2 cm with “banana”, nor with 3 cm².
    """
    plain = " ".join(text.split())
    condition = condition_of(plain)
    if condition is None and variable is not None:
        if variable.kind == "number":
            return str(level(variable, plain))
        try:
            return str(level(variable, plain))
        except OutOfRange:
            return plain
    return (
        str(condition)
        if condition is not None and condition.row.kind == "number" and condition.variable != "dilution"
        else plain
    )


def own_conditions(texts: Iterable[str]) -> Mapping[str, Condition]:
    """Settings of a teacher's own as levels, by their text: numbers where all are the same words around a number (“shelf 2”,
    “shelf 5”), else words in the order in which they come. Fewer than two are none."""
    every = list(dict.fromkeys(texts))
    if len(every) < 2:
        return {}
    split = [re.fullmatch(rf"(\D*?)\s*{_NUMBER}\s*(\D*)", text) for text in every]
    around = {(found[1].casefold(), found[3].casefold()) for found in split if found is not None}
    if None not in split and len(around) == 1:
        name, unit = next((found[1], found[3]) for found in split if found is not None)
        values = [float(found[2].replace(",", ".")) for found in split if found is not None]
        row = _own_variable(name or say("your setting"), unit, (), min(values), max(values))
        return {text: Condition(OWN, value, row) for text, value in zip(every, values, strict=True)}
    row = _own_variable(say("your setting"), "", tuple(every), 0.0, 0.0)
    return {text: Condition(OWN, text, row) for text in every}


OWN = "own"


def _own_variable(name: str, unit: str, words: tuple[str, ...], low: float, high: float) -> Variable:
    kind = "words" if words else "number"
    return Variable(OWN, name, kind, unit, False, low, high, words, (), "", (), "", (), "")


def as_found(planned: str, text: str) -> Condition:
    """What a group had really set, from what it typed at a cell planned at a setting: “2.1” and “2.1 cm” of the planned
    variable, or another one with its unit or name (“23 °C”). Raises OutOfRange, in words."""
    wanted, plain = condition_of(planned), " ".join(text.split())
    if wanted is not None:
        try:
            return level(wanted.row, plain)
        except OutOfRange as error:
            if re.fullmatch(_NUMBER, plain):
                raise error
    condition = condition_of(plain)
    if condition is None:
        like = wanted.said.removeprefix(f"{say(wanted.row.name)} ") if wanted is not None else "23 °C"
        raise OutOfRange(
            say(
                "“{plain}” is not understood. Write a number with its unit, for example {like}.", plain=plain[:30], like=like
            ),
            field="text",
        )
    return condition
