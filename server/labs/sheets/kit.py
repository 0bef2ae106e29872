"""The sheets of a plan: kit, safety, bench cards."""

from __future__ import annotations

import csv
import io
import uuid

from django.utils import timezone

from galvanic.cells import Cell
from galvanic.planning.kit import Kit, kit
from galvanic.planning.shortages import Short, shortages
from galvanic.words import say
from server.base.spreadsheet import plain_text
from server.labs.models import Lab, PlannedCell
from server.labs.planning.tasks import stock_of
from server.labs.policy import asked_of
from server.labs.services import groups_with_cells
from server.materials.models import Shelf
from server.people.models import Teacher

CSV_HEAD = (
    "kind",
    "item",
    "per group",
    "groups",
    "spare",
    "total",
    "unit",
    "have",
    "missing",
    "price of one",
    "cost",
    "note",
)


def kit_of(lab: Lab) -> tuple[Kit, list[str]]:
    """The kit of a lab as it is planned, with the owner's stock and prices, and the groups' names."""
    groups, hands = groups_with_cells(lab)
    shelf = Shelf.objects.visible_to(lab.owner).filter(price__isnull=False)
    prices = {row.material: float(row.price) for row in shelf if row.price is not None}
    cells = [[planned.cell for planned in hand] for hand in hands]
    needed = kit(cells, stock_of(lab.owner, lab.electrodes), prices, lab.cup_ml, asked_of(lab))
    return needed, [group.name for group in groups]


def shortages_of(teacher: Teacher) -> list[Short]:
    """What is missing for the teacher's labs of today and later. Three queries."""
    labs = list(
        Lab.objects.visible_to(teacher)
        .filter(date__gte=timezone.localdate())
        .exclude(state=Lab.State.CLOSED)
        .order_by("date")
    )
    hands: dict[uuid.UUID, dict[uuid.UUID, list[Cell]]] = {lab.id: {} for lab in labs}
    cells = PlannedCell.objects.filter(group__lab__in=labs).select_related("group")
    for cell in cells.order_by("group__position", "position"):
        hands[cell.group.lab_id].setdefault(cell.group_id, []).append(cell.cell)
    shelf = Shelf.objects.visible_to(teacher).filter(count__isnull=False)
    there = {row.material: float(row.count or 0.0) for row in shelf}
    kits = [(lab.title, kit(list(hands[lab.id].values()), cup_ml=lab.cup_ml)) for lab in labs]
    return shortages(kits, there)


def kit_csv(found: Kit) -> str:
    """The kit as a table: plates, vessels, bench things, then what goes into each solution."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(CSV_HEAD)
    for line in (*found.plates, *found.vessels, *found.bench):
        writer.writerow(
            [line.kind, plain_text(line.name), line.per_group or "", line.groups, line.spare, line.total, "pieces",
             "" if line.there is None else line.there, line.short or "", "" if line.price is None else f"{line.price:.2f}",
             "" if line.cost is None else f"{line.cost:.2f}", plain_text(line.why)]
        )  # fmt: skip
    for batch in found.batches:
        for part in batch.ingredients:
            note = say(
                "for {volume_l:.2f} L of {name}: {method}", volume_l=batch.volume_l, name=batch.name, method=batch.method
            )
            writer.writerow(
                ["mixing", plain_text(part.name), "", "", "", f"{part.amount:.4g}", part.unit, "", "", "", "", note]
            )
    return out.getvalue()
