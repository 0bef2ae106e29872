"""A table of readings, as text with columns: the one place where it is read, with every column that exports have.

Needed: group, red, black, electrolyte, and volts (or `as typed`). Understood besides: condition and what it really was,
unit, `as typed`, the meter's offset that was taken off, resolution, whether a reading counts and why not, and when it was
typed. What goes out
comes in again and gives the same ladder to the last digit. A column that is not understood is named, never dropped in
silence, and a row with more or fewer fields than the heading is refused: a decimal comma has split it.
"""

from __future__ import annotations

import csv
import io
import math
import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from galvanic.bench.readings import ParsedReading, parse
from galvanic.bench.text_files import DELIMITERS
from galvanic.condition import Condition, as_found, canonical
from galvanic.errors import GalvanicError, UnknownMaterial
from galvanic.reference import catalogue
from galvanic.reference.names import find

NEEDED = ("group", "red", "black", "electrolyte", "volts")
TYPED, UNIT, CONDITION, REALLY, COUNTS, WHY_NOT = "as typed", "unit", "condition", "really", "counts", "why not"
OFFSET, RESOLUTION, TYPED_AT = "offset taken off, v", "resolution, v", "typed at"
KNOWN = (*NEEDED, CONDITION, REALLY, TYPED, UNIT, OFFSET, RESOLUTION, COUNTS, WHY_NOT, TYPED_AT)
TOLD = ("origin", "edition of the data")  # in exports, and of no use here: nobody needs to hear that
MOST_FAULTS = 50
MOST_CONDITION = 40
YES, NO = {"yes", "true", "1", "y", "x"}, {"no", "false", "0", "n"}
NO_REASON = "does not count in the table it came from"
_SEPARATOR = re.compile(r"sep=(.)", re.IGNORECASE)


class BadTableText(GalvanicError):
    """A text that is no table of readings; `rows` names its faulty rows by line, as an editor counts."""

    code = "bad_rows"

    def __init__(self, code: str, sentence: str, rows: Sequence[tuple[int, str]] = ()) -> None:
        super().__init__(sentence)
        self.code, self.rows = code, tuple(rows)


@dataclass(frozen=True, slots=True)
class TableReading:
    """One reading of a table, with keys of the catalogue: as the meter showed it (`parsed`, V) and the offset to take off.

    `why_not` says why it does not count; empty where it does. `really` is what its condition was measured to be, if it was.
    """

    line: int
    group: str
    red: str
    black: str
    electrolyte: str
    condition: str
    really: Condition | None
    parsed: ParsedReading
    offset_v: float
    why_not: str
    typed_at: datetime | None

    @property
    def corrected_v(self) -> float:
        """The reading with the meter's offset taken off, V."""
        return self.parsed.volts_v - self.offset_v


@dataclass(frozen=True, slots=True)
class ReadingsTable:
    """The readings of a table in its order, and the names of columns that are not understood."""

    readings: tuple[TableReading, ...]
    unused: tuple[str, ...]


def read_readings(text: str, most_rows: int, comments: bool = False) -> ReadingsTable:
    """Read a table whole. `comments`: lines that begin with # are none of its rows.

    Raises BadTableText: columns, not_csv, empty, too_many_rows, or bad_rows with each faulty row's line and reason (at most
    50: then the rest is not looked at).
    """
    names: Mapping[str, int] | None = None
    readings: list[TableReading] = []
    faults: list[tuple[int, str]] = []
    look = _Names()
    unused: tuple[str, ...] = ()
    for line, fields in rows_of(text, comments):
        if names is None:
            names = _heading(fields)
            unused = tuple(f for f in fields if f.strip() and _plain(f) not in KNOWN and _plain(f) not in TOLD)
            continue
        if len(readings) + len(faults) >= most_rows:
            raise BadTableText("too_many_rows", f"The table has more than {most_rows} rows.")
        try:
            check_width(fields, len(names))
            readings.append(_reading(line, {name: fields[place].strip() for name, place in names.items()}, look))
        except GalvanicError as error:
            faults.append((line, str(error)))
            if len(faults) >= MOST_FAULTS:
                break
    if faults:
        least = "At least " if len(faults) >= MOST_FAULTS else ""
        rows = f"{least}{len(faults)} row{'s' if len(faults) > 1 else ''}"
        raise BadTableText("bad_rows", f"{rows} could not be read; mend them and try again.", faults)
    if not readings:
        raise BadTableText("empty", "The table has no readings.")
    return ReadingsTable(tuple(readings), unused)


def rows_of(text: str, comments: bool = False) -> Iterator[tuple[int, list[str]]]:
    """Rows with the line they end on, empty ones left out; comma, semicolon or tab between columns, by the heading.

    Raises BadTableText not_csv.
    """
    lines = text.splitlines()
    skip = (lambda line: not line.strip() or line.startswith("#")) if comments else (lambda line: not line.strip())
    first = next((line for line in lines if not skip(line)), "")
    named = _SEPARATOR.fullmatch(first.strip())
    mark = named[1] if named else max((",", *DELIMITERS), key=first.count)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=mark)
    try:
        for fields in reader:
            if not any(field.strip() for field in fields) or (comments and fields[0].startswith("#")):
                continue
            if named and mark.join(fields).strip() == first.strip():
                named = None
                continue
            yield reader.line_num, fields
    except csv.Error as error:
        raise BadTableText("not_csv", f"Line {reader.line_num} cannot be read as CSV.") from error


