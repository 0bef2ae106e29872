"""How liquids, fruit, card and pastes are prepared, step by step: preparations.toml."""

from __future__ import annotations

from dataclasses import dataclass

from galvanic.reference.reader import Reader, read_table
from galvanic.words import once


@dataclass(frozen=True, slots=True)
class Preparation:
    """One step for some forms: its text, what a group needs for it and how many, what to ask where it was skipped;
    `at_bench`: groups do it themselves, so it stands on their card."""

    key: str
    forms: tuple[str, ...]
    text: str
    at_bench: bool
    kit: str
    each: int
    asks: str


def _step(r: Reader) -> Preparation:
    return Preparation(
        r.take("key", str),
        r.texts("forms"),
        r.take("text", str),
        r.take("at_bench", bool),
        r.take("kit", str),
        r.take("each", int),
        r.take("asks", str),
    )


@once
def preparations_of(form: str) -> tuple[Preparation, ...]:
    """The steps of a form, in order; none for a cup of liquid."""
    return tuple(one for one in read_table("preparations", "step", _step).values() if form in one.forms)
