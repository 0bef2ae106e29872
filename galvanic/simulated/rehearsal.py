"""A whole simulated class at its benches, entry by entry: for rehearsing a lab, and for judging the checks.

The class's plates deviate from the rest account, a group's plates from the class's, every dip from the one before, every
meter by its offset; some cells go wrong in one of the ways of `faults`. Seeded: the same seed gives the same class.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from galvanic.cells import Cell
from galvanic.planning.tell_apart import plate_potentials
from galvanic.simulated.faults import SHOWN, Typed, sound
from galvanic.simulated.simulate import Meter

READINGS = 3
LEAST_FAULT_V = 0.25  # where there is less voltage, a fault changes so little that no number can tell


@dataclass(frozen=True, slots=True)
class Spread:
    """Standard deviations in V: class from account (by plate and liquid where `plates_v` says so), group from class, dip,
    meter's offset; and the share of faulty cells."""

    class_v: float = 0.06
    plate_v: float = 0.012
    dip_v: float = 0.004
    offset_v: float = 0.004
    faulty: float = 0.12
    plates_v: Mapping[tuple[str, str], float] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Entry:
    """One reading as a group types it: whose, of which cell (by place), which of its readings, and any fault in it."""

    group: int
    place: int
    cell: Cell
    nth: int
    kind: str
    typed: Typed


def simulated_class(hands: Sequence[Sequence[Cell]], seed: int, spread: Spread | None = None) -> Iterator[Entry]:
    """All entries of a class in the order of places, every group's first cell before anybody's second."""
    s = spread or Spread()
    rng = np.random.default_rng([2026, seed])
    cells = [cell for hand in hands for cell in hand]
    plates = tuple(sorted({plate for cell in cells for plate in cell.pair}))
    liquids = tuple(sorted({cell.electrolyte for cell in cells}))
    account = plate_potentials(plates, liquids)
    true = {
        (p, q): (account[q][p] or 0.0) + rng.normal(0.0, s.plates_v.get((p, q), s.class_v)) for p in plates for q in liquids
    }
    own = {(g, p): rng.normal(0.0, s.plate_v) for g in range(len(hands)) for p in plates}
    meters = [Meter(float(rng.normal(0.0, s.offset_v)), int(rng.choice([2, 3]))) for _ in hands]
    for place in range(max((len(hand) for hand in hands), default=0)):
        for g, hand in enumerate(hands):
            if place >= len(hand):
                continue
            cell = hand[place]
            high, low = (true[p, cell.electrolyte] + own[g, p] for p in (cell.positive, cell.negative))
            kind = str(rng.choice(list(SHOWN))) if rng.random() < s.faulty and abs(high - low) > LEAST_FAULT_V else ""
            for nth in range(READINGS):
                volts_v = float(high - low + rng.normal(0.0, s.dip_v))
                typed = SHOWN[kind] if kind else sound
                yield Entry(g, place, cell, nth, kind, typed(volts_v, nth, rng, meters[g]))
