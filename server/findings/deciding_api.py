"""How far a class's readings decide between the accounts, and the cell that would decide most."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from itertools import combinations, islice

from django.http import HttpRequest, HttpResponse
from ninja import Router

from galvanic.cells import Cell, standing
from galvanic.chemistry.fitting import refusal
from galvanic.findings.bath_notes import sharpening
from galvanic.findings.deciding import MOST_TELLING, Deciding, deciding
from galvanic.reference.catalogue import electrodes, electrolytes
from server.base.kept import as_json, made_once
from server.findings.explain_schemas import AccountShare, DecidingOut, StepOfShares, TellingOut
from server.findings.services import compare_lab, kept_readings
from server.labs.lookups import lab_for_teacher
from server.labs.models import Lab
from server.labs.schemas import CellIO
from server.materials.models import Shelf
from server.people.auth import TeacherAuth, teacher_of
from server.people.models import Teacher
from server.people.schemas import ProblemOut

router = Router(auth=TeacherAuth())
MOST_CANDIDATES = 240


@router.get("/labs/{uuid:lab_id}/deciding", response={200: DecidingOut, 404: ProblemOut}, operation_id="deciding")
def get_deciding(request: HttpRequest, lab_id: uuid.UUID) -> HttpResponse:
    """The accounts' shares of a hundred, value by value, and the most telling cells that could be built."""
    teacher = teacher_of(request)
    lab = lab_for_teacher(teacher, lab_id)
    return as_json(made_once(lab, f"deciding {teacher.id}", lambda: _body(lab, teacher)))


def _body(lab: Lab, teacher: Teacher) -> bytes:
    return out(deciding_in(lab, candidates(lab, teacher)), lab).model_dump_json().encode()


def deciding_in(lab: Lab, further: list[Cell]) -> Deciding:
    """The accounts weighed on a lab's readings, in the order in which they were taken."""
    order = [(Cell.of(one.black, one.electrolyte, one.red, one.condition), one.group) for one in kept_readings(lab).counting]
    return deciding(compare_lab(lab), list(dict.fromkeys(order)), further)


def candidates(lab: Lab, teacher: Teacher) -> list[Cell]:
    """The cells that could be measured next: of the lab's own plates and liquids; where it is closed, the next lab can have
    those of the cupboard too."""
    plates, liquids = list(lab.electrodes), list(lab.electrolytes)
    if lab.state == Lab.State.CLOSED:
        known = Shelf.objects.visible_to(teacher).exclude(count=0).order_by("material").values_list("material", flat=True)
        shelf = list(known)
        plates += [one for one in shelf if one in electrodes()]
        liquids += [one for one in shelf if one in electrolytes()]
    return list(islice(_cells(lab, list(dict.fromkeys(plates)), list(dict.fromkeys(liquids))), MOST_CANDIDATES))


def _cells(lab: Lab, plates: list[str], liquids: list[str]) -> Iterator[Cell]:
    ordered = sorted((plate for plate in plates if plate in electrodes()), key=lambda key: (standing(key), key))
    for liquid in liquids:
        for condition in lab.conditions if liquid in lab.electrolytes else lab.conditions[:1]:
            for low, high in combinations(ordered, 2):
                if not refusal(cell := Cell(low, liquid, high, condition)):
                    yield cell


def sharper(lab: Lab) -> list[CellIO]:
    """The cells on which one more group would sharpen the lab's ladders, most first."""
    results = compare_lab(lab)
    found = [(one.then - one.now, result, one) for result in results for one in sharpening(result)]
    cells = [
        Cell.of(one.black, result.electrolyte, one.red, result.condition)
        for _, result, one in sorted(found, key=lambda row: -row[0])
    ]
    return [CellIO.of(cell) for cell in cells if not refusal(cell)][:MOST_TELLING]


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
        sharper=sharper(lab),
        cells=found.cells,
        verdict=found.verdict,
    )  # fmt: skip
