"""Explain: one cell, what if, and all cells by the four accounts."""

from __future__ import annotations

import math
import uuid
from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

from django.http import HttpRequest
from ninja import Query, Router

from galvanic.cells import Cell
from galvanic.chemistry.gap import Cause, drawn, explain
from galvanic.chemistry.loop import current, loops
from galvanic.chemistry.plate_work import Work, at_plates
from galvanic.chemistry.polarisation import sides_of
from galvanic.chemistry.what_if import Change, Outcome, inside_a, what_if
from galvanic.errors import NotEnoughData
from galvanic.findings.class_accounts import TEXTBOOK, AccountsResult, CellRow, score_accounts
from galvanic.findings.compare import ElectrolyteResult
from galvanic.level import Level
from galvanic.reference import catalogue
from galvanic.reference.catalogue import kept
from galvanic.words import say
from server.base.kept import made_once
from server.base.problems import Problem, not_found
from server.entries.hands import measured_cells
from server.findings.explain_schemas import (
    AccountCell,
    AccountsOut,
    CauseOut,
    ExplainOut,
    LoopOut,
    OutcomeOut,
    RankingOut,
    ScoreOut,
    StepOut,
    WhatIfIn,
    WhatIfOut,
    WorkOut,
)
from server.findings.policy import lab_for_explaining, lab_for_group
from server.findings.services import compare_lab, own_results, shows_class
from server.labs.lookups import lab_for_teacher
from server.labs.models import Lab
from server.labs.schemas import CellIO
from server.people.auth import GroupAuth, Member, TeacherAuth, actor_of, teacher_of
from server.people.models import Teacher
from server.people.schemas import ProblemOut

router = Router()
REFUSED = {403: ProblemOut, 404: ProblemOut, 422: ProblemOut}
BOTH = [TeacherAuth(), GroupAuth()]
U_MEASURED_V = 0.02


def _lab(request: HttpRequest, lab_id: uuid.UUID, cell: Cell | None = None) -> Any:
    """The lab for its teacher; for a group of it once Explain is released, or this cell opened by its claim."""
    actor: Teacher | Member = actor_of(request)
    if isinstance(actor, Member):
        if actor.lab_id != lab_id:
            raise not_found("lab")
        return lab_for_group(actor, "explain") if cell is None else lab_for_explaining(actor, cell)
    return lab_for_teacher(teacher_of(request), lab_id)


def _own_first(request: HttpRequest, lab: Lab) -> set[Cell] | None:
    """The cells a group has readings of, while it can still measure the others; None for who may see all."""
    actor = actor_of(request)
    if not isinstance(actor, Member) or lab.state != Lab.State.OPEN:
        return None
    return measured_cells(actor)


def _lab_for(request: HttpRequest, lab_id: uuid.UUID, cell: Cell) -> Any:
    """The lab for who may see where the volts of a cell went. Raises Problem own_first beside those of `_lab`."""
    lab = _lab(request, lab_id, cell)
    own = _own_first(request, lab)
    if own is not None and cell not in own:
        raise Problem(403, "own_first", say("Measure this cell yourselves first; then you see where its volts went."))
    return lab


def _found(results: list[ElectrolyteResult], wanted: Cell) -> Any:
    for result in results:
        for cell in result.cells:
            if cell.cell == wanted:
                return cell
    raise not_found(say("cell with a reading that counts"))


def _cause(cause: Cause, level: Level) -> CauseOut:
    return CauseOut(**asdict(cause) | {"equation": cause.worked(level)})


def _work(row: Work, level: Level) -> WorkOut:
    return WorkOut(**asdict(row) | {"equation": row.told(level)})


@router.get("/labs/{uuid:lab_id}/explain", response={200: ExplainOut, **REFUSED}, auth=BOTH, operation_id="explain")
def explain_cell(request: HttpRequest, lab_id: uuid.UUID, data: Query[CellIO]) -> ExplainOut:
    """Where the volts of one cell went, and what happens at each plate."""
    cell = data.cell
    lab, actor = _lab_for(request, lab_id, cell), actor_of(request)
    covered = isinstance(actor, Member) and not shows_class(lab)
    one = _found(own_results(lab, actor) if covered else compare_lab(lab), cell)
    u_v = U_MEASURED_V if one.u_v is None else one.u_v
    gap, work = explain(cell, one.mean_v, u_measured_v=u_v), at_plates(cell)
    level = Level(lab.level) if isinstance(actor, Member) else Level.UPPER
    return ExplainOut(
        level=level,
        notation=cell.notation,
        short=cell.short,
        cell=data,
        start=gap.start,
        by_table=gap.by_table,
        start_v=gap.start_v,
        causes=[_cause(cause, level) for cause in gap.causes],
        steps=[StepOut(**asdict(step) | {"causes": [_cause(cause, level) for cause in step.causes]}) for step in drawn(gap)],
        measured_v=gap.measured_v,
        u_measured_v=u_v,
        n=one.n,
        groups=len(one.groups),
        negative_plate=work.negative,
        positive_plate=work.positive,
        at_negative=[_work(row, level) for row in work.at_negative],
        at_positive=[_work(row, level) for row in work.at_positive],
    )


