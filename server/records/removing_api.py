"""How long things are kept, and finding what is to be removed."""

from __future__ import annotations

import datetime
import uuid
from dataclasses import asdict
from typing import Annotated, Literal

from django.http import HttpRequest
from ninja import Router
from pydantic import BaseModel, Field

from server.labs.lookups import lab_for_teacher
from server.people.auth import TeacherAuth, teacher_of
from server.people.schemas import Done, ProblemOut
from server.records import removing

router = Router(auth=TeacherAuth())
REFUSED = {404: ProblemOut, 422: ProblemOut}
Kind = Literal["note", "question", "words", "claim", "reason", "answer"]


class KeptForOut(BaseModel):
    """How long after closing a lab's photographs and notes are kept (None: as long as the lab), and until when that is."""

    days: int | None
    until: datetime.datetime | None


class DaysIn(BaseModel):
    """Days after closing; None: as long as the lab."""

    days: int | None


class FoundOut(BaseModel):
    """Something a group typed; `asked`: its removal is asked for or done."""

    kind: Kind
    id: uuid.UUID
    group: str
    text: str
    at: datetime.datetime
    asked: bool


class FoundAll(BaseModel):
    """What was found, the newest first."""

    found: list[FoundOut]


class Thing(BaseModel):
    """Something that was found."""

    kind: Kind
    id: uuid.UUID


class RemoveIn(BaseModel):
    """What is to be removed."""

    things: Annotated[list[Thing], Field(min_length=1, max_length=200)]


@router.get("/labs/{uuid:lab_id}/kept", response={200: KeptForOut, **REFUSED}, operation_id="kept")
def kept(request: HttpRequest, lab_id: uuid.UUID) -> KeptForOut:
    """How long photographs and notes are kept."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    closed = lab.closed_at if lab.state == "closed" else None
    until = None if lab.keep_days is None or closed is None else closed + datetime.timedelta(days=lab.keep_days)
    return KeptForOut(days=lab.keep_days, until=until)


@router.put("/labs/{uuid:lab_id}/kept", response={200: Done, 403: ProblemOut, **REFUSED}, operation_id="keep_for")
def keep_for(request: HttpRequest, lab_id: uuid.UUID, data: DaysIn) -> Done:
    """Choose how long photographs and notes are kept."""
    removing.keep_for(actor=teacher_of(request), lab_id=lab_id, days=data.days)
    return Done(ok=True)


@router.get("/labs/{uuid:lab_id}/words", response={200: FoundAll, **REFUSED}, operation_id="find_words")
def find_words(request: HttpRequest, lab_id: uuid.UUID, words: str) -> FoundAll:
    """Find what groups of a lab typed."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    return FoundAll(found=[FoundOut(**asdict(one)) for one in removing.find_words(lab, words[:100])])


@router.post(
    "/labs/{uuid:lab_id}/words/remove", response={200: Done, 403: ProblemOut, **REFUSED}, operation_id="remove_words"
)
def remove_words(request: HttpRequest, lab_id: uuid.UUID, data: RemoveIn) -> Done:
    """Have words taken out with the next nightly run."""
    removing.ask_removal(actor=teacher_of(request), lab_id=lab_id, things=[(thing.kind, thing.id) for thing in data.things])
    return Done(ok=True)
