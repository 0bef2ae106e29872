"""A plan: which cells, how often, by whom, in which order. The same task gives the same plan on every machine.

Every group measures the shared cell first and, where there is time for four cells, last, so that groups and drift can be
compared. The other places go where they make the ladders sharpest (`optimal`), then to groups and into an order with few
changes of plate and liquid (`assign`). What the teacher asked for is kept: wished counts, cells pinned to a group, plates
there are.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from itertools import combinations

import numpy as np

from galvanic.cells import Cell, standing
from galvanic.chemistry.fitting import refusal
from galvanic.errors import NotEnoughData
from galvanic.planning.assign import ALL_PAIRS, Hands, in_order, path_changes
from galvanic.planning.level_order import mixed
from galvanic.planning.optimal import TETHER, Counts, Demand, around, exchange, fill, lower_bound, shake
from galvanic.words import say

PLACES_FOR_LAST = 4
MOST_EXCHANGES = 200
TRIES, RETRIES = 3, 2
LOOSE = 0.5 / TETHER  # a variance above this means plates that no chain of cells connects
SAME = 1e-6  # variances nearer than this, relatively, are the same


@dataclass(frozen=True, slots=True)
class Shared:
    """The shared cell a plan has, or that it has none: it stays as the plan is changed."""

    cell: Cell | None


@dataclass(frozen=True)
class Task:
    """What a teacher asks for.

    `places` is how many cells a group has time for; `repeats` how many groups should measure a cell; `against` an electrode
    that every cell must have (None: all pairs); `wished` exact counts by cell, 0 bans it; `pinned` cells by group number;
    `stock` how many plates there are of an electrode, absent where there are enough; `held` the shared cell of a plan that
    is there already (None: no plan yet, so it is chosen).
    """

    electrodes: tuple[str, ...]
    electrolytes: tuple[str, ...]
    groups: int
    places: int
    repeats: int = 2
    conditions: tuple[str, ...] = ("",)
    against: str | None = None
    wished: Mapping[Cell, int] = field(default_factory=dict)
    pinned: Mapping[int, tuple[Cell, ...]] = field(default_factory=dict)
    stock: Mapping[str, int] = field(default_factory=dict)
    held: Shared | None = None

    def __post_init__(self) -> None:
        if len(set(self.electrodes)) < 2:
            raise NotEnoughData(say("One plate is no cell. Choose at least two different plates."))
        if not self.electrolytes or not self.conditions:
            raise NotEnoughData(say("A cell needs a liquid. Choose at least one."))
        if self.groups < 1:
            raise NotEnoughData(say("Name at least one group."))

    @property
    def baths(self) -> tuple[tuple[str, str], ...]:
        """Every liquid in every condition: one ladder each."""
        return tuple((liquid, condition) for liquid in self.electrolytes for condition in self.conditions)

    @property
    def cells(self) -> tuple[Cell, ...]:
        """Every cell that may be measured, by standing of its plates; a ban does not remove it from here, what cannot be
        built of two solutions is left out."""
        return self._cells

    @cached_property
    def _cells(self) -> tuple[Cell, ...]:
        return tuple(cell for cell in self.possible if not refusal(cell))

    @cached_property
    def possible(self) -> tuple[Cell, ...]:
        """Every pair of plates in every bath, those too that cannot be built of two solutions."""
        ordered = sorted(self.electrodes, key=lambda key: (standing(key), key))
        pairs = [(a, b) for a, b in combinations(ordered, 2) if self.against in (None, a, b)]
        return tuple(Cell(a, liquid, b, condition) for a, b in pairs for liquid, condition in self.baths)

    @cached_property
    def plates_in(self) -> Mapping[tuple[str, str], tuple[str, ...]]:
        """The plates that may stand in a bath; in one liquid all that have a cell there."""
        plates: dict[tuple[str, str], set[str]] = {bath: set() for bath in self.baths}
        for cell in self.cells:
            plates[cell.bath].update(cell.pair)
        return {bath: tuple(plate for plate in self.electrodes if plate in there) for bath, there in plates.items()}

    @property
    def links(self) -> int:
        """Cells that connect all plates of all baths, the shared one counted."""
        return sum(max(0, len(plates) - 1) for plates in self.plates_in.values())

    @cached_property
    def shared(self) -> Cell | None:
        """The cell that every group measures: the one held; else zinc and copper where both are there, else the plate in the
        middle against the lowest; None where no pair has plates for all groups or the teacher wished it away."""
        return self._choice() if self.held is None else self.held.cell

    def resettled(self) -> Task:
        """For planning anew: the shared cell stays if it still can be everybody's, and is chosen anew if it cannot."""
        cell = self.held.cell if self.held else None
        stays = cell is not None and cell in self.cells and self.enough(cell) and self.wished.get(cell) is None
        return self if stays else replace(self, held=Shared(self._choice()))

    def _choice(self) -> Cell | None:
        ordered = sorted(self.electrodes, key=lambda key: (standing(key), key))
        middle = ordered[len(ordered) // 2]

        def rank(cell: Cell) -> tuple[bool, bool, Cell]:
            return (cell.pair != ("zinc", "copper"), middle not in cell.pair, cell)

        first = [cell for cell in self.cells if cell.bath == self.baths[0]]
        usual = next((c for c in first if c.pair == ("zinc", "copper")), None)
        lowest = next((c for c in first if set(c.pair) == {ordered[0], middle}), None)
        choices = [c for c in (usual, lowest, *sorted(first, key=rank)) if c is not None]
        return next((c for c in choices if self.enough(c) and self.wished.get(c) is None), None)

    def enough(self, cell: Cell) -> bool:
        """Whether every group can have both plates of a cell."""
        return all(self.stock.get(plate, self.groups) >= self.groups for plate in cell.pair)

    @property
    def shared_last(self) -> bool:
        """Whether there is time for the shared cell a second time."""
        return self.places >= PLACES_FOR_LAST

    @property
    def free(self) -> int:
        """Places of a group beside the shared cell."""
        return max(0, self.places - (0 if self.shared is None else 2 if self.shared_last else 1))


@dataclass(frozen=True)
class Plan:
    """Cells of every group in order, and how good that is.

    `variance` is Σ tr(L⁺) over the ladders, in units of one group's variance; no plan with these places can be below
    `bound`. `repeats` is what each cell got, `changes` the plates and cups changed over the period by all groups together.
    `unplaced` are cells asked for that found no place.
    """

    hands: tuple[tuple[Cell, ...], ...]
    shared: Cell | None
    repeats: int
    variance: float
    bound: float
    changes: int
    unplaced: tuple[Cell, ...]

    @cached_property
    def counts(self) -> Counter[Cell]:
        """How many groups measure each cell; a group counts once."""
        return Counter(cell for hand in self.hands for cell in dict.fromkeys(hand))

    @property
    def nearness(self) -> float:
        """The bound over the variance: 1 is ideal."""
        return min(1.0, self.bound / self.variance) if self.variance > 0.0 else 1.0


def repeats_that_connect(task: Task) -> int:
    """The most groups per cell, up to those wished for, with which every plate can still be connected; at least 1."""
    links = task.links - (1 if task.shared else 0)
    most = min(task.repeats, task.groups)
    return next((r for r in range(most, 0, -1) if r * links <= task.free * task.groups), 1)


def demand_of(task: Task, repeats: int) -> Demand:
    """The task as the counting sees it."""
    pinned = Counter(cell for cells in task.pinned.values() for cell in set(cells))
    places = task.free * task.groups
    shared = task.shared
    fixed = {c: min(max(n, pinned[c]), task.groups) for c, n in task.wished.items() if c != shared}
    uses = {e: n * task.free for e, n in task.stock.items() if n < task.groups}
    most = {c: min(task.stock.get(e, task.groups) for e in c.pair) for c in task.cells}
    return Demand(
        tuple(task.electrodes),
        task.baths,
        tuple(c for c in task.cells if c != shared),
        places,
        repeats,
        task.groups,
        fixed,
        {c: n for c, n in pinned.items() if c != shared},
        most,
        {shared: task.groups} if shared else {},
        uses,
    )


def design(task: Task) -> Plan:
    """The first good plan, in well under a second. Raises NotEnoughData where not one cell fits into the period."""
    if not task.cells:
        why = next((why for cell in task.possible if (why := refusal(cell))), say("Choose two plates that differ."))
        raise NotEnoughData(say("No cell can be built with these plates and liquids. {why}", why=why))
    if task.places < 1:
        raise NotEnoughData(say("Not one cell fits into this period. Give it more minutes, or make the steps shorter."))
    demand = demand_of(task, repeats_that_connect(task))
    # Of two starts that end alike, the one around the shared cell's steady plate: a plate that dissolves fast or grows a
    # skin makes a poor hub.
    starts = [Counts(demand), Counts(demand)]
    if task.shared:
        around(starts[0], task.shared.positive)
    for counts in starts:
        fill(counts)
        exchange(counts, MOST_EXCHANGES)
    hub, free = starts
    if free.value > LOOSE:  # too few places for all plates: one ladder of some plates says more than loose pairs
        hub = Counts(demand)
        around(hub, task.shared.positive if task.shared else "")
        fill(hub)
        return _dealt(task, hub, None)
    return _dealt(task, free if free.value < hub.value * (1.0 - SAME) else hub, None)


def improve(task: Task, plan: Plan, round: int) -> Plan:
    """Look for a better plan from a start of its own; returns the better one, the given one if none is found.

    A round takes a fixed amount of work, so rounds 1, 2, 3 … give the same plans everywhere.
    """
    rng = np.random.default_rng([round, 7])
    best = plan
    for attempt in range(TRIES):
        counts = Counts(demand_of(task, repeats_that_connect(task)))
        if attempt:
            shake(counts, rng)
        else:
            counts.n = np.array([max(least, plan.counts[c]) for c, least in zip(counts.cells, counts.least, strict=True)])
            if counts.left < 0:
                continue
            counts.refresh()
            shake(counts, rng)
        fill(counts)
        exchange(counts, MOST_EXCHANGES)
        retries = RETRIES if task.groups <= ALL_PAIRS else 1
        for _ in range(retries if counts.value <= best.variance * (1.0 + SAME) else 0):
            found = _dealt(task, counts, rng)
            if _better(found, best):
                best = found
    return best


def _better(plan: Plan, other: Plan) -> bool:
    if len(plan.unplaced) != len(other.unplaced):
        return len(plan.unplaced) < len(other.unplaced)
    if abs(plan.variance - other.variance) > SAME * other.variance:
        return plan.variance < other.variance
    return plan.changes < other.changes


def _dealt(task: Task, counts: Counts, rng: np.random.Generator | None) -> Plan:
    pinned = [task.pinned.get(group, ()) for group in range(task.groups)]
    hands = Hands(task.groups, task.free, task.shared, task.stock, [[c for c in p if c != task.shared] for p in pinned])
    wanted = {cell: int(n) for cell, n in zip(counts.cells, counts.n, strict=True) if n > 0}
    unplaced = hands.deal(wanted, task.baths, task.wished)
    hands.improve(rng=rng)
    return judge(task, [finish(task, hand, group) for group, hand in enumerate(hands.hands)], unplaced)


def finish(task: Task, hand: Sequence[Cell] | set[Cell], group: int) -> tuple[Cell, ...]:
    """A group's cells in order, the shared one first and last; settings in an order of the group's own."""
    shared = task.shared
    inner = [cell for cell in set(hand) if cell != shared]
    if shared is None:
        return mixed(in_order(inner, None, None), task.conditions, group)
    last = task.shared_last and bool(inner)
    path = mixed(in_order(inner, shared, shared if last else None), task.conditions, group)
    return (shared, *path, *([shared] if last else []))


def judge(task: Task, hands: Sequence[Sequence[Cell]], unplaced: Sequence[Cell] = ()) -> Plan:
    """How good hands are, whoever made them. Cells that the task does not know count for nothing."""
    repeats = repeats_that_connect(task)
    demand = demand_of(task, repeats)
    counts = Counts(demand)
    held = Counter(cell for hand in hands for cell in set(hand))
    counts.n = np.array([held[cell] for cell in counts.cells], dtype=int)
    counts.refresh()
    changes = sum(path_changes(hand) for hand in hands)
    met = [n for cell, n in held.items() if cell != task.shared]
    return Plan(
        tuple(tuple(hand) for hand in hands),
        task.shared,
        min(repeats, min(met, default=repeats)),
        counts.value,
        lower_bound(demand),
        changes,
        tuple(unplaced),
    )
