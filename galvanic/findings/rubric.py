"""What a claim or a notebook is marked by, unless the teacher says otherwise: rows of points, each level with an example.

Claim, evidence and reasoning as in K. L. McNeill, J. Krajcik, “Supporting Grade 5-8 Students in Constructing Explanations in
Science” (2011), from memory; levels and examples are common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass

from galvanic.words import mark, say


@dataclass(frozen=True, slots=True)
class RowLevel:
    """So many points for what is described, with an example."""

    points: int
    text: str
    example: str = ""


@dataclass(frozen=True, slots=True)
class Row:
    """One row: what is looked at, the most points, and its levels from none to all."""

    name: str
    most: int
    levels: tuple[RowLevel, ...]


_USUAL = (
    Row(
        mark("Claim"),
        2,
        (
            RowLevel(0, mark("no cause, or one that nothing could speak against")),
            RowLevel(1, mark("names a cause"), mark("It was the liquid.")),
            RowLevel(
                2,
                mark("names a cause for this cell, and which way it goes"),
                mark("There are no copper ions in juice, so copper stands lower and the cell reads less."),
            ),
        ),
    ),
    Row(
        mark("Evidence"),
        3,
        (
            RowLevel(0, mark("cites nothing")),
            RowLevel(1, mark("cites one reading"), mark("We read 0.94 V.")),
            RowLevel(
                2,
                mark("cites readings that belong to the claim, beside the table"),
                mark("0.94, 0.95, 0.94 V; the table: 1.10 V."),
            ),
            RowLevel(
                3,
                mark("cites also a cell or a test in which the cause should show"),
                mark("With a drop of copper sulfate it rose to 1.05 V."),
            ),
        ),
    ),
    Row(
        mark("Reasoning"),
        3,
        (
            RowLevel(0, mark("says the claim again")),
            RowLevel(1, mark("says that the numbers fit"), mark("It is less, as we said.")),
            RowLevel(
                2,
                mark("says how the cause moves which plate"),
                mark("Fewer copper ions: copper takes up fewer electrons, its side falls."),
            ),
            RowLevel(
                3,
                mark("says also what speaks against it, or what is left over"),
                mark("That explains 0.13 of 0.16 V; the rest may be the zinc."),
            ),
        ),
    ),
)


def usual_rubric() -> list[Row]:
    """The usual rows in the language around."""
    return [
        Row(say(row.name), row.most, tuple(RowLevel(one.points, say(one.text), say(one.example)) for one in row.levels))
        for row in _USUAL
    ]
