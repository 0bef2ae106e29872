"""The bench of a group."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router

from galvanic.subtraction import worked_or_reason
from server.bench.checking import Row, check_rows, class_values, reference_of, rows_of
from server.bench.meter_checks import MeterEntry, record_meter_check
from server.bench.models import MeterCheck, Reading
from server.bench.outputs import (
    BESIDE,
    beside_out,
    findings_out,
    is_asked,
    meter_out,
    others_out,
    reading_out,
    with_readings,
    with_their_readings,
)
from server.bench.predictions import PredictionEntry, record_prediction
from server.bench.schemas import (
    BenchCell,
    BenchOut,
    MeterIn,
    MeterOut,
    PredictionIn,
    PredictionOut,
    ReadingIn,
    ReadingOut,
    WorkedLine,
    Working,
)
from server.bench.services import ReadingEntry, record_reading
from server.labs.kept import answer
from server.labs.models import Lab, PlannedCell, Prediction
from server.labs.policy import READINGS_PER_CELL, cautions
from server.labs.tasks import steps_of
from server.people.auth import GroupAuth, Member, actor_of
from server.people.models import Group
from server.people.schemas import ProblemOut

router = Router()


@router.get("/bench", response={200: BenchOut, 401: ProblemOut}, auth=GroupAuth(), operation_id="bench")
def bench(request: HttpRequest) -> HttpResponse:
    """The group's own cells and readings."""
    actor = actor_of(request)
    lab = Lab.objects.visible_to(actor).get()
    return answer(lab, ("bench", actor.group_id), lambda: _bench(actor, lab))


def _bench(actor: Member, lab: Lab) -> BenchOut:
    cells = list(
        with_their_readings(PlannedCell.objects.visible_to(actor))
        .order_by("position")
        .prefetch_related("predictions", *BESIDE)
    )
    rows = rows_of(lab.id)
    values = class_values(rows)
    own = [row for row in rows if row.group == actor.group_id]
    findings = check_rows(own, reference_of(lab, actor.group_id, values))
    now = timezone.now()
    meter = MeterCheck.objects.visible_to(actor).order_by("-received_at", "-id").first()
    return BenchOut(
        predict=lab.predict,
        short_circuit=lab.short_circuit,
        load_ohm=lab.load_ohm,
        live_meter=Group.objects.filter(id=actor.group_id).exclude(meter_address="").exists(),
        covered=not lab.show_values,
        released=list(lab.released),
        paused=lab.paused_at is not None,
        now=now,
        minutes=lab.minutes,
        minutes_in=lab.minutes_in(now),
        settle_s=60.0 * steps_of(lab).settle,
        meter=meter_out(meter) if meter else None,
        group=actor.name,
        lab=lab.title,
        state=lab.state,
        simulated=lab.simulated,
        wanted=READINGS_PER_CELL,
        cells=[
            BenchCell(
                **out.model_dump(),
                findings=findings_out(out, findings),
                asked=is_asked(planned),
                beside=beside_out(planned, own),
                others=others_out(planned, values) if lab.show_values and has_own(planned, own) else None,
                cautions=cautions([out.negative, out.positive], [out.electrolyte]),
                prediction=prediction_out(list(planned.predictions.all())[-1]) if planned.predictions.all() else None,
                working=[_working(planned, plate) for plate in planned.cell.pair] if lab.predict else [],
            )
            for planned, out in zip(cells, with_readings(cells), strict=True)
        ],
    )


def has_own(planned: PlannedCell, rows: list[Row]) -> bool:
    """Whether the group has all its own readings of a cell."""
    return sum(row.cell_id == planned.id for row in rows) >= READINGS_PER_CELL


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


@router.post(
    "/bench/meter-checks",
    response={200: MeterOut, 409: ProblemOut, 422: ProblemOut},
    auth=GroupAuth(),
    operation_id="record_meter_check",
)
def post_meter_check(request: HttpRequest, data: MeterIn) -> MeterOut:
    """Keep a meter check; the same id again changes nothing."""
    return meter_out(record_meter_check(actor=actor_of(request), entry=MeterEntry(**data.model_dump())))
