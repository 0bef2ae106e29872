"""From a lab's board to whom the teacher should go and see."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from galvanic.attention import GroupState, Visit, visits
from galvanic.checks import Finding
from galvanic.class_reference import GroupCell, Reference
from galvanic.schedule import Steps
from server.bench.checking import check_last, reference_of
from server.bench.hands import Hand
from server.labs.models import Lab, PlannedCell
from server.people.models import Group

SHARED_U_V = 0.03  # how far groups' values of one cell lie apart without anything being wrong: common practice, no source


@dataclass(frozen=True, slots=True)
class Relief:
    """A cell that a group that is behind could give to another, which has the least left to do."""

    cell: PlannedCell
    to: Group


@dataclass(frozen=True)
class Attention:
    """Visits with the cell each is about, the code of what is said of each cell's last reading, and relief by group."""

    visits: list[tuple[Visit, uuid.UUID | None]]
    flags: dict[uuid.UUID, str]
    relief: dict[str, Relief]


def visits_of(
    lab: Lab,
    groups: Sequence[Group],
    hands: Sequence[Hand],
    wanted: int,
    steps: Steps,
    now: datetime,
) -> Attention:
    """Whom to see, from the groups in order and their hands."""
    values = [value for hand in hands for value in hand.values]
    minute = lab.minutes_in(now)
    states, flags, cells = [], {}, {}
    for group, hand in zip(groups, hands, strict=True):
        reference = reference_of(lab, group.id, values)
        told: list[tuple[str, Finding]] = []
        for one in hand.cells:
            planned = one.planned
            if said := check_last(one.rows, reference):
                flags[planned.id] = said[0].code
                told.append((planned.cell.short, said[0]))
                cells[group.name, planned.cell.short] = planned.id
        states.append(_state(lab, group, hand, values, reference, told, wanted, steps, minute, now))
    found = visits(states) if lab.state == Lab.State.OPEN and lab.paused_at is None else []
    behind = [visit.group for visit in found if visit.code == "behind"]
    relief = {name: r for name in behind if (r := _relief(name, groups, hands, behind))}
    return Attention([(visit, cells.get((visit.group, visit.cell))) for visit in found], flags, relief)


def _relief(name: str, groups: Sequence[Group], hands: Sequence[Hand], behind: Sequence[str]) -> Relief | None:
    """The last cell of a group's that is not begun, and the group with the least left that does not have it."""
    hand = next(hand for group, hand in zip(groups, hands, strict=True) if group.name == name)
    free = [one.planned for one in hand.cells if not one.planned.shared and not one.sent.readings]
    if not free:
        return None
    given = free[-1]
    open_to = [
        (sum(not one.sent.readings for one in theirs.cells), group.position, group)
        for group, theirs in zip(groups, hands, strict=True)
        if group.name not in behind and all(one.planned.cell != given.cell for one in theirs.cells)
    ]
    return Relief(given, min(open_to, key=lambda one: one[:2])[2]) if open_to else None


def _state(
    lab: Lab,
    group: Group,
    hand: Hand,
    values: Sequence[GroupCell],
    reference: Reference,
    told: Sequence[tuple[str, Finding]],
    wanted: int,
    steps: Steps,
    minute: float,
    now: datetime,
) -> GroupState:
    cells = hand.cells
    done = sum(len(one.rows) >= wanted for one in cells)
    due = sum(end <= minute for _, end in steps.cell_times(len(cells)))
    newest = max((r.received_at for one in cells for r in one.sent.readings), default=lab.opened_at)
    silent = 0.0 if newest is None else (now - newest).total_seconds() / 60.0
    shared = next((one.planned.cell for one in cells if one.planned.shared), None)
    mine = [row.signed_v for row in hand.rows if row.cell == shared]
    off = None
    if shared is not None and mine:
        others = [one.volts_v for one in values if one.cell == shared and one.group != str(group.id)]
        if len(others) >= 2:
            off = sum(mine) / len(mine) - reference.of(shared).volts_v
    return GroupState(
        group=group.name,
        silent_min=silent,
        done=done,
        due=float(due),
        findings=told,
        shared_off_v=off,
        shared_u_v=SHARED_U_V,
        checked=hand.meter is not None,
        finished=done >= len(cells),
    )
