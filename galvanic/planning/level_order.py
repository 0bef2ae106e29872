"""The order of settings inside a group's list: another one for every group, so that time and the setting are not the same.

Groups take the rows of a Williams square: over as many groups as there are settings (twice as many where their number is
odd), every setting stands in every place equally often and follows every other one equally often.
Source: E. J. Williams, “Experimental designs balanced for the estimation of residual effects of treatments” (1949).
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import groupby

from galvanic.cells import Cell
from galvanic.condition import condition_of

IN_ORDER = frozenset({"time", "age"})  # what cannot be gone through in any order


def williams_row(levels: int, group: int) -> tuple[int, ...]:
    """A group's order of `levels` settings, each by its number from 0."""
    zigzag = [0]
    for step in range(1, levels):
        zigzag.append((zigzag[-1] + (step if step % 2 else levels - step)) % levels)
    row = [(place + group) % levels for place in zigzag]
    return tuple(reversed(row)) if levels % 2 and (group // levels) % 2 else tuple(row)


def mixed(path: Sequence[Cell], conditions: Sequence[str], group: int) -> tuple[Cell, ...]:
    """A group's cells with its stretches of one setting put in the group's own order; the cells of a stretch stay together.

    `path` is as it would be gone through with the fewest changes; it is returned as it is where nothing but plates and
    liquids varies, or where the settings must keep their order.
    """
    known = [condition_of(text) for text in conditions]
    if len(conditions) < 2 or any(one is not None and one.variable in IN_ORDER for one in known):
        return tuple(path)
    stretches = [list(cells) for _, cells in groupby(path, key=lambda cell: cell.condition)]
    row = williams_row(len(conditions), group)
    rank = {condition: row.index(place) for place, condition in enumerate(conditions)}
    stretches.sort(key=lambda cells: rank.get(cells[0].condition, len(rank)))
    return tuple(cell for cells in stretches for cell in cells)
