"""The free practice bench: what any two plates give in a liquid, and what each change does to it, as a table.

A browser without network puts the table together: volts add what each change adds, currents take what each change makes of
them, and a load meets the cell's own curve as it sags (`transient`); a change that lets more current through moves along it.
One change at a time is the model's own; several together are put together from it, and that is said. Plate-to-plate scatter,
the scatter of a dip and the settling are those of the simulated bench and meter.

A pair takes a second, so all of them are made once and kept beside this file. After a change of the model:
`python -m galvanic.simulated.free_bench`; a test computes some of them again.
"""

from __future__ import annotations

import json
import math
from collections.abc import Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import asdict, dataclass
from functools import cache
from itertools import combinations
from pathlib import Path
from typing import Any

import numpy as np

from galvanic.cells import Cell
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import demand
from galvanic.chemistry.polarisation import LoadedCell
from galvanic.chemistry.shorted import short_circuit
from galvanic.chemistry.transient import Event, simulate
from galvanic.chemistry.varied import levels_of
from galvanic.condition import Condition
from galvanic.errors import UnknownMaterial
from galvanic.reference.catalogue import shipped_electrodes, shipped_electrolytes
from galvanic.simulated.drill_bench import FLAT_GAIN
from galvanic.simulated.stream import CellStream
from galvanic.words import mark, say

TABLES = Path(__file__).with_name("free_bench.json")
PLATES = ("magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper", "graphite")
LIQUIDS = ("lemon-juice", "vinegar", "rhubarb-juice", "kelp-brine", "sea-water")
OFFERED_OHM: Mapping[float, str] = {10_000.0: "10 kΩ", 1000.0: "1 kΩ", 100.0: "100 Ω", 0.0: mark("a wire: shorted")}
MOST_CELLS = 3
# What one cell of a row meets of a load that is offered; a limit is met suddenly, and is not to be read off between points.
MET_OHM = tuple(ohm / cells for ohm in OFFERED_OHM if ohm for cells in range(1, MOST_CELLS + 1))
LOADS_OHM = tuple(sorted({10.0, 200.0, 2000.0, 20_000.0, 50_000.0, *MET_OHM}))
SECONDS = (1.0, 1.5, 2.0, 3.0, 4.0, 5.0, 7.0, 10.0, 14.0, 20.0, 28.0, 40.0, 60.0, 120.0, 300.0)  # after a load was joined
RESTED_S = 120.0  # for which the plates were in before
PLATE_V, DIP_V = 0.03, 0.004  # standard deviations: common practice, no source


@dataclass(frozen=True, slots=True)
class Choice:
    """One thing that can be changed: its name, and what it can be, in order: a word, and the name of the change in a table,
    which is empty for what stands if nothing is changed."""

    name: str
    levels: Mapping[str, str]


CHANGES: Mapping[str, Condition] = {
    "1 cm apart": Condition("spacing", 1.0),
    "4 cm apart": Condition("spacing", 4.0),
    "8 cm apart": Condition("spacing", 8.0),
    "2 pairs of plates": Condition("pairs", 2.0),
    "3 pairs of plates": Condition("pairs", 3.0),
    "1 cm deep": Condition("depth", 1.0),
    "4 cm deep": Condition("depth", 4.0),
    "cold, 5 °C": Condition("temperature", 5.0),
    "warm, 40 °C": Condition("temperature", 40.0),
    "1 g of salt": Condition("salt", 1.0),
    "4 g of salt": Condition("salt", 4.0),
    "stirred": Condition("stirring", "stirred"),
    "skin scraped off": Condition("skin", "yes"),
}
CHOICES = (
    Choice(mark("Apart"), {"1 cm": "1 cm apart", "2 cm": "", "4 cm": "4 cm apart", "8 cm": "8 cm apart"}),
    Choice(mark("Pairs in the cup"), {"1": "", "2": "2 pairs of plates", "3": "3 pairs of plates"}),
    Choice(mark("Deep"), {"1 cm": "1 cm deep", "2 cm": "", "4 cm": "4 cm deep"}),
    Choice(mark("Warmth"), {"5 °C": "cold, 5 °C", "20 °C": "", "40 °C": "warm, 40 °C"}),
    Choice(mark("Salt stirred in"), {mark("none"): "", "1 g": "1 g of salt", "4 g": "4 g of salt"}),
    Choice(mark("The liquid"), {mark("still"): "", mark("stirred"): "stirred"}),
    Choice(mark("The plates"), {mark("as they come"): "", mark("scraped"): "skin scraped off"}),
)


