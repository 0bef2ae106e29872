"""The demo's earlier classes, so that years can be laid over each other: plates of another lot, the same simulator."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from functools import partial
from typing import Any

import numpy as np

from galvanic.simulated.simulate import Bench, Meter
from server.entries.models import Reading
from server.labs.models import Lab
from server.people.models import Group, Teacher
from server.practise.finished import finished_lab, plan_of, readings_of


def make_earlier_labs(teacher: Teacher, scenario: Mapping[str, Any], rng: np.random.Generator) -> None:
    """Finished labs of earlier years; what a class's plates have of their own is drawn once a class."""
    described = scenario["earlier"]
    for row in described["class"]:
        own = {plate: float(rng.normal(0.0, described["classes_v"])) for plate in sorted(row["electrodes"])}

        def measure(group: Group, opened: datetime, own: Mapping[str, float] = own) -> None:
            _measure(group, scenario, own, opened, rng)

        lab = finished_lab(teacher, plan_of(row, scenario["minutes"]), row["days_ago"], measure)
        Lab.objects.filter(id=lab.id).update(tags=described["tags"])


def _measure(
    group: Group, scenario: Mapping[str, Any], own: Mapping[str, float], opened: datetime, rng: np.random.Generator
) -> None:
    benches: dict[str, Bench] = {}
    readings: list[Reading] = []
    for planned in group.cells.all():
        liquid = planned.electrolyte
        if liquid not in benches:
            potentials = {plate: v + own.get(plate, 0.0) for plate, v in scenario["potential_v"][liquid].items()}
            benches[liquid] = Bench(potentials, rng, Meter(0.0), scenario["plate_v"], scenario["dip_v"])
        readings += readings_of(planned, opened, partial(benches[liquid].read, planned.positive, planned.negative), rng)
    Reading.objects.bulk_create(readings)
