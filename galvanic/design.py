"""Which group measures which cell: every group the shared cell first, the rest dealt round the room.

Cells with the shared cell's positive plate are dealt first, then neighbours on the table, then the rest, so that even a
short period connects every electrode. Where there is room each cell goes to two groups, since a class value without a
second group says nothing of its own scatter. When all are dealt, dealing starts again; a group never gets a cell twice.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations, cycle, islice

from galvanic.cells import Cell, negative_first, standing
from galvanic.errors import NotEnoughData

MINUTES_TO_START = 6  # meter check and fetching
MINUTES_TO_CLEAR = 8
MINUTES_PER_CELL = 6  # clean, dip, settle, three readings, rinse: common practice, no source


def slots(minutes: int) -> int:
    """How many cells a group can measure in a period, at least one."""
    return max(1, (minutes - MINUTES_TO_START - MINUTES_TO_CLEAR) // MINUTES_PER_CELL)


def shared_cell(electrodes: Sequence[str], electrolytes: Sequence[str]) -> Cell:
    """The cell every group measures: zinc and copper where both are there, else the middle pair, first electrolyte."""
    if {"zinc", "copper"} <= set(electrodes):
        return Cell("zinc", electrolytes[0], "copper")
    ordered = sorted(electrodes, key=standing)
    return Cell(*_around(ordered[0], electrolytes[0], ordered[len(ordered) // 2]))


def _around(one: str, electrolyte: str, other: str) -> tuple[str, str, str]:
    negative, positive = negative_first(one, other)
    return negative, electrolyte, positive


def all_cells(electrodes: Sequence[str], electrolytes: Sequence[str]) -> tuple[Cell, ...]:
    """Every pair in every electrolyte, in the order in which they are dealt; all electrolytes of a pair together."""
    ordered = sorted(electrodes, key=standing)
    hub = ordered.index(shared_cell(electrodes, electrolytes).positive)

    def rank(pair: tuple[int, int]) -> tuple[int, int, int]:
        apart = pair[1] - pair[0]
        return (0 if hub in pair else 1 if apart == 1 else 2, apart, pair[0])

    pairs = sorted(combinations(range(len(ordered)), 2), key=rank)
    return tuple(Cell(ordered[i], liquid, ordered[j]) for i, j in pairs for liquid in electrolytes)


def _deck(others: Sequence[Cell], groups: int, places: int, times: int) -> list[Cell]:
    """Cells in dealing order, a round at a time; a second copy of a round is turned, so that partners change."""
    block = list(islice(cycle(others), -(-places // times)))
    deck: list[Cell] = []
    for number, start in enumerate(range(0, len(block), groups)):
        once = block[start : start + groups]
        deck += once
        if times == 2:
            turn = (1 + number % (groups - 1)) % len(once)
            deck += once[turn:] + once[:turn]
    return deck


def share_out(electrodes: Sequence[str], electrolytes: Sequence[str], groups: int, per_group: int) -> list[list[Cell]]:
    """Deal cells to groups: `per_group` each at most, the shared cell first, then by electrolyte.

    Raises NotEnoughData for fewer than two electrodes, no electrolyte, no group or no slot.
    """
    if len(set(electrodes)) < 2 or not electrolytes or groups < 1 or per_group < 1:
        raise NotEnoughData("A plan needs two electrodes, one electrolyte, one group and time for one cell.")
    shared = shared_cell(electrodes, electrolytes)
    others = [cell for cell in all_cells(electrodes, electrolytes) if cell != shared]
    room = min(per_group - 1, len(others))
    spanning = (len(electrodes) - 1) * len(electrolytes) - 1  # cells that connect all, the shared one apart
    times = 2 if groups > 1 and groups * room >= 2 * spanning else 1
    hands: list[list[Cell]] = [[] for _ in range(groups)]
    for cell in _deck(others, groups, groups * room, times):
        free = [hand for hand in hands if len(hand) < room and cell not in hand]
        if free:
            min(free, key=len).append(cell)
    for hand in hands:  # where only cells that a group already held came round, its hand is filled from the start
        hand += [cell for cell in others if cell not in hand][: room - len(hand)]
    return [[shared, *sorted(hand, key=lambda cell: electrolytes.index(cell.electrolyte))] for hand in hands]
