"""How numbers of packs, loads and runs stand: the verdicts of `standing`, for volts of several cells and for currents.

A voltage is *impossible* where it is more than these cells can give together; a current where it is more than `TIMES` the
model's short circuit of the strongest of them (plates differ in size by ten, cells built alike by two or three) or than any
bench cell gives. Below zero a voltage of a loaded pack is *turned*; a current's size counts, and its sign is asked about.
A number that was corrected to itself has been looked at, and counts. Limits are common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from galvanic.bench.checks import MILLIVOLTS_V, MOST_CELL_V, NEAR_ZERO_V
from galvanic.bench.class_reference import Reference
from galvanic.bench.loading import MOST_CELL_A
from galvanic.bench.standing import SOUND, THOUSAND, Stand, Standing
from galvanic.cells import Cell
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.expected import strength
from galvanic.notes import amps, volts
from galvanic.reference.catalogue import kept
from galvanic.words import say

TIMES, LEAST_A = 20.0, 10e-3  # a current is asked about beyond so many short circuits of the model, and above this, A
LEAST_CURRENT_A = 1e-6
NEAR_USUAL = 0.3  # of what is usual: a number with its point put right comes so near
VOLTS, AMPERES = frozenset({"alone", "sum", "load_v", "under", "across", "run_v"}), frozenset({"load_a", "run_a"})
BESIDE_OTHERS = frozenset({"under", "across"})
OF_ALL = frozenset({"load_v", "run_v"})  # volts of the whole pack with its load on


@dataclass(frozen=True, slots=True)
class PackRow:
    """One entry of a pack that was not corrected, oldest first: its kind, its cell, and the number or the words.

    `cell`: its plates, of an entry of the kind `cell`; `decided`: somebody has looked at the number and it is so.
    """

    kind: str
    position: int | None
    value: float | None
    text: str
    cell: Cell | None = None
    decided: bool = False


@dataclass(frozen=True, slots=True)
class Usual:
    """What is usual of cells in a row, V, as far as the account knows it, and more than they can give."""

    volts_v: float
    ceiling_v: float


@kept(512)
def usual(cell: Cell) -> Usual:
    """What the account expects of one cell, whichever plate is called negative."""
    found = Reference(sorted(cell.pair), [cell.electrolyte], [], "").of(cell)
    return Usual(abs(found.volts_v), found.ceiling_v)


def usual_row(cells: Iterable[Cell | None]) -> Usual:
    """The same of cells in a row; a cell that nobody named could be any."""
    each = [ANY if cell is None else usual(cell) for cell in cells]
    return Usual(sum(one.volts_v for one in each), sum(one.ceiling_v for one in each))


@kept(512)
def most_a(cell: Cell) -> float:
    """More than a cell can drive through a wire, A."""
    return min(max(TIMES * strength(PackCell(cell)).short_a, LEAST_A), MOST_CELL_A)


ANY = Usual(0.0, MOST_CELL_V)


def shown(value: float) -> str:
    """A number that cannot be, with the digits it may have had."""
    return volts(value, 0 if abs(value - round(value)) < 1e-9 else 2)


def volts_standing(value: float, row: Usual, whole: bool = False) -> Standing:
    """The verdict on a voltage of cells in a row; `whole`: of a pack with its load on."""
    ceiling_v = row.ceiling_v
    if abs(value) > ceiling_v:
        for code, part in (("tenth", value / 10.0), ("hundredth", value / 100.0)):
            if abs(abs(part) - row.volts_v) <= NEAR_USUAL * row.volts_v:
                why = say("{v} would be {comma} with the decimal point in its place.", v=shown(value), comma=volts(part))
                return Standing(Stand.IMPOSSIBLE, code, why, part)
        milli = value / THOUSAND
        if abs(value) >= MILLIVOLTS_V and NEAR_ZERO_V / 2.0 < abs(milli) <= ceiling_v:
            why = say(
                "{v} is a thousand times too much: were it millivolts, it would be {milli}.",
                v=volts(value, 0),
                milli=volts(milli),
            )
            return Standing(Stand.IMPOSSIBLE, "millivolts", why, milli)
        why = say("{v} is more than these cells can give (about {ceiling}).", v=shown(value), ceiling=volts(ceiling_v, 1))
        return Standing(Stand.IMPOSSIBLE, "too_high", why)
    if whole and value < -NEAR_ZERO_V:
        why = say("{v} across a load: the meter’s leads were swapped, most likely.", v=volts(value))
        return Standing(Stand.TURNED, "reversed", why, -value)
    return SOUND


def current_standing(value: float, ceiling_a: float) -> Standing:
    """The verdict on a current, A, of cells whose short circuit is at most `ceiling_a`."""
    if abs(value) > ceiling_a:
        part = value / THOUSAND
        why = say("{a} is more than these cells can drive; a thousandth of it is {part}.", a=amps(value), part=amps(part))
        return Standing(Stand.IMPOSSIBLE, "thousandth", why, part)
    if value < -LEAST_CURRENT_A:
        why = say("{a} is below zero: the meter’s two leads are the other way round. The size counts.", a=amps(value))
        return Standing(Stand.DOUBTFUL, "reversed", why, -value)
    return SOUND


def under_load_standing(cell: Cell, kind: str, value: float) -> Standing:
    """The verdict on one cell's measurement under a load: `short`, A, or `load`, V across a resistor."""
    if kind == "short":
        return current_standing(value, most_a(cell))
    return volts_standing(value, usual(cell))


def pack_standings(rows: Sequence[PackRow]) -> list[Standing]:
    """The verdict on each entry of a pack; what is no number, or was decided, is sound."""
    cells = {row.position: row.cell for row in rows if row.kind == "cell" and row.cell is not None}
    return [SOUND if row.decided or row.value is None else _of(row, row.value, cells) for row in rows]


def that_count(rows: Sequence[PackRow]) -> list[PackRow]:
    """The entries of a pack that count; of a current its size."""
    out = []
    for row, verdict in zip(rows, pack_standings(rows), strict=True):
        if verdict.counts:
            sized = row.kind in AMPERES and row.value is not None
            out.append(replace(row, value=abs(row.value)) if sized and row.value is not None else row)
    return out


def row_most_a(cells: Iterable[Cell | None]) -> float:
    """More than cells in a row can drive, A: no more than the strongest."""
    return max((MOST_CELL_A if cell is None else most_a(cell) for cell in cells), default=MOST_CELL_A)


def _of(row: PackRow, value: float, cells: Mapping[int | None, Cell]) -> Standing:
    whole: list[Cell | None] = list(cells.values()) or [None]
    if row.kind in AMPERES:
        return current_standing(value, row_most_a(whole))
    if row.kind not in VOLTS:
        return SOUND
    if row.kind in OF_ALL:
        return volts_standing(value, usual_row(whole), whole=True)
    if row.kind == "sum":
        return volts_standing(value, usual_row([cells.get(k) for k in range(1, (row.position or 1) + 1)]))
    # With the others joined these can drive a cell backwards, by all they have.
    return volts_standing(value, usual_row(whole if row.kind in BESIDE_OTHERS else [cells.get(row.position)]))
