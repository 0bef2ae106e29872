"""From a lab's board to whom the teacher should go and see."""

from __future__ import annotations

import uuid
from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from galvanic.attention import GroupState, Visit, visits
from galvanic.checks import Finding
from galvanic.class_reference import GroupCell, Reference
from galvanic.schedule import Steps
from server.bench.checking import Row, check_rows, class_values, reference_of
from server.bench.outputs import current_rows, readings_of
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
    hands: Sequence[Sequence[PlannedCell]],
    checked: frozenset[uuid.UUID],
    wanted: int,
    steps: Steps,
    now: datetime,
) -> Attention:
    """Everything the core needs is prefetched: cells with readings, and which groups have a meter check."""
    rows = current_rows(cell for hand in hands for cell in hand)
    values = class_values(rows)
    minute = lab.minutes_in(now)
    by_group: dict[uuid.UUID, list[Row]] = defaultdict(list)
    for row in rows:
        by_group[row.group].append(row)
    states, flags, cells = [], {}, {}
    for group, hand in zip(groups, hands, strict=True):
        own, reference = by_group[group.id], reference_of(lab, group.id, values)
        findings = check_rows(own, reference)
        last = {row.cell_id: row for row in own}
        told: list[tuple[str, Finding]] = []
        for planned in hand:
            newest = last.get(planned.id)
            if newest is not None and (said := findings.get(newest.id)):
                flags[planned.id] = said[0].code
                told.append((planned.cell.short, said[0]))
                cells[group.name, planned.cell.short] = planned.id
        states.append(_state(lab, group, hand, own, values, reference, told, checked, wanted, steps, minute, now))
    found = visits(states) if lab.state == Lab.State.OPEN and lab.paused_at is None else []
    behind = [visit.group for visit in found if visit.code == "behind"]
    relief = {name: one for name in behind if (one := _relief(name, groups, hands, behind))}
    return Attention([(visit, cells.get((visit.group, visit.cell))) for visit in found], flags, relief)


def _relief(
    name: str, groups: Sequence[Group], hands: Sequence[Sequence[PlannedCell]], behind: Sequence[str]
) -> Relief | None:
    """The last cell of a group's that is not begun, and the group with the least left that does not have it."""
    hand = next(hand for group, hand in zip(groups, hands, strict=True) if group.name == name)
    free = [planned for planned in hand if not planned.shared and not readings_of(planned)]
    if not free:
        return None
    given = free[-1]
    open_to = [
        (sum(not readings_of(planned) for planned in theirs), group.position, group)
        for group, theirs in zip(groups, hands, strict=True)
        if group.name not in behind and all(planned.cell != given.cell for planned in theirs)
    ]
    return Relief(given, min(open_to, key=lambda one: one[:2])[2]) if open_to else None


def _state(
    lab: Lab,
    group: Group,
    hand: Sequence[PlannedCell],
    own: Sequence[Row],
    values: Sequence[GroupCell],
    reference: Reference,
    told: Sequence[tuple[str, Finding]],
    checked: frozenset[uuid.UUID],
    wanted: int,
    steps: Steps,
    minute: float,
    now: datetime,
) -> GroupState:
    per_cell = Counter(row.cell_id for row in own)
    done = sum(per_cell[planned.id] >= wanted for planned in hand)
    due = sum(end <= minute for _, end in steps.cell_times(len(hand)))
    newest = max((r.received_at for planned in hand for r in readings_of(planned)), default=lab.opened_at)
    silent = 0.0 if newest is None else (now - newest).total_seconds() / 60.0
    shared = next((planned.cell for planned in hand if planned.shared), None)
    mine = [row.signed_v for row in own if row.cell == shared]
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
        checked=group.id in checked,
        finished=done >= len(hand),
    )
