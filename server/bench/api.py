"""The bench of a group, and the teacher's board."""

from __future__ import annotations

import uuid
from collections.abc import Iterable

from django.db.models import Prefetch
from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from galvanic.cells import Cell
from galvanic.subtraction import worked_or_reason
from server.bench.models import Reading
from server.bench.predictions import PredictionEntry, record_prediction
from server.bench.schemas import (
    BenchCell,
    BenchOut,
    BoardOut,
    CellWithReadings,
    GroupBoard,
    GroupPrediction,
    JustIn,
    PredictedCell,
    PredictionIn,
    PredictionOut,
    PredictionsOut,
    ReadingIn,
    ReadingOut,
    WorkedLine,
    Working,
)
from server.bench.services import ReadingEntry, record_reading
from server.labs.models import Lab, PlannedCell, Prediction
from server.labs.outputs import cell_out
from server.labs.policy import READINGS_PER_CELL, cautions
from server.labs.tasks import steps_of
from server.people.auth import GroupAuth, TeacherAuth, actor_of, teacher_of
from server.people.schemas import ProblemOut
from server.problems import not_found

router = Router()
JUST_IN = 8


def reading_out(reading: Reading, planned: PlannedCell, corrected_by: uuid.UUID | None) -> ReadingOut:
    """A reading as it is sent."""
    return ReadingOut(
        id=reading.id,
        text=reading.text,
        unit=reading.unit,
        volts_v=reading.volts_v,
        signed_v=planned.cell.as_written_v(reading.volts_v, reading.red),
        resolution_v=reading.resolution_v,
        red=reading.red,
        black=reading.black,
        origin=reading.origin,
        received_at=reading.received_at,
        corrected_by=corrected_by,
        corrects=reading.corrects_id,
        reason=reading.reason,
    )


def with_readings(cells: Iterable[PlannedCell]) -> list[CellWithReadings]:
    """Cells with prefetched readings as they are sent."""
    found = []
    for planned in cells:
        readings = list(planned.readings.all())
        corrected = {r.corrects_id: r.id for r in readings if r.corrects_id}
        found.append(
            CellWithReadings(
                **cell_out(planned).model_dump(),
                readings=[reading_out(r, planned, corrected.get(r.id)) for r in readings],
            )
        )
    return found


@router.get("/bench", response={200: BenchOut, 401: ProblemOut}, auth=GroupAuth(), operation_id="bench")
def bench(request: HttpRequest) -> BenchOut:
    """The group's own cells and readings."""
    actor = actor_of(request)
    lab = Lab.objects.visible_to(actor).get()
    cells = list(PlannedCell.objects.visible_to(actor).order_by("position").prefetch_related("readings", "predictions"))
    return BenchOut(
        predict=lab.predict,
        group=actor.name,
        lab=lab.title,
        state=lab.state,
        simulated=lab.simulated,
        wanted=READINGS_PER_CELL,
        cells=[
            BenchCell(
                **out.model_dump(),
                cautions=cautions([out.negative, out.positive], [out.electrolyte]),
                prediction=prediction_out(list(planned.predictions.all())[-1]) if planned.predictions.all() else None,
                working=[_working(planned, plate) for plate in planned.cell.pair] if lab.predict else [],
            )
            for planned, out in zip(cells, with_readings(cells), strict=True)
        ],
    )


def prediction_out(kept: Prediction) -> PredictionOut:
    """A prediction as it is sent."""
    return PredictionOut(id=kept.id, negative=kept.negative, text=kept.text, unit=kept.unit, volts_v=kept.volts_v)


def _working(planned: PlannedCell, negative: str) -> Working:
    lines, reason = worked_or_reason(planned.cell, negative)
    return Working(negative=negative, lines=[WorkedLine(text=one.text, why=one.why) for one in lines], reason=reason)


@router.post(
    "/bench/predictions",
    response={200: PredictionOut, 404: ProblemOut, 409: ProblemOut, 422: ProblemOut},
    auth=GroupAuth(),
    operation_id="record_prediction",
)
def post_prediction(request: HttpRequest, data: PredictionIn) -> PredictionOut:
    """Keep a prediction; the same id again changes nothing."""
    return prediction_out(record_prediction(actor=actor_of(request), entry=PredictionEntry(**data.model_dump())))


