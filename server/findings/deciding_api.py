"""How far a class's readings decide between the accounts, and the cell that would decide most."""

from __future__ import annotations

import uuid

from django.http import HttpRequest, HttpResponse
from ninja import Router

from galvanic.findings.deciding import Deciding
from server.base.kept import as_json, made_once
from server.findings.deciding import candidates, deciding_in, sharper
from server.findings.explain_schemas import AccountShare, DecidingOut, StepOfShares, TellingOut
from server.labs.lookups import lab_for_teacher
from server.labs.models import Lab
from server.labs.schemas import CellIO
from server.people.auth import TeacherAuth, teacher_of
from server.people.models import Teacher
from server.people.schemas import ProblemOut

router = Router(auth=TeacherAuth())


@router.get("/labs/{uuid:lab_id}/deciding", response={200: DecidingOut, 404: ProblemOut}, operation_id="deciding")
def get_deciding(request: HttpRequest, lab_id: uuid.UUID) -> HttpResponse:
    """The accounts' shares of a hundred, value by value, and the most telling cells that could be built."""
    teacher = teacher_of(request)
    lab = lab_for_teacher(teacher, lab_id)
    return as_json(made_once(lab, f"deciding {teacher.id}", lambda: _body(lab, teacher)))


def _body(lab: Lab, teacher: Teacher) -> bytes:
    return out(deciding_in(lab, candidates(lab, teacher)), lab).model_dump_json().encode()


def out(found: Deciding, lab: Lab) -> DecidingOut:
    """As it is sent; `here` says of a cell whether this lab has what it takes."""
    return DecidingOut(
        shares=[AccountShare(account=key, name=name, share=found.shares[key]) for key, name in found.names.items()],
        steps=[
            StepOfShares(short=step.cell.short, group=step.group, volts_v=step.volts_v, shares=dict(step.shares))
            for step in found.steps
        ],
        telling=[
            TellingOut(
                cell=CellIO.of(one.cell), short=one.cell.short, says_v=dict(one.says_v), decides=one.decides, nats=one.nats,
                here=set(one.cell.pair) <= set(lab.electrodes) and one.cell.electrolyte in lab.electrolytes,
            )
            for one in found.telling
        ],
        sharper=[CellIO.of(cell) for cell in sharper(lab)],
        cells=found.cells,
        verdict=found.verdict,
        turn=found.turn,
        turned=found.turned,
    )  # fmt: skip