@dataclass(frozen=True, slots=True)
class Change:
    """What a change does: adds to the open volts, and makes of the short-circuit current (a factor)."""

    name: str
    adds_v: float
    times: float


@dataclass(frozen=True, slots=True)
class PairTable:
    """A pair in a liquid: open volts (positive less negative, as they are in this liquid), current when shorted in A so many
    `SECONDS` later, what part of the open volts is left then across each of `LOADS_OHM`, and what each change does."""

    negative: str
    electrolyte: str
    positive: str
    volts_v: float
    shorted_a: tuple[float, ...]
    left: tuple[tuple[float, ...], ...]
    changes: tuple[Change, ...]


@dataclass(frozen=True, slots=True)
class MeterRange:
    """A place of the dial: the step of the last digit, or what is read off a scale, in V, and how many volts at most."""

    name: str
    step_v: float
    most_v: float


@dataclass(frozen=True, slots=True)
class MeterKind:
    """A kind of meter: its ranges, the usual one first, what it shows beyond one, and what it makes of volts when its
    battery is flat (1: it needs none to read volts)."""

    key: str
    name: str
    ranges: tuple[MeterRange, ...]
    beyond: str
    flat_times: float


METERS = (  # ranges as cheap meters have them: common practice, no source
    MeterKind(
        "fine",
        mark("fine digital"),
        (MeterRange("2 V", 0.001, 2.0), MeterRange("20 V", 0.01, 20.0), MeterRange("200 mV", 0.0001, 0.2)),
        "OL",
        FLAT_GAIN,
    ),
    MeterKind(
        "coarse", mark("coarse digital"), (MeterRange("20 V", 0.01, 20.0), MeterRange("200 V", 0.1, 200.0)), "OL", FLAT_GAIN
    ),
    MeterKind(
        "needle",
        mark("needle"),
        (MeterRange("3 V", 0.05, 3.0), MeterRange("15 V", 0.25, 15.0), MeterRange("0.3 V", 0.005, 0.3)),
        mark("at the stop"),
        1.0,
    ),
)


def liquids() -> tuple[str, ...]:
    """Liquids that can be practised in, those of the list that there are."""
    return tuple(key for key in LIQUIDS if key in shipped_electrolytes())


def plates() -> tuple[str, ...]:
    """Plates that can be practised with."""
    return tuple(key for key in PLATES if key in shipped_electrodes())


@cache  # a second each
def pair_table(electrolyte: str, one: str, other: str) -> PairTable:
    """The table of a pair, whichever way round it is named. Raises UnknownMaterial for what is not in the lists."""
    if electrolyte not in liquids() or one == other or {one, other} - set(plates()):
        raise UnknownMaterial(say("That pair cannot be practised with."), value=f"{one}, {electrolyte}, {other}"[:60])
    cell = Cell.of(one, electrolyte, other)
    loaded = LoadedCell.of(cell)
    low_v, high_v = loaded.rest()
    if high_v < low_v:
        cell = Cell(cell.positive, cell.electrolyte, cell.negative)  # as it is in this liquid, not in the table
    volts = abs(high_v - low_v)
    short = short_circuit(loaded)
    changes = []
    for name, condition in CHANGES.items():
        (level,) = levels_of(Cell.of(one, electrolyte, other), [condition])
        now = level.open_v if high_v >= low_v else -level.open_v
        times = 1.0 if level.short_a is None or short.first_a <= 0.0 else level.short_a / short.first_a
        changes.append(Change(name, now - volts, times))
    left = tuple(_joined(cell, Event(RESTED_S, "load", demand(ohm)))[0] for ohm in LOADS_OHM)
    shorted = _joined(cell, Event(RESTED_S, "short"))[1]
    return PairTable(cell.negative, electrolyte, cell.positive, volts, shorted, left, tuple(changes))


