"""Which prediction a group is asked for before it builds a cell."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from typing import Literal

from galvanic.level import Level
from server.entries.hands import Hand
from server.labs.models import PlannedCell


@dataclass(frozen=True, slots=True)
class AskedFirst:
    """What is asked of a cell; `first` is the cell of the same plates and liquid that it is held against."""

    what: Literal["cell", "order", "change", "nothing"]
    first: PlannedCell | None = None

    @property
    def against(self) -> str:
        """The condition of the cell that this one is held against; empty without one."""
        return "" if self.first is None else self.first.condition


def asked_of_hand(hand: Hand, level: Level) -> dict[uuid.UUID, AskedFirst]:
    """For each cell of a group's list: once for each pair in a liquid the subtraction, or at the first level which plate is
    negative; at its second setting what the change will do, once; at further ones, and of a cell that is measured twice,
    nothing more."""
    asked: dict[uuid.UUID, AskedFirst] = {}
    first: dict[tuple[str, str, str], PlannedCell] = {}
    of_change: set[tuple[str, str, str]] = set()
    for planned in (one.planned for one in hand.cells):
        kind = (planned.negative, planned.electrolyte, planned.positive)
        if kind not in first:
            first[kind] = planned
            asked[planned.id] = AskedFirst("cell" if level.has_equations else "order")
        elif planned.condition == first[kind].condition:  # the shared cell again at the end
            asked[planned.id] = AskedFirst("nothing")
        else:
            asked[planned.id] = AskedFirst("nothing" if kind in of_change else "change", first[kind])
            of_change.add(kind)
    return asked
