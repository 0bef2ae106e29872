"""A table of packs as Pipette gives it out, read again: a line an entry, with what was corrected and when it was typed."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import get_args

from galvanic.bench.load_standing import AMPERES
from galvanic.bench.pack_steps import MOST_POSITION, NUMBERS, PLACED, Kind
from galvanic.bench.readings import parse, parse_current
from galvanic.bench.standing import Stand
from galvanic.bench.table_rows import BadTableText, as_written, rows_of
from galvanic.chemistry.demand import demand, load_of
from galvanic.errors import GalvanicError
from galvanic.reference.catalogue import electrodes, electrolytes
from galvanic.reference.names import find
from galvanic.words import say

NEEDED = (
    "group",
    "pack",
    "load",
    "what",
    "cell of the row",
    "negative",
    "electrolyte",
    "positive",
    "as typed",
    "unit",
)
FURTHER = ("typed at", "counts", "why corrected", "standing", "why")
LEFT_OUT = frozenset(stand.value for stand in (Stand.IMPOSSIBLE, Stand.TURNED))
KINDS: frozenset[str] = frozenset(get_args(Kind))
MOST_FAULTS = 20
MOST_OFFSET_V = 1.0  # of a meter that is still used: common practice, no source


@dataclass(frozen=True, slots=True)
class PackLine:
    """One entry: its line, whose, of which pack (as named there) with which load, and what; `value` in V or A."""

    line: int
    group: str
    pack: str
    load: str
    kind: str
    position: int | None
    plates: tuple[str, str, str]
    text: str
    unit: str
    value: float | None
    resolution: float | None
    at: datetime | None
    counts: bool
    reason: str


def read_packs(text: str, most_rows: int) -> list[PackLine]:
    """Every entry of the table, in its order. Raises BadTableText with all faults by line; then nothing is taken."""
    rows = rows_of(text)
    try:
        _, heading = next(rows)
    except StopIteration:
        raise BadTableText("empty", say("The table is empty.")) from None
    at = {" ".join(name.casefold().split()): k for k, name in enumerate(heading)}
    missing = [name for name in NEEDED if name not in at]
    if missing:
        raise BadTableText(
            "columns", say("Columns that a table of packs needs are missing: {missing}.", missing=", ".join(missing))
        )
    out: list[PackLine] = []
    faults: list[tuple[int, str]] = []
    for line, fields in rows:
        if len(out) >= most_rows:
            raise BadTableText("too_long", say("A table of packs has {most_rows} lines at most.", most_rows=most_rows))
        row = {name: fields[k].strip() if k < len(fields) else "" for name, k in at.items()}
        try:
            out.append(_line(line, row))
        except (GalvanicError, ValueError) as error:
            faults.append((line, str(error)))
    if faults:
        raise BadTableText(
            "rows", say("{n_faults} lines cannot be read. Nothing was taken.", n_faults=len(faults)), faults[:MOST_FAULTS]
        )
    return out


def _line(line: int, row: Mapping[str, str]) -> PackLine:
    kind = row["what"]
    if kind not in KINDS:
        raise ValueError(say("“{kind}” is none of {kinds}.", kind=kind[:20], kinds=", ".join(sorted(KINDS))))
    if not row["group"] or not row["pack"]:
        raise ValueError(say("It names no group or no pack."))
    demand(load_of(row["load"]))
    position = int(row["cell of the row"]) if row["cell of the row"] else None
    if (kind in PLACED) != (position is not None) or position is not None and not 1 <= position <= MOST_POSITION:
        raise ValueError(say("A cell’s place in the row is a number from 1 to {most}.", most=MOST_POSITION))
    value, resolution, unit = _number(kind, row)
    when = datetime.fromisoformat(row["typed at"]) if row.get("typed at") else None
    if when is not None and when.tzinfo is None:
        raise ValueError(say("Its time has no time zone, for example 2026-11-05T10:20:00+00:00."))
    counts = row.get("counts", "yes").casefold() or "yes"
    if row.get("standing", "") in LEFT_OUT:  # it does not count, and nobody has corrected it
        counts = "yes"
    if counts not in ("yes", "no"):
        raise ValueError(say("“counts” is yes or no."))
    return PackLine(
        line, row["group"], row["pack"], row["load"], kind, position, _plates(kind, row), as_written(row["as typed"]), unit,
        value, resolution, when, counts == "yes", row.get("why corrected", ""),
    )  # fmt: skip


def _plates(kind: str, row: Mapping[str, str]) -> tuple[str, str, str]:
    if kind != "cell":
        return ("", "", "")
    negative, positive = (find(row[side], electrodes(), "electrode").key for side in ("negative", "positive"))
    return (negative, find(row["electrolyte"], electrolytes(), "electrolyte").key, positive)


def _number(kind: str, row: Mapping[str, str]) -> tuple[float | None, float | None, str]:
    if kind not in NUMBERS:
        return None, None, ""
    if kind in AMPERES:
        current = parse_current(row["as typed"], row["unit"] or "mA")
        return current.current_a, current.resolution_a, current.unit
    volts = parse(row["as typed"], row["unit"] or "V")
    # The value column has the meter's offset taken off; without it, what was typed is all there is.
    value = float(row["value, v or a"]) if row.get("value, v or a") else volts.volts_v
    if not abs(value - volts.volts_v) <= MOST_OFFSET_V:
        raise ValueError(
            say("“{typed}” and the value {value:g} V beside it do not belong together.", typed=row["as typed"], value=value)
        )
    return value, volts.resolution_v, volts.unit


def corrected_by(lines: Sequence[PackLine]) -> dict[int, int]:
    """Which line corrects which, by their places in `lines`: one with a reason corrects the latest before it of its pack,
    kind and place that does not count."""
    later: dict[int, int] = {}
    for k, one in enumerate(lines):
        if not one.reason:
            continue
        for earlier in range(k - 1, -1, -1):
            other = lines[earlier]
            same = (other.pack, other.kind, other.position) == (one.pack, one.kind, one.position)
            if same and not other.counts and earlier not in later.values():
                later[k] = earlier
                break
    return later
