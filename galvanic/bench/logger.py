"""A trace from the file of a data logger: one table with times and volts, whatever the order and the marks.

Understood: comma, semicolon or tab between columns, decimal point or comma, a heading or none, other columns beside, times
in milliseconds to days, as clock time or as date and time (ISO 8601), volts or millivolts (`columns`). What was understood
is kept beside the numbers, so that it can be shown before anything is recorded.
"""

from __future__ import annotations

import csv
import math
import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime

from galvanic.bench.columns import VOLTS, column
from galvanic.bench.settling import STEADY_V_PER_S, WINDOW_S, Settling, settling
from galvanic.bench.text_files import DELIMITERS, NotText, decoded
from galvanic.errors import NotEnoughData
from galvanic.words import say

MOST_BYTES = 5_000_000
MOST_ROWS = 200_000
MOST_V = 1000.0
_CLOCK = re.compile(r"(?:(\d{1,3}):)?(\d{1,2}):(\d{1,2}(?:[.,]\d+)?)")


@dataclass(frozen=True, slots=True)
class Skipped:
    """A line that is no sample, and why; `line` counts from 1."""

    line: int
    why: str


@dataclass(frozen=True, slots=True)
class Trace:
    """Times in s from the first sample, volts in V, and how the file was understood."""

    times_s: tuple[float, ...]
    volts_v: tuple[float, ...]
    delimiter: str
    decimal: str
    time_column: str
    volts_column: str
    unit: str
    others: tuple[str, ...]
    skipped: tuple[Skipped, ...]
    resolution_v: float


