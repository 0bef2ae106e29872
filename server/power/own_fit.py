"""A class's values of one cell, open, under loads and in time, for its own fit."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterator

from galvanic.bench.load_standing import under_load_standing
from galvanic.bench.pack_steps import known_load
from galvanic.cells import Cell
from galvanic.chemistry.class_fit import MOST_MEASURED, SHORT_S, Measured
from galvanic.chemistry.curves import CELL_SCATTER
from galvanic.chemistry.demand import load_of
from galvanic.chemistry.polarisation import FIRST_S
from galvanic.findings.own_fit import OwnFit, own_fit
from server.entries.models import SetAside, UnderLoad
from server.findings.services import compare_lab
from server.labs.models import Lab
from server.power.models import Pack
from server.power.runs import typed_of

U_OF_ONE_V = 0.03  # a class value of a single group: common practice, no source
MOST_OF_RUN = 5  # of a run: what lies between is not new
RUN_S = (3.0, 10.0, 30.0, 60.0, 300.0, 600.0)
MOST_RUNS = 5


def fit_in(lab: Lab, cell: Cell) -> OwnFit:
    """The fit of a cell of a lab, with its plus where the class found it."""
    opened = [one for result in compare_lab(lab) if not result.condition for one in result.cells if one.cell == cell]
    if not opened:
        return own_fit(cell, ())
    mean_v, u_v = opened[0].mean_v, opened[0].u_v
    facing = cell if mean_v >= 0.0 else Cell(cell.positive, cell.electrolyte, cell.negative)
    values = [Measured(math.inf, FIRST_S, abs(mean_v), U_OF_ONE_V if u_v is None else u_v)]
    values += [*_under_load(lab, cell), *_in_time(lab, cell)]
    return own_fit(facing, values[:MOST_MEASURED])


def _under_load(lab: Lab, cell: Cell) -> Iterator[Measured]:
    """What counts of the groups' measurements under load: of each group the latest of each load, then their mean."""
    aside = {row.group_id: row.reason for row in SetAside.objects.filter(group__lab=lab)}  # the latest comes last
    latest: dict[tuple[object, float], float] = {}
    for row in UnderLoad.objects.filter(cell__group__lab=lab).select_related("cell"):
        counts = not aside.get(row.cell.group_id) and under_load_standing(row.cell.cell, row.kind, row.value).counts
        if row.cell.cell == cell and counts and row.value:
            latest[row.cell_id, row.load_ohm or 0.0] = abs(row.value)
    by_load: dict[float, list[float]] = defaultdict(list)
    for (_, load_ohm), value in latest.items():
        by_load[load_ohm].append(value)
    for load_ohm, values in sorted(by_load.items()):
        mean = math.fsum(values) / len(values)
        u = CELL_SCATTER / math.sqrt(len(values))
        yield Measured(load_ohm, SHORT_S if load_ohm == 0.0 else FIRST_S, mean, u if load_ohm == 0.0 else u * mean)


def _in_time(lab: Lab, cell: Cell) -> Iterator[Measured]:
    """Voltages in time of packs that are rows of this one cell into a resistor, as one of their cells has it."""
    runs = 0
    for pack in Pack.objects.filter(group__lab=lab).prefetch_related("entries", "files").order_by("received_at"):
        typed = typed_of(pack)
        kinds = {one.cell for one in typed.cells}
        load = load_of(pack.load) if known_load(pack.load) is not None else None
        if kinds != {cell} or not isinstance(load, float) or load <= 0.0:
            continue
        joined = next((one for one in typed.told(pack.load).stretches if one.joined), None)
        if joined is None or (runs := runs + 1) > MOST_RUNS:
            continue
        n = len(typed.cells)
        points = [
            (one.t_s - joined.from_s, one.value / n)
            for one in typed.volts_v
            if one.t_s - joined.from_s >= 1.0 and one.t_s <= joined.to_s and one.value > 0.0
        ]
        taken = dict.fromkeys(_nearest(points, at_s) for at_s in RUN_S if points)
        for after_s, value in list(taken)[:MOST_OF_RUN]:
            yield Measured(load / n, after_s, value, CELL_SCATTER * value, str(pack.id))


def _nearest(points: list[tuple[float, float]], at_s: float) -> tuple[float, float]:
    return min(points, key=lambda one: abs(math.log(one[0] / at_s)))
