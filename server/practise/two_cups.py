"""The demo's third lab: cells of two solutions, of several strengths; readings scatter about what the model has for them."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from typing import Any

import numpy as np

from galvanic.chemistry.accounts import predict
from galvanic.simulated.simulate import Meter
from server.entries.models import Reading
from server.labs.models import Lab
from server.materials.making import keep_two
from server.materials.making_schemas import SideIn, TwoIn
from server.materials.own import materials_of
from server.people.models import Group, Teacher
from server.practise.finished import finished_lab, plan_of, readings_of


def make_two_cups_lab(
    teacher: Teacher, row: Mapping[str, Any], scenario: Mapping[str, Any], rng: np.random.Generator
) -> Lab:
    """A finished lab of two-solution cells, which become the teacher's own liquids."""
    liquids = []
    for one in row["cell"]:
        with materials_of(teacher):  # each sees the solutions that those before it made
            liquids.append(keep_two(teacher, _asked(one)).key)

    def measure(group: Group, opened: datetime) -> None:
        _measure(group, scenario, opened, rng)

    with materials_of(teacher):
        plan = plan_of({**row, "electrolytes": liquids}, scenario["minutes"])
        return finished_lab(teacher, plan, row["days_ago"], measure)


def _asked(one: Mapping[str, Any]) -> TwoIn:
    sides = [SideIn(salt=one[f"{side}_salt"], mol_per_l=one[f"{side}_mol_per_l"]) for side in ("left", "right")]
    return TwoIn(
        negative_side=sides[0], positive_side=sides[1], bridge=one["bridge"], negative=one["left"], positive=one["right"]
    )


def _measure(group: Group, scenario: Mapping[str, Any], opened: datetime, rng: np.random.Generator) -> None:
    cells = list(group.cells.all())
    expected = [one["rest"].volts_v or 0.0 for one in predict([planned.cell for planned in cells])]
    meter, readings = Meter(0.0), []
    own: dict[object, float] = {}
    for planned, volts_v in zip(cells, expected, strict=True):
        by = own.setdefault(planned.cell, float(rng.normal(0.0, scenario["plate_v"])))

        def read(true_v: float = volts_v + by) -> str:
            return meter.show(float(true_v + rng.normal(0.0, scenario["dip_v"])))

        readings += readings_of(planned, opened, read, rng)
    Reading.objects.bulk_create(readings)
