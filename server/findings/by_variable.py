"""What a lab found of what it changed on purpose, as it is sent."""

from __future__ import annotations

import math
from collections import defaultdict
from dataclasses import replace

from galvanic.bench.load_standing import under_load_standing
from galvanic.cells import Cell
from galvanic.condition import Condition, condition_of
from galvanic.findings.by_variable import Changed, current_by_variable, one_next_level, volts_by_variable
from galvanic.findings.moved import Noted, Place, moved
from galvanic.words import say
from server.base.kept import made_once
from server.entries.models import Actual, Reading, SetAside, UnderLoad
from server.findings.schemas import ChangedOut, LevelOut, LinePoint, TickOut, VariablesOut
from server.findings.services import compare_lab
from server.labs.models import Lab, PlannedCell
from server.labs.outputs import notes_out


def short_circuits(lab: Lab) -> list[tuple[str, Cell, float]]:
    """The latest short-circuit current of every cell that could be one, of groups that count: group, cell, A; 2 queries."""
    aside = {row.group_id: row.reason for row in SetAside.objects.filter(group__lab=lab)}
    rows = UnderLoad.objects.filter(cell__group__lab=lab, kind=UnderLoad.Kind.SHORT).select_related("cell__group")
    counting = (row for row in rows if not aside.get(row.cell.group_id))
    latest = {row.cell_id: row for row in counting if under_load_standing(row.cell.cell, row.kind, row.value).counts}
    return [(row.cell.group.name, row.cell.cell, abs(row.value)) for row in latest.values()]


def _place(planned: PlannedCell) -> Place | None:
    """Where a planned cell stands among the levels; None where no variable fits its condition."""
    level = condition_of(planned.condition)
    plain = Cell(planned.negative, planned.electrolyte, planned.positive)
    return None if level is None else (planned.group.name, plain, level)


def of_own_level(row: Actual) -> bool:
    """Whether what a group found is of the variable that its cell was planned at."""
    planned = condition_of(row.cell.condition)
    return planned is not None and planned.variable == row.variable


def noted_in(lab: Lab) -> list[Noted]:
    """What groups found their cells set to, the latest of each variable and cell, in the order of their lists; one query."""
    rows = Actual.objects.filter(cell__group__lab=lab).select_related("cell__group")
    rows = rows.order_by("cell__group__position", "cell__position", "received_at", "id")
    latest = {(row.cell_id, row.variable): row for row in rows}
    placed = [(_place(row.cell), row) for row in latest.values()]
    return [Noted(place, row.variable, row.value) for place, row in placed if place is not None]


def really_in(noted: list[Noted]) -> dict[tuple[str, Cell, Condition], float]:
    """What the changed variable really was where it was measured."""
    return {row.place: row.value for row in noted if row.variable == row.place[2].variable}


def _times(lab: Lab) -> dict[Place, float]:
    """When each cell was read on average, s: a cell measured first and last stands in the middle; two queries."""
    cells = PlannedCell.objects.filter(group__lab=lab).exclude(condition="").select_related("group")
    places = {cell.id: _place(cell) for cell in cells}
    read: dict[Place, list[float]] = defaultdict(list)
    for cell_id, at in Reading.objects.filter(cell__in=places, taken_at__isnull=False).values_list("cell_id", "taken_at"):
        if (place := places[cell_id]) is not None and at is not None:
            read[place].append(at.timestamp())
    return {place: math.fsum(times) / len(times) for place, times in read.items()}


def changed_in(lab: Lab) -> list[Changed]:
    """Volts and currents against every variable the lab changed; kept until its next change."""

    def make() -> list[Changed]:
        noted = noted_in(lab)
        really, times = really_in(noted), _times(lab)
        volts = volts_by_variable(compare_lab(lab), really)
        changed = one_next_level([*volts, *current_by_variable(short_circuits(lab), really)])
        return [replace(one, notes=(*one.notes, *moved(one, noted, times))) for one in changed]

    return made_once(lab, "by variable", make)


def variables_out(lab: Lab) -> VariablesOut:
    """All of it as it is sent."""
    return VariablesOut(changed=[_changed(one) for one in changed_in(lab)])


def _changed(changed: Changed) -> ChangedOut:
    amps = changed.quantity == "current"
    return ChangedOut(
        variable=changed.variable.key,
        name=changed.variable.said,
        unit=say(changed.variable.unit),
        words=[say(word) for word in changed.variable.words],
        short=changed.cell.short,
        electrolyte=changed.cell.electrolyte,
        quantity=changed.quantity,
        ticks=[TickOut(group=tick.group, at=tick.at, level=tick.condition.rank, value=tick.value) for tick in changed.ticks],
        line=[LinePoint(at=at, value=value) for at, value in changed.line],
        model=[
            LevelOut(
                at=level.condition.rank,
                value=(level.short_a or 0.0) if amps else level.open_v,
                u=None if amps else level.u_open_v,
            )
            for level in changed.model
            if not amps or level.short_a is not None
        ],
        notes=notes_out(changed.notes),
        keep=list(changed.variable.keep),
    )
