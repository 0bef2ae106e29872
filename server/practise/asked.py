"""What the demo class was asked on its devices, before its lab and again after it; nobody named."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from datetime import datetime, timedelta
from typing import Any

import numpy as np

from galvanic.findings.class_questions import ready
from server.asking.models import ClassAnswer, ClassQuestion
from server.asking.schemas import ClassQuestionIn
from server.asking.services import ask_class
from server.labs.models import Lab
from server.people.models import Teacher
from server.practise.finished import drawn_key


def ask_before_and_after(teacher: Teacher, lab: Lab, told: Mapping[str, Any], day: datetime, seed: int) -> None:
    """Ask the scenario's question twice and keep as many answers to each option as it says."""
    rng = np.random.default_rng([seed, len(told["before"]), sum(told["before"])])
    asked = next(one for one in ready() if one.key == told["key"])
    data = ClassQuestionIn(text=asked.text, options=[option.text for option in asked.options], fits=asked.fits)
    for at, counts in ((day - timedelta(days=told["days_before"]), told["before"]), (day, told["after"])):
        row = ask_class(actor=teacher, lab_id=lab.id, data=data)
        ClassQuestion.objects.filter(id=row.id).update(asked_at=at, ended_at=at + timedelta(minutes=5))
        choices = [choice for choice, count in enumerate(counts) for _ in range(count)]
        ClassAnswer.objects.bulk_create(
            ClassAnswer(
                id=drawn_key(rng), question=row, device=uuid.UUID(int=n + 1), choice=choice,
                received_at=at + timedelta(seconds=40 + 5 * n),
            )
            for n, choice in enumerate(choices)
        )  # fmt: skip
