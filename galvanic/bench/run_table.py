"""A run as a table: times with volts or currents, the unit in each heading (`t_s`, `t_min`, `volts_v`, `current_ma`).

A heading without a unit, or with one that is not known, is refused with the units there are: what a number means is asked
for, never guessed. Lines that begin with # are remarks; columns of other kinds are named and not used.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from galvanic.bench.columns import UNITS, Column, column
from galvanic.bench.table_rows import rows_of
from galvanic.errors import GalvanicError
from galvanic.words import mark, say

MOST_ROWS = 200_000
MOST = {"time": 366 * 86_400.0, "volts": 100.0, "current": 10.0}
NAMES = {"time": mark("a time"), "volts": mark("a voltage"), "current": mark("a current")}


class BadRun(GalvanicError):
    """A table cannot be read as a run."""

    code = "bad_run"


class UnitAsked(BadRun):
    """A column's unit is not in its heading, or is none that is known."""

    code = "unit_asked"


@dataclass(frozen=True, slots=True)
class RunTable:
    """A run: seconds from the table's own zero, and volts or amperes at each (empty where there is no such column)."""

    t_s: tuple[float, ...]
    volts_v: tuple[float, ...]
    current_a: tuple[float, ...]
    unused: tuple[str, ...]


def read_run(text: str, units: Mapping[str, str] | None = None) -> RunTable:
    """A run from CSV text; `units` gives by heading, or by kind (time, volts, current), the unit of columns that name none.

    Raises BadRun, in words and with the line, for a missing column, an unknown unit, a value that is none, times that run
    back.
    """
    rows = rows_of(text, comments=True)
    try:
        _, names = next(iter_rows := iter(rows))
    except StopIteration:
        raise BadRun(say("The table is empty. It needs a heading such as t_s,volts_v and a line for each sample.")) from None
    names = [name.strip() for name in names]
    columns = [_with_unit(name, column(name), units or {}) for name in names]
    at = {kind: [i for i, one in enumerate(columns) if one.kind == kind] for kind in UNITS}
    for kind, found in at.items():
        if len(found) > 1:
            raise BadRun(
                say(
                    "There are two columns for {names}: {found}. Keep one.",
                    names=say(NAMES[kind]),
                    found=", ".join(names[i] for i in found),
                )
            )
    if not at["time"]:
        raise BadRun(say("No column is a time. Call it t_s, t_min or t_h. The columns are {names}.", names=", ".join(names)))
    if not at["volts"] and not at["current"]:
        raise BadRun(
            say(
                "No column is a voltage or a current. Call it volts_v or current_ma. The columns are {names}.",
                names=", ".join(names),
            )
        )
    got: dict[str, list[float]] = {kind: [] for kind, found in at.items() if found}
    for line, fields in iter_rows:
        if len(got["time"]) >= MOST_ROWS:
            raise BadRun(say("A run has {most_rows} lines at most.", most_rows=MOST_ROWS))
        for kind in got:
            got[kind].append(_value(fields, at[kind][0], columns, kind, line))
        if len(got["time"]) > 1 and got["time"][-1] <= got["time"][-2]:
            raise BadRun(say("line {line}: its time does not come after the one before. Sort the table by time.", line=line))
    unused = tuple(name for name, one in zip(names, columns, strict=True) if one.kind == "other" and name)
    return RunTable(tuple(got["time"]), tuple(got.get("volts", ())), tuple(got.get("current", ())), unused)


def _with_unit(name: str, found: Column, units: Mapping[str, str]) -> Column:
    if found.kind == "other" or found.unit:
        return found
    given = units.get(name) or units.get(found.kind)
    known = ", ".join(UNITS[found.kind])
    if given in UNITS[found.kind]:
        return Column(found.kind, given)
    said = say("“{unknown}” is no unit that is known here", unknown=found.unknown) if found.unknown else say("names no unit")
    raise UnitAsked(
        say(
            "The column “{name}” is {names}, and {said}. Known are {known}.",
            name=name[:40],
            names=say(NAMES[found.kind]),
            said=said,
            known=known,
        )
    )


def _value(fields: list[str], at: int, columns: list[Column], kind: str, line: int) -> float:
    if len(fields) != len(columns):
        raise BadRun(
            say(
                "line {line}: {n_fields} fields, where the heading has {n_columns}.",
                line=line,
                n_fields=len(fields),
                n_columns=len(columns),
            )
        )
    text = fields[at].strip().replace("\u2212", "-")
    try:
        value = float(text) * columns[at].scale
    except ValueError:
        raise BadRun(say("line {line}: “{said}” is no number.", line=line, said=text[:20])) from None
    if not math.isfinite(value) or abs(value) > MOST[kind]:
        raise BadRun(
            say("line {line}: {said} is not {names} of such a cell.", line=line, said=text[:20], names=say(NAMES[kind]))
        )
    return value
