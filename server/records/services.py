"""Bringing in a class's own table."""

from __future__ import annotations

from datetime import date, timedelta
from itertools import count

from django.db import transaction
from django.utils import timezone

from galvanic.cells import Cell
from server.bench.models import Reading
from server.labs.models import Lab
from server.labs.services import NewLab, add_groups, start_lab, tidy_names
from server.people.deeds import keep_deed
from server.people.models import Teacher
from server.records.table import TableRow, read_table

DEFAULT_MINUTES = 60


@transaction.atomic
def import_readings(*, actor: Teacher, text: str, title: str, on: date) -> Lab:
    """Make a closed lab from a table of readings, all or nothing. Raises Problem naming each faulty row."""
    rows = read_table(text)
    hands: dict[str, dict[Cell, list[TableRow]]] = {}
    spelled: dict[str, str] = {}
    for row in rows:
        group = spelled.setdefault(row.group.casefold(), row.group)
        cell = Cell.of(row.black, row.electrolyte, row.red)
        hands.setdefault(group, {}).setdefault(cell, []).append(row)
    plan = NewLab(
        title=title,
        date=on,
        minutes=DEFAULT_MINUTES,
        electrodes=list(dict.fromkeys(plate for row in rows for plate in (row.black, row.red))),
        electrolytes=list(dict.fromkeys(row.electrolyte for row in rows)),
        groups=tidy_names(list(hands)),
    )
    lab = start_lab(actor, plan)
    planned = add_groups(lab, plan.groups, [list(hand) for hand in hands.values()], shared_by_all(hands))
    by_cell = [found for hand in hands.values() for found in hand.values()]
    now = timezone.now()
    order = count()
    Reading.objects.bulk_create(
        Reading(
            cell=cell,
            red=row.red,
            black=row.black,
            text=row.text,
            unit=row.parsed.unit,
            volts_v=row.parsed.volts_v,
            resolution_v=row.parsed.resolution_v,
            origin=Reading.Origin.IMPORTED,
            received_at=now + timedelta(microseconds=next(order)),
        )
        for cell, found in zip(planned, by_cell, strict=True)
        for row in found
    )
    lab.state = Lab.State.CLOSED
    lab.closed_at = now
    lab.save(update_fields=["state", "closed_at"])
    keep_deed(actor, "imported", lab, f"{len(rows)} readings")
    return lab


def shared_by_all(hands: dict[str, dict[Cell, list[TableRow]]]) -> Cell | None:
    """A cell that every group measured, if there are two groups and such a cell."""
    if len(hands) < 2:
        return None
    common = set.intersection(*(set(hand) for hand in hands.values()))
    return min(common) if common else None
