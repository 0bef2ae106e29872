"""Files in, rows out: CSV with named columns, or JSON."""

from __future__ import annotations

import csv
import json
import math
import sys
from collections.abc import Mapping, Sequence
from decimal import Decimal
from pathlib import Path

from galvanic.bench.readings_table import read_readings
from galvanic.bench.table_rows import BadTableText, check_width, rows_of
from galvanic.bench.text_files import decoded
from galvanic.errors import GalvanicError, UnknownMaterial
from galvanic.findings.compare import ClassReading

Row = Mapping[str, object]
MAX_BYTES = 20_000_000
MAX_ROWS = 200_000


class UnknownNames(UnknownMaterial):
    """Names in a table that are not in the catalogue, and nothing else wrong with it."""


class BadFile(GalvanicError):
    """A file cannot be read as a table."""

    code = "bad_file"


def text_of(path: str) -> str:
    """The text of a file (`-`: standard input). Raises BadFile, or NotText."""
    try:
        data = sys.stdin.buffer.read(MAX_BYTES + 1) if path == "-" else Path(path).read_bytes()
    except OSError as error:
        raise BadFile(f"{path} cannot be read: {error.strerror}.") from error
    if len(data) > MAX_BYTES:
        raise BadFile(f"{path} is larger than {MAX_BYTES // 1_000_000} MB.")
    return decoded(data)


def read(path: str, columns: Sequence[str]) -> list[dict[str, str]]:
    """Rows of a CSV file with at least these columns; each row has its line under `line`.

    Comma, semicolon or tab between columns; lines that begin with # are none. Raises BadFile, with the line of a row that
    has more or fewer fields than the heading.
    """
    names: list[str] | None = None
    rows = []
    for line, fields in rows_of(text_of(path), comments=True):
        if names is None:
            names = [field.strip().casefold() for field in fields]
            missing = [column for column in columns if column not in names]
            if missing:
                raise BadFile(f"{path}: the first line must name {', '.join(columns)}; missing: {', '.join(missing)}.")
            continue
        try:
            check_width(fields, len(names))
        except BadTableText as error:
            raise BadFile(f"line {line}: {error}") from error
        rows.append({**dict(zip(names, (field.strip() for field in fields), strict=True)), "line": str(line)})
    return rows


def readings(path: str) -> list[ClassReading]:
    """The readings of a table that count, with the meter's offset taken off; what is not used is said on standard error.

    Raises BadFile with every faulty row, BadTableText, or UnknownMaterial for a name that is not in the catalogue.
    """
    try:
        table = read_readings(text_of(path), MAX_ROWS, comments=True)
    except BadTableText as error:
        rows = "".join(f"\n  line {line}: {message}" for line, message in error.rows)
        raise (UnknownNames if _all_unknown(error) else BadFile)(f"{error}{rows}") from error
    if table.unused:
        say(f"not understood and not used: the columns {', '.join(table.unused)}")
    if left := sum(1 for reading in table.readings if reading.why_not):
        say(f"{left} of {len(table.readings)} readings do not count, by the table")
    return [
        ClassReading(
            reading.group,
            reading.red,
            reading.black,
            reading.electrolyte,
            reading.corrected_v,
            reading.parsed.resolution_v,
            reading.condition,
        )
        for reading in table.readings
        if not reading.why_not
    ]


def _all_unknown(error: BadTableText) -> bool:
    return bool(error.rows) and all("is in the catalogue" in message for _, message in error.rows)


def shown(value: object) -> object:
    """A value for a CSV cell: nothing for None, six decimals for a number."""
    if value is None:
        return ""
    return f"{value:.6f}" if isinstance(value, float) else value


def write(rows: Sequence[Row], as_json: bool) -> None:
    """Rows to standard output."""
    if as_json:
        json.dump([dict(row) for row in rows], sys.stdout, ensure_ascii=False, indent=1)
        sys.stdout.write("\n")
        return
    if not rows:
        return
    writer = csv.DictWriter(sys.stdout, list(rows[0]), lineterminator="\n")
    writer.writeheader()
    writer.writerows({name: shown(value) for name, value in row.items()} for row in rows)


def plain(value: float, digits: int = 3) -> str:
    """A number with so many digits, without a power of ten: 55000, not 5.5e+04."""
    text = f"{value:.{digits}g}"
    return f"{Decimal(text):f}" if "e" in text else text


def dump(value: object) -> None:
    """One value as JSON to standard output; what is no number there is null."""
    json.dump(_finite(value), sys.stdout, ensure_ascii=False, indent=1, allow_nan=False)
    sys.stdout.write("\n")


def _finite(value: object) -> object:
    if isinstance(value, dict):
        return {name: _finite(part) for name, part in value.items()}
    if isinstance(value, list | tuple):
        return [_finite(part) for part in value]
    return None if isinstance(value, float) and not math.isfinite(value) else value


def say(text: str) -> None:
    """A line on standard error."""
    sys.stderr.write(f"{text}\n")
