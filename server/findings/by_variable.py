"""What a lab found of what it changed on purpose, as it is sent."""

from __future__ import annotations

from galvanic.cells import Cell
from galvanic.findings.by_variable import Changed, current_by_variable, volts_by_variable
from server.base.kept import made_once
from server.entries.models import SetAside, UnderLoad
from server.findings.schemas import ChangedOut, LevelOut, LinePoint, TickOut, VariablesOut
from server.findings.services import compare_lab
from server.labs.models import Lab
from server.labs.outputs import notes_out


def short_circuits(lab: Lab) -> list[tuple[str, Cell, float]]:
    """The latest short-circuit current of every cell, of groups that count: group, cell, A; two queries."""
    aside = {row.group_id: row.reason for row in SetAside.objects.filter(group__lab=lab)}
    rows = UnderLoad.objects.filter(cell__group__lab=lab, kind=UnderLoad.Kind.SHORT).select_related("cell__group")
    latest = {row.cell_id: row for row in rows if not aside.get(row.cell.group_id)}
    return [(row.cell.group.name, row.cell.cell, abs(row.value)) for row in latest.values()]


def changed_in(lab: Lab) -> list[Changed]:
    """Volts and currents against every variable the lab changed; kept until its next change."""

    def make() -> list[Changed]:
        return [*volts_by_variable(compare_lab(lab)), *current_by_variable(short_circuits(lab))]

    return made_once(lab, "by variable", make)


def variables_out(lab: Lab) -> VariablesOut:
    """All of it as it is sent."""
    return VariablesOut(changed=[_changed(one) for one in changed_in(lab)])


def _changed(one: Changed) -> ChangedOut:
    amps = one.quantity == "current"
    return ChangedOut(
        variable=one.variable.key,
        name=one.variable.name,
        unit=one.variable.unit,
        words=list(one.variable.words),
        short=one.cell.short,
        electrolyte=one.cell.electrolyte,
        quantity=one.quantity,
        ticks=[TickOut(group=tick.group, at=tick.condition.rank, value=tick.value) for tick in one.ticks],
        line=[LinePoint(at=at, value=value) for at, value in one.line],
        model=[
            LevelOut(
                at=level.condition.rank,
                value=(level.short_a or 0.0) if amps else level.open_v,
                u=None if amps else level.u_open_v,
            )
            for level in one.model
            if not amps or level.short_a is not None
        ],
        notes=notes_out(one.notes),
        keep=list(one.variable.keep),
    )