@router.get("/labs/{uuid:lab_id}/loop", response={200: list[LoopOut], **REFUSED}, auth=BOTH, operation_id="loop")
def get_loop(request: HttpRequest, lab_id: uuid.UUID, data: Query[CellIO]) -> list[LoopOut]:
    """What goes round in a cell that the class has read, in four states; for a group under the same rules as `explain`."""
    cell = data.cell
    lab, actor = _lab_for(request, lab_id, cell), actor_of(request)
    _found(own_results(lab, actor) if isinstance(actor, Member) and not shows_class(lab) else compare_lab(lab), cell)
    level = Level(lab.level) if isinstance(actor, Member) else Level.UPPER
    return [LoopOut(**asdict(one) | {"flows": one.flows, "current": current(one.current_a)}) for one in loops(cell, level)]


def _outcome(found: Outcome) -> OutcomeOut:
    row = asdict(found)
    return OutcomeOut(**row | {"internal_ohm": found.internal_ohm if math.isfinite(found.internal_ohm) else None})


@kept(256)
def _usual(cell: Cell) -> Outcome:
    return what_if(cell, Change())


@router.post("/what-if", response={200: WhatIfOut, **REFUSED}, auth=BOTH, operation_id="what_if")
def post_what_if(request: HttpRequest, data: WhatIfIn) -> WhatIfOut:
    """What a cell would do if something were different; nothing is kept. For a group once Explain is released, or the cell
    is opened by its claim."""
    cell = data.cell.cell
    if isinstance(actor := actor_of(request), Member):
        lab_for_explaining(actor, cell)
    plates, liquids = catalogue.electrodes(), catalogue.electrolytes()
    if not set(cell.pair) <= set(plates) or cell.electrolyte not in liquids or cell.negative == cell.positive:
        raise Problem(422, "unknown_material", say("That cell is not in the catalogue."), field="cell")
    change = Change(
        ph=data.ph,
        ions_mol_per_l=data.ions_mol_per_l,
        oxygen=data.oxygen,
        stir=data.stir,
        celsius=data.celsius,
        area_m2=data.area_cm2 * 1e-4,
        gap_m=data.gap_cm * 1e-2,
        meter_ohm=data.meter_ohm,
        chloride_mol_per_l=data.chloride_mol_per_l,
        conductivity_s_per_m=data.conductivity_s_per_m,
        pairs=data.pairs,
        scratched=data.scratched,
        dull=data.dull,
    )
    upper, between = liquids[sides_of(cell)[1]], liquids[cell.electrolyte].conductivity_s_per_m
    return WhatIfOut(
        usual=_outcome(_usual(cell)),
        changed=_outcome(what_if(cell, change)),
        ph=0.5 * (upper.ph.low + upper.ph.high),
        chloride_mol_per_l=math.sqrt(upper.chloride_mol_per_l.low * upper.chloride_mol_per_l.high),
        conductivity_s_per_m=math.sqrt(between.low * between.high),
        inside_a=inside_a(cell),
    )


@router.get("/labs/{uuid:lab_id}/accounts", response={200: AccountsOut, **REFUSED}, auth=BOTH, operation_id="accounts")
def accounts(request: HttpRequest, lab_id: uuid.UUID) -> AccountsOut:
    """The four accounts scored on this class's data, and cell by cell."""
    try:
        lab = _lab(request, lab_id)
        own = _own_first(request, lab)
        scored = made_once(lab, "accounts", lambda: score_accounts(compare_lab(lab)))
        return accounts_out(scored, [row for row in scored.cells if own is None or row.cell in own])
    except NotEnoughData:
        return AccountsOut(accounts=[], cells=[], ranking=None, outliers=0, textbook=say(TEXTBOOK), common=0, verdict="")


def accounts_out(found: AccountsResult, cells: Sequence[CellRow]) -> AccountsOut:
    """The accounts as they are sent, with these cells."""
    return AccountsOut(
        accounts=[
            ScoreOut(
                account=row.account, name=row.name, about=row.about,
                n=row.score.n if row.score else 0,
                bias_v=row.score.bias_v if row.score else None,
                rms_v=row.score.rms_v if row.score else None,
                signs_right=row.score.signs_right if row.score else 0,
                left_out=row.score.left_out if row.score else 0,
                common_rms_v=row.common_rms_v,
                worse_v=row.against_best.difference_v if row.against_best else None,
                worse_low_v=row.against_best.low_v if row.against_best else None,
                worse_high_v=row.against_best.high_v if row.against_best else None,
            )
            for row in found.rows
        ],
        cells=[
            AccountCell(
                short=row.cell.short, electrolyte=row.cell.electrolyte, condition=row.cell.condition,
                measured_v=row.measured_v,
                says_v={name: one.volts_v for name, one in row.predictions.items()},
                reasons={name: one.reason for name, one in row.predictions.items() if one.volts_v is None},
            )
            for row in cells
        ],
        ranking=RankingOut(
            right=found.ranking.right, of=found.ranking.of, order=list(found.ranking.order),
            wrong=[list(pair) for pair in found.ranking.wrong],
        ),
        outliers=found.outliers, textbook=say(TEXTBOOK), common=found.common, verdict=found.verdict,
    )  # fmt: skip
