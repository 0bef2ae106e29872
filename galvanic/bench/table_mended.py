"""What somebody says of single lines of a table before it is read: which one is the heading, what a cell should hold, which
lines are left out. The file itself stays as it is."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field

Rows = list[tuple[int, list[str]]]
FIRST, MOST = 12, 60  # lines shown from the top, and in all


@dataclass(frozen=True, slots=True)
class Mending:
    """`heading`: the line of the heading (0: it is looked for); `cells`: texts by line and place (from 0); `without`: lines
    that are left out."""

    heading: int = 0
    cells: Mapping[tuple[int, int], str] = field(default_factory=dict)
    without: frozenset[int] = frozenset()


AS_IT_IS = Mending()


@dataclass(frozen=True, slots=True)
class LineToMend:
    """A line as it is read, and whether it is left out."""

    line: int
    fields: tuple[str, ...]
    out: bool


def mended(rows: Iterable[tuple[int, Sequence[str]]], mending: Mending) -> Rows:
    """The rows with what was said of them; those above a heading that was chosen go."""
    return [
        (line, _fields(line, fields, mending))
        for line, fields in rows
        if line not in mending.without and line >= mending.heading
    ]


def to_mend(rows: Iterable[tuple[int, Sequence[str]]], mending: Mending, amiss: Iterable[int]) -> tuple[LineToMend, ...]:
    """The lines that are worth a look: the first ones, those with something `amiss`, those that were mended or left out."""
    known = list(rows)
    wanted = {*amiss, *mending.without, *(line for line, _ in mending.cells)}
    chosen = [row for place, row in enumerate(known) if place < FIRST or row[0] in wanted][:MOST]
    return tuple(LineToMend(line, tuple(_fields(line, fields, mending)), line in mending.without) for line, fields in chosen)


def _fields(line: int, fields: Sequence[str], mending: Mending) -> list[str]:
    return [mending.cells.get((line, place), text) for place, text in enumerate(fields)]
