"""Claims: a group's own, all of them for the teacher, answers, rubric."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence

from django.http import HttpRequest
from ninja import Router

from galvanic.findings.by_variable import Really
from galvanic.findings.claims import CAUSES
from galvanic.findings.compare import ElectrolyteResult
from galvanic.findings.pack_claims import PACK_CAUSES
from server.claims import services
from server.claims.schemas import (
    AnswerIn,
    AnswerOut,
    CauseChoice,
    CitedOut,
    ClaimIn,
    ClaimOut,
    ClaimsOut,
    HeardOut,
    PackChoice,
    PacksWeighedOut,
    PackWeighedOut,
    RubricIn,
    RubricRow,
    WeighedOut,
)
from server.entries.models import Reading
from server.findings.by_variable import noted_in, really_in
from server.findings.models import Answer, Claim
from server.findings.services import compare_lab, own_results, shows_class
from server.labs.lookups import lab_for_teacher, lab_of_group
from server.labs.models import Lab
from server.labs.schemas import CellIO
from server.people.auth import GroupAuth, Member, TeacherAuth, actor_of, teacher_of
from server.people.schemas import Done, ProblemOut
from server.power.models import Pack
from server.power.packs import packs_of, packs_of_lab

router = Router()
REFUSED = {403: ProblemOut, 404: ProblemOut, 409: ProblemOut, 422: ProblemOut}
DONE = Done(ok=True)


def claims_out(lab: Lab, rows: Sequence[Claim], own_packs: Sequence[Pack] = (), own_only: Member | None = None) -> ClaimsOut:
    """Claims with what the core says of each now; a constant number of queries.

    `own_packs`: those that a group may claim something of. `own_only`: a group that may not see what the class found; its
    claims are weighed on its own readings alone.
    """
    readings = services.cited_in(rows)
    packs = services.packs_in(rows)
    revised = {claim.revises_id for claim in rows if claim.revises_id}
    results = (compare_lab(lab) if own_only is None else own_results(lab, own_only)) if rows else []
    really = really_in(noted_in(lab)) if rows else {}
    return ClaimsOut(
        claims=[_claim(claim, results, really, readings, packs, claim.id not in revised) for claim in rows],
        causes=[
            *(CauseChoice(key=key, name=one.name, implies=one.implies, of_pack=False) for key, one in CAUSES.items()),
            *(CauseChoice(key=key, name=one.name, implies=one.implies, of_pack=True) for key, one in PACK_CAUSES.items()),
        ],
        packs=[PackChoice(id=pack.id, name=services.name_of_pack(pack)) for pack in own_packs],
        rubric=[RubricRow.model_validate(row) for row in services.rubric_of(lab)],
        released=list(lab.released),
    )


def _claim(
    claim: Claim,
    results: Sequence[ElectrolyteResult],
    really: Really,
    readings: Mapping[uuid.UUID, Reading],
    packs: Mapping[uuid.UUID, Pack],
    latest: bool,
) -> ClaimOut:
    own = [readings[key] for key in claim.cited if key in readings]
    tested = services.tested(claim, results, own, packs, really)
    cell = claim.cell
    answers: list[Answer] = list(claim.answers.all())
    return ClaimOut(
        id=claim.id,
        group=claim.group.name,
        cell=CellIO.of(cell) if cell else None,
        pack=claim.pack,
        short=cell.short if cell else services.name_of_pack(packs[claim.pack]) if claim.pack else "the whole ladder",
        cause=claim.cause,
        cause_name=next((one[claim.cause].name for one in (CAUSES, PACK_CAUSES) if claim.cause in one), claim.cause),
        reasoning=claim.reasoning,
        cited=[CitedOut(id=one.id, text=one.text, unit=one.unit, short=one.cell.cell.short) for one in own],
        may_show=claim.may_show,
        revises=claim.revises_id,
        latest=latest,
        received_at=claim.received_at,
        verdict=tested.verdict.code,
        says=tested.verdict.text,
        question=tested.verdict.question,
        evidence=tested.evidence,
        heard=[
            HeardOut(name=one.name, against=one.against, in_data=one.in_data, question=one.question) for one in tested.heard
        ],
        answer=AnswerOut(text=answers[-1].text, marks=answers[-1].marks, shown=answers[-1].shown, at=answers[-1].at)
        if answers
        else None,
    )


@router.get("/bench/claims", response=ClaimsOut, auth=GroupAuth(), operation_id="bench_claims")
def bench_claims(request: HttpRequest) -> ClaimsOut:
    """The group's own claims, all versions."""
    actor = actor_of(request)
    lab = lab_of_group(actor)
    return claims_out(lab, services.claims_of(actor, lab), packs_of(actor), None if shows_class(lab) else actor)


@router.post("/bench/claims", response={200: Done, **REFUSED}, auth=GroupAuth(), operation_id="record_claim")
def post_claim(request: HttpRequest, data: ClaimIn) -> Done:
    """Keep a version of a claim; the same id again changes nothing."""
    services.record_claim(actor=actor_of(request), entry=data)
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
    rows = [(row.name, row.most) for row in data.rows]
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
                        key=one.key, name=one.name, implies=one.implies, verdict=verdict.code, says=verdict.text,
                        question=verdict.question,
                    )
                    for one, verdict in weighed
                ],
            )
            for pack, weighed in services.weighed_packs(packs_of_lab(actor, lab_id))
        ]
    )  # fmt: skip
