"""Which group gets which cells, and in which order, with as few changes of plate and liquid as can be had.

From one cell to the next a group changes the plates that the two do not share, and the cup where the liquid is another one.
Cells are first dealt in blocks, so that a group stays in one liquid, then swapped between groups while that saves a change.
The order within a group is exact for up to `EXACT` cells (dynamic programming over subsets), by nearest neighbour above.
A group never gets a cell twice, and an electrode of which there are few goes to no more groups than there are plates.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from itertools import combinations

import numpy as np

from galvanic.cells import Cell

EXACT = 12
NEW_LIQUID = 1
SWEEPS = 12
ALL_PAIRS, NEIGHBOURS = 16, 5  # above so many groups only near ones swap, which the dealing has made alike


def changes(cell: Cell, other: Cell) -> int:
    """Plates and cups that change between two cells measured one after the other."""
    return len(set(other.pair) - set(cell.pair)) + (NEW_LIQUID if cell.bath != other.bath else 0)


def path_changes(cells: Sequence[Cell]) -> int:
    """Changes over a whole list, in its order."""
    return sum(changes(one, other) for one, other in zip(cells, cells[1:], strict=False))


def in_order(cells: Sequence[Cell], first: Cell | None, last: Cell | None) -> tuple[Cell, ...]:
    """The order with the fewest changes, between a first and a last cell where there are such."""
    inner = tuple(sorted(cells))
    if len(inner) < 2:
        return inner
    if len(inner) > EXACT:
        return _nearest(inner, first)
    n = len(inner)
    step = np.array([[changes(a, b) for b in inner] for a in inner])
    enter = np.array([changes(first, c) if first else 0 for c in inner])
    leave = np.array([changes(c, last) if last else 0 for c in inner])
    far = 10**6
    masks = np.arange(1 << n)
    size = sum((masks >> k) & 1 for k in range(n))
    cost = np.full((1 << n, n), far)
    came = np.zeros((1 << n, n), dtype=int)
    for k in range(n):
        cost[1 << k, k] = enter[k]
    for many in range(2, n + 1):
        for k in range(n):
            here = masks[(size == many) & ((masks >> k) & 1 == 1)]
            options = cost[here ^ (1 << k)] + step[:, k]
            came[here, k] = options.argmin(axis=1)
            cost[here, k] = options.min(axis=1)
    mask = (1 << n) - 1
    k = int((cost[mask] + leave).argmin())
    order = [k]
    while mask & (mask - 1):
        mask, k = mask ^ (1 << k), int(came[mask, k])
        order.append(k)
    return tuple(inner[k] for k in reversed(order))


def _nearest(cells: Sequence[Cell], first: Cell | None) -> tuple[Cell, ...]:
    left, order = list(cells), []
    here = first or left[0]
    while left:
        here = min(left, key=lambda cell: (changes(here, cell), cell))
        left.remove(here)
        order.append(here)
    return tuple(order)


def rough_cost(hand: Iterable[Cell], shared: Cell | None) -> int:
    """Changes that a hand needs at least, near enough to compare hands: breaks between chains of cells, liquids, plates."""
    bits: dict[str, int] = {}
    chains: dict[tuple[str, str], list[int]] = {}
    for cell in (*hand, shared) if shared else hand:
        reach = bits.setdefault(cell.negative, 1 << len(bits)) | bits.setdefault(cell.positive, 1 << len(bits))
        bath = cell.electrolyte, cell.condition
        known = chains.get(bath)
        if known is None:
            chains[bath] = [reach]
            continue
        apart = []
        for chain in known:
            if chain & reach:
                reach |= chain
            else:
                apart.append(chain)
        chains[bath] = [*apart, reach]
    return 10 * sum(map(len, chains.values())) + 10 * len(chains) + len(bits)


class Hands:
    """Cells of every group under construction, without the shared cell."""

    def __init__(
        self,
        groups: int,
        places: int,
        shared: Cell | None,
        stock: Mapping[str, int],
        fixed: Sequence[Sequence[Cell]],
        avoid: Mapping[Cell, frozenset[int]] | None = None,
    ) -> None:
        self.places, self.shared, self.stock = places, shared, dict(stock)
        self.fixed = [frozenset(cells) for cells in fixed]
        self.hands: list[set[Cell]] = [set(cells) for cells in fixed]
        self.avoid = avoid or {}
        self._cost: dict[frozenset[Cell], int] = {}
        assert len(fixed) == groups

    def holders(self, electrode: str) -> set[int]:
        """Groups that need this electrode."""
        at_shared = self.shared is not None and electrode in self.shared.pair
        return {g for g, hand in enumerate(self.hands) if at_shared or any(electrode in cell.pair for cell in hand)}

    def may(self, group: int, cell: Cell, instead_of: Cell | None = None) -> bool:
        """Whether a group can take a cell: not held yet, room, and plates enough."""
        hand = self.hands[group]
        if cell in hand or cell == self.shared or group in self.avoid.get(cell, ()):
            return False
        if len(hand) - (instead_of is not None) >= self.places:
            return False
        rest = [c for c in hand if c != instead_of] + ([self.shared] if self.shared else [])
        for electrode in cell.pair:
            if electrode in self.stock and not any(electrode in c.pair for c in rest):
                others = self.holders(electrode) - {group}
                if len(others) >= self.stock[electrode]:
                    return False
        return True

    def cost(self, hand: Iterable[Cell]) -> int:
        """Remembered `rough_cost`."""
        key = frozenset(hand)
        if key not in self._cost:
            self._cost[key] = rough_cost(key, self.shared)
        return self._cost[key]

    def deal(self, counts: Mapping[Cell, int], baths: Sequence[tuple[str, str]], wished: Iterable[Cell] = ()) -> list[Cell]:
        """Give every cell to as many groups as counted; returns what found no place.

        Wished cells come first, then those of scarce plates, which few groups can take. First copies of all cells go round
        the groups in blocks, liquid by liquid, then second copies, so that two groups in one liquid tend to hold the same
        cells and the two copies of a cell are in different groups.
        """
        held = Counter(cell for hand in self.hands for cell in hand)
        asked = set(wished)

        def turn(cell: Cell) -> int:
            return 0 if cell in asked else 1 if any(plate in self.stock for plate in cell.pair) else 2

        copies = [
            (turn(cell), copy, baths.index(cell.bath), cell)
            for cell, count in counts.items()
            for copy in range(count - held[cell])
            if cell != self.shared
        ]
        at, failed = 0, []
        for _, _, _, cell in sorted(copies):
            order = sorted(range(len(self.hands)), key=lambda g: (g - at) % len(self.hands))
            group = next((g for g in order if self.may(g, cell)), None)
            if group is None:
                failed.append(cell)
                continue
            self.hands[group].add(cell)
            at = group if len(self.hands[group]) < self.places else (group + 1) % len(self.hands)
        return [cell for cell in failed if not self._squeeze(cell)]

    def _squeeze(self, cell: Cell) -> bool:
        """Place a cell by moving another one elsewhere."""
        for g, hand in enumerate(self.hands):
            for other in sorted(hand - self.fixed[g]):
                if not self.may(g, cell, instead_of=other):
                    continue
                hand.remove(other)
                hand.add(cell)
                target = next((t for t in range(len(self.hands)) if t != g and self.may(t, other)), None)
                if target is not None:
                    self.hands[target].add(other)
                    return True
                hand.remove(cell)
                hand.add(other)
        return False

    def improve(self, sweeps: int = SWEEPS, rng: np.random.Generator | None = None) -> None:
        """Swap cells between groups while that saves changes; a generator gives another order of trying."""
        many = len(self.hands) > ALL_PAIRS
        pairs = [(a, b) for a, b in combinations(range(len(self.hands)), 2) if not many or b - a <= NEIGHBOURS]
        for _ in range(sweeps):
            if rng is not None:
                pairs = [pairs[k] for k in rng.permutation(len(pairs))]
            if not sum(self._better(a, b) for a, b in pairs):
                return

    def _better(self, a: int, b: int) -> bool:
        """Make the best swap or move between two groups, if one saves changes."""
        now = self.cost(self.hands[a]) + self.cost(self.hands[b])
        best: tuple[int, Cell | None, Cell | None] | None = None
        mine: list[Cell | None] = [*sorted(self.hands[a] - self.fixed[a]), None]
        theirs: list[Cell | None] = [*sorted(self.hands[b] - self.fixed[b]), None]
        for x in mine:
            for y in theirs:
                if x == y:
                    continue
                new_a = (self.hands[a] - {x}) | ({y} if y else set())
                new_b = (self.hands[b] - {y}) | ({x} if x else set())
                then = self.cost(new_a) + self.cost(new_b)
                if then < (now if best is None else best[0]) and self._fits(a, b, x, y):
                    best = (then, x, y)
        if best is None:
            return False
        self._swap(a, b, best[1], best[2])
        return True

    def _fits(self, a: int, b: int, x: Cell | None, y: Cell | None) -> bool:
        if (x and x in self.hands[b]) or (y and y in self.hands[a]):
            return False
        if (x is None and len(self.hands[a]) >= self.places) or (y is None and len(self.hands[b]) >= self.places):
            return False
        if (x and b in self.avoid.get(x, ())) or (y and a in self.avoid.get(y, ())):
            return False
        scarce = [e for e in {*(x.pair if x else ()), *(y.pair if y else ())} if e in self.stock]
        if not scarce:
            return True
        self._swap(a, b, x, y)
        enough = all(len(self.holders(e)) <= self.stock[e] for e in scarce)
        self._swap(a, b, y, x)
        return enough

    def _swap(self, a: int, b: int, x: Cell | None, y: Cell | None) -> None:
        for group, gone, come in ((a, x, y), (b, y, x)):
            if gone:
                self.hands[group].discard(gone)
            if come:
                self.hands[group].add(come)
