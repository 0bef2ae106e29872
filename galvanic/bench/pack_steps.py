"""How a pack is built and tried, step by step, in words; and what of a group's entries counts."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from galvanic.bench.load_standing import PackRow, pack_standings, that_count
from galvanic.bench.pack_record import PackFinding, PackRecord
from galvanic.bench.standing import SOUND, Standing
from galvanic.chemistry.demand import Demand, demand, load_of
from galvanic.errors import GalvanicError
from galvanic.words import mark, say

Kind = Literal["cell", "alone", "sum", "load_v", "load_a", "under", "across", "seen", "note", "run_v", "run_a", "event"]
MOST_POSITION = 12
PLACED: frozenset[str] = frozenset({"cell", "alone", "sum", "under", "across"})  # kinds that belong to a cell of the row
NUMBERS: frozenset[str] = frozenset({"alone", "sum", "load_v", "load_a", "under", "across", "run_v", "run_a"})

SEEN_LAMP = ("dark", "glows in the dark", "glows by day", "bright")
SEEN_DEVICE = ("nothing", "sounds", "runs")
LIT = frozenset({"glows in the dark", "glows by day", "bright", "sounds", "runs"})

HOW: dict[str, str] = {
    "alone": mark("Black lead on its minus, red lead on its plus, nothing joined. Meter on DC volts."),
    "sum": (
        mark(
            "Wire from the plus of the cell before to the minus of this one. Black lead on the minus "
            "of cell 1, red lead on the "
            "plus of this cell. No wire and no clip touches a liquid; the cups do not touch."
        )
    ),
    "load": mark("The pack’s plus to the LED’s long leg (or the device’s plus), the minus of cell 1 to the other."),
    "load_v": mark("With the load on, red and black across it. Meter on DC volts."),
    "load_a": (
        mark(
            "Before: red lead into the mA socket, dial on DC mA. Open the loop at one place and put "
            "the meter into the gap: the "
            "current has to go through it. Afterwards: red lead back into V. Left in mA, the meter shorts the next cell."
        )
    ),
    "under": mark("With the load on, across each cell by itself: which one gives way?"),
}
CAUTIONS = (
    mark("Only cells built here. Never a bought battery, a supply or the mains on the same wires."),
    mark(
        "An LED or a device only within its volts; a pack never across the meter’s mA socket alone "
        "for longer than 3 seconds."
    ),
    mark("Packs under load make hydrogen: open cups, windows open, no flame. Dry hands. Your school’s rules come first."),
)


def record_of(load: str, rows: Iterable[PackRow]) -> PackRecord:
    """What a group has of its pack: of each thing the latest entry that counts. A load that is none counts as unknown."""
    latest: dict[tuple[str, int | None], PackRow] = {(row.kind, row.position): row for row in that_count(list(rows))}
    joined = max((place or 0 for kind, place in latest if kind in ("cell", "alone", "sum")), default=0)

    def number(kind: str, place: int | None = None) -> float | None:
        row = latest.get((kind, place))
        return None if row is None else row.value

    seen = latest.get(("seen", None))
    places = range(1, joined + 1)
    return PackRecord(
        alone_v=tuple(number("alone", k) for k in places),
        sums_v=tuple(number("sum", k) for k in places),
        load=known_load(load),
        load_v=number("load_v"),
        load_a=number("load_a"),
        under_v=tuple(number("under", k) for k in places),
        across_v=tuple(number("across", k) for k in places),
        lit=None if seen is None else seen.text in LIT,
    )


TITLES: dict[str, str] = {
    "tenth": mark("Is the decimal point in its place?"),
    "hundredth": mark("Is the decimal point in its place?"),
    "millivolts": mark("Millivolts, not volts?"),
    "too_high": mark("More than these cells can give"),
    "thousandth": mark("Is that the right unit?"),
    "reversed": mark("The meter’s leads the other way round?"),
}
TRIES: dict[str, tuple[str, ...]] = {
    "tenth": (mark("Look at the point on the display."), mark("Measure again.")),
    "hundredth": (mark("Look at the point on the display."), mark("Measure again.")),
    "millivolts": (mark("Look at the unit on the display."), mark("Measure again.")),
    "too_high": (mark("Is a battery or a supply in the row? Only cells built here belong there."), mark("Measure again.")),
    "thousandth": (
        mark("Look at the dial and the socket: was it milliamperes?"),
        mark("Is a battery or a supply in the row? Only cells built here belong there."),
    ),
    "reversed": (mark("Red towards the plus of the pack, black towards its minus."), mark("Measure again.")),
}


def odd_numbers(rows: Iterable[PackRow]) -> list[PackFinding]:
    """What is odd about numbers by themselves: of each thing the latest, points of a run left to their chart."""
    every = list(rows)
    latest: dict[tuple[str, int | None], Standing] = {
        (row.kind, row.position): verdict for row, verdict in zip(every, pack_standings(every), strict=True)
    }
    return [
        PackFinding(
            verdict.code,
            "likely",
            say(TITLES[verdict.code]),
            verdict.why,
            tuple(say(one) for one in TRIES[verdict.code]),
            at,
        )
        for (kind, at), verdict in latest.items()
        if verdict is not SOUND and not kind.startswith("run_")
    ]


@dataclass(frozen=True, slots=True)
class Step:
    """One joined cell: what it gives alone, all singles so far added up, what was measured of them together, and how much
    that is short, V; None where something was not measured."""

    cell: int
    alone_v: float | None
    singles_v: float | None
    sum_v: float | None
    short_v: float | None


def steps_of(record: PackRecord) -> list[Step]:
    """The cells in their order, each with the sum up to it."""
    out, singles = [], 0.0
    known = True
    for k, (alone, total) in enumerate(zip(record.alone_v, record.sums_v, strict=True), start=1):
        known = known and alone is not None
        singles += alone or 0.0
        added = singles if known else None
        out.append(Step(k, alone, added, total, None if added is None or total is None else added - total))
    return out


def known_load(load: str) -> Demand | None:
    """A load by key or ohms; None where it is none."""
    try:
        return demand(load_of(load))
    except GalvanicError:
        return None


def what_is_seen(load: Demand | None) -> tuple[str, ...]:
    """What a load can be seen to do, the least first; nothing to choose for a resistor."""
    if load is None or load.row is None:
        return ()
    return SEEN_LAMP if load.row.by_day_a is not None else SEEN_DEVICE


def too_much(load: Demand | None, open_v: float | None) -> str:
    """Why the load must not be joined to a pack of this open voltage; empty where it may."""
    if load is None or open_v is None or load.row is None or load.row.most_v is None or load.row.kind != "constant":
        return ""
    return load.harms(open_v, 0.0)
