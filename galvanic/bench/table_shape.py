"""A table as schools have it, made one row a reading under one heading: title lines above it go, columns 1, 2, 3 of repeat
readings become rows, cells that were merged are filled down, and what nobody sees in a name is taken out.

What was done is said; nothing that could be a value is changed. Common practice, no source.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from galvanic.bench.headings import NEEDED, TYPED, UNIT_AT_END, heading, plain
from galvanic.words import say, say_n

LOOKED_AT = 10  # lines in which the heading is looked for
LEAST_REPEATS = 2
LEAST_KNOWN = 3  # headings that a line names, before it is taken for the heading
FILLED = ("group", "red", "black", "electrolyte")  # what is written once for several rows; an empty condition is one, too
_NTH = re.compile(
    r"(?:(?:readings?|trials?|tries|try|values?|measurements?|runs?|messungen|messung|versuche?|werte?|volts?|voltage|spannung"
    r"|essais?|essai|medida|v|u)\s*[.#]?\s*)?([1-9])\.?"
)

Rows = list[tuple[int, list[str]]]


@dataclass(frozen=True, slots=True)
class Shaped:
    """Rows with the line each stands on, the heading first, and what was done to them, in sentences."""

    rows: Rows
    says: tuple[str, ...]


def shaped(rows: Iterable[tuple[int, Sequence[str]]], heading_first: bool = False) -> Shaped:
    """A table in the one shape that is read further; empty stays empty. `heading_first`: it is not looked for."""
    clean = [(line, [_seen(field) for field in fields]) for line, fields in rows]
    if not clean:
        return Shaped([], ())
    start = 0 if heading_first else _heading_at(clean)
    (line, names), *body = clean[start:]
    said = []
    if start:
        said.append(say_n("{n} line above the heading is left out.", "{n} lines above the heading are left out.", start))
    body, filled = _filled(names, body)
    if filled:
        said.append(
            say_n(
                "In {n} row, empty cells are filled with what stands above them, as in merged cells.",
                "In {n} rows, empty cells are filled with what stands above them, as in merged cells.",
                filled,
            )
        )
    repeats = _repeats(names)
    if repeats:
        columns = ", ".join(f"“{names[place]}”" for place in repeats)
        said.append(say("The columns {columns} are repeat readings of one cell: one row each.", columns=columns))
        names, body = _long(names, body, repeats)
    return Shaped([(line, names), *body], tuple(said))


def _seen(field: str) -> str:
    """A text without marks that nobody sees (joiners, soft hyphens, marks of direction), each letter in one form."""
    visible = "".join(one for one in field if unicodedata.category(one) != "Cf")
    return unicodedata.normalize("NFC", visible)


def _known(fields: Sequence[str]) -> int:
    """How many things a line names as a heading would; repeat readings are one of them."""
    means = {heading(text).means for text in fields} & {*NEEDED, TYPED}
    return len(means) + ("volts" not in means and bool(_repeats(fields)))


def named(rows: Rows) -> int:
    """How many things of readings the heading of a table names, wherever it stands in it."""
    return max((_known(fields) for _, fields in rows[:LOOKED_AT]), default=0)


def _heading_at(rows: Rows) -> int:
    """The place of the heading: the first of the lines that name the most; the first line where none names enough."""
    names = [_known(fields) for _, fields in rows[:LOOKED_AT]]
    best = max(names)
    return names.index(best) if best >= LEAST_KNOWN else 0


def _filled(names: Sequence[str], rows: Rows) -> tuple[Rows, int]:
    """Rows with what is written once for several, and how many were filled."""
    places = [place for place, text in enumerate(names) if heading(text).means in FILLED]
    above: dict[int, str] = {}
    filled, out = 0, Rows()
    for line, fields in rows:
        now = list(fields)
        for place in places:
            if place < len(now) and not now[place].strip():
                now[place] = above.get(place, "")
        filled += now != fields
        above |= {place: now[place] for place in places if place < len(now)}
        out.append((line, now))
    return out, filled


def _repeats(names: Sequence[str]) -> dict[int, str]:
    """The columns of repeat readings by place, with the unit that each names; none where one column has the volts, or where
    they are not two at least, counted from 1, in one unit."""
    if any(heading(text).means in ("volts", TYPED) for text in names):
        return {}
    found: dict[int, tuple[int, str]] = {}
    for place, text in enumerate(names):
        name, unit = plain(text), ""
        if (with_unit := UNIT_AT_END.match(name)) is not None and _NTH.fullmatch(with_unit[1].strip()):
            name, unit = with_unit[1].strip(), "mV" if with_unit[2].startswith("m") else "V"
        if (nth := _NTH.fullmatch(name)) is not None:
            found[place] = int(nth[1]), unit
    counted = [nth for nth, _ in found.values()]
    units = {unit for _, unit in found.values() if unit}
    if len(found) < LEAST_REPEATS or counted != list(range(1, len(found) + 1)) or len(units) > 1:
        return {}
    return {place: unit for place, (_, unit) in found.items()}


def _long(names: Sequence[str], rows: Rows, repeats: dict[int, str]) -> tuple[list[str], Rows]:
    """One row a reading. A row without any stays one, so that it is said to be empty; one that is too long stays as it is,
    so that it is refused: a decimal comma has split it."""
    unit = next((unit for unit in repeats.values() if unit), "V")
    others = [place for place in range(len(names)) if place not in repeats]

    def each() -> Iterator[tuple[int, list[str]]]:
        for line, fields in rows:
            if len(fields) > len(names):
                yield line, fields
                continue
            base = [fields[place] if place < len(fields) else "" for place in others]
            values = [fields[place] for place in repeats if place < len(fields) and fields[place].strip()]
            for value in values or [""]:
                yield line, [*base, value]

    return [*(names[place] for place in others), f"volts ({unit})"], list(each())
