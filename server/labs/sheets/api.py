"""Kit and mixing, safety sheet with sign-off, bench cards."""

from __future__ import annotations

import uuid
from dataclasses import asdict

from django.http import HttpRequest, HttpResponse
from ninja import Router

from galvanic.level import Level
from galvanic.planning.safety import LOCAL_RULES, Sheet
from galvanic.preparing import usual_steps
from galvanic.words import say
from server.labs import opening
from server.labs.lookups import lab_for_teacher, signatures
from server.labs.models import Lab
from server.labs.outputs import cell_out, pin_for
from server.labs.policy import READINGS_PER_CELL, cautions, sheet_of
from server.labs.services import groups_with_cells
from server.labs.sheets.kit import kit_csv, kit_of, shortages_of
from server.labs.sheets.links import link_to
from server.labs.sheets.schemas import (
    BatchOut,
    Card,
    CardsOut,
    GroupKit,
    IngredientOut,
    JoinLink,
    KitLine,
    KitOut,
    SafetyEntry,
    SafetyOut,
    ShortOut,
    SignOffIn,
    SignOffOut,
    StepsOfOut,
)
from server.people.auth import TeacherAuth, teacher_of
from server.people.schemas import ProblemOut

router = Router(auth=TeacherAuth())
ABSENT = {404: ProblemOut}


def _lab(request: HttpRequest, lab_id: uuid.UUID) -> Lab:
    return lab_for_teacher(teacher_of(request), lab_id)


@router.get("/labs/{uuid:lab_id}/kit", response={200: KitOut, **ABSENT}, operation_id="kit")
def kit(request: HttpRequest, lab_id: uuid.UUID) -> KitOut:
    """What to fetch and to make for a lab."""
    lab = _lab(request, lab_id)
    found, names = kit_of(lab)

    def lines(kind: str) -> list[KitLine]:
        return [KitLine(**asdict(one), short=one.short, cost=one.cost) for one in getattr(found, kind)]

    return KitOut(
        plates=lines("plates"),
        vessels=lines("vessels"),
        bench=lines("bench"),
        batches=[
            BatchOut(
                electrolyte=batch.electrolyte,
                name=batch.name,
                volume_l=batch.volume_l,
                ingredients=[IngredientOut(**asdict(part)) for part in batch.ingredients],
                method=batch.method,
                day_before=batch.day_before,
            )
            for batch in found.batches
        ],
        groups=[GroupKit(group=name, things=list(things)) for name, things in zip(names, found.for_group, strict=True)],
        day_before=list(found.day_before),
        cost=found.cost,
        cup_ml=lab.cup_ml,
    )


@router.get("/labs/short", response=list[ShortOut], operation_id="short")
def short(request: HttpRequest) -> list[ShortOut]:
    """What the teacher's labs to come need more of than there is."""
    shortages = shortages_of(teacher_of(request))
    return [ShortOut(key=one.key, needed=one.needed, there=one.there, labs=list(one.labs)) for one in shortages]


@router.get("/labs/{uuid:lab_id}/kit.csv", operation_id="kit_csv", response={200: str, **ABSENT})
def kit_table(request: HttpRequest, lab_id: uuid.UUID) -> HttpResponse:
    """The kit as CSV."""
    lab = _lab(request, lab_id)
    answer = HttpResponse(kit_csv(kit_of(lab)[0]), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="kit.csv"'
    return answer


def _safety(lab: Lab, found: Sheet) -> SafetyOut:
    history = [
        SignOffOut(
            at=signature.at, teacher=signature.teacher.get_username(), current=signature.fingerprint == found.fingerprint
        )
        for signature in signatures(lab)
    ]
    return SafetyOut(
        age=found.age,
        local_rules=say(LOCAL_RULES),
        used_liquid=found.used_liquid,
        entries=[
            SafetyEntry(
                key=e.hazard.key,
                severity=e.hazard.severity,
                refused=e.refused,
                because=list(e.because),
                text=e.hazard.text,
                do=e.hazard.do,
                dispose=e.hazard.dispose,
                first_aid=e.hazard.first_aid,
                source=e.hazard.source,
            )
            for e in found.entries
        ],
        fingerprint=found.fingerprint,
        refused=bool(found.refusals),
        signed=any(one.current for one in history),
        history=history,
    )


@router.get("/labs/{uuid:lab_id}/safety", response={200: SafetyOut, **ABSENT}, operation_id="safety")
def safety(request: HttpRequest, lab_id: uuid.UUID) -> SafetyOut:
    """The safety sheet as it is now, and who signed which."""
    lab = _lab(request, lab_id)
    return _safety(lab, sheet_of(lab))


@router.post("/labs/{uuid:lab_id}/safety", response={200: SafetyOut, 409: ProblemOut, **ABSENT}, operation_id="sign_off")
def sign_off(request: HttpRequest, lab_id: uuid.UUID, data: SignOffIn) -> SafetyOut:
    """Sign the sheet off."""
    opening.sign_off(actor=teacher_of(request), lab_id=lab_id, fingerprint=data.fingerprint)
    lab = _lab(request, lab_id)
    return _safety(lab, sheet_of(lab))


@router.get("/labs/{uuid:lab_id}/join-link", response={200: JoinLink, **ABSENT}, operation_id="join_link")
def get_join_link(request: HttpRequest, lab_id: uuid.UUID) -> JoinLink:
    """What a group's device opens to join this lab."""
    return link_to(request, "join", _lab(request, lab_id).join_code)


@router.get("/labs/{uuid:lab_id}/cards", response={200: CardsOut, **ABSENT}, operation_id="cards")
def cards(request: HttpRequest, lab_id: uuid.UUID) -> CardsOut:
    """What each group's bench card says."""
    lab = _lab(request, lab_id)
    groups, hands = groups_with_cells(lab)
    link = link_to(request, "join", lab.join_code)
    return CardsOut(
        title=lab.title,
        date=lab.date,
        code=lab.join_code or "",
        address=link.address,
        qr_path=link.qr_path,
        qr_size=link.qr_size,
        wanted=READINGS_PER_CELL,
        predict=lab.predict,
        level=Level(lab.level),
        offline=say("If the devices fail, write here and type it in later."),
        cards=[
            Card(
                group=group.name,
                pin=pin_for(lab, group),
                cells=[cell_out(cell) for cell in hand],
                steps=[
                    StepsOfOut(electrolyte=key, text=text)
                    for key, text in {cell.electrolyte: " ".join(usual_steps(cell.cell)) for cell in hand}.items()
                    if text
                ],
                cautions=cautions(
                    lab,
                    list(dict.fromkeys(plate for cell in hand for plate in cell.cell.pair)),
                    list(dict.fromkeys(cell.electrolyte for cell in hand)),
                ),
            )
            for group, hand in zip(groups, hands, strict=True)
        ],
    )
