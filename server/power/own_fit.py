"""A class's values of one cell, open, under loads and in time, for its own fit."""

from __future__ import annotations

from collections.abc import Iterator

from galvanic.bench.pack_steps import known_load
from galvanic.cells import Cell
from galvanic.chemistry.demand import load_of
from galvanic.findings.own_fit import OneRun, OwnFit, class_values, own_fit
from server.labs.models import Lab
from server.power.models import Pack
from server.power.runs import typed_of
from server.power.services import groups_aside, measured_cells, measured_under_load


def fit_in(lab: Lab, cell: Cell) -> OwnFit:
    """The fit of a cell that the class has measured, with its plus where the class found it."""
    open_v, u_v = measured_cells(lab)[cell]
    turned = Cell(cell.positive, cell.electrolyte, cell.negative)
    facing = turned if open_v < 0.0 else cell
    runs = list(_runs(lab, {cell, turned}))
    return own_fit(facing, class_values(open_v, u_v, measured_under_load(lab).get(cell, ()), runs))


def _runs(lab: Lab, kinds: set[Cell]) -> Iterator[OneRun]:
    """Runs into a resistor of packs of this cell alone, however it was named, of groups that count."""
    packs = Pack.objects.filter(group__lab=lab).exclude(group__in=groups_aside(lab))
    for pack in packs.prefetch_related("entries", "files").order_by("received_at"):
        load = load_of(pack.load) if known_load(pack.load) is not None else None
        if not isinstance(load, float) or load <= 0.0:
            continue
        typed = typed_of(pack)
        if typed.cells and {one.cell for one in typed.cells} <= kinds:
            yield OneRun(len(typed.cells), load, typed.volts_v, typed.events)
