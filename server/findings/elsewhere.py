"""Values from elsewhere: put beside the class's, with where they are from; never among them."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Mapping, Sequence

from django.db import transaction
from django.utils import timezone

from galvanic.bench.readings import parse
from galvanic.cells import Cell
from galvanic.condition import canonical
from galvanic.errors import UnreadableReading
from galvanic.words import say
from server.base.problems import Problem
from server.findings.models import Elsewhere
from server.findings.schemas import ElsewhereIn
from server.labs.changes import announce
from server.labs.models import Lab
from server.labs.services import check_materials, lab_to_change
from server.people.deeds import keep_deed
from server.people.models import Teacher
from server.people.sharing import to_change

MOST = 60


def elsewhere_of(lab: Lab) -> Mapping[Cell, Sequence[Elsewhere]]:
    """A lab's values from elsewhere by cell, those withdrawn left out; one query."""
    found: dict[Cell, list[Elsewhere]] = defaultdict(list)
    for row in Elsewhere.objects.filter(lab=lab, withdrawn_at=None):
        found[row.cell].append(row)
    return found


@transaction.atomic
def add_elsewhere(*, actor: Teacher, lab_id: uuid.UUID, data: ElsewhereIn) -> Elsewhere:
    """Put a value beside a lab's own.

    Raises Problem: not_found, unreadable_reading, no_source, same_plate, unknown_material, or enough.
    """
    lab = lab_to_change(actor, lab_id)
    volts_v = _volts(data.text, "text")
    u_v = abs(_volts(data.u, "u")) if data.u.strip() else None
    source = " ".join(data.source.split())
    if not source:
        raise Problem(
            422, "no_source", say("Say where the value is from: without a source it cannot be weighed."), field="source"
        )
    if data.cell.negative == data.cell.positive:
        raise Problem(422, "same_plate", say("Choose two different plates."), field="cell")
    check_materials([data.cell.negative, data.cell.positive], [data.cell.electrolyte])
    if Elsewhere.objects.filter(lab=lab, withdrawn_at=None).count() >= MOST:
        raise Problem(409, "enough", say("A lab holds {most} values from elsewhere at most.", most=MOST))
    given = data.cell
    cell = Cell.of(given.negative, given.electrolyte, given.positive, canonical(given.condition))
    sign = 1.0 if cell.negative == given.negative else -1.0
    announce(lab.id)
    keep_deed(actor, "elsewhere", lab, f"{cell.short}: {data.text}, {source}")
    return Elsewhere.objects.create(
        lab=lab, teacher=actor, negative=cell.negative, electrolyte=cell.electrolyte, positive=cell.positive,
        condition=cell.condition, volts_v=sign * volts_v, u_v=u_v, source=source,
        conditions=" ".join(data.conditions.split()),
    )  # fmt: skip


@transaction.atomic
def withdraw(*, actor: Teacher, value_id: uuid.UUID) -> None:
    """Take a value from elsewhere away again. Raises Problem: not_found, or look_only."""
    row: Elsewhere = to_change(Elsewhere.objects.select_related("lab"), actor, value_id, "value")
    if row.withdrawn_at is None:
        row.withdrawn_at = timezone.now()
        row.save(update_fields=["withdrawn_at"])
        announce(row.lab_id)
        keep_deed(actor, "withdrew", row.lab, f"{row.cell.short}: {row.source}")


def _volts(text: str, field: str) -> float:
    try:
        return parse(text, "V").volts_v
    except UnreadableReading as error:
        raise Problem(422, error.code, say("{error} Nothing was kept.", error=error), field=field) from error
