"""What each group has in hand: its cells with their readings, as they are sent.

Board and benches show what all groups have read, and an entry changes one group's. So each hand is fetched once after each
change.
"""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from galvanic.bench.class_reference import GroupCell
from galvanic.cells import Cell
from server.base.kept import made_of_each
from server.base.problems import not_found
from server.entries.checking import Row, class_values
from server.entries.fetched import BESIDE, fetch_beside, with_their_readings
from server.entries.models import MeterCheck, SetAside
from server.entries.outputs import current_rows, is_asked, meter_out, with_readings
from server.entries.schemas import CellWithReadings, MeterOut
from server.labs.models import Lab, PlannedCell
from server.people.auth import Member
from server.people.models import Group, Teacher


@dataclass(frozen=True, slots=True)
class CellInHand:
    """One cell of a group's: as sent, the readings that count, and whether the teacher waits for another."""

    planned: PlannedCell
    sent: CellWithReadings
    rows: list[Row]
    asked: bool


@dataclass(frozen=True, slots=True)
class Hand:
    """A group's cells in order, its mean of each, its latest meter check, and why all is set aside (empty: it is not)."""

    cells: list[CellInHand]
    values: list[GroupCell]
    meter: MeterOut | None
    aside: str

    @property
    def rows(self) -> list[Row]:
        """The readings that count, cell by cell, oldest first."""
        return [row for cell in self.cells for row in cell.rows]


def hands_of(lab: Lab, groups: Sequence[Group]) -> list[Hand]:
    """The hands of a lab's groups, which are just fetched; five queries for all that have changed."""
    return made_of_each(lab, "hand", groups, _fetched)


def _fetched(groups: Sequence[Group]) -> Mapping[uuid.UUID, Hand]:
    ids = [group.id for group in groups]
    cells: dict[uuid.UUID, list[CellInHand]] = defaultdict(list)
    for planned in with_their_readings(PlannedCell.objects.filter(group__in=ids).order_by("position")):
        (sent,) = with_readings([planned])
        cells[planned.group_id].append(CellInHand(planned, sent, current_rows([planned]), is_asked(planned)))
    meters = {check.group_id: check for check in MeterCheck.objects.filter(group__in=ids)}  # the latest comes last
    asides = {row.group_id: row.reason for row in SetAside.objects.filter(group__in=ids)}
    return {
        key: Hand(
            cells=cells[key],
            values=class_values(row for one in cells[key] for row in one.rows),
            meter=meter_out(meters[key]) if key in meters else None,
            aside=asides.get(key, ""),
        )
        for key in ids
    }


def measured_cells(actor: Member) -> set[Cell]:
    """The cells that a group has readings of."""
    return {planned.cell for planned in PlannedCell.objects.visible_to(actor).filter(readings__isnull=False).distinct()}


def cell_for_teacher(actor: Teacher, cell_id: uuid.UUID) -> PlannedCell:
    """A cell of a teacher's lab with its readings and what is kept beside them. Raises Problem not_found."""
    cells = with_their_readings(PlannedCell.objects.visible_to(actor)).filter(id=cell_id)
    cell: PlannedCell | None = cells.prefetch_related(*BESIDE).first()
    if cell is None:
        raise not_found("cell")
    return cell


def with_what_is_beside(hand: Hand) -> None:
    """Fetch predictions and what is kept beside readings onto the hand's own cells, which are new after each change."""
    fetch_beside([cell.planned for cell in hand.cells], ["predictions"])


def cells_with_predictions(lab: Lab) -> list[PlannedCell]:
    """All cells of a lab, group by group, with what was predicted of them; two queries."""
    cells = PlannedCell.objects.filter(group__lab=lab).select_related("group").prefetch_related("predictions")
    return list(cells.order_by("group__position", "position"))
