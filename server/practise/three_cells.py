"""The demo's lab made to decide: every group measures the same three cells, on which the accounts of the voltages part."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from functools import partial
from typing import Any

import numpy as np

from galvanic.cells import Cell
from galvanic.simulated.simulate import Bench, Meter
from server.entries.models import Reading
from server.labs.models import Lab
from server.people.models import Group, Teacher
from server.practise.finished import finished_lab, plan_of, readings_of


def make_three_cells_lab(
    teacher: Teacher, row: Mapping[str, Any], scenario: Mapping[str, Any], rng: np.random.Generator
) -> Lab:
    """A finished lab of the cells that the scenario names, read by every group."""
    (liquid,) = row["electrolytes"]
    wanted = [Cell.of(upper, liquid, lower) for lower, upper in row["cells"]]

    def measure(group: Group, opened: datetime) -> None:
        bench = Bench(scenario["potential_v"][liquid], rng, Meter(0.0), scenario["plate_v"], scenario["dip_v"])
        readings: list[Reading] = []
        for planned in group.cells.all():
            readings += readings_of(planned, opened, partial(bench.read, planned.positive, planned.negative), rng)
        Reading.objects.bulk_create(readings)

    return finished_lab(teacher, plan_of(row, row["minutes"]), row["days_ago"], measure, wanted)
