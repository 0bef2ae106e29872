"""A finished lab of the demo: planned, signed off, measured by the simulator, closed; its rows' keys are drawn too."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Mapping, Sequence
from datetime import datetime, timedelta
from typing import Any

import numpy as np
from django.utils import timezone

from galvanic.bench.readings import parse
from galvanic.cells import Cell
from galvanic.planning.schedule import Steps
from server.entries.models import Reading
from server.findings.release import release
from server.labs.models import Lab, PlannedCell
from server.labs.opening import close_lab, open_lab, sign_off
from server.labs.planning.edits import edit_plan
from server.labs.planning.tasks import task_of, wish_out
from server.labs.policy import READINGS_PER_CELL, sheet_of
from server.labs.schemas import EditIn
from server.labs.services import create_lab
from server.labs.settings import NewLab
from server.people.models import Group, Teacher

STEPS = Steps()


def finished_lab(
    teacher: Teacher, plan: NewLab, days_ago: int, measure: Callable[[Group, datetime], None], only: Sequence[Cell] = ()
) -> Lab:
    """A lab of days ago; `measure` keeps what a group found, given when the lab opened; `only` these cells, if any are
    named, each by every group."""
    day = timezone.now() - timedelta(days=days_ago)
    lab = create_lab(actor=teacher, plan=plan)
    if only:
        task = task_of(lab, len(plan.groups), {}, {})
        lab.wished = [wish_out(cell, task.groups if cell in only else 0) for cell in task.cells]
        lab.save(update_fields=["wished"])
        edit_plan(actor=teacher, lab_id=lab.id, edit=EditIn(kind="anew"))
    Lab.objects.filter(id=lab.id).update(simulated=True)
    sign_off(actor=teacher, lab_id=lab.id, fingerprint=sheet_of(lab).fingerprint)
    open_lab(actor=teacher, lab_id=lab.id)
    opened = day - timedelta(minutes=plan.minutes)
    for group in lab.groups.prefetch_related("cells"):
        measure(group, opened)
    close_lab(actor=teacher, lab_id=lab.id)
    Lab.objects.filter(id=lab.id).update(closed_at=day, opened_at=opened)
    release(actor=teacher, lab_id=lab.id, parts=("compare",))
    return lab


def plan_of(row: Mapping[str, Any], minutes: int, **more: Any) -> NewLab:
    """The plan of a lab that the scenario describes."""
    day = timezone.now() - timedelta(days=row["days_ago"])
    names = ("title", "electrodes", "electrolytes", "groups", "varies", "conditions", "question")
    return NewLab(**{name: row[name] for name in names if name in row} | {"date": day.date(), "minutes": minutes} | more)


def readings_of(planned: PlannedCell, opened: datetime, read: Callable[[], str], rng: np.random.Generator) -> list[Reading]:
    """A cell's readings at their minutes, not kept yet; `read` is what the meter shows each time, in V."""
    readings = []
    for nth in range(READINGS_PER_CELL):
        minute = STEPS.start + (planned.position - 1 + (nth + 1.5) / (READINGS_PER_CELL + 2)) * STEPS.cell
        at = opened + timedelta(minutes=minute)
        shown = read()
        parsed = parse(shown)
        readings.append(
            Reading(
                id=drawn_key(rng), cell=planned, red=planned.positive, black=planned.negative, text=shown, unit=parsed.unit,
                volts_v=parsed.volts_v, resolution_v=parsed.resolution_v, origin=Reading.Origin.SIMULATED,
                device_at=at, taken_at=at, received_at=at,
            )
        )  # fmt: skip
    return readings


def drawn_key(rng: np.random.Generator) -> uuid.UUID:
    """An id that is the same every time the demo is made."""
    return uuid.UUID(bytes=rng.bytes(16), version=4)
