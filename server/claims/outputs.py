"""How claims are sent, with what the core makes of each."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Mapping, Sequence

from django.utils import timezone

from galvanic.findings.by_variable import Really
from galvanic.findings.claims import CAUSES
from galvanic.findings.compare import ElectrolyteResult
from galvanic.findings.misconceptions import Heard, misconceptions
from galvanic.findings.pack_claims import PACK_CAUSES
from galvanic.words import say
from server.claims import services
from server.claims.schemas import (
    AnswerOut,
    BeliefOut,
    CauseChoice,
    CitedOut,
    ClaimOut,
    ClaimsOut,
    HeardOut,
    OwnTestOut,
    PackChoice,
    RubricRow,
    TestChoice,
)
from server.entries.models import Reading
from server.findings.by_variable import noted_in, really_in
from server.findings.models import Answer, Claim
from server.findings.policy import opened_cells
from server.findings.services import compare_lab, own_results
from server.labs.models import Lab
from server.labs.schemas import CellIO
from server.people.auth import Member
from server.power.models import Pack


def claims_out(
    lab: Lab,
    rows: Sequence[Claim],
    own_packs: Sequence[Pack] = (),
    own_only: Member | None = None,
    group: Member | None = None,
) -> ClaimsOut:
    """Claims with what the core says of each now; a constant number of queries. `group`: who sees them, if not a teacher.

    `own_packs`: those that a group may claim something of. `own_only`: a group that may not see what the class found; its
    claims are weighed on its own readings alone.
    """
    readings = services.cited_in(rows)
    packs = services.packs_in(rows)
    revised = {claim.revises_id for claim in rows if claim.revises_id}
    results = (compare_lab(lab) if own_only is None else own_results(lab, own_only)) if rows else []
    really = really_in(noted_in(lab)) if rows else {}
    tries = services.tries_among(rows)
    shown = [_claim(one, results, really, readings, packs, tries[one.id], one.id not in revised) for one in rows]
    beliefs = beliefs_of(shown) if group is None else []
    if group is not None:
        shown = [_asked_back(_held(out, claim, tries[claim.id])) for out, claim in zip(shown, rows, strict=True)]
    return ClaimsOut(
        claims=shown,
        causes=[
            *(
                CauseChoice(key=key, name=say(one.name), implies=say(one.implies), of_pack=False)
                for key, one in CAUSES.items()
            ),
            *(
                CauseChoice(key=key, name=say(one.name), implies=say(one.implies), of_pack=True)
                for key, one in PACK_CAUSES.items()
            ),
        ],
        packs=[PackChoice(id=pack.id, name=services.name_of_pack(pack)) for pack in own_packs],
        rubric=[RubricRow.model_validate(row) for row in services.rubric_of(lab)],
        released=list(lab.released),
        beliefs=beliefs,
        groups=getattr(lab, "group_count", 0),
        opens=[] if group is None else [CellIO.of(cell) for cell in sorted(opened_cells(group), key=lambda c: c.notation)],
    )


def _held(out: ClaimOut, claim: Claim, tries: services.Tries) -> ClaimOut:
    """A claim without what the numbers say to it, as long as that is held back from its group."""
    left_s = tries.hold_s - (timezone.now() - claim.received_at).total_seconds()
    if left_s <= 0.0:
        return out
    covered = {"verdict": "held", "held_s": left_s, "says": "", "question": "", "evidence": "", "heard": [], "tests": []}
    return out.model_copy(update=covered)


def _heard(claim: Claim, found: Sequence[Heard]) -> list[HeardOut]:
    """What is heard in a claim, with what its group said to that."""
    said = {one.belief: one.yes for one in claim.meant.all()}
    return [
        HeardOut(
            key=one.key, meant=said.get(one.key), name=one.name, against=one.against, in_data=one.in_data,
            question=one.question,
        )
        for one in found
    ]  # fmt: skip


def _asked_back(out: ClaimOut) -> ClaimOut:
    """A claim for its group: of what is heard one question at a time, and what speaks against it once the group means it."""
    means = [one for one in out.heard if one.meant]
    asked = [one for one in out.heard if one.meant is None][:1]
    bare = [one.model_copy(update={"against": "", "in_data": "", "question": ""}) for one in asked]
    return out.model_copy(update={"heard": [*means, *bare]})


def beliefs_of(claims: Sequence[ClaimOut]) -> list[BeliefOut]:
    """What groups seem to believe, by their latest claims and those before; the most groups first."""
    heard: dict[str, HeardOut] = {}
    now: dict[str, dict[str, bool | None]] = defaultdict(dict)
    before: dict[str, set[str]] = defaultdict(set)
    for claim in claims:
        for one in claim.heard:
            if one.meant is False:
                continue
            heard.setdefault(one.key, one)
            if claim.latest:
                now[one.key][claim.group] = now[one.key].get(claim.group) or one.meant
            else:
                before[one.key].add(claim.group)
    out = [
        BeliefOut(
            key=key, name=one.name, lab=misconceptions()[key].lab, in_data=one.in_data, question=one.question,
            means=[group for group, meant in now[key].items() if meant],
            perhaps=[group for group, meant in now[key].items() if not meant],
            before=sorted(before[key] - set(now[key])),
        )
        for key, one in heard.items()
    ]  # fmt: skip
    return sorted(out, key=lambda one: (-len(one.means), -len(one.perhaps), one.name))


def _claim(
    claim: Claim,
    results: Sequence[ElectrolyteResult],
    really: Really,
    readings: Mapping[uuid.UUID, Reading],
    packs: Mapping[uuid.UUID, Pack],
    tries: services.Tries,
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
        short=cell.short if cell else services.name_of_pack(packs[claim.pack]) if claim.pack else say("the whole ladder"),
        cause=claim.cause,
        cause_name=next((say(one[claim.cause].name) for one in (CAUSES, PACK_CAUSES) if claim.cause in one), claim.cause),
        reasoning=claim.reasoning,
        against=claim.against,
        cited=[CitedOut(id=one.id, text=one.text, unit=one.unit, cell=CellIO.of(one.cell.cell)) for one in own],
        may_show=claim.may_show,
        revises=claim.revises_id,
        latest=latest,
        received_at=claim.received_at,
        verdict=tested.verdict.code,
        held_s=0.0,
        tries=tries.versions,
        causes=tries.causes,
        says=tested.verdict.text,
        question=tested.verdict.question,
        evidence=tested.evidence,
        heard=_heard(claim, tested.heard),
        tests=[TestChoice(key=test.key, do=test.do) for test in services.offered(claim)] if latest else [],
        tested=[
            OwnTestOut(
                id=row.id,
                do=test.do,
                before=row.before_text,
                after=row.after_text,
                verdict=verdict.code,
                says=verdict.text,
                question=verdict.question,
            )
            for row, test, verdict in services.weighed_tests(claim)
        ],
        answer=AnswerOut(text=answers[-1].text, marks=answers[-1].marks, shown=answers[-1].shown, at=answers[-1].at)
        if answers
        else None,
    )
