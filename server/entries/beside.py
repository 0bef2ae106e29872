"""What a group keeps of a cell besides its readings: loads, observations, what it was really set to, pictures, traces."""

from __future__ import annotations

import uuid
from dataclasses import asdict
from pathlib import Path
from typing import Any, TypeVar

from django.db import transaction

from galvanic.bench.loading import Inner, by_load, by_short
from galvanic.bench.logger import Trace, read_trace, thinned
from galvanic.bench.readings import read_under_load
from galvanic.condition import as_found
from galvanic.errors import NotEnoughData, OutOfRange, UnreadableReading
from galvanic.words import say
from server.base.problems import Problem, not_found
from server.entries.entry import ActualIn, CellEntry, ObservationIn, QuestionIn, UnderLoadIn
from server.entries.models import Actual, KeptTrace, Observation, Photo, PhotoRemoved, Question, UnderLoad
from server.entries.once import keep_once, open_cell
from server.entries.photos import path_of, remove, store
from server.labs.changes import announce
from server.labs.models import PlannedCell
from server.people.auth import Member
from server.people.deeds import keep_deed
from server.people.models import Teacher
from server.people.sharing import to_change

MAX_UNDER_LOAD, MAX_OBSERVATIONS, MAX_ACTUALS, MAX_PHOTOS, MAX_TRACES, MAX_QUESTIONS = 20, 40, 20, 8, 8, 12
KEPT_SAMPLES = 2000
Written = TypeVar("Written", Observation, Question)


def record_under_load(*, actor: Member, entry: UnderLoadIn) -> UnderLoad:
    """Keep a measurement under load; the same id again changes nothing.

    Raises Problem: not_found, lab_closed, not_asked (the lab does not ask for it), unreadable_reading, or enough.
    """

    def create() -> UnderLoad:
        cell, arrival = open_cell(actor, entry.cell_id, entry.clock)
        lab, short = cell.group.lab, entry.kind == "short"
        if not (lab.short_circuit if short else lab.load_ohm):
            raise Problem(409, "not_asked", say("This lab does not ask for that, so it was not recorded."))
        try:
            measured = read_under_load(entry.kind, entry.text, entry.unit)
        except UnreadableReading as error:
            raise Problem(422, error.code, str(error), field="text") from error
        _room_for(UnderLoad, cell, MAX_UNDER_LOAD)
        announce(actor.lab_id, actor.group_id)
        return UnderLoad.objects.create(
            id=entry.id, cell=cell, kind=entry.kind, **asdict(measured),
            load_ohm=None if short else lab.load_ohm, **arrival.columns,
        )  # fmt: skip

    return keep_once(UnderLoad, actor, entry.id, create)[0]


def inner_of(open_v: float, u_open_v: float, under: UnderLoad) -> Inner | None:
    """The inner resistance that a measurement under load gives with the cell's open voltage; None where it gives none."""
    u = under.resolution / 12.0**0.5
    try:
        if under.kind == UnderLoad.Kind.SHORT:
            return by_short(open_v, u_open_v, under.value, u)
        return by_load(open_v, u_open_v, under.value, u, under.load_ohm or 0.0)
    except OutOfRange:
        return None


def record_observation(*, actor: Member, entry: ObservationIn) -> Observation:
    """Keep what a group saw; the same id again changes nothing. Raises Problem: not_found, lab_closed, empty, or enough."""
    return _record_text(Observation, actor, entry, MAX_OBSERVATIONS, say("Write what you see first."))


def record_question(*, actor: Member, entry: QuestionIn) -> Question:
    """Keep what a group asks; the same id again changes nothing. Raises Problem: not_found, lab_closed, empty, or enough."""
    return _record_text(Question, actor, entry, MAX_QUESTIONS, say("Write your question first."))


def _record_text(model: type[Written], actor: Member, entry: ObservationIn | QuestionIn, most: int, empty: str) -> Written:
    def create() -> Written:
        cell, arrival = open_cell(actor, entry.cell_id, entry.clock)
        text = " ".join(entry.text.split())
        if not text:
            raise Problem(422, "empty", empty, field="text")
        _room_for(model, cell, most)
        announce(actor.lab_id, actor.group_id)
        return model.objects.create(id=entry.id, cell=cell, text=text, **arrival.columns)

    return keep_once(model, actor, entry.id, create)[0]


