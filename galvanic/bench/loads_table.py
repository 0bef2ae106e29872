"""The loads of a class's own workbook: a line a short circuit or a resistor, as Pipette gives them out."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import get_args

from galvanic.bench.headings import CONDITION, TYPED, TYPED_AT, UNIT, plain
from galvanic.bench.loading import LEAST_OHM, MOST_OHM
from galvanic.bench.readings import Kind, UnderLoad, read_under_load
from galvanic.bench.readings_table import Names, number_in, time_in
from galvanic.bench.table_rows import BadTableText, as_written, check_width
from galvanic.cells import Cell
from galvanic.condition import canonical
from galvanic.errors import GalvanicError
from galvanic.words import say

KIND, LOAD = "kind", "load, ω"
NEEDED = ("group", "negative", "electrolyte", "positive", KIND, LOAD, TYPED, UNIT)
MOST_FAULTS = 20


@dataclass(frozen=True, slots=True)
class TableLoad:
    """One measurement under load of a group's cell: what it was, the resistor in Ω where it was one, and when."""

    line: int
    group: str
    cell: Cell
    kind: Kind
    load_ohm: float | None
    measured: UnderLoad
    typed_at: datetime | None


@dataclass(frozen=True, slots=True)
class Loads:
    """The loads of a workbook, and faulty lines (at most 20)."""

    rows: tuple[TableLoad, ...]
    faults: tuple[tuple[int, str], ...]


def is_of_loads(fields: Sequence[str]) -> bool:
    """Whether a first row names all columns of loads."""
    return set(NEEDED) <= {plain(text) for text in fields}


def look_at_loads(
    rows: Sequence[tuple[int, Sequence[str]]], most_rows: int, called: Mapping[str, str] | None = None
) -> Loads:
    """Read the loads, the heading first; none where there are no rows. `called`: keys that names stand for.

    Raises BadTableText too_many_rows.
    """
    if len(rows) > most_rows + 1:
        raise BadTableText("too_many_rows", say("The table of loads has more than {most_rows} rows.", most_rows=most_rows))
    loads, faults = list[TableLoad](), list[tuple[int, str]]()
    heading = [plain(text) for text in rows[0][1]] if rows else []
    look = Names(called or {})
    for line, fields in rows[1:]:
        try:
            check_width(fields, len(heading))
            loads.append(_load(line, dict(zip(heading, (field.strip() for field in fields), strict=True)), look))
        except GalvanicError as error:
            faults.append((line, str(error)))
            if len(faults) >= MOST_FAULTS:
                break
    return Loads(tuple(loads), tuple(faults))


def _load(line: int, row: Mapping[str, str], look: Names) -> TableLoad:
    if empty := [name for name in NEEDED if name != LOAD and not row[name]]:
        raise BadTableText("bad_row", say("{empty}: nothing there.", empty=", ".join(empty)))
    kind: Kind | None = next((one for one in get_args(Kind) if one == row[KIND]), None)
    if kind is None:
        raise BadTableText("bad_row", say("kind: “{row}” is neither short nor load.", row=row[KIND][:20]))
    cell = Cell.of(
        look.key("electrode", row["negative"]),
        look.key("electrolyte", row["electrolyte"]),
        look.key("electrode", row["positive"]),
        canonical(as_written(row.get(CONDITION, ""))),
    )
    measured = read_under_load(kind, as_written(row[TYPED]), row[UNIT])
    ohm = number_in(row[LOAD], LOAD) if kind == "load" else None
    if ohm is not None and not LEAST_OHM <= ohm <= MOST_OHM:
        raise BadTableText(
            "bad_row",
            say("load: a resistor lies between {least_ohm:g} and {most_ohm:.0f} Ω.", least_ohm=LEAST_OHM, most_ohm=MOST_OHM),
        )
    group = " ".join(as_written(row["group"]).split())
    return TableLoad(line, group, cell, kind, ohm, measured, time_in(row.get(TYPED_AT, "")))


def without_cell(loads: Sequence[TableLoad], cells: Mapping[str, frozenset[Cell]]) -> tuple[tuple[int, str], ...]:
    """Faults of loads whose group (case folded) has no reading of their cell: there is nothing to keep them at."""
    return tuple(
        (
            one.line,
            say(
                "{group} has no reading of {short}, so this load belongs to no cell.", group=one.group, short=one.cell.short
            ),
        )
        for one in loads
        if one.cell not in cells.get(one.group.casefold(), frozenset())
    )
