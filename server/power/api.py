"""Power for the teacher: a pack thought of, where it meets its load, and what a class's own numbers say of a cell."""

from __future__ import annotations

import uuid
from dataclasses import asdict

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from galvanic.cells import Cell
from galvanic.words import say
from server.base.kept import as_json, made_once
from server.base.problems import not_found
from server.labs.lookups import lab_for_teacher
from server.labs.models import Lab
from server.labs.schemas import CellIO
from server.people.auth import TeacherAuth, teacher_of
from server.people.schemas import ProblemOut
from server.power.outputs import advice_out, kinds_out, loads_out, pack_out
from server.power.own_fit import fit_in
from server.power.schemas import LabPower, OwnFitOut, PackAdviceOut, PackAsk, PackOut
from server.power.services import carried_over, kinds_of, load_named, measured_cells, pack_of

router = Router()
REFUSED = {404: ProblemOut, 422: ProblemOut}


@router.get("/labs/{uuid:lab_id}/power", response={200: LabPower, **REFUSED}, auth=TeacherAuth(), operation_id="power")
def power(request: HttpRequest, lab_id: uuid.UUID) -> LabPower:
    """What there is to run, and what to run it with."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    return LabPower(lab_id=lab.id, loads=loads_out(), kinds=kinds_out(kinds_of(lab)))


@router.get(
    "/labs/{uuid:lab_id}/power/pack", response={200: PackOut, **REFUSED}, auth=TeacherAuth(), operation_id="power_pack"
)
def power_pack(request: HttpRequest, lab_id: uuid.UUID, ask: Query[PackAsk]) -> PackOut:
    """A pack with its load, from the class's own cells; nothing is kept."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    return pack_out(pack_of(lab, ask), load_named(ask.load), carried_over(lab, ask))


@router.get(
    "/labs/{uuid:lab_id}/power/advice",
    response={200: PackAdviceOut, **REFUSED},
    auth=TeacherAuth(),
    operation_id="power_advice",
)
def power_advice(request: HttpRequest, lab_id: uuid.UUID, ask: Query[PackAsk]) -> PackAdviceOut:
    """How many cells it takes, what one change would do, how long it lasts; nothing is kept."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    return advice_out(pack_of(lab, ask), load_named(ask.load), ask.volume_ml)


@router.get("/labs/{uuid:lab_id}/own-fit", response={200: OwnFitOut, **REFUSED}, auth=TeacherAuth(), operation_id="own_fit")
def get_own_fit(request: HttpRequest, lab_id: uuid.UUID, data: Query[CellIO]) -> HttpResponse:
    """What the class's own values of one cell say of oxygen, area, oxide and ions."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    if data.cell not in measured_cells(lab):
        raise not_found(say("cell with a reading that counts"))
    return as_json(made_once(lab, f"own fit {data.cell}", lambda: _fit_body(lab, data.cell)))


def _fit_body(lab: Lab, cell: Cell) -> bytes:
    return OwnFitOut(**asdict(fit_in(lab, cell))).model_dump_json().encode()
