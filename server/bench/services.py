"""Keeping readings."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.db import IntegrityError
from django.utils import timezone

from galvanic.errors import UnreadableReading
from galvanic.readings import parse
from server.bench.meter_checks import latest_offset_v
from server.bench.models import Reading
from server.bench.once import keep_once, open_cell
from server.labs.live import announce
from server.labs.models import PlannedCell
from server.people.auth import Member
from server.problems import Problem, not_found

MAX_READINGS_PER_CELL = 60
LEAST_WAIT, MOST_WAIT = timedelta(0), timedelta(hours=12)


@dataclass(frozen=True, slots=True)
class ReadingEntry:
    """One entry as it comes from a device; `red` and `black` are where the leads really were."""

    id: uuid.UUID
    cell_id: uuid.UUID
    red: str
    black: str
    text: str
    unit: str
    device_at: datetime | None = None
    sent_at: datetime | None = None
    origin: str = Reading.Origin.TYPED
    corrects: uuid.UUID | None = None
    reason: str = ""


@dataclass(frozen=True, slots=True)
class Recorded:
    """What is kept now; `repeated` if it already was."""

    reading: Reading
    repeated: bool


def record_reading(*, actor: Member, entry: ReadingEntry) -> Recorded:
    """Keep one meter reading exactly as typed, with its value and resolution in volts.

    Repeating an entry (same id) changes nothing and returns what was kept. Raises Problem: not_found (not this group's
    cell), lab_closed, unreadable_reading, wrong_leads, or what is wrong with a correction; then nothing is kept.
    """
    try:
        return Recorded(*keep_once(Reading, actor, entry.id, lambda: _create(actor, entry)))
    except IntegrityError:
        raise Problem(409, "already_corrected", "That reading was corrected on another device. Look at it again.") from None


def _create(actor: Member, entry: ReadingEntry) -> Reading:
    cell = open_cell(actor, entry.cell_id)
    if {entry.red, entry.black} != {cell.negative, cell.positive}:
        raise Problem(422, "wrong_leads", "The leads must be on this cell’s two plates.", field="red")
    try:
        parsed = parse(entry.text, entry.unit)
    except UnreadableReading as error:
        raise Problem(422, error.code, str(error), field="text") from error
    if Reading.objects.filter(cell=cell).count() >= MAX_READINGS_PER_CELL:
        raise Problem(409, "enough", f"This cell has {MAX_READINGS_PER_CELL} entries, which is the most it can hold.")
    now = timezone.now()
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
        device_at=entry.device_at,
        origin=entry.origin,
        taken_at=taken(now, entry.device_at, entry.sent_at),
        received_at=now,
    )
    announce(actor.lab_id, actor.group_id)  # last: until the end other groups' entries wait for the lab's count
    return reading


def taken(now: datetime, device_at: datetime | None, sent_at: datetime | None) -> datetime:
    """When an entry was typed, by the server's clock: now, less the time it waited by the device's own clock."""
    if device_at is None or sent_at is None or not LEAST_WAIT <= sent_at - device_at <= MOST_WAIT:
        return now
    return now - (sent_at - device_at)


def _corrected(cell: PlannedCell, entry: ReadingEntry) -> Reading | None:
    """The reading an entry corrects: of the same cell, not corrected before, with a reason."""
    if entry.corrects is None:
        return None
    wrong = Reading.objects.filter(cell=cell, id=entry.corrects).first()
    if wrong is None:
        raise not_found("reading")
    if not entry.reason.strip():
        raise Problem(422, "no_reason", "Say in a few words why the first number was wrong.", field="reason")
    if Reading.objects.filter(corrects=wrong).exists():
        raise Problem(409, "already_corrected", "That reading is already corrected. Correct the newer one.")
    return wrong
