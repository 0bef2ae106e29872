"""A class's own table, read from CSV text: columns group, red, black, electrolyte, volts (as typed)."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass

from galvanic import catalogue
from galvanic.errors import GalvanicError
from galvanic.names import find
from galvanic.readings import ParsedReading, parse
from server.labs.services import MAX_GROUP_NAME
from server.problems import Problem, RowFault

COLUMNS = ("group", "red", "black", "electrolyte", "volts")
MAX_BYTES = 1_000_000
MAX_ROWS = 5_000
MAX_FAULTS = 50


@dataclass(frozen=True, slots=True)
class TableRow:
    """One reading of the table, with keys of the catalogue."""

    group: str
    red: str
    black: str
    electrolyte: str
    text: str
    parsed: ParsedReading


def _refused(code: str, message: str, rows: Sequence[RowFault] = (), status: int = 422) -> Problem:
    return Problem(status, code, f"Nothing was imported. {message}", "file", rows)


def too_big() -> Problem:
    """The refusal of a file over the limit."""
    return _refused("too_big", "The file is larger than 1 MB.", status=413)


def decode(data: bytes) -> str:
    """File content as text: UTF-8 (with or without a mark) or, failing that, Windows Latin. Raises Problem if too big."""
    if len(data) > MAX_BYTES:
        raise too_big()
    if b"\0" in data:
        raise _refused("not_csv", "That is not a CSV file. Save the table as CSV and try again.")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace")


def read_table(text: str) -> list[TableRow]:
    """Read the table: comma, semicolon or tab between columns, any order, extra columns ignored.

    Raises Problem naming every faulty row by its line and reason; a table with a faulty row is refused whole.
    """
    lines = text.splitlines()
    header = next((line for line in lines if line.strip()), "")
    delimiter = max(";\t,", key=header.count)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter)
    places: dict[str, int] | None = None
    rows: list[TableRow] = []
    faults: list[RowFault] = []
    try:
        for fields in reader:
            if not any(field.strip() for field in fields):
                continue
            if places is None:
                places = _places(fields)
                continue
            if len(rows) + len(faults) >= MAX_ROWS:
                raise _refused("too_many_rows", f"The table has more than {MAX_ROWS} rows.")
            try:
                rows.append(_row(fields, places))
            except GalvanicError as error:
                faults.append(RowFault(reader.line_num, str(error)))
    except csv.Error as error:
        raise _refused("not_csv", f"Line {reader.line_num} cannot be read as CSV.") from error
    if faults:
        count = f"{len(faults)} row{'s' if len(faults) > 1 else ''}"
        raise _refused("bad_rows", f"{count} could not be read; mend them and try again.", faults[:MAX_FAULTS])
    if not rows:
        raise _refused("empty", "The table has no readings.")
    return rows


def _places(fields: list[str]) -> dict[str, int]:
    names = [field.strip().casefold() for field in fields]
    missing = [column for column in COLUMNS if column not in names]
    if missing:
        wanted = f"The first line must name the columns {', '.join(COLUMNS)}"
        raise _refused("columns", f"{wanted}; missing: {', '.join(missing)}.")
    return {column: names.index(column) for column in COLUMNS}


class _BadRow(GalvanicError):
    code = "bad_row"


def _row(fields: list[str], places: dict[str, int]) -> TableRow:
    cells = {column: fields[place].strip() if place < len(fields) else "" for column, place in places.items()}
    empty = [column for column, value in cells.items() if not value]
    if empty:
        raise _BadRow(f"{', '.join(empty)}: nothing there.")
    group = " ".join(cells["group"].split())
    if len(group) > MAX_GROUP_NAME:
        raise _BadRow(f"The group’s name is longer than {MAX_GROUP_NAME} letters.")
    red = find(cells["red"], catalogue.electrodes(), "electrode").key
    black = find(cells["black"], catalogue.electrodes(), "electrode").key
    if red == black:
        raise _BadRow("Red and black are on the same plate, which is no cell.")
    electrolyte = find(cells["electrolyte"], catalogue.electrolytes(), "electrolyte").key
    return TableRow(group, red, black, electrolyte, cells["volts"], parse(cells["volts"]))
