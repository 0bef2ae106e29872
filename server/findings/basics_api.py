"""The basics: short pieces on what everything else takes for granted, with a number of one's own."""

from __future__ import annotations

import uuid
from dataclasses import asdict

from django.http import HttpRequest
from ninja import Router
from pydantic import BaseModel

from galvanic.findings.basics import basics, example
from server.findings.services import compare_lab, own_results
from server.labs.lookups import lab_for_teacher, lab_of_group
from server.people.auth import GroupAuth, TeacherAuth, actor_of, teacher_of
from server.people.schemas import ProblemOut

router = Router()


class BasicOut(BaseModel):
    """One piece: the sentence to begin with, what more there is to say, and a number of one's own (empty: none yet)."""

    key: str
    title: str
    sentence: str
    more: str
    own: str


@router.get(
    "/labs/{uuid:lab_id}/basics", response={200: list[BasicOut], 404: ProblemOut}, auth=TeacherAuth(), operation_id="basics"
)
def get_basics(request: HttpRequest, lab_id: uuid.UUID) -> list[BasicOut]:
    """The basics with a number of this class."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    return [BasicOut(**asdict(one)) for one in basics(example(compare_lab(lab)))]


@router.get("/bench/basics", response=list[BasicOut], auth=GroupAuth(), operation_id="bench_basics")
def bench_basics(request: HttpRequest) -> list[BasicOut]:
    """The same with a number of the group's own readings, and of nobody else's."""
    actor = actor_of(request)
    return [BasicOut(**asdict(one)) for one in basics(example(own_results(lab_of_group(actor), actor)))]
