"""Keeping readings."""

from __future__ import annotations

import uuid
from dataclasses import dataclass

from django.db import IntegrityError

from galvanic.bench.readings import parse
from galvanic.errors import UnreadableReading
from galvanic.words import say
from server.base.problems import Problem, not_found
from server.entries.entry import ReadingIn
from server.entries.meter_checks import latest_offset_v
from server.entries.models import Reading
from server.entries.once import keep_once, open_cell
from server.labs.changes import announce
from server.labs.models import PlannedCell
from server.people.auth import Member

MAX_READINGS_PER_CELL = 60


@dataclass(frozen=True, slots=True)
class Recorded:
    """What is kept now; `repeated` if it already was, and then perhaps corrected by a later entry."""

    reading: Reading
    repeated: bool
    corrected_by: uuid.UUID | None


def record_reading(*, actor: Member, entry: ReadingIn) -> Recorded:
    """Keep one meter reading exactly as typed, with its value and resolution in volts.

    Repeating an entry (same id) changes nothing and returns what was kept. Raises Problem: not_found (not this group's
    cell), lab_closed, not_yours (an origin that no device of this group has), unreadable_reading, wrong_leads, or what is
    wrong with a correction; then nothing is kept.
    """
    try:
        reading, repeated = keep_once(Reading, actor, entry.id, lambda: _create(actor, entry))
    except IntegrityError:
        raise Problem(
            409, "already_corrected", say("That reading was corrected on another device. Look at it again.")
        ) from None
    later = Reading.objects.filter(corrects=reading).values_list("id", flat=True).first() if repeated else None
    return Recorded(reading, repeated, later)


def _create(actor: Member, entry: ReadingIn) -> Reading:
    cell, arrival = open_cell(actor, entry.cell_id, entry.clock)
    if {entry.red, entry.black} != {cell.negative, cell.positive}:
        raise Problem(422, "wrong_leads", say("The leads must be on this cell’s two plates."), field="red")
    try:
        parsed = parse(entry.text, entry.unit)
    except UnreadableReading as error:
        raise Problem(422, error.code, str(error), field="text") from error
    if Reading.objects.filter(cell=cell).count() >= MAX_READINGS_PER_CELL:
        raise Problem(
            409,
            "enough",
            say(
                "This cell has {max_readings_per_cell} entries, which is the most it can hold.",
                max_readings_per_cell=MAX_READINGS_PER_CELL,
            ),
        )
    reading = Reading.objects.create(
        id=entry.id,
        cell=cell,
        red=entry.red,
        black=entry.black,
        text=entry.text.strip(),
        unit=parsed.unit,
        volts_v=parsed.volts_v,
        resolution_v=parsed.resolution_v,
        offset_v=latest_offset_v(actor),
        corrects=_corrected(cell, entry),
        reason=entry.reason.strip(),
        origin=_origin(cell, entry.origin),
        **arrival.columns,
    )
    announce(actor.lab_id, actor.group_id)  # last: until the end other groups' entries wait for the lab's count
    return reading


def _origin(cell: PlannedCell, said: str) -> str:
    """Where a number came from, if the group's devices can have it: only a group with a connected meter has readings from
    one, and only that (the meter may be a simulated one) or a simulated lab has simulated readings."""
    group = cell.group
    by_meter = bool(group.meter_address)
    if (said == Reading.Origin.SIMULATED and not (group.lab.simulated or by_meter)) or (
        said == Reading.Origin.METER and not by_meter
    ):
        raise Problem(
            422, "not_yours", say("This group’s readings are typed or come from its logger’s file."), field="origin"
        )
    return said


def _corrected(cell: PlannedCell, entry: ReadingIn) -> Reading | None:
    """The reading an entry corrects: of this cell, or of another of the group's list that it was typed at by mistake; not
    corrected before, with a reason."""
    if entry.corrects is None:
        return None
    wrong = Reading.objects.filter(cell__group_id=cell.group_id, id=entry.corrects).first()
    if wrong is None:
        raise not_found("reading")
    if not entry.reason.strip():
        raise Problem(422, "no_reason", say("Say in a few words why the first number was wrong."), field="reason")
    if Reading.objects.filter(corrects=wrong).exists():
        raise Problem(409, "already_corrected", say("That reading is already corrected. Correct the newer one."))
    return wrong
