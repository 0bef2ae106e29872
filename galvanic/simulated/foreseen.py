"""What a class will be able to say at the end of a plan, before anything is measured.

Many classes of the plan: plates stand where the rest-potential model puts them, as far off as it may be; groups work at
their own pace; the usual mistakes happen at the rates of benches (`slips.py`), and what they spoil does not count. In each
class the ladder's covariance is that of generalised least squares with the variances classes usually have, so the share of
classes that can say a thing is known without drawing every reading: with a true distance d and a standard uncertainty u, an
interval of half-width t·u excludes nought on the right side with the probability Φ(|d|/u − t). `bench/foreseen.py` lays the
stated shares beside classes that are simulated reading by reading and go through the whole of Compare.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from galvanic.cells import Cell
from galvanic.chemistry.accounts import plate_u_v
from galvanic.chemistry.hypotheses import made_of, usual_spread_v2
from galvanic.planning.decide import decided
from galvanic.planning.schedule import Steps
from galvanic.planning.tell_apart import plate_potentials
from galvanic.reference.catalogue import electrodes, electrolytes, kept
from galvanic.simulated.slips import usual_slips
from galvanic.statistics.class_ladder import FREEDOM, LEAST_V2
from galvanic.statistics.repeats import coverage

Array = NDArray[np.float64]
Whole = NDArray[np.int_]
Flags = NDArray[np.bool_]
CLASSES, SEED = 800, 0
NODES = np.linspace(-4.0, 4.0, 65)  # of a plate's true place, in its standard deviations
PACE = 0.2  # how groups differ in the logarithm of their minutes for a cell: common practice, no source
TWO_SOLUTIONS_U_V = 0.02  # of a plate in its own salt: common practice, no source
UNCONNECTED = 1e-4  # V⁻²: plates that nothing connects are a hundred volts apart, as far as is known
GROUPS_THERE, CELLS_OF_WHO_STOPS = 2, 2
OF_A_CELL = frozenset({"leads turned in one cell", "a value of another cup"})
OF_A_GROUP = frozenset({"leads turned in one group", "one group in millivolts"})
OF_ALL = frozenset({"leads turned in all", "all in millivolts", "all zero"})
SPOILS: Mapping[str, tuple[float, float]] = {
    "one number for every cell": (0.97, 0.3),
    "noise of a volt": (0.95, 0.27),
    "one group zero": (1.0, 0.86),
    "copied from the table": (0.31, 0.39),
    "a flat meter": (0.19, 0.13),
    "all copied from the table": (0.12, 0.12),
}
"""How often what a group writes, which counts until somebody sets it aside, leaves nothing to be said in a class of two
groups, and of three; from four on it is as if the group were not there. Simulated through Compare (`bench/foreseen.py`)."""


@dataclass(frozen=True, slots=True)
class Saying:
    """That one plate stands below another in a bath: in how many of a hundred classes it will be said, and in how many it
    would not be so or the other way round (`wrong`); `surprise`: the table has it the other way round."""

    bath: tuple[str, str]
    lower: str
    upper: str
    can: float
    wrong: float
    surprise: bool


@dataclass(frozen=True, slots=True)
class Foreseen:
    """What can be said, the surest first; in how many of a hundred classes each group gets through its list, and all do; in
    how many the accounts are decided between if every group does (None where they cannot be weighed)."""

    sayings: tuple[Saying, ...]
    through: tuple[float, ...]
    all_through: float
    decided: float | None


def foresee(
    hands: Sequence[Sequence[Cell]], steps: Steps, minutes: float, classes: int = CLASSES, seed: int = SEED
) -> Foreseen:
    """What classes of this plan will be able to say. `hands`: each group's cells in order."""
    return _foresee(tuple(tuple(hand) for hand in hands), steps, minutes, classes, seed)


@kept(32)
def _foresee(hands: tuple[tuple[Cell, ...], ...], steps: Steps, minutes: float, classes: int, seed: int) -> Foreseen:
    rng = np.random.default_rng([2031, seed])
    owner = np.array([group for group, hand in enumerate(hands) for _ in hand], dtype=int)
    place = np.array([k for hand in hands for k in range(len(hand))], dtype=int)
    cells = [cell for hand in hands for cell in hand]
    if not cells:
        return Foreseen((), tuple(100.0 for _ in hands), 100.0, None)
    lists = np.array([len(hand) for hand in hands])
    done = _done(lists, steps, minutes, classes, rng)
    through = (done >= lists).mean(axis=0)
    there = np.stack([_there(owner, place, done[k], 1000 * seed + k, rng) for k in range(classes)])
    sayings: list[Saying] = []
    for bath in dict.fromkeys(cell.bath for cell in cells):
        inside = np.array([cell.bath == bath and cell.negative != cell.positive for cell in cells])
        if inside.any():
            of_bath = [cell for cell, here in zip(cells, inside, strict=True) if here]
            sayings += _in_bath(bath, of_bath, owner[inside], there[:, inside])
    ordered = sorted(sayings, key=lambda one: (-round(one.can, 6), one.bath, one.lower))
    every = 100.0 * float((done >= lists).all(axis=1).mean())
    return Foreseen(tuple(ordered), tuple(100.0 * float(share) for share in through), every, decided(hands))


def get_through(lists: Sequence[int], steps: Steps, minutes: float, classes: int = CLASSES) -> float:
    """In how many of a hundred classes every group gets through a list of so many cells."""
    done = _done(np.array(lists), steps, minutes, classes, np.random.default_rng([2031, SEED]))
    return 100.0 * float((done >= np.array(lists)).all(axis=1).mean())


