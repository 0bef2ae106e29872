"""A lab's homework with what was tried."""

from __future__ import annotations

import uuid

from server.homework.models import Homework, Tried
from server.labs.models import Lab


def homework_of(lab: Lab) -> list[tuple[Homework, list[Tried]]]:
    """All homework of a lab that may be seen, the newest first, each with its tries in the order in which they came."""
    rows = list(Homework.objects.filter(lab=lab))
    by: dict[uuid.UUID, list[Tried]] = {row.id: [] for row in rows}
    for one in Tried.objects.filter(homework__in=rows):
        by[one.homework_id].append(one)
    return [(row, by[row.id]) for row in rows]
