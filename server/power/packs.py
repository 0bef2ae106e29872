"""What groups keep of their packs, and what is made of it."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Sequence
from typing import Any, TypeVar

from django.db import IntegrityError
from django.db.models import Prefetch

from galvanic.bench.load_standing import AMPERES, PackRow, pack_standings
from galvanic.bench.pack_faults import pack_findings
from galvanic.bench.pack_record import PackFinding, PackRecord
from galvanic.bench.pack_steps import MOST_POSITION, NUMBERS, PLACED, odd_numbers, record_of
from galvanic.bench.readings import parse, parse_current
from galvanic.bench.standing import Standing
from galvanic.cells import Cell
from galvanic.errors import UnreadableReading
from galvanic.reference.catalogue import electrodes, electrolytes
from galvanic.words import mark, say
from server.base.problems import Problem, Refusal, not_found
from server.entries.meter_checks import latest_offset_v
from server.entries.once import arrival, keep_once
from server.labs.changes import announce
from server.labs.models import Lab
from server.people.auth import Member
from server.people.models import Teacher
from server.power.entry import ChainEntryIn, PackEntryIn, PackIn
from server.power.models import ChainEntry, Pack, PackEntry, RunFile
from server.power.services import load_named

PACK_NOT_HERE = Refusal(
    404, "not_found", mark("That pack is not on this server yet. What you typed stays here."), passing=True
)
MAX_PACKS, MAX_ENTRIES = 30, 600  # an hour typed every ten seconds, and what was built


def record_pack(*, actor: Member, entry: PackIn) -> Pack:
    """Keep a pack that a group begins; the same id again changes nothing.

    Raises Problem: lab_closed, unknown_material (no such load), or enough.
    """

    def create() -> Pack:
        lab = Lab.objects.visible_to(actor).get()
        when = arrival(lab, entry.clock)
        load_named(entry.load)
        if Pack.objects.visible_to(actor).count() >= MAX_PACKS:
            raise Problem(
                409, "enough", say("Your group has {max_packs} packs, which is the most it can hold.", max_packs=MAX_PACKS)
            )
        made = Pack.objects.create(id=entry.id, group_id=actor.group_id, load=entry.load.strip(), **when.columns)
        announce(actor.lab_id, actor.group_id)
        return made

    return keep_once(Pack, actor, entry.id, create)[0]


def record_pack_entry(*, actor: Member, entry: PackEntryIn) -> PackEntry:
    """Keep one thing about a group's pack exactly as typed; the same id again changes nothing.

    Raises Problem: not_found (the pack, or what is corrected), lab_closed, place, unknown_material, unreadable_reading,
    empty, no_reason, already_corrected, or enough.
    """
    try:
        return keep_once(PackEntry, actor, entry.id, lambda: _create(actor, entry))[0]
    except IntegrityError:
        raise Problem(
            409, "already_corrected", say("That number was corrected on another device. Look at it again.")
        ) from None


def _create(actor: Member, entry: PackEntryIn) -> PackEntry:
    pack = Pack.objects.visible_to(actor).select_related("group__lab").filter(id=entry.pack_id).first()
    if pack is None:
        raise PACK_NOT_HERE()
    when = arrival(pack.group.lab, entry.clock)
    if (entry.kind in PLACED) != (entry.position is not None):
        raise Problem(
            422,
            "place",
            say("A cell’s place in the row is a number from 1 to {most_position}.", most_position=MOST_POSITION),
            field="position",
        )
    if PackEntry.objects.filter(pack=pack).count() >= MAX_ENTRIES:
        raise Problem(
            409,
            "enough",
            say("This pack has {max_entries} entries, which is the most it can hold.", max_entries=MAX_ENTRIES),
        )
    made = PackEntry.objects.create(
        id=entry.id,
        group_id=actor.group_id,
        pack=pack,
        kind=entry.kind,
        position=entry.position,
        corrects=_corrected(pack, entry),
        reason=entry.reason.strip(),
        **_columns(actor, entry),
        **when.columns,
    )
    announce(actor.lab_id, actor.group_id)
    return made


def _columns(actor: Member, entry: PackEntryIn) -> dict[str, Any]:
    """The plates of a cell, the value of a number (volts less the meter's offset), or the words, as the table keeps them."""
    text = " ".join(entry.text.split())
    if entry.kind == "cell":
        return plates_of(entry)
    if entry.kind not in NUMBERS:
        if not text:
            raise Problem(422, "empty", say("Choose or write what you saw first."), field="text")
        return {"text": text}
    try:
        if entry.kind in AMPERES:
            current = parse_current(entry.text, entry.unit or "mA")
            value, resolution, unit = current.current_a, current.resolution_a, current.unit
        else:
            volts = parse(entry.text, entry.unit or "V")
            value, resolution, unit = volts.volts_v - latest_offset_v(actor), volts.resolution_v, volts.unit
    except UnreadableReading as error:
        raise Problem(422, error.code, str(error), field="text") from error
    return {"text": entry.text.strip(), "unit": unit, "value": value, "resolution": resolution}


def plates_of(entry: PackEntryIn | ChainEntryIn) -> dict[str, str]:
    """The plates of a cell, as the table keeps them. Raises Problem unknown_material."""
    if {entry.negative, entry.positive} - set(electrodes()) or entry.electrolyte not in electrolytes():
        raise Problem(422, "unknown_material", say("That cell is not in the catalogue."), field="negative")
    return {"negative": entry.negative, "electrolyte": entry.electrolyte, "positive": entry.positive}


def _corrected(pack: Pack, entry: PackEntryIn) -> PackEntry | None:
    """The entry that is corrected: of the same pack and thing, not corrected before, with a reason."""
    if entry.corrects is None:
        return None
    wrong: PackEntry | None = PackEntry.objects.filter(
        pack=pack, id=entry.corrects, kind=entry.kind, position=entry.position
    ).first()
    if wrong is None:
        raise not_found("entry")
    if not entry.reason.strip():
        raise Problem(422, "no_reason", say("Say in a few words why the first number was wrong."), field="reason")
    if PackEntry.objects.filter(corrects=wrong).exists():
        raise Problem(409, "already_corrected", say("That number is already corrected. Correct the newer one."))
    return wrong


def packs_of(actor: Member) -> list[Pack]:
    """A group's packs with all their entries and the names of their files, oldest first; three queries."""
    named = RunFile.objects.defer("times_s", "volts_v", "current_a")
    packs = Pack.objects.visible_to(actor).select_related("group")
    return list(packs.prefetch_related("entries", Prefetch("files", queryset=named)))


def packs_of_lab(actor: Teacher, lab_id: uuid.UUID) -> list[Pack]:
    """All packs of a teacher's lab with their entries and files, group by group; three queries."""
    packs = Pack.objects.visible_to(actor).filter(group__lab_id=lab_id).select_related("group")
    return list(packs.prefetch_related("entries", "files").order_by("group__position", "received_at", "id"))


Counted = TypeVar("Counted", PackEntry, ChainEntry)


def counting(entries: Iterable[Counted]) -> list[Counted]:
    """Those that no later entry corrects, each correction in the place of what it corrects: a newer number stays newer."""
    every = list(entries)
    correction = {one.corrects_id: one for one in every if one.corrects_id is not None}
    out = []
    for one in every:
        if one.corrects_id is None:
            while one.id in correction:
                one = correction[one.id]
            out.append(one)
    return out


def made_of(pack: Pack, entries: Sequence[PackEntry]) -> tuple[PackRecord, list[PackFinding]]:
    """What a pack's entries come to, and what the core says of it."""
    rows = rows_of(counting(entries), entries)
    record = record_of(pack.load, rows)
    return record, [*odd_numbers(rows), *pack_findings(record)]


def rows_of(some: Iterable[PackEntry], entries: Sequence[PackEntry]) -> list[PackRow]:
    """Entries of a pack as the core has them; `entries` are all of it. A number corrected to itself has been looked at."""
    typed = {one.id: (one.text, one.unit) for one in entries}
    return [
        PackRow(
            one.kind,
            one.position,
            one.value,
            one.text,
            Cell(one.negative, one.electrolyte, one.positive) if one.kind == PackEntry.Kind.CELL else None,
            one.corrects_id is not None and typed.get(one.corrects_id) == (one.text, one.unit),
        )
        for one in some
    ]


def standings_of(entries: Sequence[PackEntry]) -> dict[uuid.UUID, Standing]:
    """The verdict on each entry of a pack that nothing corrects, by id."""
    some = counting(entries)
    return dict(zip((one.id for one in some), pack_standings(rows_of(some, entries)), strict=True))
