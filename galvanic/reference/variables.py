"""The variables a class can change on purpose: conditions.toml."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from galvanic.reference.reader import Reader, read_table
from galvanic.words import mark, once, say

KINDS = ("number", "words", "yes_no")
SIZES = ("gap", "depth", "area")
YES_NO = (mark("no"), mark("yes"))


@dataclass(frozen=True, slots=True)
class Variable:
    """What a class can change: numbers with a unit between `low` and `high` (`whole`: counts only), or words in their order.

    `moves` names what the model is told (empty: the model has no part in it); `keep` what has to stay the same; `meant`
    which of its words a synonym without a number means (“boiled = cooked” in the table).
    """

    key: str
    name: str
    kind: str
    unit: str
    whole: bool
    low: float
    high: float
    words: tuple[str, ...]
    levels: tuple[float, ...]
    moves: str
    synonyms: tuple[str, ...]
    set_up: str
    keep: tuple[str, ...]
    hazard: str
    meant: tuple[tuple[str, str], ...] = ()

    @property
    def sizes(self) -> bool:
        """Whether it changes how much metal and liquid take part: then the current moves, and the volts hardly."""
        return self.moves in SIZES

    @property
    def said(self) -> str:
        """Its name for reading, in the language around."""
        return say(self.name)


def _variable(r: Reader) -> Variable:
    kind, number = r.take("kind", str), (int, float)
    if kind not in KINDS:
        raise r.fail(f"kind is one of {', '.join(KINDS)}")
    measured = kind == "number"
    words = YES_NO if kind == "yes_no" else () if measured else tuple(r.take("words", list))
    synonyms = [text.partition(" = ") for text in r.take("synonyms", list)]
    variable = Variable(
        r.take("key", str),
        r.take("name", str),
        kind,
        r.take("unit", str) if measured else "",
        r.take("whole", bool, False),
        float(r.take("low", number)) if measured else 0.0,
        float(r.take("high", number)) if measured else 0.0,
        words,
        tuple(float(level) for level in r.take("levels", list)) if measured else (),
        r.take("moves", str, ""),
        tuple(phrase for phrase, _, _ in synonyms),
        r.take("set_up", str),
        tuple(r.take("keep", list)),
        r.take("hazard", str, ""),
        tuple((phrase.casefold(), word) for phrase, _, word in synonyms if word),
    )
    if not {word for _, word in variable.meant} <= set(words):
        raise r.fail("a synonym means one of the words")
    if measured and not (
        variable.low < variable.high and all(variable.low <= level <= variable.high for level in variable.levels)
    ):
        raise r.fail("low is below high and the levels lie between")
    if not measured and len(words) < 2:
        raise r.fail("words are two at least")
    return variable


@once
def variables() -> Mapping[str, Variable]:
    """Variables by key."""
    return read_table("conditions", "variable", _variable)