def read_trace(content: bytes) -> Trace:
    """Read a logger's file. Raises NotEnoughData, in words, where no two columns of numbers can be found."""
    if len(content) > MOST_BYTES:
        raise NotEnoughData(
            say("The file is larger than {most_bytes} MB. Export a shorter run.", most_bytes=MOST_BYTES // 1_000_000)
        )
    try:
        return _read(decoded(content))
    except NotText as error:
        raise NotEnoughData(str(error)) from error
    except csv.Error as error:
        raise NotEnoughData(
            say("A field of it is too long for a table. Export it as CSV with a time and a voltage on each line.")
        ) from error


def _read(text: str) -> Trace:
    lines = text.splitlines()
    if len(lines) > MOST_ROWS:
        raise NotEnoughData(say("The file has more than {most_rows} lines. Export a shorter run.", most_rows=MOST_ROWS))
    delimiter, decimal = _marks(lines)
    rows = [(i, [field.strip() for field in row]) for i, row in enumerate(csv.reader(lines, delimiter=delimiter), start=1)]

    def number(field: str) -> float | None:
        return _number(field, decimal)

    width = _width(rows, number)
    first = next((k for k, (_, row) in enumerate(rows) if _is_sample(row, width, number)), None)
    if width < 2 or first is None:
        raise NotEnoughData(say("No two columns of numbers were found. The file needs a time and a voltage on each line."))
    heading = _heading(rows[:first], width)
    data = [(line, row) for line, row in rows[first:] if any(row)]
    at = _time_column(heading, data, number)
    of = _volts_column(heading, data, number, at)
    unit = column(heading[of]).unit or "V"
    times: list[float] = []
    volts: list[float] = []
    skipped: list[Skipped] = []
    steps: list[int] = []
    seconds = _seconds(heading[at], number)
    for line, row in data:
        t, v = (seconds(row[at]), number(row[of])) if len(row) > max(at, of) else (None, None)
        if t is None or v is None:
            skipped.append(Skipped(line, say("no time and voltage on this line")))
        elif times and t <= times[-1]:
            skipped.append(Skipped(line, say("its time does not rise")))
        elif abs(v) > MOST_V:
            skipped.append(Skipped(line, say("more volts than any cell gives")))
        else:
            times.append(t)
            volts.append(v * VOLTS[unit])
            steps.append(len(re.split(r"[.,]", row[of])[1]) if decimal in row[of] else 0)
    if len(times) < 3:
        raise NotEnoughData(say("Fewer than three lines have a rising time and a voltage."))
    resolution = 10.0 ** -min(7, max(steps)) * VOLTS[unit]
    names = [name or say("column {i}", i=i + 1) for i, name in enumerate(heading)]
    return Trace(
        tuple(t - times[0] for t in times), tuple(volts), DELIMITERS[delimiter], decimal, names[at], names[of], unit,
        tuple(name for i, name in enumerate(names) if i not in (at, of)), tuple(skipped), resolution,
    )  # fmt: skip


def judged(trace: Trace) -> Settling | None:
    """Whether the end of a trace is steady; None where its last seconds hold fewer than three samples."""
    window = max(WINDOW_S, 3.0 * (trace.times_s[-1] - trace.times_s[-2]) * 1.01)
    try:
        return settling(trace.times_s, trace.volts_v, window, STEADY_V_PER_S)
    except NotEnoughData:
        return None


def settled_v(trace: Trace) -> float:
    """The mean of the last ten seconds (at least the last three samples), V: what would be read off."""
    end = [v for t, v in zip(trace.times_s, trace.volts_v, strict=True) if t >= trace.times_s[-1] - WINDOW_S]
    last = end if len(end) >= 3 else list(trace.volts_v[-3:])
    return math.fsum(last) / len(last)


def thinned(trace: Trace, most: int) -> list[tuple[float, float]]:
    """At most `most` samples, evenly taken, first and last among them."""
    n = len(trace.times_s)
    step = max(1, math.ceil((n - 1) / max(1, most - 1)))
    kept = sorted({*range(0, n, step), n - 1})
    return [(trace.times_s[i], trace.volts_v[i]) for i in kept]


def _number(field: str, decimal: str) -> float | None:
    plain = field.replace("\u2212", "-").replace("\u00a0", "").replace(" ", "")
    if decimal == ",":
        plain = plain.replace(",", ".")
    if not re.fullmatch(r"[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d{1,3})?", plain, re.IGNORECASE):
        return None
    value = float(plain)
    return value if math.isfinite(value) else None


def _marks(lines: Sequence[str]) -> tuple[str, str]:
    """Delimiter and decimal mark under which most lines have at least two numbers in columns."""
    sample = [line for line in lines[:400] if line.strip()]

    def score(delimiter: str, decimal: str) -> tuple[int, float, bool]:
        rows = [[field.strip() for field in row] for row in csv.reader(sample, delimiter=delimiter)]
        good = [row for row in rows if sum(_is_value(field, decimal) for field in row) >= 2]
        fields = [field for row in good for field in row]
        return len(good), sum(_is_value(field, decimal) for field in fields) / max(1, len(fields)), decimal == "."

    return max(((d, m) for d in DELIMITERS for m in (".", ",") if d != m), key=lambda pair: score(*pair))


def _is_value(field: str, decimal: str) -> bool:
    return _number(field, decimal) is not None or bool(_CLOCK.fullmatch(field)) or _date(field) is not None


def _width(rows: Sequence[tuple[int, Sequence[str]]], number: Callable[[str], float | None]) -> int:
    widths = [len(row) for _, row in rows if len(row) >= 2 and any(number(field) is not None for field in row)]
    return max(set(widths), key=widths.count) if widths else 0


def _is_sample(row: Sequence[str], width: int, number: Callable[[str], float | None]) -> bool:
    good = [field for field in row if number(field) is not None or _CLOCK.fullmatch(field) or _date(field) is not None]
    return len(row) == width and len(good) >= 2


def _heading(rows: Sequence[tuple[int, Sequence[str]]], width: int) -> list[str]:
    named = [row for _, row in rows if len(row) == width and any(row)]
    return list(named[-1]) if named else [""] * width


def _date(field: str) -> datetime | None:
    try:
        return datetime.fromisoformat(field) if len(field) >= 16 else None
    except ValueError:
        return None


def _seconds(name: str, number: Callable[[str], float | None]) -> Callable[[str], float | None]:
    scale = column(name).scale if column(name).kind == "time" else 1.0

    def seconds(field: str) -> float | None:
        value = number(field)
        if value is not None:
            return value * scale
        if found := _CLOCK.fullmatch(field):
            return int(found[1] or 0) * 3600.0 + int(found[2]) * 60.0 + float(found[3].replace(",", "."))
        when = _date(field)
        return None if when is None else when.timestamp() if when.tzinfo else (when - datetime(1970, 1, 1)).total_seconds()

    return seconds


def _time_column(
    heading: Sequence[str], data: Sequence[tuple[int, Sequence[str]]], number: Callable[[str], float | None]
) -> int:
    """The column called time whose values rise, else the first that rises."""
    rows = [row for _, row in data[:200] if len(row) == len(heading)]

    def rises(i: int) -> bool:
        times = [_seconds(heading[i], number)(row[i]) for row in rows]
        known = [t for t in times if t is not None]
        return len(known) >= 3 and sum(b > a for a, b in zip(known, known[1:], strict=False)) >= 0.8 * (len(known) - 1)

    rising = [i for i in range(len(heading)) if rises(i)]
    if not rising:
        raise NotEnoughData(say("No column rises from line to line, so none can be the time."))
    at = next((i for i in rising if column(heading[i]).kind == "time"), rising[0])
    named = column(heading[at])
    if named.kind == "time" and named.unknown:
        raise NotEnoughData(
            say(
                "The time column is called “{heading}”, and its unit is not known here. Name it in seconds, "
                "minutes, hours or days, for example “time (min)”.",
                heading=heading[at][:40],
            )
        )
    return at


def _volts_column(
    heading: Sequence[str], data: Sequence[tuple[int, Sequence[str]]], number: Callable[[str], float | None], at: int
) -> int:
    """The column called volts, else the first with numbers beside the time that is not called a current."""
    rows = [row for _, row in data[:200] if len(row) == len(heading)]
    numeric = [
        i for i in range(len(heading)) if i != at and sum(number(row[i]) is not None for row in rows) >= 0.5 * len(rows)
    ]
    if not numeric:
        raise NotEnoughData(say("There is a time but no column of voltages beside it."))
    named = [i for i in numeric if column(heading[i]).kind == "volts"]
    unnamed = [i for i in numeric if column(heading[i]).kind == "other"]
    if not named and not unnamed:
        raise NotEnoughData(
            say(
                "“{heading}” is a current, and there is no column of voltages. A current belongs to a run "
                "over time, not to a reading.",
                heading=heading[numeric[0]][:40],
            )
        )
    return (named or unnamed)[0]
