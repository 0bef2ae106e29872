"""What can be expected of a pack: the meeting point with its spread, how likely the load runs, what one change would do.

Draws come from the ranges of the model (or from what the class has measured), from what cells built alike differ in, and
from what parts and people differ in; the seed is fixed. Between DOUBTFUL's two ends nobody should promise anything.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from galvanic.chemistry.circuit import MOST_CELLS, Curves, Meeting, Pack, in_a_row
from galvanic.chemistry.curves import SEED, PackCell
from galvanic.chemistry.demand import Diode, demand
from galvanic.chemistry.polarisation import FIRST_S, Geometry
from galvanic.reference.catalogue import kept
from galvanic.words import say

Verdict = Literal["runs", "doubtful", "no"]
DRAWS = 160
DOUBTFUL = (0.2, 0.8)
LOW, HIGH = 2.5, 97.5  # per cent
MOST_IN_SEARCH, MOST_PAIRS, MOST_ROWS = 12, 4, 3
LEAST_SPAN_V = 0.05  # a pack with less is drawn this far
NOTHING_A = 1e-6  # below this no current is spoken of
NEAR = 0.6  # where the middle has less, four of five draws never run
HOLDS = 1.25  # a change that gives so many times the current is worth naming


@dataclass(frozen=True, slots=True)
class Spread:
    """A quantity to be expected: its middle and the ends of 95 %."""

    middle: float
    low: float
    high: float


@dataclass(frozen=True)
class Expected:
    """A pack with a load, as it can be expected: the meeting point of the middle, its spread, and the verdict.

    `runs` is the share of draws in which the load runs; `level` what the middle shows; `harm` why it must not be joined.
    """

    meeting: Meeting
    open_v: Spread
    volts_v: Spread
    current_a: Spread
    runs: float
    verdict: Verdict
    level: str
    harm: str
    measured: bool


@dataclass(frozen=True, slots=True)
class Option:
    """One change of a pack, in words, with how many times the current it gives and how likely the load runs then."""

    key: str
    words: str
    times: float
    runs: float


@dataclass(frozen=True, slots=True)
class Smallest:
    """The smallest pack that runs a load: cells in all, in rows side by side, pairs of plates in each cup."""

    cells: int
    rows: int
    pairs: int
    expected: Expected
    pack: Pack


def _spread(values: np.ndarray) -> Spread:
    low, middle, high = np.percentile(values, [LOW, 50.0, HIGH])
    return Spread(float(middle), float(low), float(high))


@kept(256)
def expect(pack: Pack, load: str | float, after_s: float = FIRST_S) -> Expected:
    """The pack into a load (key, or Ω), so long after it was joined. Raises UnknownMaterial, OutOfRange."""
    asked = demand(load)
    meeting = Curves.of(pack, after_s).meet(asked)
    rng = np.random.default_rng(SEED)
    many = demand(load, rng, DRAWS)
    curves = Curves.of(pack, after_s, DRAWS, rng)
    open_v, volts_v = curves.crossing_v(None), curves.crossing_v(many)
    current_a = curves.rows_current_a(volts_v).sum(axis=0)
    runs = float(many.runs(volts_v, current_a).mean())
    harm = asked.harms(meeting.volts_v, meeting.current_a)
    return Expected(
        meeting,
        _spread(open_v),
        _spread(volts_v),
        _spread(current_a),
        runs,
        verdict_of(0.0 if harm else runs),
        asked.level(meeting.volts_v, meeting.current_a),
        harm,
        any(cell.anchor.volts_measured or cell.anchor.load_measured for cell in pack.cells),
    )


def verdict_of(runs: float) -> Verdict:
    """In a word what a probability promises."""
    return "no" if runs < DOUBTFUL[0] else "runs" if runs > DOUBTFUL[1] else "doubtful"


def smallest(cell: PackCell, load: str | float, after_s: float = FIRST_S) -> Smallest | None:
    """The pack of fewest cells of one kind, then fewest plates, that runs the load; None where none that is tried does."""
    for cells in range(1, MOST_IN_SEARCH + 1):
        for pairs in range(1, MOST_PAIRS + 1):
            built = replace(cell, geometry=replace(cell.geometry, pairs=pairs))
            for rows in range(1, MOST_ROWS + 1):
                if cells % rows:
                    continue
                pack = in_a_row([built] * (cells // rows), rows)
                if not _worth(pack, load, after_s):
                    continue
                expected = expect(pack, load, after_s)
                if expected.verdict == "runs":
                    return Smallest(cells, rows, pairs, expected, pack)
    return None


def _worth(pack: Pack, load: str | float, after_s: float) -> bool:
    """Whether the middle comes near enough to try the draws: to NEAR of the current that is seen, or of its volts."""
    asked = demand(load)
    met = Curves.of(pack, after_s).meet(asked)
    if asked.row is None:
        return True
    if isinstance(asked.takes, Diode):
        return met.current_a > NEAR * float(asked.seen_a[0, 0])
    return met.volts_v > NEAR * asked.row.voltage_v.low


def options(pack: Pack, load: str | float, after_s: float = FIRST_S) -> list[Option]:
    """What one change would do, each by itself; the one that gives most first."""
    asked = demand(load)
    now = Curves.of(pack, after_s).meet(asked).current_a
    out = []
    for key, words, other in _changes(pack):
        then = Curves.of(other, after_s).meet(asked).current_a
        times = then / now if now > NOTHING_A else math.inf if then > NOTHING_A else 1.0
        out.append(Option(key, words, times, expect(other, load, after_s).runs))
    return sorted(out, key=lambda one: -one.times)


def _changes(pack: Pack) -> Iterator[tuple[str, str, Pack]]:
    last = pack.rows[0][-1]
    sound = PackCell(last.cell, last.geometry, last.anchor)
    yield "cell", say("one more cell in the row"), Pack(tuple((*row, sound) for row in pack.rows))
    yield "row", say("a second row like it, side by side"), Pack((*pack.rows, pack.rows[0]))
    yield "area", say("twice the plate in the liquid"), _each(pack, lambda g: replace(g, area_m2=2.0 * g.area_m2))
    yield "pairs", say("another pair of plates in every cup"), _each(pack, lambda g: replace(g, pairs=g.pairs + 1))
    yield "gap", say("plates half as far apart"), _each(pack, lambda g: replace(g, gap_m=0.5 * g.gap_m))


def _each(pack: Pack, change: Callable[[Geometry], Geometry]) -> Pack:
    return Pack(tuple(tuple(replace(cell, geometry=change(cell.geometry)) for cell in row) for row in pack.rows))


def what_holds_back(pack: Pack, load: str | float, after_s: float = FIRST_S) -> str:
    """Volts, current, one cell, or nothing: what keeps the pack from doing more, in that order of looking."""
    expected = expect(pack, load, after_s)
    asked = demand(load)
    least_v = 0.0 if asked.row is None else asked.row.voltage_v.low
    shares = expected.meeting.cells
    if len(shares) > 1 and (odd := weakest(expected.meeting)) is not None:
        return say("cell {odd}", odd=odd + 1)
    if expected.meeting.open_v < least_v:
        return "volts"
    if expected.verdict == "runs":
        return "nothing"
    return "current" if isinstance(asked.takes, Diode) or expected.meeting.volts_v < least_v else "nothing"


def weakest(met: Meeting) -> int | None:
    """Which cell falls far behind the others under load, if one does: by half of their middle voltage, or turned."""
    volts = np.array([cell.volts_v for cell in met.cells])
    middle = float(np.median(volts))
    odd = int(volts.argmin())
    return odd if middle > 0.0 and volts[odd] < 0.5 * middle else None


@dataclass(frozen=True, slots=True)
class Offer:
    """What a pack gives at a voltage across it, A, with the ends of 95 %, and what the load takes there."""

    volts_v: float
    gives_a: float
    low_a: float
    high_a: float
    takes_a: float


@kept(128)
def offer(pack: Pack, load: str | float, points: int) -> tuple[Offer, ...]:
    """The pack's curve and the load's, at so many voltages from a short circuit to nothing joined."""
    middle, rng = Curves.of(pack), np.random.default_rng(SEED)
    many = Curves.of(pack, draws=DRAWS, rng=rng)
    at = np.linspace(0.0, max(float(middle.crossing_v(None)[0, 0]), LEAST_SPAN_V), points)
    gives = middle.rows_current_a(at[None, :]).sum(axis=0)[0]
    drawn = many.rows_current_a(np.broadcast_to(at, (DRAWS, points))).sum(axis=0)
    low, high = np.percentile(drawn, [LOW, HIGH], axis=0)
    takes = np.broadcast_to(demand(load).takes.current_a(at[None, :]), (1, points))[0]
    return tuple(Offer(*map(float, row)) for row in zip(at, gives, low, high, takes, strict=True))


def how_many(pack: Pack, load: str | float, most: int) -> list[Expected]:
    """Packs of as many rows with one, two, … `most` of the first cell in each, so long as MOST_CELLS allows."""
    first, rows = pack.rows[0][0], len(pack.rows)
    return [expect(in_a_row([first] * n, rows), load) for n in range(1, most + 1) if n * rows <= MOST_CELLS]


@dataclass(frozen=True, slots=True)
class Strength:
    """What one cell can do: open voltage in V, short-circuit current in A, and its largest power in W with the resistor, Ω,
    that takes it. In the first seconds."""

    open_v: float
    short_a: float
    power_w: float
    at_ohm: float


def strength(cell: PackCell, after_s: float = FIRST_S) -> Strength:
    """The cell by itself at every load: the same pair may lead in volts and not in current or power."""
    curves = Curves.of(in_a_row([cell]), after_s)
    volts, amps = curves.rows_v[0][0], curves.grid_a
    inside = (amps > 0.0) & (volts > 0.0)
    open_v = float(curves.crossing_v(None)[0, 0])
    if not inside.any():
        return Strength(open_v, 0.0, 0.0, float("inf"))
    power = volts[inside] * amps[inside]
    best = int(power.argmax())
    short = float(np.interp(0.0, -volts, amps))
    return Strength(open_v, short, float(power[best]), float(volts[inside][best] / amps[inside][best]))
