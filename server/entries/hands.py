"""What each group has in hand: its cells with their readings, as they are sent.

Board and benches show what all groups have read, and an entry changes one group's. So each hand is fetched once after each
change.
"""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from galvanic.cells import Cell
from server.base.kept import made_of_each
from server.base.problems import not_found
from server.entries.checking import Row, wrong_alone
from server.entries.fetched import ASIDES, BESIDE, fetch_beside, fetch_readings, kinds_there, with_begun
from server.entries.models import MeterCheck, Question, SetAside
from server.entries.outputs import current_rows, is_asked, meter_out, with_readings
from server.entries.schemas import CellWithReadings, MeterOut
from server.labs.models import Lab, PlannedCell
from server.people.auth import Member
from server.people.models import Group, Teacher


@dataclass(frozen=True, slots=True)
class CellInHand:
    """One cell of a group's: as sent, the readings that count, whether the teacher waits for another, and whether anything
    hangs at it that makes it this group's."""

    planned: PlannedCell
    sent: CellWithReadings
    rows: list[Row]
    asked: bool
    begun: bool


@dataclass(frozen=True, slots=True)
class Hand:
    """A group's cells in order, its latest meter check, and why all is set aside (empty: it is not).

    `wrong`: the cells whose last reading is likely wrong by the account and earlier classes alone; `questions`: those that
    nobody has looked at, the oldest first.
    """

    cells: list[CellInHand]
    wrong: frozenset[Cell]
    questions: list[Question]
    meter: MeterOut | None
    aside: str

    @property
    def rows(self) -> list[Row]:
        """The readings that count, cell by cell, oldest first."""
        return [row for cell in self.cells for row in cell.rows]


def hands_of(lab: Lab, groups: Sequence[Group]) -> list[Hand]:
    """The hands of a lab's groups, which are just fetched; four queries for all that have changed, and one for each of what
    few labs have: what is set aside, asked again, or asked by the groups."""
    return made_of_each(lab, "hand", groups, lambda changed: _fetched(lab, changed))


def _fetched(lab: Lab, groups: Sequence[Group]) -> Mapping[uuid.UUID, Hand]:
    ids = [group.id for group in groups]
    cells: dict[uuid.UUID, list[CellInHand]] = defaultdict(list)
    kept = list(with_begun(PlannedCell.objects.filter(group__in=ids)).order_by("position"))
    there = kinds_there(kept, ["asked", "questions", ASIDES])
    fetch_readings(kept, there)
    for planned in kept:
        (sent,) = with_readings([planned])
        cells[planned.group_id].append(CellInHand(planned, sent, current_rows([planned]), is_asked(planned), planned.begun))
    # The latest of a group comes last, and is what a dictionary keeps.
    meters = {check.group_id: check for check in MeterCheck.objects.filter(group__in=ids)}
    whole = SetAside.objects.filter(group__in=ids).values_list("group", "reason")
    asides = dict(whole) if ASIDES in there else {}
    questions = waiting_of(ids) if "questions" in there else []
    return {
        key: Hand(
            cells=cells[key],
            wrong=wrong_alone(lab, [one.rows for one in cells[key]]),
            questions=[one for one in questions if one.cell.group_id == key],
            meter=meter_out(meters[key]) if key in meters else None,
            aside=asides.get(key, ""),
        )
        for key in ids
    }


def waiting_of(groups: Sequence[uuid.UUID]) -> list[Question]:
    """Questions of groups that nobody has looked at, the oldest first; one query."""
    rows = Question.objects.filter(cell__group__in=groups, answers__isnull=True).select_related("cell__group")
    return list(rows.order_by("received_at", "id"))


def measured_cells(actor: Member) -> set[Cell]:
    """The cells that a group has readings of."""
    return {planned.cell for planned in PlannedCell.objects.visible_to(actor).filter(readings__isnull=False).distinct()}


def cell_for_teacher(actor: Teacher, cell_id: uuid.UUID) -> PlannedCell:
    """A cell of a teacher's lab with its readings and what is kept beside them. Raises Problem not_found."""
    rows = PlannedCell.objects.visible_to(actor).filter(id=cell_id).select_related("group__lab")
    cell: PlannedCell | None = rows.prefetch_related(*BESIDE).first()
    if cell is None:
        raise not_found("cell")
    fetch_readings([cell])
    return cell


def with_what_is_beside(hand: Hand) -> None:
    """Fetch predictions and what is kept beside readings onto the hand's own cells, which are new after each change."""
    fetch_beside([cell.planned for cell in hand.cells], ["predictions"])


def cells_with_predictions(lab: Lab) -> list[PlannedCell]:
    """All cells of a lab, group by group, with what was predicted of them; two queries."""
    cells = PlannedCell.objects.filter(group__lab=lab).select_related("group").prefetch_related("predictions")
    return list(cells.order_by("group__position", "position"))
