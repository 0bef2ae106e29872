"""Claims: a group's own, all of them for the teacher, answers, rubric."""

from __future__ import annotations

import uuid

from django.http import HttpRequest
from ninja import Router

from galvanic.findings.rubric import Row, RowLevel
from galvanic.words import say
from server.claims import services
from server.claims.outputs import claims_out
from server.claims.schemas import (
    AnswerIn,
    ClaimIn,
    ClaimsOut,
    MeantIn,
    OwnTestIn,
    PacksWeighedOut,
    PackWeighedOut,
    RubricIn,
    WeighedOut,
)
from server.findings.services import shows_class
from server.labs.lookups import lab_for_teacher, lab_of_group
from server.people.auth import GroupAuth, TeacherAuth, actor_of, teacher_of
from server.people.schemas import Done, ProblemOut
from server.power.packs import packs_of, packs_of_lab

router = Router()
REFUSED = {403: ProblemOut, 404: ProblemOut, 409: ProblemOut, 422: ProblemOut}
DONE = Done(ok=True)


@router.get("/bench/claims", response=ClaimsOut, auth=GroupAuth(), operation_id="bench_claims")
def bench_claims(request: HttpRequest) -> ClaimsOut:
    """The group's own claims, all versions."""
    actor = actor_of(request)
    lab = lab_of_group(actor)
    return claims_out(lab, services.claims_of(actor, lab), packs_of(actor), None if shows_class(lab) else actor, actor)


@router.post("/bench/claims", response={200: Done, **REFUSED}, auth=GroupAuth(), operation_id="record_claim")
def post_claim(request: HttpRequest, data: ClaimIn) -> Done:
    """Keep a version of a claim; the same id again changes nothing."""
    services.record_claim(actor=actor_of(request), entry=data)
    return DONE


@router.post(
    "/bench/claims/{uuid:claim_id}/tests", response={200: Done, **REFUSED}, auth=GroupAuth(), operation_id="record_own_test"
)
def post_own_test(request: HttpRequest, claim_id: uuid.UUID, data: OwnTestIn) -> Done:
    """Keep what the group did to test its claim, before and after; the same id again changes nothing."""
    services.record_test(actor=actor_of(request), claim_id=claim_id, entry=data)
    return DONE


@router.post(
    "/bench/claims/{uuid:claim_id}/meant", response={200: Done, **REFUSED}, auth=GroupAuth(), operation_id="record_meant"
)
def post_meant(request: HttpRequest, claim_id: uuid.UUID, data: MeantIn) -> Done:
    """Keep whether the group means what was heard in its claim; what it said first stays."""
    services.record_meant(actor=actor_of(request), claim_id=claim_id, entry=data)
    return DONE


@router.get(
    "/labs/{uuid:lab_id}/claims", response={200: ClaimsOut, 404: ProblemOut}, auth=TeacherAuth(), operation_id="claims"
)
def claims(request: HttpRequest, lab_id: uuid.UUID) -> ClaimsOut:
    """All claims of the lab, all versions."""
    actor = teacher_of(request)
    lab = lab_for_teacher(actor, lab_id)
    return claims_out(lab, services.claims_of(actor, lab))


@router.post(
    "/claims/{uuid:claim_id}/answer", response={200: Done, **REFUSED}, auth=TeacherAuth(), operation_id="answer_claim"
)
def post_answer(request: HttpRequest, claim_id: uuid.UUID, data: AnswerIn) -> Done:
    """Answer and mark a claim, and show it or not."""
    services.answer_claim(actor=teacher_of(request), claim_id=claim_id, **data.model_dump())
    return DONE


@router.put("/labs/{uuid:lab_id}/rubric", response={200: Done, **REFUSED}, auth=TeacherAuth(), operation_id="set_rubric")
def put_rubric(request: HttpRequest, lab_id: uuid.UUID, data: RubricIn) -> Done:
    """Set the rows of the rubric."""
    rows = [Row(one.name, one.most, tuple(RowLevel(**level.model_dump()) for level in one.levels)) for one in data.rows]
    services.set_rubric(actor=teacher_of(request), lab_id=lab_id, rows=rows)
    return DONE


@router.get(
    "/labs/{uuid:lab_id}/packs/causes",
    response={200: PacksWeighedOut, 404: ProblemOut},
    auth=TeacherAuth(),
    operation_id="pack_causes",
)
def pack_causes(request: HttpRequest, lab_id: uuid.UUID) -> PacksWeighedOut:
    """Why packs of the class fell short: every cause, weighed on the pack's own numbers."""
    actor = teacher_of(request)
    lab_for_teacher(actor, lab_id)
    return PacksWeighedOut(
        packs=[
            PackWeighedOut(
                id=pack.id,
                group=pack.group.name,
                name=services.name_of_pack(pack),
                causes=[
                    WeighedOut(
                        key=one.key, name=say(one.name), implies=say(one.implies), verdict=verdict.code, says=verdict.text,
                        question=verdict.question,
                    )
                    for one, verdict in weighed
                ],
            )
            for pack, weighed in services.weighed_packs(packs_of_lab(actor, lab_id))
        ]
    )  # fmt: skip
