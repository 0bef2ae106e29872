"""Readings that were typed at one cell of a group's list and read at another."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Callable
from statistics import fmean

from galvanic.bench.class_reference import Reference
from galvanic.bench.other_cell import Listed, other_cell
from server.entries.checking import Findings
from server.entries.hands import Hand
from server.labs.models import PlannedCell


def belongs_to(hand: Hand, findings: Findings, reference: Callable[[uuid.UUID], Reference]) -> dict[uuid.UUID, PlannedCell]:
    """Readings that are odd at their own cell and would fit one other of the group's list: which."""
    odd = [row for row in hand.rows if row.id in findings]
    if not odd:
        return {}
    own: dict[uuid.UUID, list[float]] = defaultdict(list)
    for row in hand.rows:
        if row.id not in findings:
            own[row.cell_id].append(row.signed_v)
    listed = {
        one.planned.id: Listed(
            one.planned.position,
            one.planned.cell,
            reference(one.planned.id).of(one.planned.cell),
            fmean(own[one.planned.id]) if own[one.planned.id] else None,
        )
        for one in hand.cells
    }
    planned = {one.planned.position: one.planned for one in hand.cells}
    found = {row.id: other_cell(row.signed_v, row.cell, findings[row.id], listed.values()) for row in odd}
    return {key: planned[there.position] for key, there in found.items() if there is not None}