def record_actual(*, actor: Member, entry: ActualIn) -> Actual:
    """Keep what a cell was really set to; the same id again changes nothing.

    Raises Problem: not_found, lab_closed, out_of_range with the core's sentence, or enough.
    """

    def create() -> Actual:
        cell, arrival = open_cell(actor, entry.cell_id, entry.clock)
        try:
            condition = as_found(cell.condition, entry.text)
        except OutOfRange as error:
            raise Problem(422, error.code, say("{error} It was not recorded.", error=error), field="text") from error
        _room_for(Actual, cell, MAX_ACTUALS)
        announce(actor.lab_id, actor.group_id)
        text = str(condition).removeprefix(f"{condition.row.name} ")
        return Actual.objects.create(
            id=entry.id, cell=cell, text=text, variable=condition.variable, value=condition.rank, **arrival.columns
        )

    return keep_once(Actual, actor, entry.id, create)[0]


def record_photo(*, actor: Member, entry: CellEntry, content: bytes) -> Photo:
    """Keep a photograph; the same id again changes nothing.

    Raises Problem: not_found, lab_closed, enough, photo_large, or no_photo.
    """

    def create() -> Photo:
        cell, arrival = open_cell(actor, entry.cell_id, entry.clock)
        _room_for(Photo, cell, MAX_PHOTOS)
        stored = store(entry.id, content)
        announce(actor.lab_id, actor.group_id)
        return Photo.objects.create(id=entry.id, cell=cell, **asdict(stored), **arrival.columns)

    return keep_once(Photo, actor, entry.id, create)[0]


@transaction.atomic
def remove_photo(*, actor: Teacher | Member, photo_id: uuid.UUID) -> None:
    """Remove a photograph at once; that it was there, and who removed it, stays. Removing it twice is fine.

    Raises Problem: not_found, or photos_away.
    """
    with_lab = Photo.objects.select_related("cell__group__lab")
    if isinstance(actor, Teacher):
        photo = to_change(with_lab, actor, photo_id, "photograph")
    elif (photo := with_lab.visible_to(actor).filter(id=photo_id).first()) is None:
        raise not_found("photograph")
    by = None if isinstance(actor, Member) else actor
    if not PhotoRemoved.objects.get_or_create(photo=photo, defaults={"teacher": by})[1]:
        return
    announce(photo.cell.group.lab_id, photo.cell.group_id)
    if isinstance(actor, Teacher):
        keep_deed(actor, "removed_photo", photo.cell.group.lab, f"{photo.cell.group.name}, {photo.cell.cell.short}")
    remove(photo.id)


def picture_of(actor: Teacher | Member, photo_id: uuid.UUID) -> Path:
    """The file of a photograph, for the group that took it and its teacher. Raises Problem not_found."""
    photo = Photo.objects.visible_to(actor).filter(id=photo_id).first()
    path = None if photo is None else path_of(photo.id)
    if path is None or not path.is_file():
        raise not_found("photograph")
    return path


def understood(content: bytes) -> Trace:
    """A logger's file as understood. Raises Problem no_trace with the core's sentence."""
    try:
        return read_trace(content)
    except NotEnoughData as error:
        raise Problem(422, "no_trace", str(error), field="file") from error


def record_trace(*, actor: Member, entry: CellEntry, name: str, content: bytes) -> KeptTrace:
    """Keep the trace in a logger's file, thinned to 2000 samples; the same id again changes nothing.

    Raises Problem: not_found, lab_closed, enough, or no_trace.
    """

    def create() -> KeptTrace:
        cell, arrival = open_cell(actor, entry.cell_id, entry.clock)
        _room_for(KeptTrace, cell, MAX_TRACES)
        trace = understood(content)
        samples = thinned(trace, KEPT_SAMPLES)
        how: dict[str, Any] = {
            "delimiter": trace.delimiter, "decimal": trace.decimal, "time": trace.time_column, "volts": trace.volts_column,
            "unit": trace.unit, "rows": len(trace.times_s), "skipped": len(trace.skipped),
        }  # fmt: skip
        announce(actor.lab_id, actor.group_id)
        return KeptTrace.objects.create(
            id=entry.id, cell=cell, name=name[:100], times_s=[t for t, _ in samples], volts_v=[v for _, v in samples],
            understood=how, **arrival.columns,
        )  # fmt: skip

    return keep_once(KeptTrace, actor, entry.id, create)[0]


def _room_for(
    model: type[UnderLoad | Observation | Question | Actual | Photo | KeptTrace], cell: PlannedCell, most: int
) -> None:
    if model.objects.filter(cell=cell).count() >= most:
        raise Problem(409, "enough", say("This cell has {most} of these, which is the most it can hold.", most=most))
