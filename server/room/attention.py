"""From a lab's board to whom the teacher should go and see."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from statistics import fmean

from galvanic.bench import attention
from galvanic.bench.attention import GroupState, Left, Reason, Visit, Work, of_most, relief, state_of, visits
from galvanic.bench.checks import Finding
from galvanic.bench.class_reference import GroupCell, Reference
from galvanic.bench.standing import values_that_count
from galvanic.planning.schedule import Steps
from server.entries.checking import check_last, reference_of
from server.entries.hands import CellInHand, Hand
from server.entries.standing import Verdicts, counting, of_class
from server.labs.models import Lab, PlannedCell
from server.people.models import Group


@dataclass(frozen=True, slots=True)
class Relief:
    """A cell that a group that is behind could give to another, which has the least left to do."""

    cell: PlannedCell
    to: Group


@dataclass(frozen=True)
class Attention:
    """What most groups have in common; visits, the most worth it first; what is said of each cell's last reading; the ids
    of the cells that reasons name, by group and what the cell is called; and relief by group."""

    common: list[Reason]
    visits: list[Visit]
    flags: dict[uuid.UUID, Finding]
    cells: dict[tuple[str, str], uuid.UUID]
    relief: dict[str, Relief]
    verdicts: Verdicts


def visits_of(
    lab: Lab,
    groups: Sequence[Group],
    hands: Sequence[Hand],
    wanted: int,
    steps: Steps,
    now: datetime,
) -> Attention:
    """Whom to see, from the groups in order and their hands."""
    verdicts = of_class(lab, hands)
    values = sound_values(groups, hands, verdicts)
    minute = lab.minutes_in(now)
    states, flags, cells = [], {}, {}
    for group, hand in zip(groups, hands, strict=True):
        reference = reference_of(lab, group.id, values)
        told: list[tuple[str, Finding]] = []
        for cell in hand.cells:
            planned = cell.planned
            if said := check_last(cell.rows, reference):
                flags[planned.id] = said[0]
                told.append((planned.cell.notation, said[0]))
                cells[group.name, planned.cell.notation] = planned.id
        states.append(_state(lab, group, hand, verdicts, values, reference, told, wanted, steps, minute, now))
    seen = visits(states) if lab.state == Lab.State.OPEN and lab.paused_at is None else []
    common, found = of_most(seen, len(groups))
    behind = [visit.group for visit in seen if any(one.code == "behind" for one in visit.reasons)]
    return Attention(common, found, flags, cells, _helped(groups, hands, behind), verdicts)


def sound_values(groups: Sequence[Group], hands: Sequence[Hand], verdicts: Verdicts) -> list[GroupCell]:
    """The groups' values by which the others are judged, of the readings that count."""
    wrong = {(str(group.id), cell) for group, hand in zip(groups, hands, strict=True) for cell in hand.wrong}
    return attention.sound_values(values_that_count((row for hand in hands for row in hand.rows), verdicts), wrong)


def _helped(groups: Sequence[Group], hands: Sequence[Hand], behind: Sequence[str]) -> dict[str, Relief]:
    """Relief for the groups that are behind, by name."""
    at = {group.name: k for k, group in enumerate(groups)}
    lists = {
        name: [Left(cell.planned.cell, cell.begun, cell.planned.shared) for cell in hands[k].cells] for name, k in at.items()
    }
    reliefs = {}
    for name in behind:
        if (helps := relief(name, lists, behind)) is not None:
            place, to = helps
            reliefs[name] = Relief(hands[at[name]].cells[place].planned, groups[at[to]])
    return reliefs


def _state(
    lab: Lab,
    group: Group,
    hand: Hand,
    verdicts: Verdicts,
    values: Sequence[GroupCell],
    reference: Reference,
    told: Sequence[tuple[str, Finding]],
    wanted: int,
    steps: Steps,
    minute: float,
    now: datetime,
) -> GroupState:
    newest = max((r.received_at for one in hand.cells for r in one.sent.readings), default=lab.opened_at)
    state = state_of(
        str(group.id),
        [_work(one, verdicts) for one in hand.cells],
        wanted=wanted,
        cell_min=steps.cell,
        due=sum(end <= minute for _, end in steps.cell_times(len(hand.cells))),
        silent_min=0.0 if newest is None else (now - newest).total_seconds() / 60.0,
        meter=None if hand.meter is None else (hand.meter.tone, hand.meter.text),
        findings=told,
        values=values,
        expected_v=lambda cell: reference.of(cell).volts_v,
    )
    return replace(state, group=group.name)


def _work(hand: CellInHand, verdicts: Verdicts) -> Work:
    values = [row.signed_v for row in counting(hand.rows, verdicts)]
    return Work(hand.planned.cell, len(values), fmean(values) if values else None, hand.planned.shared)
