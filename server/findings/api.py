"""Compare: the class beside the table."""

from __future__ import annotations

import uuid

from django.http import HttpRequest
from ninja import Query, Router

from galvanic.compare import CellResult, ElectrolyteResult
from galvanic.bath_notes import bath_notes
from server.findings.schemas import CellRow, CompareOut, ElectrolyteResultOut, GroupMean, Held, RungOut, SwapOut
from server.findings.services import compare_lab
from server.labs.models import Lab
from server.labs.outputs import notes_out
from server.people.auth import TeacherAuth, teacher_of
from server.people.schemas import ProblemOut
from server.problems import Problem, not_found

router = Router(auth=TeacherAuth())


def cell_row(result: CellResult) -> CellRow:
    """One cell as it is sent."""
    return CellRow(
        short=result.cell.short,
        negative=result.cell.negative,
        positive=result.cell.positive,
        table_v=result.table_v,
        mean_v=result.mean_v,
        u_v=result.u_v,
        low_v=result.low_v,
        high_v=result.high_v,
        gap_v=result.gap_v,
        n=result.n,
        groups=[GroupMean(group=g.group, mean_v=g.summary.mean_v, u_v=g.summary.u_v, n=g.summary.n) for g in result.groups],
    )


def electrolyte_out(result: ElectrolyteResult) -> ElectrolyteResultOut:
    """One electrolyte's result as it is sent."""
    return ElectrolyteResultOut(
        electrolyte=result.electrolyte,
        condition=result.condition,
        anchor=result.anchor,
        anchors=list(result.anchors),
        rungs=[RungOut(electrode=r.electrode, table_v=r.table_v, class_v=r.class_v, u_v=r.u_v) for r in result.rungs],
        loose=list(result.loose),
        swaps=[SwapOut(upper=s.upper, lower=s.lower, by_v=s.by_v, u_v=s.u_v) for s in result.swaps],
        cells=[cell_row(cell) for cell in result.cells],
        tau_v=result.tau_v,
        dof=result.dof,
        notes=notes_out(bath_notes(result)),
    )


def anchors_of(texts: list[str]) -> dict[str, str]:
    """`electrolyte:electrode` pairs. Raises Problem for anything else."""
    if any(text.count(":") != 1 for text in texts):
        raise Problem(422, "anchor", "An anchor is written electrolyte:electrode.", field="anchor")
    return dict(text.split(":") for text in texts)


@router.get(
    "/labs/{uuid:lab_id}/compare",
    response={200: CompareOut, 404: ProblemOut, 422: ProblemOut},
    operation_id="compare",
)
def compare(request: HttpRequest, lab_id: uuid.UUID, held: Query[Held]) -> CompareOut:
    """The class's voltages beside the table, one ladder per electrolyte; `anchor=electrolyte:electrode` holds a plate."""
    actor = teacher_of(request)
    lab = Lab.objects.visible_to(actor).with_counts().filter(id=lab_id).first()
    if lab is None:
        raise not_found("lab")
    results = compare_lab(actor=actor, lab=lab, anchors=anchors_of(held.anchor))
    return CompareOut(
        id=lab.id,
        title=lab.title,
        date=lab.date,
        state=lab.state,
        simulated=lab.simulated,
        edition=lab.edition,
        group_count=lab.group_count,
        reading_count=lab.reading_count,
        electrolytes=[electrolyte_out(result) for result in results],
    )
