"""From a lab as it is kept to the core's task and plan, and back."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Mapping, Sequence
from dataclasses import asdict, replace
from typing import Any

from galvanic.cells import Cell
from galvanic.conditions import plate_sets
from galvanic.level import Level
from galvanic.planning.design import Plan, Shared, Task, judge
from galvanic.planning.schedule import Steps
from server.labs.models import Lab, PlannedCell
from server.labs.settings import LabSettings, StepsIO, Varies
from server.materials.models import Shelf
from server.people.models import Group, Teacher

Hands = Sequence[Sequence[PlannedCell]]


def steps_of(lab: Lab) -> Steps:
    """The lab's minutes."""
    return Steps(**lab.steps)


def settings_of(lab: Lab) -> LabSettings:
    """What the teacher chose, as it is kept: a lab from a table may have more of something than a form takes.

    Labs from before keep only the minutes that were not the usual ones.
    """
    chosen = {"varies": Varies(lab.varies), "level": Level(lab.level), "steps": StepsIO(**asdict(steps_of(lab)))}
    kept = {name: getattr(lab, name) for name in LabSettings.model_fields}
    return LabSettings.model_construct(**kept | chosen)


def mark_of(lab: Lab, names: Sequence[str]) -> str:
    """What tells whether a lab's title, day, groups and settings are still as a form found them."""
    told = [lab.title, lab.date.isoformat(), list(names), settings_of(lab).model_dump(mode="json")]
    return hashlib.sha256(json.dumps(told, sort_keys=True).encode()).hexdigest()[:20]


def stock_of(teacher: Teacher, electrodes: Sequence[str]) -> dict[str, int]:
    """How many plates of each electrode a teacher has, where that is known; one query."""
    rows = Shelf.objects.visible_to(teacher).filter(material__in=electrodes, count__isnull=False)
    return {material: int(count) for material, count in rows.values_list("material", "count") if count is not None}


def wish_in(row: Mapping[str, Any]) -> tuple[Cell, int]:
    """A kept wish as the core's."""
    return Cell(row["negative"], row["electrolyte"], row["positive"], row["condition"]), int(row["count"])


def wish_out(cell: Cell, count: int) -> dict[str, Any]:
    """The core's wish as it is kept."""
    return {
        "negative": cell.negative,
        "electrolyte": cell.electrolyte,
        "positive": cell.positive,
        "condition": cell.condition,
        "count": count,
    }


def task_of(
    lab: Lab, groups: int, pinned: Mapping[int, tuple[Cell, ...]], stock: Mapping[str, int], held: Shared | None = None
) -> Task:
    """The core's task of a lab; wishes and pins that do not belong to its cells any more are left out."""
    task = Task(
        tuple(lab.electrodes),
        tuple(lab.electrolytes),
        groups,
        steps_of(lab).places(lab.minutes),
        lab.repeats,
        tuple(lab.conditions or [""]),
        lab.against or None,
        {},
        {},
        {key: n // plate_sets(lab.conditions) for key, n in stock.items()},
        held,
    )
    known = set(task.cells)
    wished = {cell: count for cell, count in map(wish_in, lab.wished) if cell in known}
    kept = {g: tuple(c for c in cells if c in known)[: task.free] for g, cells in pinned.items() if g < groups}
    return replace(task, wished=wished, pinned=kept)


def pinned_in(hands: Hands) -> dict[int, tuple[Cell, ...]]:
    """Cells pinned to groups, by the group's number."""
    return {g: tuple(p.cell for p in hand if p.pinned and not p.shared) for g, hand in enumerate(hands)}


def shared_in(hands: Hands) -> Shared:
    """The shared cell that kept cells have."""
    return Shared(next((p.cell for hand in hands for p in hand if p.shared), None))


def planned(lab: Lab, groups: Sequence[Group], hands: Hands, stock: Mapping[str, int]) -> tuple[Task, Plan]:
    """Task and plan of a lab as it is kept."""
    task = task_of(lab, len(groups), pinned_in(hands), stock, shared_in(hands))
    return task, judge(task, [[p.cell for p in hand] for hand in hands])
