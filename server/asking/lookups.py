"""A lab's questions to its class with their answers."""

from __future__ import annotations

import uuid

from server.asking.models import ClassAnswer, ClassQuestion
from server.labs.models import Lab, PlannedCell

Answers = dict[uuid.UUID, list[ClassAnswer]]


def questions_of(lab: Lab) -> tuple[list[ClassQuestion], Answers]:
    """All questions to a lab's class, the newest first, and each one's answers: the latest of each device."""
    rows = list(ClassQuestion.objects.filter(lab=lab))
    latest: dict[uuid.UUID, dict[uuid.UUID, ClassAnswer]] = {row.id: {} for row in rows}
    for answer in ClassAnswer.objects.filter(question__in=rows):
        latest[answer.question_id][answer.device] = answer
    return rows, {key: list(by_device.values()) for key, by_device in latest.items()}


def first_pair(lab: Lab) -> tuple[str, str] | None:
    """The plates of the cell that all groups share, or of the first one; None where nothing is planned."""
    first = PlannedCell.objects.filter(group__lab=lab).order_by("-shared", "position").first()
    return None if first is None else (first.negative, first.positive)