def _done(lists: Whole, steps: Steps, minutes: float, classes: int, rng: np.random.Generator) -> Whole:
    """How many cells of its list each group gets through, class by class."""
    return np.array([[done_by(int(n), steps, minutes, rng) for n in lists] for _ in range(classes)])


def done_by(cells: int, steps: Steps, minutes: float, rng: np.random.Generator) -> int:
    """How many cells of its list a group gets through at its own pace."""
    pace = math.exp(rng.normal(0.0, PACE))
    begun = [begin for begin, _ in steps.cell_times(cells)]
    first = begun[0] if begun else 0.0
    ends = [first + pace * (end - first) for _, end in steps.cell_times(cells)]
    return sum(end <= minutes - steps.clear - steps.packs + 1e-9 for end in ends)


def _there(owner: Whole, place: Whole, done: Whole, seed: int, rng: np.random.Generator) -> Flags:
    """Which of a class's values are there and count."""
    there = place < done[owner]
    groups = int(owner.max()) + 1
    for name in usual_slips(seed):
        spoils = SPOILS.get(name, (0.0, 0.0))
        if name in OF_ALL or (groups <= len(spoils) + 1 and rng.random() < spoils[max(0, groups - 2)]):
            there = np.zeros_like(there)
        elif name in OF_A_GROUP or (name in SPOILS and groups > len(spoils) + 1 and not name.startswith("all")):
            there = there & (owner != rng.integers(groups))
        elif name in OF_A_CELL:
            there = there & (np.arange(len(owner)) != rng.integers(len(owner)))
        elif name == "a group that stops":
            there = there & ((owner != rng.integers(groups)) | (place < CELLS_OF_WHO_STOPS))
        elif name == "two groups":
            there = there & (owner < GROUPS_THERE)
        elif name == "half-way":
            there = there & (place < (place.max() + 1) // 2)
    return np.asarray(there)


def _in_bath(bath: tuple[str, str], cells: Sequence[Cell], owner: Whole, there: Flags) -> list[Saying]:
    """What can be said of neighbours on the expected ladder of one bath."""
    from scipy.special import ndtr

    plates = tuple(dict.fromkeys(plate for cell in cells for plate in cell.pair))
    expected = plate_potentials(plates, (bath[0],))[bath[0]]
    ladder = sorted((plate for plate in plates if expected[plate] is not None), key=lambda plate: (expected[plate], plate))
    pairs = list(pairwise(ladder))
    if not pairs:
        return []
    at_v = np.array([expected[plate] or 0.0 for plate in ladder])
    u_v = np.array([_u_v(plate, bath[0], value) for plate, value in zip(ladder, at_v, strict=True)])
    rungs = [(plate, *bath) for plate in plates]
    made = _columns(cells, rungs)
    gap_v, apart_v = np.diff(at_v), np.hypot(u_v[1:], u_v[:-1])
    weights = np.exp(-0.5 * NODES**2)
    weights /= weights.sum()
    true_v = gap_v[:, None] + apart_v[:, None] * NODES
    low, high = ([plates.index(plate) for plate in end] for end in zip(*pairs, strict=True))
    can, wrong = np.zeros(len(pairs)), np.zeros(len(pairs))
    for row in there:
        u, t = _distances(made[row], owner[row], low, high)
        up, down = ndtr(true_v / u[:, None] - t), ndtr(-true_v / u[:, None] - t)
        can += up @ weights
        wrong += np.where(true_v < 0.0, up, down) @ weights
    share = 100.0 / len(there)
    return [
        Saying(bath, lower, upper, share * float(can[k]), share * float(wrong[k]), _surprising(lower, upper))
        for k, (lower, upper) in enumerate(pairs)
    ]


def _columns(cells: Sequence[Cell], rungs: Sequence[tuple[str, str, str]]) -> Array:
    """`made_of` with its columns in a given order."""
    order = list(dict.fromkeys((plate, *cell.bath) for cell in cells for plate in cell.pair))
    return np.asarray(made_of(cells)[:, [order.index(rung) for rung in rungs]], dtype=np.float64)


def _u_v(plate: str, liquid: str, at_v: float) -> float:
    """How far a plate may be from where it is expected, V."""
    if electrolytes()[liquid].negative_side is not None:
        return TWO_SOLUTIONS_U_V
    return plate_u_v(plate, liquid, at_v)


def _surprising(lower: str, upper: str) -> bool:
    table = [electrodes()[plate].table_v_or_none() for plate in (lower, upper)]
    return None not in table and table[0] > table[1]  # type: ignore[operator]  # neither is None


def _distances(made: Array, owner: Whole, low: Sequence[int], high: Sequence[int]) -> tuple[Array, float]:
    """The standard uncertainties of distances between plates by these values, V, and Student's t of their intervals."""
    n, plates = made.shape
    information = made.T @ np.linalg.solve(usual_spread_v2(made, owner), made) if n else np.zeros((plates, plates))
    covariance = np.linalg.inv(information + UNCONNECTED * np.eye(plates))
    used = int((np.abs(made).sum(axis=0) > 0).sum())
    variance = covariance[low, low] + covariance[high, high] - 2.0 * covariance[low, high]
    return np.sqrt(np.maximum(variance, LEAST_V2)), coverage(max(1.0, n - used + 1 + FREEDOM))