def _joined(cell: Cell, event: Event) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """What part of the open volts is left at each of `SECONDS` after something was joined, and the current then, A."""
    trace = simulate([PackCell(cell)], [event], RESTED_S + SECONDS[-1] + 1.0)
    volts, amps = trace.at(RESTED_S + np.array(SECONDS))
    (open_v,), _ = trace.at(np.array([RESTED_S]))
    return tuple(round(float(v), 3) for v in volts / open_v), tuple(float(a) for a in np.abs(amps))


@cache
def pair_tables() -> tuple[PairTable, ...]:
    """All pairs in all liquids, as they are kept."""
    return tuple(
        PairTable(
            **row
            | {
                "shorted_a": tuple(row["shorted_a"]),
                "left": tuple(map(tuple, row["left"])),
                "changes": tuple(Change(**one) for one in row["changes"]),
            }
        )
        for row in json.loads(TABLES.read_text(encoding="utf-8"))
    )


def as_kept() -> str:
    """All pairs in all liquids computed again, as they are to be kept: JSON, four digits, a pair on a line."""
    pairs = [(liquid, *pair) for liquid in liquids() for pair in combinations(plates(), 2)]
    with ProcessPoolExecutor() as pool:
        rows = map(asdict, pool.map(pair_table, *zip(*pairs, strict=True), chunksize=4))
        lines = [json.dumps(_rounded(row), separators=(",", ":")) for row in rows]
    return "[\n" + ",\n".join(lines) + "\n]\n"


def _rounded(what: Any) -> Any:
    if isinstance(what, float):
        return float(f"{what:.4g}")
    if isinstance(what, dict):
        return {key: _rounded(value) for key, value in what.items()}
    return [_rounded(value) for value in what] if isinstance(what, list | tuple) else what


@dataclass(frozen=True, slots=True)
class Settling:
    """How a number comes to rest after a dip: the part of it at once, and the time constant in s; scatter of a sample, V."""

    begin: float
    settle_s: float
    noise_v: float


def settling() -> Settling:
    """As the simulated meter settles."""
    stream = CellStream(1.0)
    return Settling(stream.begin, stream.settle_s, stream.noise_v)


def shown_v(
    table: PairTable, changes: tuple[str, ...], cells: int, load_ohm: float | None, seconds: float = SECONDS[-1]
) -> float:
    """What a meter across so many cells in a row settles at, V, so many seconds after a load was joined: the arithmetic that
    a browser does, for its tests."""
    by_name = {change.name: change for change in table.changes}
    volts = table.volts_v + sum(by_name[name].adds_v for name in changes)
    if load_ohm is None:
        return cells * volts
    if load_ohm == 0.0:
        return 0.0
    lets = math.prod(by_name[name].times for name in changes)
    return cells * volts * part_left(table, load_ohm * lets / cells, seconds)


def part_left(table: PairTable, ohm: float, seconds: float) -> float:
    """What part of the open volts is left across a resistance so long after it was joined: between the points of resistance
    and time by their logarithms; below the least resistance in proportion to it, beyond the other ends as there."""
    left = [between(SECONDS, row, seconds) for row in table.left]
    return left[0] * ohm / LOADS_OHM[0] if ohm <= LOADS_OHM[0] else between(LOADS_OHM, left, ohm)


def between(points: Sequence[float], values: Sequence[float], at: float) -> float:
    """A value between points, by their logarithm; beyond the ends as there."""
    return float(np.interp(math.log(at), np.log(points), values)) if at > points[0] else values[0]


if __name__ == "__main__":
    TABLES.write_text(as_kept(), encoding="utf-8")
