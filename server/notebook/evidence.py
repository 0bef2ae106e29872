"""What stands beside a cell's numbers: what each group kept of it, and the packs that were built of such cells."""

from __future__ import annotations

from dataclasses import dataclass

from galvanic.cells import Cell
from server.entries.fetched import BESIDE, fetch_readings
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
    rows = PlannedCell.objects.filter(
        group__lab=lab,
        negative=cell.negative,
        electrolyte=cell.electrolyte,
        positive=cell.positive,
        condition=cell.condition,
    )
    cells = list(rows.select_related("group").prefetch_related(*BESIDE).order_by("group__position", "position"))
    fetch_readings(cells)
    parts = cell.negative, cell.electrolyte, cell.positive
    packs = [
        pack
        for pack in packs_of_lab(actor, lab.id)
        if any((one.negative, one.electrolyte, one.positive) == parts for one in pack.entries.all())
    ]
    return Evidence(cells, packs if not cell.condition else [])
