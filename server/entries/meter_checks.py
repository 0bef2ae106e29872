"""Keeping meter checks, and asking for a reading again."""

from __future__ import annotations

import uuid

from django.db import transaction

from galvanic.bench.meter import MeterVerdict, judge
from galvanic.bench.readings import ParsedReading, parse
from galvanic.errors import UnreadableReading
from galvanic.words import say
from server.base.problems import Problem
from server.entries.entry import MeterIn
from server.entries.models import AskedAgain, MeterCheck
from server.entries.once import arrival, keep_once
from server.labs.changes import announce
from server.labs.models import Lab, PlannedCell
from server.people.auth import Member
from server.people.deeds import keep_deed
from server.people.models import Group, Teacher
from server.people.sharing import to_change

MAX_CHECKS = 40


def _parsed(text: str, field: str) -> ParsedReading:
    try:
        return parse(text, "V")
    except UnreadableReading as error:
        raise Problem(422, error.code, str(error), field=field) from error


def verdict_of(check: MeterCheck) -> MeterVerdict:
    """The verdict on a kept check."""
    return judge(parse(check.leads_text, "V"), parse(check.dry_text, "V"))


def record_meter_check(*, actor: Member, entry: MeterIn) -> MeterCheck:
    """Keep a meter check; the same id again changes nothing. From now on its offset is taken off the group's readings.

    Raises Problem: lab_closed, unreadable_reading with its field, id_taken, or enough; then nothing is kept.
    """
    return keep_once(MeterCheck, actor, entry.id, lambda: _create(actor, entry))[0]


def _create(actor: Member, entry: MeterIn) -> MeterCheck:
    group = Group.objects.select_related("lab").get(id=actor.group_id)
    came = arrival(group.lab, entry.clock)
    verdict = judge(_parsed(entry.leads, "leads"), _parsed(entry.dry, "dry"))
    if MeterCheck.objects.visible_to(actor).count() >= MAX_CHECKS:
        raise Problem(
            409,
            "enough",
            say("This group has {max_checks} meter checks, which is the most it can hold.", max_checks=MAX_CHECKS),
        )
    announce(actor.lab_id, actor.group_id)
    return MeterCheck.objects.create(
        id=entry.id,
        group=group,
        leads_text=entry.leads.strip(),
        dry_text=entry.dry.strip(),
        offset_v=verdict.taken_off_v,
        resolution_v=verdict.resolution_v,
        code=verdict.code,
        **came.columns,
    )


def checks_of(group: Group) -> list[MeterCheck]:
    """A group's checks, oldest first."""
    return list(MeterCheck.objects.filter(group=group))


def latest_offset_v(actor: Member) -> float:
    """The offset of the group's latest check, 0 without one."""
    latest = MeterCheck.objects.visible_to(actor).order_by("-received_at", "-id").first()
    return latest.offset_v if latest else 0.0


@transaction.atomic
def ask_again(*, actor: Teacher, cell_id: uuid.UUID) -> None:
    """Ask a group for a new reading of a cell; it appears on their bench. Raises Problem: not_found, not_open, or
    not_measured (there is nothing yet to repeat)."""
    cell: PlannedCell = to_change(PlannedCell.objects.select_related("group__lab"), actor, cell_id, "cell")
    if cell.group.lab.state != Lab.State.OPEN:
        raise Problem(409, "not_open", say("The lab is not open, so nothing can be asked of the groups."))
    if not cell.readings.exists():
        raise Problem(
            409,
            "not_measured",
            say("{name} has no reading of this cell yet, so none is asked for again.", name=cell.group.name),
        )
    AskedAgain.objects.create(cell=cell)
    keep_deed(actor, "asked_again", cell.group.lab, f"{cell.group.name}, {cell.cell.short}")
    announce(cell.group.lab_id, cell.group_id)
