"""How a class's own table was understood, before anything is kept: columns, signs, which lead was where, unknown names."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from galvanic.bench.headings import TOLD, plain
from galvanic.bench.loads_table import MOST_FAULTS, Loads, without_cell
from galvanic.bench.readings_table import Looked, TableReading, Unknown
from galvanic.cells import Cell
from galvanic.notes import volts
from galvanic.words import say, say_n

SHOWN = 3
MOST_CELL_V = 5.0  # no two plates in a drink come near it
SHOWN_LINES = 12


@dataclass(frozen=True, slots=True)
class ColumnSeen:
    """A column: its heading, what it holds (empty: not used), the unit its heading names, and its first values."""

    heading: str
    means: str
    unit: str
    examples: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Preview:
    """A table as understood; `says` are sentences on signs, leads and decimals, in order of weight."""

    columns: tuple[ColumnSeen, ...]
    readings: int
    groups: tuple[str, ...]
    cells: int
    aside: int
    loads: int
    says: tuple[str, ...]
    unknown: tuple[Unknown, ...]
    faults: tuple[tuple[int, str], ...]
    whole: bool

    @property
    def ready(self) -> bool:
        """Whether it can be brought in as it is."""
        return self.readings > 0 and not self.faults


def preview(looked: Looked, loads: Loads) -> Preview:
    """What is shown of a table, and of the loads beside it, before it is brought in."""
    readings = looked.readings
    with_loads = [*loads.faults, *without_cell(loads.rows, cells_of(readings))] if readings else []
    places = range(len(looked.headings))
    return Preview(
        columns=tuple(
            ColumnSeen(
                h.text.strip(),
                h.means or (plain(h.text) if plain(h.text) in TOLD else ""),
                h.unit or "",
                tuple(row[place].strip() for row in looked.first_rows if place < len(row))[:SHOWN],
            )
            for place, h in zip(places, looked.headings, strict=True)
        ),
        readings=len(readings),
        groups=tuple(dict.fromkeys(one.group for one in readings)),
        cells=len({_cell(one) for one in readings}),
        aside=sum(1 for one in readings if one.why_not),
        loads=len(loads.rows),
        says=(*looked.shape, *says_of(readings), *left_out(looked.left_out)),
        unknown=looked.unknown,
        faults=(
            *looked.faults,
            *(
                (line, say("in the table of loads: {message}", message=message))
                for line, message in with_loads[:MOST_FAULTS]
            ),
        ),
        whole=looked.whole,
    )


def cells_of(readings: Sequence[TableReading]) -> dict[str, frozenset[Cell]]:
    """The cells that each group (case folded) has readings of."""
    found: dict[str, set[Cell]] = {}
    for one in readings:
        found.setdefault(one.group.casefold(), set()).add(_cell(one))
    return {group: frozenset(cells) for group, cells in found.items()}


def says_of(readings: Sequence[TableReading]) -> tuple[str, ...]:
    """What should be looked at before a table is believed."""
    if not readings:
        return ()
    turned = [one for one in readings if one.red == _cell(one).negative]
    minus = [one for one in readings if one.parsed.volts_v < 0.0]
    commas = sum(1 for one in readings if "," in one.parsed.text)
    milli = sum(1 for one in readings if one.parsed.unit == "mV")
    high = max(readings, key=lambda one: abs(one.parsed.volts_v))
    says = []
    if turned:
        says.append(
            say(
                "In {n_turned} of {n_readings} rows red is on the plate that the table makes negative; such "
                "a cell is the same cell turned round, and its sign turns with it.",
                n_turned=len(turned),
                n_readings=len(readings),
            )
        )
    else:
        says.append(say("In every row red is on the plate that the table makes positive."))
    says.append(
        say("{values} a minus sign: there the red plate was the negative one.", values=_values(len(minus)))
        if minus
        else say(
            "No value has a minus sign. If your class wrote volts without signs, a cell that is the other way round than"
            " the table will look right."
        )
    )
    if milli:
        says.append(say("In millivolts: {milli} of {n_readings} values.", milli=milli, n_readings=len(readings)))
    if commas:
        says.append(say("With a decimal comma: {commas} of {n_readings} values.", commas=commas, n_readings=len(readings)))
    far = [one for one in readings if abs(one.parsed.volts_v) > MOST_CELL_V]
    if far:
        says.append(
            say(
                "More than {most:g} V in {n_far} of {n_readings} values: no cell gives that. Are they millivolts? Then name "
                "the unit in the heading, or mend them; as they are, they will not count.",
                most=MOST_CELL_V,
                n_far=len(far),
                n_readings=len(readings),
            )
        )
    says.append(
        say("The largest value is {volts_v}, in line {line}.", volts_v=volts(abs(high.parsed.volts_v), 3), line=high.line)
    )
    return tuple(says)


def left_out(rows: Sequence[tuple[int, str]]) -> tuple[str, ...]:
    """That lines without a number are left out, which, and what stands there; nothing where there is none."""
    if not rows:
        return ()
    lines = [f"{line} (“{text[:12]}”)" if text else str(line) for line, text in rows]
    named = ", ".join(lines[:SHOWN_LINES]) + (", …" if len(lines) > SHOWN_LINES else "")
    return (
        say_n(
            "Line {lines} has no number and is left out.",
            "Lines {lines} have no number and are left out.",
            len(lines),
            lines=named,
        ),
    )


def _values(n: int) -> str:
    return say("1 value has") if n == 1 else say("{n} values have", n=n)


def _cell(one: TableReading) -> Cell:
    return Cell.of(one.black, one.electrolyte, one.red, one.condition)
