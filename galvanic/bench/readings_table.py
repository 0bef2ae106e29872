"""A table of readings, as text with columns: the one place where it is read, with every column that exports have.

Needed: group, red, black, electrolyte, and volts (or `as typed`), in these or other words (`headings.py`). Understood
besides: condition and what it really was, unit, `as typed`, the meter's offset that was taken off, resolution, whether a
reading counts and why not, and when it was typed. What goes out comes in again and gives the same ladder to the last digit.
A column that is not understood is named, never dropped in silence.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from galvanic.bench.headings import (
    CONDITION,
    COUNTS,
    KNOWN,
    NEEDED,
    OFFSET,
    REALLY,
    RESOLUTION,
    TOLD,
    TYPED,
    TYPED_AT,
    UNIT,
    WHY_NOT,
    Heading,
    heading,
    plain,
)
from galvanic.bench.readings import ParsedReading, parse
from galvanic.bench.table_mended import AS_IT_IS, Mending, mended
from galvanic.bench.table_rows import BadTableText, as_written, check_width, rows_of
from galvanic.bench.table_shape import shaped
from galvanic.condition import Condition, as_found, canonical
from galvanic.errors import GalvanicError, UnknownMaterial
from galvanic.reference import catalogue
from galvanic.reference.names import find
from galvanic.words import mark, say, say_n

MOST_FAULTS, SHOWN_ROWS = 50, 5
MOST_CONDITION, MOST_NUMBER = 40, 1e9
YES, NO = {"yes", "true", "1", "y", "x", "ja", "j"}, {"no", "false", "0", "n", "nein"}
# What people write where they have no number; common practice, no source.
NO_NUMBER = {
    "",
    *"-|--|---|\u2013|\u2014|\u2212|/|?|x|n/a|na|n.a|none|no reading|not measured|ol|o.l|0l|o/l|overload|err".split("|"),
    *"error|nan|#n/a|#nv|#div/0|#value|#wert|fehlt|nicht gemessen|k.a|entf\u00e4llt".split("|"),
}
ABOUT = ("~", "\u2248", "ca.", "ca ", "c. ", "approx", "about", "etwa")
NO_REASON = mark("does not count in the table it came from")


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
    """The readings of a table in its order, the names of columns that are not understood, and the lines without a number
    with what stands there."""

    readings: tuple[TableReading, ...]
    unused: tuple[str, ...]
    left_out: tuple[tuple[int, str], ...] = ()


@dataclass(frozen=True, slots=True)
class Unknown:
    """A name of an electrode or electrolyte that is not in the catalogue, its nearest names, and in how many rows it is."""

    what: str
    name: str
    nearest: tuple[str, ...]
    rows: int


@dataclass(frozen=True, slots=True)
class Looked:
    """A table as it was understood: its headings, what could be read of it, and faulty rows by line.

    `left_out`: lines without a number and what stands there instead, such as nothing for cells that a group did not come to.
    `shape`: what was done to the table before, in sentences. `whole`: all rows were looked at; with many faults the rest is
    left.
    """

    headings: tuple[Heading, ...]
    readings: tuple[TableReading, ...]
    faults: tuple[tuple[int, str], ...]
    unknown: tuple[Unknown, ...]
    first_rows: tuple[tuple[str, ...], ...]
    left_out: tuple[tuple[int, str], ...]
    whole: bool
    shape: tuple[str, ...] = ()

    @property
    def unused(self) -> tuple[str, ...]:
        """Headings that were not understood."""
        return tuple(h.text for h in self.headings if not h.means and h.text.strip() and plain(h.text) not in TOLD)


def read_readings(text: str, most_rows: int, comments: bool = False) -> ReadingsTable:
    """Read a table whole. `comments`: lines that begin with # are none of its rows.

    Raises BadTableText: columns, not_csv, empty, too_many_rows, or bad_rows with each faulty row's line and reason (at most
    50: then the rest is not looked at).
    """
    return whole(look_at(rows_of(text, comments), most_rows))


def whole(looked: Looked) -> ReadingsTable:
    """A table that was understood whole. Raises BadTableText for one that was not: empty, or bad_rows."""
    if looked.faults:
        n = len(looked.faults)
        if looked.whole:
            said = say_n(
                "{n} row could not be read; mend it and try again.",
                "{n} rows could not be read; mend them and try again.",
                n,
            )
        else:
            said = say("At least {n} rows could not be read; mend them and try again.", n=n)
        raise BadTableText("bad_rows", said, looked.faults)
    if not looked.readings:
        raise BadTableText("empty", say("The table has no readings."))
    return ReadingsTable(looked.readings, looked.unused, looked.left_out)


def look_at(
    rows: Iterable[tuple[int, Sequence[str]]],
    most_rows: int,
    columns: Mapping[str, str] | None = None,
    called: Mapping[str, str] | None = None,
    mending: Mending = AS_IT_IS,
) -> Looked:
    """Read a table as far as it can be read.

    `rows`: fields with the line they stand on, the heading first. `columns`: what a column holds, by its heading, where the
    heading does not say it (empty: not used). `called`: the key that a name of the table stands for. `mending`: what is said
    of single lines. Raises BadTableText: columns, not_csv, or too_many_rows.
    """
    headings: tuple[Heading, ...] | None = None
    readings: list[TableReading] = []
    faults: list[tuple[int, str]] = []
    first_rows: list[tuple[str, ...]] = []
    left_out: list[tuple[int, str]] = []
    table = shaped(mended(rows, mending), heading_first=mending.heading > 0)
    look, looked_whole, places = Names(called or {}), True, dict[str, int]()
    for line, fields in table.rows:
        if headings is None:
            headings = _headings(fields, columns or {})
            places = {h.means: place for place, h in enumerate(headings) if h.means}
            volts_unit = next((h.unit for h in headings if h.means == "volts" and h.unit), "V")
            continue
        if len(readings) + len(faults) + len(left_out) >= most_rows:
            raise BadTableText("too_many_rows", say("The table has more than {most_rows} rows.", most_rows=most_rows))
        if len(first_rows) < SHOWN_ROWS:
            first_rows.append(tuple(fields))
        try:
            check_width(fields, len(headings))
            texts = {name: fields[place].strip() for name, place in places.items()}
            value = texts.get("volts") or texts.get(TYPED) or ""
            if no_number(value):
                left_out.append((line, value))
                continue
            readings.append(_reading(line, texts, volts_unit, look))
        except GalvanicError as error:
            faults.append((line, str(error)))
            if len(faults) >= MOST_FAULTS:
                looked_whole = False
                break
    if headings is None:
        raise BadTableText("empty", say("The table has no readings."))
    return Looked(
        headings,
        tuple(readings),
        tuple(faults),
        look.unknown(),
        tuple(first_rows),
        tuple(left_out),
        looked_whole,
        table.says,
    )


def no_number(text: str) -> bool:
    """Whether a value says that there is none (“n/a”, “OL”), or only about how much (“~0.9”)."""
    return plain(text).rstrip(".!") in NO_NUMBER or text.strip().startswith(ABOUT)


def _headings(fields: Sequence[str], columns: Mapping[str, str]) -> tuple[Heading, ...]:
    """What each column holds. Raises BadTableText for a table without the columns that are needed, or with one twice."""
    found = tuple(
        Heading(text, columns[text], heading(text).unit) if columns.get(text) in (*KNOWN, "") else heading(text)
        for text in fields
    )
    means = [h.means for h in found if h.means]
    missing = [column for column in NEEDED if column not in means and not (column == "volts" and TYPED in means)]
    if missing:
        wanted = say("The first line must name the columns {needed}", needed=", ".join(NEEDED))
        raise BadTableText("columns", say("{wanted}; missing: {missing}.", wanted=wanted, missing=", ".join(missing)))
    twice = next((name for name in means if means.count(name) > 1), None)
    if twice:
        both = ", ".join(f"“{h.text.strip()}”" for h in found if h.means == twice)
        raise BadTableText("columns", say("The first line names the column {twice} twice: {both}.", twice=twice, both=both))
    return found


class Names:
    """Names looked up once each: a misspelt one takes long, and stands in many rows."""

    def __init__(self, called: Mapping[str, str]) -> None:
        self.called = {plain(name): key for name, key in called.items()}
        self.known: dict[tuple[str, str], str | UnknownMaterial] = {}
        self.rows: dict[tuple[str, str], int] = {}

    def unknown(self) -> tuple[Unknown, ...]:
        """The names that were not found."""
        return tuple(
            Unknown(what, name, error.nearest, self.rows[what, name])
            for (what, name), error in self.known.items()
            if isinstance(error, UnknownMaterial)
        )

    def key(self, what: str, name: str) -> str:
        """The key of a name. Raises UnknownMaterial."""
        wanted = (what, name)
        self.rows[wanted] = self.rows.get(wanted, 0) + 1
        if wanted not in self.known:
            name = self.called.get(plain(name), name)
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


def _reading(line: int, row: Mapping[str, str], volts_unit: str, look: Names) -> TableReading:
    needed = [name for name in NEEDED if name != "volts" or TYPED not in row]
    if empty := [name for name in needed if not row[name]]:
        raise BadTableText("bad_row", say("{empty}: nothing there.", empty=", ".join(empty)))
    red, black = look.key("electrode", row["red"]), look.key("electrode", row["black"])
    if red == black:
        raise BadTableText("bad_row", say("Red and black are on the same plate, which is no cell."))
    parsed, offset_v = _volts(row, volts_unit)
    condition = canonical(as_written(row.get(CONDITION, "")))
    if len(condition) > MOST_CONDITION:
        raise BadTableText(
            "bad_row", say("The condition is longer than {most_condition} letters.", most_condition=MOST_CONDITION)
        )
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
        time_in(row.get(TYPED_AT, "")),
    )


def _volts(row: Mapping[str, str], volts_unit: str) -> tuple[ParsedReading, float]:
    """What the meter showed, and the offset to take off: from what was typed where that stands there, else from volts."""
    unit, typed = row.get(UNIT) or volts_unit, row.get(TYPED, "")
    if not typed:
        return _with_resolution(parse(row["volts"], unit), row), 0.0
    parsed = _with_resolution(parse(as_written(typed), unit), row)
    offset_v = number_in(row.get(OFFSET, ""), OFFSET)
    if row.get("volts"):
        shown = parse(row["volts"], volts_unit)
        if abs(parsed.volts_v - offset_v - shown.volts_v) > 0.51 * shown.resolution_v + 1e-9:
            raise BadTableText(
                "bad_row",
                say(
                    "volts says {row} and as typed {typed} {unit}: which of them is it?",
                    row=row["volts"],
                    typed=typed,
                    unit=unit,
                ),
            )
    return parsed, offset_v


def _with_resolution(parsed: ParsedReading, row: Mapping[str, str]) -> ParsedReading:
    said = number_in(row.get(RESOLUTION, ""), RESOLUTION)
    if not said:
        return parsed
    if said < 0.0:
        raise BadTableText("bad_row", say("A resolution is above zero."))
    return ParsedReading(parsed.text, parsed.volts_v, said, parsed.unit, parsed.negative)


def number_in(text: str, column: str) -> float:
    """The number of a column, zero where there is none. Raises BadTableText."""
    try:
        value = float(text.replace(",", ".").replace("\u2212", "-") or 0.0)
    except ValueError:
        value = math.nan
    if not abs(value) < MOST_NUMBER:
        raise BadTableText("bad_row", say("{column}: “{said}” is no number.", column=column, said=text[:20]))
    return value


def _why_not(row: Mapping[str, str]) -> str:
    counts, reason = plain(row.get(COUNTS, "")), " ".join(as_written(row.get(WHY_NOT, "")).split())[:200]
    if counts in NO:
        return reason or say(NO_REASON)
    if counts and counts not in YES:
        raise BadTableText("bad_row", say("counts: “{counts}” is neither yes nor no.", counts=counts[:20]))
    return ""


def time_in(text: str) -> datetime | None:
    """A moment with its time zone; None for anything else."""
    try:
        at = datetime.fromisoformat(text)
    except ValueError:
        return None
    return at if at.tzinfo is not None and 1970 <= at.year < 2200 else None