def check_width(fields: Sequence[str], wanted: int) -> None:
    """Raises BadTableText for a row that has more or fewer fields than the heading."""
    if len(fields) != wanted:
        hint = " A decimal comma needs quotes round it, or semicolons between columns." if len(fields) > wanted else ""
        raise BadTableText("bad_row", f"This row has {len(fields)} fields and the heading {wanted}.{hint}")


def _plain(name: str) -> str:
    return " ".join(name.split()).casefold()


def _heading(fields: Sequence[str]) -> dict[str, int]:
    """Where each column stands; unnamed ones get a name of their own."""
    names = [_plain(field) or f"column {place + 1}" for place, field in enumerate(fields)]
    missing = [column for column in NEEDED if column not in names and not (column == "volts" and TYPED in names)]
    if missing:
        wanted = f"The first line must name the columns {', '.join(NEEDED)}"
        raise BadTableText("columns", f"{wanted}; missing: {', '.join(missing)}.")
    twice = next((name for name in names if names.count(name) > 1), None)
    if twice:
        raise BadTableText("columns", f"The first line names the column {twice} twice.")
    return {name: place for place, name in enumerate(names)}


class _Names:
    """Names looked up once each: a misspelt one takes long, and stands in many rows."""

    def __init__(self) -> None:
        self.known: dict[tuple[str, str], str | UnknownMaterial] = {}

    def key(self, what: str, name: str) -> str:
        """The key of a name. Raises UnknownMaterial."""
        wanted = (what, name)
        if wanted not in self.known:
            try:
                if what == "electrode":
                    self.known[wanted] = find(name, catalogue.electrodes(), what).key
                else:
                    self.known[wanted] = find(name, catalogue.electrolytes(), what).key
            except UnknownMaterial as error:
                self.known[wanted] = error
        key = self.known[wanted]
        if isinstance(key, UnknownMaterial):
            raise key
        return key


def _reading(line: int, row: Mapping[str, str], look: _Names) -> TableReading:
    needed = [name for name in NEEDED if name != "volts" or TYPED not in row]
    if empty := [name for name in needed if not row[name]]:
        raise BadTableText("bad_row", f"{', '.join(empty)}: nothing there.")
    red, black = look.key("electrode", row["red"]), look.key("electrode", row["black"])
    if red == black:
        raise BadTableText("bad_row", "Red and black are on the same plate, which is no cell.")
    parsed, offset_v = _volts(row)
    condition = canonical(as_written(row.get(CONDITION, "")))
    if len(condition) > MOST_CONDITION:
        raise BadTableText("bad_row", f"The condition is longer than {MOST_CONDITION} letters.")
    return TableReading(
        line,
        " ".join(as_written(row["group"]).split()),
        red,
        black,
        look.key("electrolyte", row["electrolyte"]),
        condition,
        as_found(condition, as_written(row[REALLY])) if row.get(REALLY) else None,
        parsed,
        offset_v,
        _why_not(row),
        _time(row.get(TYPED_AT, "")),
    )


def as_written(text: str) -> str:
    """A text without the mark that keeps a spreadsheet from taking it for a formula."""
    return text[1:] if text[:1] == "\u2019" and text[1:2] in ("=", "+", "-", "@") else text


def _volts(row: Mapping[str, str]) -> tuple[ParsedReading, float]:
    """What the meter showed, and the offset to take off: from what was typed where that stands there, else from volts."""
    unit, typed = row.get(UNIT) or "V", row.get(TYPED, "")
    if not typed:
        return _with_resolution(parse(row["volts"], unit), row), 0.0
    parsed = _with_resolution(parse(as_written(typed), unit), row)
    offset_v = _number(row.get(OFFSET, ""), OFFSET)
    if row.get("volts"):
        shown = parse(row["volts"])
        if abs(parsed.volts_v - offset_v - shown.volts_v) > 0.51 * shown.resolution_v + 1e-9:
            raise BadTableText("bad_row", f"volts says {row['volts']} and as typed {typed} {unit}: which of them is it?")
    return parsed, offset_v


def _with_resolution(parsed: ParsedReading, row: Mapping[str, str]) -> ParsedReading:
    said = _number(row.get(RESOLUTION, ""), RESOLUTION)
    if not said:
        return parsed
    if said < 0.0:
        raise BadTableText("bad_row", "A resolution is above zero.")
    return ParsedReading(parsed.text, parsed.volts_v, said, parsed.unit, parsed.negative)


def _number(text: str, column: str) -> float:
    try:
        value = float(text.replace(",", ".").replace("\u2212", "-") or 0.0)
    except ValueError:
        value = math.nan
    if not abs(value) < 1e6:
        raise BadTableText("bad_row", f"{column}: “{text[:20]}” is no number.")
    return value


def _why_not(row: Mapping[str, str]) -> str:
    counts, reason = _plain(row.get(COUNTS, "")), " ".join(as_written(row.get(WHY_NOT, "")).split())[:200]
    if counts in NO:
        return reason or NO_REASON
    if counts and counts not in YES:
        raise BadTableText("bad_row", f"counts: “{counts[:20]}” is neither yes nor no.")
    return ""


def _time(text: str) -> datetime | None:
    try:
        at = datetime.fromisoformat(text)
    except ValueError:
        return None
    return at if at.tzinfo is not None and 1970 <= at.year < 2200 else None
