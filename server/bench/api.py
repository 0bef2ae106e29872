"""The bench of a group, and the teacher's board."""

from __future__ import annotations

import uuid
from collections.abc import Iterable

from django.db.models import Prefetch
from django.http import HttpRequest
from django.utils import timezone
from ninja import Router

from galvanic.design import MINUTES_PER_CELL, MINUTES_TO_CLEAR, MINUTES_TO_START
from server.bench.models import Reading
from server.bench.schemas import BenchCell, BenchOut, BoardOut, CellWithReadings, GroupBoard, JustIn, ReadingIn, ReadingOut
from server.bench.services import ReadingEntry, record_reading
from server.labs.api import cell_out
from server.labs.models import Lab, PlannedCell
from server.labs.policy import READINGS_PER_CELL, cautions
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
    cells = PlannedCell.objects.visible_to(actor).prefetch_related("readings")
    return BenchOut(
        group=actor.name,
        lab=lab.title,
        state=lab.state,
        simulated=lab.simulated,
        wanted=READINGS_PER_CELL,
        cells=[
            BenchCell(**out.model_dump(), cautions=cautions([out.negative, out.positive], [out.electrolyte]))
            for out in with_readings(cells)
        ],
    )


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


@router.get("/labs/{uuid:lab_id}/board", response={200: BoardOut, 404: ProblemOut}, auth=TeacherAuth(), operation_id="board")
def board(request: HttpRequest, lab_id: uuid.UUID) -> BoardOut:
    """All groups' cells and readings."""
    cells = Prefetch("groups__cells", queryset=PlannedCell.objects.order_by("position").prefetch_related("readings"))
    lab = Lab.objects.visible_to(teacher_of(request)).prefetch_related("groups", cells).filter(id=lab_id).first()
    if lab is None:
        raise not_found("lab")
    groups = [GroupBoard(id=g.id, name=g.name, pin=g.pin, cells=with_readings(g.cells.all())) for g in lab.groups.all()]
    return BoardOut(
        id=lab.id,
        title=lab.title,
        state=lab.state,
        join_code=lab.join_code if lab.state == Lab.State.OPEN else None,
        opened_at=lab.opened_at,
        now=timezone.now(),
        minutes=lab.minutes,
        minutes_to_start=MINUTES_TO_START,
        minutes_per_cell=MINUTES_PER_CELL,
        minutes_to_clear=MINUTES_TO_CLEAR,
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
        JustIn(id=r.id, group=g.name, cell=c.short, electrolyte=c.electrolyte, nth=nth, reading=r) for r, nth, c, g in newest
    ]
