"""The demo's second lab: one thing changed, the distance of the plates; readings and short circuits from the simulator."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from datetime import timedelta
from typing import Any

import numpy as np
from django.utils import timezone

from galvanic.bench.readings import parse, parse_current
from galvanic.cells import Cell
from galvanic.chemistry.varied import levels_of
from galvanic.condition import Condition, condition_of
from galvanic.planning.schedule import Steps
from galvanic.simulated.simulate import Bench, Meter
from server.entries.models import Actual, Reading, UnderLoad
from server.findings.release import release
from server.labs.models import Lab, PlannedCell
from server.labs.opening import close_lab, open_lab, sign_off
from server.labs.policy import READINGS_PER_CELL, sheet_of
from server.labs.services import create_lab
from server.labs.settings import NewLab
from server.people.models import Group, Teacher

STEPS = Steps()
SET_CM = 0.1  # how well a hand sets a distance: common practice, no source


def make_spacing_lab(teacher: Teacher, row: Mapping[str, Any], scenario: Mapping[str, Any], rng: np.random.Generator) -> Lab:
    """A finished lab of one pair of plates at several distances."""
    day = timezone.now() - timedelta(days=row["days_ago"])
    plan = NewLab(
        title=row["title"], date=day.date(), minutes=scenario["minutes"], electrodes=row["electrodes"],
        electrolytes=row["electrolytes"], groups=row["groups"], varies=row["varies"], conditions=row["conditions"],
        question=row["question"], short_circuit=True,
    )  # fmt: skip
    lab = create_lab(actor=teacher, plan=plan)
    Lab.objects.filter(id=lab.id).update(simulated=True)
    sign_off(actor=teacher, lab_id=lab.id, fingerprint=sheet_of(lab).fingerprint)
    open_lab(actor=teacher, lab_id=lab.id)
    opened = day - timedelta(minutes=scenario["minutes"])
    for group in lab.groups.prefetch_related("cells"):
        _measure(group, scenario, opened, rng, row["plates_v"])
    close_lab(actor=teacher, lab_id=lab.id)
    Lab.objects.filter(id=lab.id).update(closed_at=day, opened_at=opened)
    release(actor=teacher, lab_id=lab.id, parts=("compare",))
    return lab


def _measure(group: Group, scenario: Mapping[str, Any], opened: Any, rng: np.random.Generator, plates_v: float) -> None:
    """A group's readings and short circuits; its plates are its own, and let through more or less than others'."""
    own = float(np.exp(rng.normal(0.0, plates_v)))
    benches: dict[str, Bench] = {}
    readings, shorts, actuals = [], [], []
    for planned in group.cells.all():
        liquid = planned.electrolyte
        if liquid not in benches:
            potentials = scenario["potential_v"][liquid]
            benches[liquid] = Bench(potentials, rng, Meter(0.0), scenario["plate_v"], scenario["dip_v"])
        for nth in range(READINGS_PER_CELL):
            minute = STEPS.start + (planned.position - 1 + (nth + 1.5) / (READINGS_PER_CELL + 2)) * STEPS.cell
            at = opened + timedelta(minutes=minute)
            shown = benches[liquid].read(planned.positive, planned.negative)
            parsed = parse(shown)
            readings.append(
                Reading(
                    id=_key(rng), cell=planned, red=planned.positive, black=planned.negative, text=shown, unit=parsed.unit,
                    volts_v=parsed.volts_v, resolution_v=parsed.resolution_v, origin=Reading.Origin.SIMULATED,
                    device_at=at, taken_at=at, received_at=at,
                )
            )  # fmt: skip
        level = _really(planned, rng)
        amps = own * _short_a(planned, level) * float(np.exp(rng.normal(0.0, 0.05)))
        current = parse_current(f"{1e3 * amps:.3f}", "mA")
        if level is not None:
            text = str(level).removeprefix(f"{level.row.name} ")
            actuals.append(
                Actual(
                    id=_key(rng), cell=planned, text=text, variable=level.variable, value=level.rank, device_at=at,
                    taken_at=at, received_at=at,
                )
            )  # fmt: skip
        shorts.append(
            UnderLoad(
                id=_key(rng), cell=planned, kind=UnderLoad.Kind.SHORT, text=f"{1e3 * amps:.3f}", unit="mA",
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


def _key(rng: np.random.Generator) -> uuid.UUID:
    return uuid.UUID(bytes=rng.bytes(16), version=4)
