"""How liquids, fruit, card and pastes are prepared, step by step: preparations.toml."""

from __future__ import annotations

from dataclasses import dataclass

from galvanic.reference.reader import Reader, read_table
from galvanic.words import once


@dataclass(frozen=True, slots=True)
class Preparation:
    """One step for some forms: its text, what a group needs for it and how many, what to ask where it was skipped;
    `at_bench`: groups do it themselves, so it stands on their card. `only`: for these liquids alone of its forms (empty:
    all); `unless` and `when`: words of a setting at which it is left out, or at which alone it is done."""

    key: str
    forms: tuple[str, ...]
    only: tuple[str, ...]
    unless: tuple[str, ...]
    when: tuple[str, ...]
    text: str
    at_bench: bool
    kit: str
    each: int
    asks: str


def _step(r: Reader) -> Preparation:
    return Preparation(
        r.take("key", str),
        r.texts("forms"),
        tuple(r.take("only", list, [])),
        tuple(r.take("unless", list, [])),
        tuple(r.take("when", list, [])),
        r.take("text", str),
        r.take("at_bench", bool),
        r.take("kit", str),
        r.take("each", int),
        r.take("asks", str),
    )


@once
def _steps() -> tuple[Preparation, ...]:
    return tuple(read_table("preparations", "step", _step).values())


def preparations_of(form: str, liquid: str = "", at: str = "") -> tuple[Preparation, ...]:
    """The steps of a form, in order; none for a cup of liquid. `liquid`: by key, what is of the form; `at`: the word of a
    setting that the cell is at."""
    return tuple(
        one
        for one in _steps()
        if form in one.forms
        and (not one.only or liquid in one.only)
        and at not in one.unless
        and (not one.when or at in one.when)
    )
