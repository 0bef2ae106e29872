"""Bringing in a class's own table."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import date, timedelta
from itertools import count

from django.db import transaction
from django.utils import timezone

from galvanic.bench.loads_table import TableLoad
from galvanic.bench.readings_table import ReadingsTable, TableReading
from galvanic.bench.table_preview import left_out
from galvanic.cells import Cell
from galvanic.condition import condition_of
from server.entries.models import Actual, Reading, SetAside, UnderLoad
from server.labs.models import Lab
from server.labs.services import add_groups, start_lab, tidy_names
from server.labs.settings import NewLab, Varies
from server.people.deeds import keep_deed
from server.people.models import Teacher
from server.records.table import read_table

DEFAULT_MINUTES = 60
Hands = Mapping[str, Mapping[Cell, Sequence[TableReading]]]


@dataclass(frozen=True, slots=True)
class Brought:
    """The lab that was made, the names of columns that were not understood, and what was left out, in a sentence."""

    lab: Lab
    unused: Sequence[str]
    left_out: Sequence[str] = ()


def import_readings(*, actor: Teacher, text: str, title: str, on: date) -> Brought:
    """Make a closed lab from the text of a table of readings. Raises Problem naming each faulty row."""
    return keep_readings(actor=actor, table=read_table(text), title=title, on=on)


@transaction.atomic
def keep_readings(*, actor: Teacher, table: ReadingsTable, title: str, on: date, loads: Sequence[TableLoad] = ()) -> Brought:
    """Make a closed lab from a table of readings and the loads of its cells, all or nothing; what does not count in the
    table is set aside."""
    rows = table.readings
    hands: dict[str, dict[Cell, list[TableReading]]] = {}
    spelled: dict[str, str] = {}
    for row in rows:
        group = spelled.setdefault(row.group.casefold(), row.group)
        cell = Cell.of(row.black, row.electrolyte, row.red, row.condition)
        hands.setdefault(group, {}).setdefault(cell, []).append(row)
    plan = NewLab.model_construct(  # a table may have more of something than a form takes
        title=title,
        date=on,
        minutes=DEFAULT_MINUTES,
        electrodes=list(dict.fromkeys(plate for row in rows for plate in (row.black, row.red))),
        electrolytes=list(dict.fromkeys(row.electrolyte for row in rows)),
        groups=tidy_names(list(hands)),
    )
    lab = start_lab(actor, plan)
    _keep(actor, lab, plan.groups, hands, loads)
    lab.short_circuit = any(one.kind == "short" for one in loads)
    lab.load_ohm = next((one.load_ohm for one in reversed(loads) if one.load_ohm), None)
    lab.conditions = list(dict.fromkeys(row.condition for row in rows))
    lab.varies = varied_by(lab.conditions)
    lab.state, lab.closed_at = Lab.State.CLOSED, timezone.now()
    lab.save(update_fields=["state", "closed_at", "conditions", "varies", "short_circuit", "load_ohm"])
    keep_deed(actor, "imported", lab, f"{len(rows)} readings")
    return Brought(lab, table.unused, left_out(table.left_out))


def varied_by(conditions: Sequence[str]) -> Varies:
    """What a table's conditions change on purpose: the one variable that all of them are of, else pairs of plates."""
    variables = {None if one is None else one.variable for text in conditions if text for one in [condition_of(text)]}
    only = next(iter(variables)) if len(variables) == 1 and len(conditions) > 1 else None
    return Varies.PAIRS if only is None else Varies.of(only)


def _keep(actor: Teacher, lab: Lab, groups: Sequence[str], hands: Hands, loads: Sequence[TableLoad]) -> None:
    """Keep groups, cells, readings and loads in the order of the tables, and what does not count as set aside."""
    planned = add_groups(lab, groups, [list(hand) for hand in hands.values()], shared_by_all(hands))
    by_cell = [found for hand in hands.values() for found in hand.values()]
    now, order = timezone.now(), count()
    readings, asides, actuals = [], [], []
    for cell, found in zip(planned, by_cell, strict=True):
        if (really := next((row.really for row in reversed(found) if row.really is not None), None)) is not None:
            text = str(really).removeprefix(f"{really.row.name} ")
            actuals.append(Actual(cell=cell, text=text, variable=really.variable, value=really.rank, received_at=now))
        for row in found:
            reading = Reading(
                cell=cell,
                red=row.red,
                black=row.black,
                text=row.parsed.text,
                unit=row.parsed.unit,
                volts_v=row.parsed.volts_v,
                resolution_v=row.parsed.resolution_v,
                offset_v=row.offset_v,
                origin=Reading.Origin.IMPORTED,
                taken_at=row.typed_at,
                received_at=now + timedelta(microseconds=next(order)),
            )
            readings.append(reading)
            if row.why_not:
                asides.append(SetAside(reading=reading, teacher=actor, reason=row.why_not))
    at = {(group.casefold(), cell): kept for kept, (group, cell) in zip(planned, _measured(hands), strict=True)}
    under = [
        UnderLoad(
            cell=at[one.group.casefold(), one.cell],
            kind=one.kind,
            load_ohm=one.load_ohm,
            taken_at=one.typed_at,
            received_at=now + timedelta(microseconds=next(order)),
            **asdict(one.measured),
        )
        for one in loads
    ]
    Reading.objects.bulk_create(readings)
    UnderLoad.objects.bulk_create(under)
    SetAside.objects.bulk_create(asides)
    Actual.objects.bulk_create(actuals)


def _measured(hands: Hands) -> list[tuple[str, Cell]]:
    """Whose cell each is, in the order of the hands."""
    return [(group, cell) for group, hand in hands.items() for cell in hand]


def shared_by_all(hands: Hands) -> Cell | None:
    """A cell that every group measured, if there are two groups and such a cell."""
    if len(hands) < 2:
        return None
    common = set.intersection(*(set(hand) for hand in hands.values()))
    return min(common) if common else None
