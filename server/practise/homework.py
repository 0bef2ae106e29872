"""The demo class's practice before its lab: benches in trouble on devices at home, nobody named."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from datetime import datetime, timedelta
from typing import Any

import numpy as np

from galvanic.simulated.class_drill import simulated_try
from server.homework.models import Homework, Tried
from server.homework.schemas import HomeworkIn
from server.homework.services import set_homework
from server.labs.models import Lab
from server.people.models import Teacher
from server.practise.finished import drawn_key


def practise_at_home(teacher: Teacher, lab: Lab, told: Mapping[str, Any], day: datetime, seed: int) -> None:
    """Set the scenario's homework and keep what its devices tried. Its numbers are drawn beside the lab's own."""
    rng = np.random.default_rng([seed, told["devices"]])
    begun = day - timedelta(days=told["days_before"])
    asked = HomeworkIn(symptoms=told["symptoms"], benches=told["benches"])
    homework = set_homework(actor=teacher, lab_id=lab.id, data=asked)
    Homework.objects.filter(id=homework.id).update(set_at=begun, ended_at=day)
    rows = []
    for number in range(told["devices"]):
        device = uuid.UUID(int=number + 1)
        for _ in range(told["benches"]):
            one = simulated_try(rng, str(device), told["symptoms"], told["never"], told["most_hands"], told["heedless"])
            rows.append(
                Tried(
                    id=drawn_key(rng), homework=homework, device=device, symptom=one.symptom, fault=one.fault,
                    named=one.named, hands=list(one.hands), received_at=begun + timedelta(minutes=90 + 7 * number),
                )
            )  # fmt: skip
    Tried.objects.bulk_create(rows)
