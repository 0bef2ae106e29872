"""Compare: the class beside the table, for the teacher and, once released, for groups."""

from __future__ import annotations

import uuid

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from galvanic.words import say
from server.base.kept import as_json, made_once
from server.base.problems import Problem
from server.findings.by_variable import variables_out
from server.findings.elsewhere import add_elsewhere, withdraw
from server.findings.outputs import compare_out
from server.findings.policy import lab_for_group
from server.findings.release import release
from server.findings.schemas import CompareOut, ElsewhereIn, Held, ReleaseIn, VariablesOut
from server.labs.lookups import lab_for_teacher
from server.labs.models import Lab
from server.people.auth import GroupAuth, TeacherAuth, actor_of, teacher_of
from server.people.schemas import Done, ProblemOut

router = Router()


def anchors_of(texts: list[str]) -> dict[str, str]:
    """`electrolyte:electrode` pairs. Raises Problem for anything else."""
    if any(text.count(":") != 1 for text in texts):
        raise Problem(422, "anchor", say("An anchor is written electrolyte:electrode."), field="anchor")
    return dict(text.split(":") for text in texts)


@router.get(
    "/labs/{uuid:lab_id}/compare",
    response={200: CompareOut, 404: ProblemOut, 422: ProblemOut},
    auth=TeacherAuth(),
    operation_id="compare",
)
def compare(request: HttpRequest, lab_id: uuid.UUID, held: Query[Held]) -> HttpResponse:
    """The class's voltages beside the table, one ladder per electrolyte; `anchor=electrolyte:electrode` holds a plate."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    anchors = anchors_of(held.anchor)
    kind = "compare " + " ".join(sorted(held.anchor))
    return as_json(made_once(lab, kind, lambda: _body(lab, anchors)))


def _body(lab: Lab, anchors: dict[str, str]) -> bytes:
    return compare_out(lab, anchors).model_dump_json().encode()


@router.get("/bench/compare", response={200: CompareOut, 403: ProblemOut}, auth=GroupAuth(), operation_id="bench_compare")
def bench_compare(request: HttpRequest) -> HttpResponse:
    """The same for a group, once the teacher has released it."""
    lab = lab_for_group(actor_of(request), "compare")
    return as_json(made_once(lab, "compare ", lambda: _body(lab, {})))


@router.post(
    "/labs/{uuid:lab_id}/release",
    response={200: Done, 404: ProblemOut, 422: ProblemOut},
    auth=TeacherAuth(),
    operation_id="release",
)
def post_release(request: HttpRequest, lab_id: uuid.UUID, data: ReleaseIn) -> Done:
    """Decide what groups see."""
    release(actor=teacher_of(request), lab_id=lab_id, parts=data.parts)
    return Done(ok=True)


@router.get(
    "/labs/{uuid:lab_id}/variables",
    response={200: VariablesOut, 404: ProblemOut},
    auth=TeacherAuth(),
    operation_id="by_variable",
)
def by_variable(request: HttpRequest, lab_id: uuid.UUID) -> VariablesOut:
    """Volts and currents against what the lab changed on purpose, with the class's slope and the model."""
    return variables_out(lab_for_teacher(teacher_of(request), lab_id))


@router.post(
    "/labs/{uuid:lab_id}/elsewhere",
    response={200: Done, 404: ProblemOut, 409: ProblemOut, 422: ProblemOut},
    auth=TeacherAuth(),
    operation_id="add_elsewhere",
)
def post_elsewhere(request: HttpRequest, lab_id: uuid.UUID, data: ElsewhereIn) -> Done:
    """Put a value from elsewhere beside the class's."""
    add_elsewhere(actor=teacher_of(request), lab_id=lab_id, data=data)
    return Done(ok=True)


@router.delete(
    "/elsewhere/{uuid:value_id}",
    response={200: Done, 404: ProblemOut},
    auth=TeacherAuth(),
    operation_id="withdraw_elsewhere",
)
def delete_elsewhere(request: HttpRequest, value_id: uuid.UUID) -> Done:
    """Take a value from elsewhere away again."""
    withdraw(actor=teacher_of(request), value_id=value_id)
    return Done(ok=True)
