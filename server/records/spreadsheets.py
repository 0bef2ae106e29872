"""Rows of a table in a file of any kind that is understood: text with columns, XLSX, ODS; numbers as they were shown."""

from __future__ import annotations

import io
import re
import warnings
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from xml.etree import ElementTree

from openpyxl import load_workbook
from openpyxl.cell.read_only import EmptyCell
from openpyxl.utils.exceptions import InvalidFileException

from galvanic.bench.headings import NEEDED, heading
from galvanic.bench.loads_table import is_of_loads
from galvanic.bench.table_rows import rows_of
from galvanic.words import mark, say
from server.base.incoming import clean
from server.records.file_text import MAX_ROWS, decode, refused

Rows = list[tuple[int, list[str]]]
MOST_UNPACKED = 60_000_000
MOST_COLUMNS = 60
MOST_LINES = 4 * MAX_ROWS  # of a sheet, empty ones among them; what stands below is not looked for
ZIPPED = b"PK\x03\x04"
_DECIMALS = re.compile(r"^#?,?#*0\.(0+)(?:_\)|;.*)?$")
_TABLE, _TEXT = "{urn:oasis:names:tc:opendocument:xmlns:table:1.0}", "{urn:oasis:names:tc:opendocument:xmlns:text:1.0}"
UNREADABLE = mark("The file cannot be read. Save the table as CSV, XLSX or ODS and try again.")


@dataclass(frozen=True, slots=True)
class Tables:
    """The rows of a file with the line each stands on, the heading first: of its first table of readings, and of loads."""

    readings: Rows
    loads: Rows


def tables_of(content: bytes) -> Tables:
    """The tables of a file. Raises Problem: too_big, not_csv (nothing of these kinds), or BadTableText."""
    sheets = _sheets(content)
    filled = [rows for rows in sheets if rows]
    if not filled:
        raise refused("empty", say("The file has no rows."))
    loads = next((rows for rows in filled if is_of_loads(rows[0][1])), [])
    others = [rows for rows in filled if rows is not loads] or filled
    return Tables(max(others, key=_is_of_readings), loads)  # the first of the best


def _sheets(content: bytes) -> list[Rows]:
    if content[:4] != ZIPPED:
        return [list(rows_of(decode(content)))]
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


def _is_of_readings(rows: Rows) -> int:
    """How many of the columns that are needed the first row names."""
    return len({heading(text).means for text in rows[0][1]} & {*NEEDED, "as typed"})


def _tidy(rows: Iterator[tuple[int, list[str]]]) -> Rows:
    """Rows that hold something, all as wide as the heading where they are shorter; no more than a table may have."""
    found: Rows = []
    for line, fields in rows:
        while fields and not fields[-1]:
            fields.pop()
        if not fields:
            continue
        width = len(found[0][1]) if found else len(fields)
        found.append((line, fields + [""] * (width - len(fields))))
        if len(found) > MAX_ROWS + 1:
            break
    return found


def _xlsx(content: bytes) -> Iterator[Rows]:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")  # of styles and filters, which mean nothing here
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
        try:
            for sheet in book.worksheets:
                cells = enumerate(sheet.iter_rows(max_row=MOST_LINES, max_col=MOST_COLUMNS), start=1)
                yield _tidy((line, [_shown(cell) for cell in row]) for line, row in cells)
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
        return f"{value:.{len(decimals[1])}f}" if decimals else repr(value)
    isoformat = getattr(value, "isoformat", None)
    return clean(str(isoformat() if isoformat else value)).strip()


def _ods(zipped: zipfile.ZipFile) -> Iterator[Rows]:
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
                yield _tidy(iter(rows))
                rows, line = [], 0


def _ods_fields(row: ElementTree.Element) -> list[str]:
    fields: list[str] = []
    for cell in row:
        if cell.tag not in (f"{_TABLE}table-cell", f"{_TABLE}covered-table-cell"):
            continue
        text = "\n".join("".join(part.itertext()) for part in cell.findall(f"{_TEXT}p"))
        repeated = int(cell.get(f"{_TABLE}number-columns-repeated", "1"))
        fields += [clean(text).strip()] * min(repeated, MOST_COLUMNS - len(fields))
        if len(fields) >= MOST_COLUMNS:
            break
    return fields
