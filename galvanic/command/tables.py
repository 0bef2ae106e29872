"""Files in, rows out: CSV with named columns, or JSON."""

from __future__ import annotations

import csv
import io
import json
import sys
from collections.abc import Mapping, Sequence
from pathlib import Path

from galvanic.errors import GalvanicError

Row = Mapping[str, object]
MAX_BYTES = 20_000_000


class BadFile(GalvanicError):
    """A file cannot be read as a table."""

    code = "bad_file"


def read(path: str, columns: Sequence[str]) -> list[dict[str, str]]:
    """Rows of a CSV file (`-`: standard input) with at least these columns; each row has its line under `line`.

    Comma, semicolon or tab between columns. Raises BadFile.
    """
    try:
        data = sys.stdin.buffer.read(MAX_BYTES + 1) if path == "-" else Path(path).read_bytes()
    except OSError as error:
        raise BadFile(f"{path} cannot be read: {error.strerror}.") from error
    if len(data) > MAX_BYTES:
        raise BadFile(f"{path} is larger than {MAX_BYTES // 1_000_000} MB.")
    text = data.decode("utf-8-sig", errors="replace")
    lines = [line for line in text.splitlines() if line.strip() and not line.startswith("#")]
    first = lines[0] if lines else ""
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=max(",;\t", key=first.count))
    names: list[str] | None = None
    rows = []
    for fields in reader:
        if not any(field.strip() for field in fields) or fields[0].startswith("#"):
            continue
        if names is None:
            names = [field.strip().casefold() for field in fields]
            missing = [column for column in columns if column not in names]
            if missing:
                raise BadFile(f"{path}: the first line must name {', '.join(columns)}; missing: {', '.join(missing)}.")
            continue
        row = dict(zip(names, (field.strip() for field in fields), strict=False))
        rows.append({**row, **{name: "" for name in columns if name not in row}, "line": str(reader.line_num)})
    return rows


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


def say(text: str) -> None:
    """A line on standard error."""
    sys.stderr.write(f"{text}\n")
