"""Rows of a table in a file of any kind that is understood: text with columns, XLSX, ODS; numbers as they were shown."""

from __future__ import annotations

import io
import math
import re
import warnings
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from xml.etree import ElementTree

from openpyxl import load_workbook
from openpyxl.cell.read_only import EmptyCell
from openpyxl.utils.exceptions import InvalidFileException

from galvanic.bench.loads_table import is_of_loads
from galvanic.bench.table_rows import LOOKED_AT, rows_of
from galvanic.bench.table_shape import named
from galvanic.words import mark, say
from server.base.incoming import clean
from server.records.file_text import MAX_ROWS, decode, refused

Rows = list[tuple[int, list[str]]]
HIDDEN, DIGITS = 1e-9, 10  # what rounding of the file itself may leave out, and digits of a number in full
MOST_UNPACKED = 60_000_000
MOST_COLUMNS = 60
MOST_LINES = 4 * MAX_ROWS  # of a sheet, empty ones among them; what stands below is not looked for
ZIPPED = b"PK\x03\x04"
_DECIMALS = re.compile(r"^#?,?#*0\.(0+)(?:_\)|;.*)?$")
_TABLE, _TEXT, _OFFICE = (f"{{urn:oasis:names:tc:opendocument:xmlns:{name}:1.0}}" for name in ("table", "text", "office"))
UNREADABLE = mark("The file cannot be read. Save the table as CSV, XLSX or ODS and try again.")


@dataclass(frozen=True, slots=True)
class Tables:
    """The rows of a file with the line each stands on: of its first table of readings, and of loads; `says`: which sheet was
    taken where there are several; `sheets`: all of readings with their rows, the one taken first."""

    readings: Rows
    loads: Rows
    says: tuple[str, ...] = ()
    sheets: tuple[tuple[str, int], ...] = ()


def tables_of(content: bytes, sheet: str = "") -> Tables:
    """The tables of a file, of readings that of a sheet if one is named that has rows. Raises Problem: too_big, not_csv
    (nothing of these kinds), or BadTableText."""
    sheets = [(name, rows) for name, rows in _sheets(content) if rows]
    if not sheets:
        raise refused("empty", say("The file has no rows."))
    loads = next((rows for _, rows in sheets if is_of_loads(rows[0][1])), [])
    others = [one for one in sheets if one[1] is not loads] or sheets
    chosen = [one for one in others if sheet and one[0] == sheet]
    taken, readings = max(chosen or others, key=lambda one: named(one[1]))  # the first of the best
    rest = [(name, len(rows)) for name, rows in others if rows is not readings]
    says = (
        say(
            "The sheet “{taken}” is read. Not read, with their rows: {rest}.",
            taken=taken,
            rest=", ".join(f"“{name}” ({rows})" for name, rows in rest),
        ),
    )
    return Tables(readings, loads, says if rest else (), ((taken, len(readings)), *rest))


def _sheets(content: bytes) -> list[tuple[str, Rows]]:
    """The sheets of a file by name; a text is one without."""
    if content[:4] != ZIPPED:
        return [("", list(rows_of(decode(content))))]
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as zipped:
            if sum(info.file_size for info in zipped.infolist()) > MOST_UNPACKED:
                raise refused("too_big", say("The file unpacks to more than a table can be."), status=413)
            names = set(zipped.namelist())
            if "xl/workbook.xml" in names:
                return list(_xlsx(content))
            if "content.xml" in names:
                return list(_ods(zipped))
            raise refused("not_csv", say(UNREADABLE))
    except (zipfile.BadZipFile, ElementTree.ParseError, InvalidFileException, KeyError, ValueError, TypeError) as error:
        raise refused("not_csv", say(UNREADABLE)) from error


def _tidy(rows: Iterator[tuple[int, list[str]]]) -> Rows:
    """Rows that hold something, as wide as the first ones, of which one is the heading; no more than a table may have."""
    found: Rows = []
    for line, fields in rows:
        while fields and not fields[-1]:
            fields.pop()
        if not fields:
            continue
        found.append((line, fields))
        if len(found) > MAX_ROWS + LOOKED_AT:
            break
    width = max((len(fields) for _, fields in found[:LOOKED_AT]), default=0)
    return [(line, fields + [""] * (width - len(fields))) for line, fields in found]


def _xlsx(content: bytes) -> Iterator[tuple[str, Rows]]:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")  # of styles and filters, which mean nothing here
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
        try:
            for sheet in book.worksheets:
                cells = enumerate(sheet.iter_rows(max_row=MOST_LINES, max_col=MOST_COLUMNS), start=1)
                yield sheet.title, _tidy((line, [_shown(cell) for cell in row]) for line, row in cells)
        finally:
            book.close()


def _shown(cell: object) -> str:
    """A cell as its reader saw it: a number with the decimals of its format."""
    if isinstance(cell, EmptyCell):
        return ""
    value = getattr(cell, "value", None)
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        decimals = _DECIMALS.match(str(getattr(cell, "number_format", "")))
        return shown(value, len(decimals[1])) if decimals else repr(value)
    isoformat = getattr(value, "isoformat", None)
    return clean(str(isoformat() if isoformat else value)).strip()


def shown(value: float, decimals: int) -> str:
    """A number as it was shown, so that zeros at its end are kept; in full where what was shown leaves some of it out."""
    text = f"{value:.{decimals}f}"
    return text if abs(float(text) - value) <= HIDDEN * max(1.0, abs(value)) else f"{value:.{DIGITS}g}"


def _ods(zipped: zipfile.ZipFile) -> Iterator[tuple[str, Rows]]:
    rows: list[tuple[int, list[str]]] = []
    line = 0
    with zipped.open("content.xml") as file:
        for _, element in ElementTree.iterparse(file):  # noqa: S314  # expat bounds what entities grow to
            if element.tag == f"{_TABLE}table-row":
                repeated = int(element.get(f"{_TABLE}number-rows-repeated", "1"))
                fields = _ods_fields(element)
                if any(fields) and len(rows) <= MAX_ROWS:
                    rows += [(line + nth + 1, list(fields)) for nth in range(min(repeated, MAX_ROWS))]
                line += repeated
                element.clear()
            elif element.tag == f"{_TABLE}table":
                yield clean(element.get(f"{_TABLE}name", "")), _tidy(iter(rows))
                rows, line = [], 0


def _ods_fields(row: ElementTree.Element) -> list[str]:
    fields: list[str] = []
    for cell in row:
        if cell.tag not in (f"{_TABLE}table-cell", f"{_TABLE}covered-table-cell"):
            continue
        text = _ods_number(cell) or "\n".join("".join(part.itertext()) for part in cell.findall(f"{_TEXT}p"))
        repeated = int(cell.get(f"{_TABLE}number-columns-repeated", "1"))
        fields += [clean(text).strip()] * min(repeated, MOST_COLUMNS - len(fields))
        if len(fields) >= MOST_COLUMNS:
            break
    return fields


def _ods_number(cell: ElementTree.Element) -> str:
    """A number in full where a cell shows less of it (0.937 shown as 0,9); empty where what is shown is all."""
    text = "".join("".join(part.itertext()) for part in cell.findall(f"{_TEXT}p"))
    decimals = re.search(r"[.,](\d+)\s*$", text)
    try:
        value = float(cell.get(f"{_OFFICE}value", ""))
    except ValueError:
        return ""
    if cell.get(f"{_OFFICE}value-type") != "float" or not math.isfinite(value):
        return ""
    full = shown(value, len(decimals[1]) if decimals else 0)
    return "" if full == text.replace(",", ".").replace("\u2212", "-") else full
