"""The demo's second lab: one thing changed, the distance of the plates; readings and short circuits from the simulator."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from functools import partial
from typing import Any

import numpy as np

from galvanic.bench.readings import parse_current
from galvanic.cells import Cell
from galvanic.chemistry.varied import levels_of
from galvanic.condition import Condition, condition_of
from galvanic.simulated.simulate import Bench, Meter
from server.entries.models import Actual, Reading, UnderLoad
from server.labs.models import Lab, PlannedCell
from server.people.models import Group, Teacher
from server.practise.finished import drawn_key, finished_lab, plan_of, readings_of

SET_CM = 0.1  # how well a hand sets a distance: common practice, no source


def make_spacing_lab(teacher: Teacher, row: Mapping[str, Any], scenario: Mapping[str, Any], rng: np.random.Generator) -> Lab:
    """A finished lab of one pair of plates at several distances."""

    def measure(group: Group, opened: datetime) -> None:
        _measure(group, scenario, opened, rng, row["plates_v"])

    return finished_lab(teacher, plan_of(row, scenario["minutes"], short_circuit=True), row["days_ago"], measure)


def _measure(group: Group, scenario: Mapping[str, Any], opened: datetime, rng: np.random.Generator, plates_v: float) -> None:
    """A group's readings and short circuits; its plates are its own, and let through more or less than others'."""
    own = float(np.exp(rng.normal(0.0, plates_v)))
    benches: dict[str, Bench] = {}
    readings: list[Reading] = []
    shorts, actuals = [], []
    for planned in group.cells.all():
        liquid = planned.electrolyte
        if liquid not in benches:
            potentials = scenario["potential_v"][liquid]
            benches[liquid] = Bench(potentials, rng, Meter(0.0), scenario["plate_v"], scenario["dip_v"])
        read = partial(benches[liquid].read, planned.positive, planned.negative)
        readings += readings_of(planned, opened, read, rng)
        at = readings[-1].received_at
        level = _really(planned, rng)
        amps = own * _short_a(planned, level) * float(np.exp(rng.normal(0.0, 0.05)))
        current = parse_current(f"{1e3 * amps:.3f}", "mA")
        if level is not None:
            text = str(level).removeprefix(f"{level.row.name} ")
            actuals.append(
                Actual(
                    id=drawn_key(rng), cell=planned, text=text, variable=level.variable, value=level.rank, device_at=at,
                    taken_at=at, received_at=at,
                )
            )  # fmt: skip
        shorts.append(
            UnderLoad(
                id=drawn_key(rng), cell=planned, kind=UnderLoad.Kind.SHORT, text=f"{1e3 * amps:.3f}", unit="mA",
                value=current.current_a, resolution=current.resolution_a, device_at=at, taken_at=at, received_at=at,
            )
        )  # fmt: skip
    Reading.objects.bulk_create(readings)
    UnderLoad.objects.bulk_create(shorts)
    Actual.objects.bulk_create(actuals)


def _really(planned: PlannedCell, rng: np.random.Generator) -> Condition | None:
    """The distance that the group really set, to the millimetre."""
    wanted = condition_of(planned.condition)
    if wanted is None:
        return None
    return Condition(wanted.variable, round(wanted.rank + float(rng.normal(0.0, SET_CM)), 1))


def _short_a(planned: PlannedCell, level: Condition | None) -> float:
    """What the model has for the cell at the distance it had, A."""
    plain = Cell(planned.negative, planned.electrolyte, planned.positive)
    return 1e-3 if level is None else levels_of(plain, [level])[0].short_a or 1e-3
