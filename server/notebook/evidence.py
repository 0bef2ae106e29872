"""What stands beside a cell's numbers: what each group kept of it, and the packs that were built of such cells."""

from __future__ import annotations

from dataclasses import dataclass

from galvanic.cells import Cell
from server.entries.fetched import BESIDE, with_their_readings
from server.labs.models import Lab, PlannedCell
from server.people.models import Teacher
from server.power.models import Pack
from server.power.packs import packs_of_lab


@dataclass(frozen=True, slots=True)
class Evidence:
    """A cell on groups' lists with what is kept of it, and packs that hold such a cell."""

    cells: list[PlannedCell]
    packs: list[Pack]


def evidence_of(actor: Teacher, lab: Lab, cell: Cell) -> Evidence:
    """The evidence beside a cell of a lab that the teacher sees; a constant number of queries."""
    rows = with_their_readings(PlannedCell.objects.filter(group__lab=lab)).select_related("group")
    rows = rows.filter(
        negative=cell.negative, electrolyte=cell.electrolyte, positive=cell.positive, condition=cell.condition
    ).prefetch_related(*BESIDE)
    parts = cell.negative, cell.electrolyte, cell.positive
    packs = [
        pack
        for pack in packs_of_lab(actor, lab.id)
        if any((one.negative, one.electrolyte, one.positive) == parts for one in pack.entries.all())
    ]
    return Evidence(list(rows.order_by("group__position", "position")), packs if not cell.condition else [])
