"""Questions that groups leave on their cells, and what the teacher makes of them."""

from __future__ import annotations

import uuid
from typing import Any

from django.db import transaction

from galvanic.cells import Cell
from galvanic.condition import canonical
from galvanic.words import say
from server.base.problems import Problem
from server.entries.beside_schemas import AnswerKind
from server.entries.models import Question, QuestionAnswer
from server.labs.changes import announce
from server.labs.models import Lab, PlannedCell
from server.labs.services import check_materials
from server.people.deeds import keep_deed
from server.people.models import Teacher
from server.people.sharing import to_change

MOST_CELLS = 60


@transaction.atomic
def answer_question(
    *, actor: Teacher, question_id: uuid.UUID, kind: AnswerKind, text: str, cell: Cell | None = None
) -> QuestionAnswer:
    """Answer a question, park it, plan a lab about it, or give the group a cell to find out with (the same again, where
    none is named).

    Raises Problem: not_found, look_only, empty (an answer without words), or what is wrong with the cell.
    """
    rows: Any = Question.objects.select_related("cell__group__lab")
    question: Question = to_change(rows, actor, question_id, "question")
    group, said = question.cell.group, " ".join(text.split())
    if kind == "answered" and not said:
        raise Problem(422, "empty", say("Write an answer first, or park the question."), field="text")
    if kind == "cell":
        _give(question.cell, cell or question.cell.cell)
    announce(group.lab_id, group.id)
    keep_deed(actor, "question", group.lab, f"{group.name}, {question.cell.cell.short}: {kind}")
    return QuestionAnswer.objects.create(question=question, teacher=actor, kind=kind, text=said)


def _give(asked_at: PlannedCell, cell: Cell) -> PlannedCell:
    """Put a cell on a group's list, after all it has begun and before a shared cell that closes the list."""
    group, lab = asked_at.group, asked_at.group.lab
    if lab.state != Lab.State.OPEN:
        raise Problem(
            409, "not_open", say("The lab is not open, so the group could not measure it. Answer or park the question.")
        )
    check_materials([cell.negative, cell.positive], [cell.electrolyte])
    cells = list(PlannedCell.objects.filter(group=group).order_by("position"))
    if len(cells) >= MOST_CELLS:
        raise Problem(
            409,
            "enough",
            say("{name} has {most_cells} cells, which is the most a list can hold.", name=group.name, most_cells=MOST_CELLS),
        )
    at, last = cells[-1].position + 1, cells[-1]
    if last.shared and len(cells) > 1 and not last.readings.exists():
        at = last.position
        PlannedCell.objects.filter(id=last.id).update(position=last.position + 1)
    tidy = Cell.of(cell.negative, cell.electrolyte, cell.positive, canonical(cell.condition))
    _know(lab, tidy)
    return PlannedCell.objects.create(
        group=group, position=at, negative=tidy.negative, electrolyte=tidy.electrolyte, positive=tidy.positive,
        condition=tidy.condition,
    )  # fmt: skip


def _know(lab: Lab, cell: Cell) -> None:
    """A lab names all that its cells are made of."""
    for name, values in (
        ("electrodes", cell.pair), ("electrolytes", [cell.electrolyte]), ("conditions", [cell.condition]),
    ):  # fmt: skip
        kept = getattr(lab, name)
        new = [value for value in values if value not in kept]
        if new:
            setattr(lab, name, [*kept, *new])
            lab.save(update_fields=[name])
