"""The bench of a group."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router

from galvanic.bench.loading import how_short, how_to_load
from galvanic.bench.readings import READABLE
from galvanic.bench.standing import values_that_count
from galvanic.chemistry.subtraction import table_value, worked_or_reason
from galvanic.level import Level
from galvanic.preparing import preparation
from server.base.kept import answer_json, as_json
from server.entries.asked_first import asked_of_hand
from server.entries.belonging import belongs_to
from server.entries.checking import check_rows, reference_of
from server.entries.entry import MeterIn, PredictionIn, ReadingIn
from server.entries.hands import CellInHand, hands_of, with_what_is_beside
from server.entries.meter_checks import record_meter_check
from server.entries.outputs import (
    beside_out,
    findings_out,
    latest_prediction,
    meter_out,
    others_out,
    prediction_out,
    reading_out,
)
from server.entries.predictions import record_prediction
from server.entries.schemas import (
    BenchCell,
    BenchOut,
    MeterOut,
    PredictionOut,
    ReadingOut,
    TableValue,
    WorkedLine,
    Working,
)
from server.entries.services import record_reading
from server.entries.standing import counting, doubts_on, judged, of_class, verdicts_on
from server.labs.lookups import lab_of_group
from server.labs.models import Lab, PlannedCell
from server.labs.planning.tasks import steps_of
from server.labs.policy import READINGS_PER_CELL, cautions
from server.people.auth import GroupAuth, Member, actor_of
from server.people.schemas import ProblemOut

router = Router()


@router.get("/bench", response={200: BenchOut, 401: ProblemOut}, auth=GroupAuth(), operation_id="bench")
def bench(request: HttpRequest) -> HttpResponse:
    """The group's own cells and readings."""
    return as_json(bench_json(actor_of(request)))


def bench_json(actor: Member) -> bytes:
    """A group's bench as it is sent, also on its stream."""
    lab = lab_of_group(actor)
    return answer_json(lab, ("bench", actor.group_id), lambda: _bench(actor, lab))


def _bench(actor: Member, lab: Lab) -> BenchOut:
    groups = list(lab.groups.all())
    hands = hands_of(lab, groups)
    group, hand = next((g, h) for g, h in zip(groups, hands, strict=True) if g.id == actor.group_id)
    with_what_is_beside(hand)
    verdicts = of_class(lab, hands)
    values = values_that_count((row for one in hands for row in one.rows), verdicts)
    uncovered = {cell.planned.id for cell in hand.cells if lab.show_values and has_own(cell)}
    # What is said of a covered cell rests on the account alone, or its words would give the class's value away.
    alone, with_class = (reference_of(lab, actor.group_id, known) for known in ([], values))
    findings = check_rows(hand.rows, lambda row: with_class if row.cell_id in uncovered else alone)
    # So does how its readings stand.
    own = verdicts if lab.show_values else verdicts_on(lab, hand.rows)
    own = {**doubts_on(counting(hand.rows, own), with_class if lab.show_values else alone), **own}
    belongs = belongs_to(hand, findings, lambda cell: with_class if cell in uncovered else alone)
    asked, counts = asked_of_hand(hand, Level(lab.level)), counting(hand.rows, own)
    now, steps = timezone.now(), steps_of(lab)
    return BenchOut(
        predict=lab.predict,
        level=Level(lab.level),
        short_circuit=lab.short_circuit,
        load_ohm=lab.load_ohm,
        how_short=how_short(),
        how_load="" if lab.load_ohm is None else how_to_load(lab.load_ohm),
        live_meter=bool(group.meter_address),
        covered=not lab.show_values,
        released=lab.shown,
        paused=lab.paused_at is not None,
        readable=READABLE,
        now=now,
        minutes=lab.minutes,
        minutes_in=lab.minutes_in(now),
        settle_s=60.0 * steps.settle,
        settle_again_s=60.0 * steps.settle_again,
        meter=hand.meter,
        group=actor.name,
        group_id=actor.group_id,
        lab=lab.title,
        lab_id=lab.id,
        state=lab.state,
        simulated=lab.simulated,
        wanted=READINGS_PER_CELL,
        cells=[
            BenchCell(
                **{**dict(cell.sent), "readings": judged(cell.sent.readings, own)},
                findings=findings_out(cell.sent, findings, belongs),
                asked=cell.asked,
                beside=beside_out(cell.planned, counting(cell.rows, own)),
                others=others_out(cell.planned, values) if cell.planned.id in uncovered else None,
                preparation=preparation(cell.planned.cell),
                cautions=cautions(lab, cell.planned.cell.pair, [cell.planned.electrolyte]),
                prediction=latest_prediction(cell.planned, counts, asked[cell.planned.id].first),
                working=[_working(cell.planned, plate) for plate in cell.planned.cell.pair] if lab.predict else [],
                asks=asked[cell.planned.id].what if lab.predict else "nothing",
                against=asked[cell.planned.id].against,
            )
            for cell in hand.cells
        ],
    )


def has_own(hand: CellInHand) -> bool:
    """Whether the group has all its own readings of a cell."""
    return len(hand.rows) >= READINGS_PER_CELL


def _working(planned: PlannedCell, negative: str) -> Working:
    lines, reason = worked_or_reason(planned.cell, negative)
    values = [] if reason else [TableValue(plate=key, text=table_value(key)) for key in planned.cell.pair]
    told = [WorkedLine(text=line.text, why=line.why) for line in lines]
    return Working(negative=negative, values=values, lines=told, reason=reason)


@router.post(
    "/bench/predictions",
    response={200: PredictionOut, 404: ProblemOut, 409: ProblemOut, 422: ProblemOut},
    auth=GroupAuth(),
    operation_id="record_prediction",
)
def post_prediction(request: HttpRequest, data: PredictionIn) -> PredictionOut:
    """Keep a prediction; the same id again changes nothing."""
    return prediction_out(record_prediction(actor=actor_of(request), entry=data))


@router.post(
    "/bench/readings",
    response={200: ReadingOut, 404: ProblemOut, 409: ProblemOut, 422: ProblemOut},
    auth=GroupAuth(),
    operation_id="record_reading",
)
def post_reading(request: HttpRequest, data: ReadingIn) -> ReadingOut:
    """Keep a reading; the same id again changes nothing."""
    recorded = record_reading(actor=actor_of(request), entry=data)
    reading = recorded.reading
    return reading_out(reading, reading.cell, recorded.corrected_by, standing=None)  # not judged yet


@router.post(
    "/bench/meter-checks",
    response={200: MeterOut, 409: ProblemOut, 422: ProblemOut},
    auth=GroupAuth(),
    operation_id="record_meter_check",
)
def post_meter_check(request: HttpRequest, data: MeterIn) -> MeterOut:
    """Keep a meter check; the same id again changes nothing."""
    return meter_out(record_meter_check(actor=actor_of(request), entry=data))