@router.post(
    "/bench/readings",
    response={200: ReadingOut, 404: ProblemOut, 409: ProblemOut, 422: ProblemOut},
    auth=GroupAuth(),
    operation_id="record_reading",
)
def post_reading(request: HttpRequest, data: ReadingIn) -> ReadingOut:
    """Keep a reading; the same id again changes nothing."""
    recorded = record_reading(actor=actor_of(request), entry=ReadingEntry(**data.model_dump()))
    reading = recorded.reading
    later = Reading.objects.filter(corrects=reading).values_list("id", flat=True).first() if recorded.repeated else None
    return reading_out(reading, reading.cell, later)


@router.get(
    "/labs/{uuid:lab_id}/predictions",
    response={200: PredictionsOut, 404: ProblemOut},
    auth=TeacherAuth(),
    operation_id="predictions",
)
def predictions(request: HttpRequest, lab_id: uuid.UUID) -> PredictionsOut:
    """The latest prediction of every group, cell by cell."""
    if not Lab.objects.visible_to(teacher_of(request)).filter(id=lab_id).exists():
        raise not_found("lab")
    rows = (
        PlannedCell.objects.visible_to(teacher_of(request))
        .filter(group__lab=lab_id)
        .select_related("group")
        .prefetch_related("predictions")
        .order_by("group__position", "position")
    )
    by_cell: dict[Cell, dict[str, GroupPrediction]] = {}
    expected = set()
    for planned in rows:
        expected.add((planned.cell, planned.group_id))
        found = by_cell.setdefault(planned.cell, {})
        for kept in planned.predictions.all():
            found[planned.group.name] = GroupPrediction(
                group=planned.group.name, negative=kept.negative, text=kept.text, unit=kept.unit, volts_v=kept.volts_v
            )
    return PredictionsOut(
        cells=[
            PredictedCell(
                short=cell.short,
                negative=cell.negative,
                electrolyte=cell.electrolyte,
                positive=cell.positive,
                condition=cell.condition,
                table_v=cell.table_v,
                predictions=list(found.values()),
            )
            for cell, found in by_cell.items()
        ],
        made=sum(len(found) for found in by_cell.values()),
        expected=len(expected),
    )


@router.get("/labs/{uuid:lab_id}/board", response={200: BoardOut, 404: ProblemOut}, auth=TeacherAuth(), operation_id="board")
def board(request: HttpRequest, lab_id: uuid.UUID) -> BoardOut:
    """All groups' cells and readings."""
    cells = Prefetch("groups__cells", queryset=PlannedCell.objects.order_by("position").prefetch_related("readings"))
    lab = Lab.objects.visible_to(teacher_of(request)).prefetch_related("groups", cells).filter(id=lab_id).first()
    if lab is None:
        raise not_found("lab")
    steps = steps_of(lab)
    groups = [GroupBoard(id=g.id, name=g.name, pin=g.pin, cells=with_readings(g.cells.all())) for g in lab.groups.all()]
    return BoardOut(
        id=lab.id,
        title=lab.title,
        state=lab.state,
        join_code=lab.join_code if lab.state == Lab.State.OPEN else None,
        opened_at=lab.opened_at,
        now=timezone.now(),
        minutes=lab.minutes,
        minutes_to_start=steps.late + steps.start,
        minutes_per_cell=steps.cell,
        minutes_to_clear=steps.clear,
        simulated=lab.simulated,
        wanted=READINGS_PER_CELL,
        groups=groups,
        just_in=latest(groups),
    )


def latest(groups: list[GroupBoard]) -> list[JustIn]:
    """The newest entries of the room, newest first."""
    entries = [(r, nth, c, g) for g in groups for c in g.cells for nth, r in enumerate(c.readings, start=1)]
    newest = sorted(entries, key=lambda entry: entry[0].received_at, reverse=True)[:JUST_IN]
    return [
        JustIn(id=r.id, group=g.name, cell=c.short, electrolyte=c.electrolyte, condition=c.condition, nth=nth, reading=r)
        for r, nth, c, g in newest
    ]
