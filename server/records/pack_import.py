"""A table of packs brought into a lab whose groups it names; what is there already stays as it is."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction
from django.utils import timezone

from galvanic.bench.pack_table import PackLine, corrected_by, read_packs
from galvanic.bench.table_rows import BadTableText
from galvanic.words import say
from server.base.problems import RowFault
from server.labs.changes import announce
from server.labs.models import Lab
from server.labs.services import lab_to_change
from server.people.deeds import keep_deed
from server.people.models import Group, Teacher
from server.power.models import Pack, PackEntry
from server.records.file_text import MAX_ROWS, refused


@dataclass(frozen=True, slots=True)
class BroughtPacks:
    """How many packs and entries came in, and how many packs of the table were there already."""

    packs: int
    entries: int
    known: int


@transaction.atomic
def import_packs(*, actor: Teacher, lab_id: uuid.UUID, text: str) -> BroughtPacks:
    """Keep the packs of a table that Pipette gave out, each with its own id, so that the same table comes in once.

    Raises Problem: not_found (the lab), or what is wrong with the table by line; then nothing is kept.
    """
    lab = lab_to_change(actor, lab_id)
    try:
        lines = read_packs(text, MAX_ROWS)
    except BadTableText as error:
        raise refused(error.code, str(error), [RowFault(line, message) for line, message in error.rows]) from error
    groups = {group.name: group for group in Group.objects.filter(lab=lab)}
    strange = [
        RowFault(one.line, say("No group here is called “{group}”.", group=one.group))
        for one in lines
        if one.group not in groups
    ]
    if strange:
        raise refused(
            "bad_rows", say("{n_strange} rows name a group that this lab has not.", n_strange=len(strange)), strange[:50]
        )
    keys = {one.pack: _key(lab, one.pack) for one in lines}
    known = set(Pack.objects.filter(id__in=keys.values()).values_list("id", flat=True))
    fresh = [one for one in lines if keys[one.pack] not in known]
    _keep(fresh, keys, groups)
    brought = BroughtPacks(len({one.pack for one in fresh}), len(fresh), len(known))
    if fresh:
        announce(lab.id)
        keep_deed(actor, "imported", lab, f"{brought.packs} packs")
    return brought


def _key(lab: Lab, name: str) -> uuid.UUID:
    """A pack's id in this lab: the same table brings the same one, and another lab's pack keeps its own."""
    return uuid.uuid5(lab.id, name)


def _keep(lines: Sequence[PackLine], keys: dict[str, uuid.UUID], groups: dict[str, Group]) -> None:
    now = timezone.now()
    packs: dict[str, Pack] = {}
    for line in lines:
        if line.pack not in packs:
            at = line.at or now
            packs[line.pack] = Pack(
                id=keys[line.pack], group=groups[line.group], load=line.load, taken_at=at, received_at=now, device_at=at
            )
    Pack.objects.bulk_create(packs.values())
    made = [
        PackEntry(
            id=uuid.uuid4(), group=groups[line.group], pack=packs[line.pack], kind=line.kind, position=line.position,
            negative=line.plates[0], electrolyte=line.plates[1], positive=line.plates[2], text=line.text, unit=line.unit,
            value=line.value, resolution=line.resolution, reason=line.reason, device_at=line.at, taken_at=line.at or now,
            received_at=now,
        )
        for line in lines
    ]  # fmt: skip
    for later, earlier in corrected_by(lines).items():
        made[later].corrects = made[earlier]
    PackEntry.objects.bulk_create(made)
