"""The free practice bench: what any two plates give in a liquid, and what each change does to it, as a table.

A browser without network puts the table together: volts add what each change adds, currents take what each change makes of
them, and a load meets the cell's own curve, which a change that lets more current through moves along. One change at a time
is the model's own; several together are put together from it, and that is said. Plate-to-plate scatter, the scatter of a dip
and the settling are those of the simulated bench and meter.

A pair takes a third of a second, so all of them are made once and kept beside this file. After a change of the model:
`python -m galvanic.simulated.free_bench`; a test computes some of them again.
"""

from __future__ import annotations

import json
import math
from collections.abc import Mapping
from dataclasses import asdict, dataclass
from functools import cache
from itertools import combinations, pairwise
from pathlib import Path
from typing import Any

from galvanic.cells import Cell
from galvanic.chemistry.polarisation import LoadedCell
from galvanic.chemistry.varied import levels_of
from galvanic.condition import Condition
from galvanic.errors import UnknownMaterial
from galvanic.reference.catalogue import shipped_electrodes, shipped_electrolytes
from galvanic.simulated.stream import CellStream

TABLES = Path(__file__).with_name("free_bench.json")
PLATES = ("magnesium", "aluminium", "zinc", "steel", "nickel", "tin", "copper", "graphite")
LIQUIDS = ("lemon-juice", "vinegar", "rhubarb-juice", "kelp-brine", "sea-water")
LOADS_OHM = (10.0, 30.0, 100.0, 300.0, 700.0, 1500.0, 3000.0, 6000.0, 12_000.0, 25_000.0, 50_000.0, 100_000.0)
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
    Choice("Apart", {"1 cm": "1 cm apart", "2 cm": "", "4 cm": "4 cm apart", "8 cm": "8 cm apart"}),
    Choice("Deep", {"1 cm": "1 cm deep", "2 cm": "", "4 cm": "4 cm deep"}),
    Choice("Warmth", {"5 °C": "cold, 5 °C", "20 °C": "", "40 °C": "warm, 40 °C"}),
    Choice("Salt stirred in", {"none": "", "1 g": "1 g of salt", "4 g": "4 g of salt"}),
    Choice("The liquid", {"still": "", "stirred": "stirred"}),
    Choice("The plates", {"as they come": "", "scraped": "skin scraped off"}),
)


@dataclass(frozen=True, slots=True)
class Change:
    """What a change does: adds to the open volts, and makes of the short-circuit current (a factor)."""

    name: str
    adds_v: float
    times: float


@dataclass(frozen=True, slots=True)
class PairTable:
    """A pair in a liquid: open volts (positive less negative, as they are in this liquid), current when shorted in A in the
    first seconds and after a minute, what part of the open volts is left across each of `LOADS_OHM`, and what each change
    does."""

    negative: str
    electrolyte: str
    positive: str
    volts_v: float
    short_a: float
    minute_a: float
    left: tuple[float, ...]
    changes: tuple[Change, ...]


@dataclass(frozen=True, slots=True)
class MeterKind:
    """A kind of meter: the step of its last digit in V, and how many volts it reads at most."""

    key: str
    name: str
    step_v: float
    most_v: float


METERS = (
    MeterKind("fine", "fine digital, 1 mV", 0.001, 20.0),
    MeterKind("coarse", "coarse digital, 10 mV", 0.01, 20.0),
    MeterKind("needle", "needle, 3 V", 0.05, 3.0),
)


def liquids() -> tuple[str, ...]:
    """Liquids that can be practised in, those of the list that there are."""
    return tuple(key for key in LIQUIDS if key in shipped_electrolytes())


def plates() -> tuple[str, ...]:
    """Plates that can be practised with."""
    return tuple(key for key in PLATES if key in shipped_electrodes())


def pair_table(electrolyte: str, one: str, other: str) -> PairTable:
    """The table of a pair, whichever way round it is named. Raises UnknownMaterial for what is not in the lists."""
    if electrolyte not in liquids() or one == other or {one, other} - set(plates()):
        raise UnknownMaterial("That pair cannot be practised with.", value=f"{one}, {electrolyte}, {other}"[:60])
    cell = Cell.of(one, electrolyte, other)
    loaded = LoadedCell.of(cell)
    low_v, high_v = loaded.rest()
    if high_v < low_v:
        cell = Cell(cell.positive, cell.electrolyte, cell.negative)  # as it is in this liquid, not in the table
    volts = abs(high_v - low_v)
    short = loaded.short_circuit()
    changes = []
    for name, condition in CHANGES.items():
        (level,) = levels_of(Cell.of(one, electrolyte, other), [condition])
        now = level.open_v if high_v >= low_v else -level.open_v
        times = 1.0 if level.short_a is None or short.first_a <= 0.0 else level.short_a / short.first_a
        changes.append(Change(name, now - volts, times))
    left = tuple(abs(loaded.at_load(ohm).volts_v) / volts for ohm in LOADS_OHM)
    return PairTable(cell.negative, electrolyte, cell.positive, volts, short.first_a, short.minute_a, left, tuple(changes))


@cache
def pair_tables() -> tuple[PairTable, ...]:
    """All pairs in all liquids, as they are kept."""
    return tuple(
        PairTable(**row | {"left": tuple(row["left"]), "changes": tuple(Change(**one) for one in row["changes"])})
        for row in json.loads(TABLES.read_text(encoding="utf-8"))
    )


def as_kept() -> str:
    """All pairs in all liquids computed again, as they are to be kept: JSON, five digits, a pair on a line."""
    rows = [asdict(pair_table(liquid, *pair)) for liquid in liquids() for pair in combinations(plates(), 2)]
    lines = (json.dumps(_rounded(row), separators=(",", ":")) for row in rows)
    return "[\n" + ",\n".join(lines) + "\n]\n"


def _rounded(what: Any) -> Any:
    if isinstance(what, float):
        return float(f"{what:.5g}")
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


def shown_v(table: PairTable, changes: tuple[str, ...], cells: int, load_ohm: float | None) -> float:
    """What a meter across so many cells in a row settles at, V: the arithmetic that a browser does, for its tests."""
    by_name = {change.name: change for change in table.changes}
    volts = table.volts_v + sum(by_name[name].adds_v for name in changes)
    if load_ohm is None:
        return cells * volts
    if load_ohm == 0.0:
        return 0.0
    lets = math.prod(by_name[name].times for name in changes)
    return cells * volts * part_left(table, load_ohm * lets / cells)


def part_left(table: PairTable, ohm: float) -> float:
    """What part of the open volts is left across a resistance: between the curve's points by their logarithm, beyond its
    ends in proportion to the resistance, and whole."""
    if ohm <= LOADS_OHM[0]:
        return table.left[0] * ohm / LOADS_OHM[0]
    for (low, high), (at_low, at_high) in zip(pairwise(LOADS_OHM), pairwise(table.left), strict=True):
        if ohm <= high:
            share = math.log(ohm / low) / math.log(high / low)
            return at_low + share * (at_high - at_low)
    return table.left[-1]


if __name__ == "__main__":
    TABLES.write_text(as_kept(), encoding="utf-8")
