"""Years laid over each other."""

from __future__ import annotations

import math
import uuid
from dataclasses import asdict
from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router
from pydantic import BaseModel, Field

from galvanic.findings.years import YearCell, Years
from server.findings.deciding import decided_in
from server.findings.outputs import foretold_words
from server.findings.services import compare_lab, predictions_by_lab
from server.labs.outputs import notes_out
from server.people.auth import TeacherAuth, teacher_of
from server.people.schemas import ProblemOut
from server.power.chain import voted_in
from server.records.years import copies_among, labs_laid_over, named, over_each_other
from server.records.years_schemas import LaidOver, YearCellOut, YearLab, YearRungOut, YearsOut

router = Router(auth=TeacherAuth())


class Chosen(BaseModel):
    """The labs to lay over each other."""

    lab: Annotated[list[uuid.UUID], Field(max_length=60)] = []


@router.get("/years", response={200: LaidOver, 404: ProblemOut, 422: ProblemOut}, operation_id="years")
def years(request: HttpRequest, chosen: Query[Chosen]) -> LaidOver:
    """Labs of several classes laid over each other: one ladder each, one for all, and what the next should find."""
    labs = labs_laid_over(teacher_of(request), chosen.lab)
    names, copies = named(labs), copies_among(labs)
    liquids = over_each_other(labs, copies)
    expected = predictions_by_lab(labs)
    voted = voted_in(labs)
    together = {name for one in liquids for name in one.names}
    return LaidOver(
        labs=[
            YearLab(
                id=lab.id,
                name=names[lab.id],
                date=lab.date,
                simulated=lab.simulated,
                edition=lab.edition,
                foretold=foretold_words(compare_lab(lab), expected[lab.id]),
                voted=voted.get(lab.id, ""),
                decided=decided_in(lab),
            )
            for lab in labs
        ],
        liquids=[_out(one) for one in liquids],
        alone=[name for lab, name in names.items() if name not in together and lab not in copies],
        copies={names[lab]: names[of] for lab, of in copies.items()},
    )


def _out(one: Years) -> YearsOut:
    high = one.between.tau_high_v
    return YearsOut(
        electrolyte=one.electrolyte,
        condition=one.condition,
        names=list(one.names),
        anchor=one.anchor,
        tau_v=one.between.tau_v,
        tau_low_v=one.between.tau_low_v,
        tau_high_v=None if math.isinf(high) else high,
        rungs=[YearRungOut(**asdict(rung)) for rung in one.rungs],
        cells=[_cell(cell) for cell in one.cells],
        notes=notes_out(one.notes),
    )


def _cell(one: YearCell) -> YearCellOut:
    return YearCellOut(
        short=one.cell.short, negative=one.cell.negative, positive=one.cell.positive, table_v=one.table_v,
        all_v=one.all_v, low_v=one.low_v, high_v=one.high_v, by_class=list(one.by_class),
    )  # fmt: skip
