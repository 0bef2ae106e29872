"""The teacher's board, and what groups predicted."""

from __future__ import annotations

import uuid

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router

from galvanic.bench.attention import SHOWN, Reason
from galvanic.bench.checks import Finding
from galvanic.bench.standing import previewed
from galvanic.cells import Cell
from server.base.kept import answer_json, as_json
from server.entries.beside_schemas import Beside
from server.entries.hands import cell_for_teacher, cells_with_predictions, hands_of
from server.entries.outputs import beside_out, current_rows
from server.entries.schemas import GroupPrediction, PredictedCell, PredictionsOut
from server.entries.standing import counting, judged, of_class
from server.labs.lookups import lab_for_teacher, lab_on_board
from server.labs.models import Lab
from server.labs.outputs import pin_for, way_of
from server.labs.planning.tasks import steps_of
from server.labs.policy import READINGS_PER_CELL, stage_of
from server.labs.schemas import CellIO
from server.people.auth import TeacherAuth, teacher_of
from server.people.limits import guessed_pins
from server.people.models import Teacher
from server.people.schemas import ProblemOut
from server.room.attention import Attention, Relief, visits_of
from server.room.schemas import (
    BoardCell,
    BoardOut,
    FlagOut,
    GroupBoard,
    JustIn,
    ReliefOut,
    SpanOut,
    VisitOut,
    VisitReason,
    WaitingQuestion,
)

router = Router(auth=TeacherAuth())
JUST_IN = 8


@router.get(
    "/labs/{uuid:lab_id}/predictions",
    response={200: PredictionsOut, 404: ProblemOut},
    operation_id="predictions",
)
def predictions(request: HttpRequest, lab_id: uuid.UUID) -> PredictionsOut:
    """The latest prediction of every group, cell by cell."""
    lab = lab_for_teacher(teacher_of(request), lab_id)
    by_cell: dict[Cell, dict[str, GroupPrediction]] = {}
    expected = set()
    for planned in cells_with_predictions(lab):
        expected.add((planned.cell, planned.group_id))
        told = by_cell.setdefault(planned.cell, {})
        for kept in planned.predictions.all():
            told[planned.group.name] = GroupPrediction(
                group=planned.group.name, negative=kept.negative, text=kept.text, unit=kept.unit, volts_v=kept.volts_v,
                way=kept.way, because=kept.because,
            )  # fmt: skip
    return PredictionsOut(
        cells=[
            PredictedCell(
                short=cell.short,
                negative=cell.negative,
                electrolyte=cell.electrolyte,
                positive=cell.positive,
                condition=cell.condition,
                table_v=cell.table_v,
                predictions=list(told.values()),
            )
            for cell, told in by_cell.items()
        ],
        made=sum(len(told) for told in by_cell.values()),
        expected=len(expected),
    )


@router.get("/labs/{uuid:lab_id}/board", response={200: BoardOut, 404: ProblemOut}, operation_id="board")
def board(request: HttpRequest, lab_id: uuid.UUID) -> HttpResponse:
    """All groups' cells and readings."""
    return as_json(board_json(teacher_of(request), lab_id))


def board_json(actor: Teacher, lab_id: uuid.UUID) -> bytes:
    """The board as it is sent, also on the teacher's stream. Raises Problem not_found."""
    lab = lab_on_board(actor, lab_id)
    return answer_json(lab, ("board", way_of(lab) == "look"), lambda: _board(lab))


def _board(lab: Lab) -> BoardOut:
    steps, now = steps_of(lab), timezone.now()
    rooms = list(lab.groups.all())
    hands = hands_of(lab, rooms)
    questions = sorted((one for hand in hands for one in hand.questions), key=lambda one: (one.received_at, one.id))
    attention = visits_of(lab, rooms, hands, READINGS_PER_CELL, steps, now)
    verdicts = previewed((row for hand in hands for row in hand.rows), attention.verdicts)
    groups = [
        GroupBoard(
            id=g.id,
            name=g.name,
            pin=pin_for(lab, g),
            meter=hand.meter,
            meter_address=g.meter_address,
            aside=hand.aside,
            cells=[
                BoardCell(
                    **{**dict(one.sent), "readings": judged(one.sent.readings, verdicts)},
                    flag=flag_out(attention.flags.get(one.planned.id)),
                    asked=one.asked,
                    begun=one.begun,
                )  # fmt: skip
                for one in hand.cells
            ],
        )
        for g, hand in zip(rooms, hands, strict=True)
    ]
    return BoardOut(
        id=lab.id,
        title=lab.title,
        state=lab.state,
        stage=stage_of(lab),
        join_code=lab.join_code if lab.state == Lab.State.OPEN else None,
        opened_at=lab.opened_at,
        now=now,
        minutes=lab.minutes,
        minutes_in=lab.minutes_in(now),
        paused=lab.paused_at is not None,
        show_values=lab.show_values,
        cell_minutes=[
            SpanOut(begin=begin, end=end) for begin, end in steps.cell_times(max((len(h.cells) for h in hands), default=0))
        ],
        minutes_for_packs=steps.packs,
        minutes_to_clear=steps.clear,
        simulated=lab.simulated,
        wrong_pins=guessed_pins(lab.join_code) if lab.state == Lab.State.OPEN and lab.join_code else 0,
        wanted=READINGS_PER_CELL,
        groups=groups,
        just_in=latest(groups),
        questions=[
            WaitingQuestion(
                id=one.id,
                group=one.cell.group.name,
                group_id=one.cell.group_id,
                cell=one.cell_id,
                made_of=CellIO.of(one.cell.cell),
                short=one.cell.cell.short,
                text=one.text,
                at=one.taken_at or one.received_at,
            )
            for one in questions
        ],
        common=[reason_out("", one, attention) for one in attention.common],
        visits=[
            VisitOut(group=visit.group, reasons=[reason_out(visit.group, one, attention) for one in visit.reasons])
            for visit in attention.visits[:SHOWN]
        ],
        more_visits=max(0, len(attention.visits) - SHOWN),
    )


@router.get("/cells/{uuid:cell_id}/beside", response={200: Beside, 404: ProblemOut}, operation_id="beside")
def beside(request: HttpRequest, cell_id: uuid.UUID) -> Beside:
    """What a group keeps of a cell beside its readings."""
    cell = cell_for_teacher(teacher_of(request), cell_id)
    lab = cell.group.lab
    verdicts = of_class(lab, hands_of(lab, list(lab.groups.all())))
    return beside_out(cell, counting(current_rows([cell]), verdicts))


def flag_out(finding: Finding | None) -> FlagOut | None:
    """What the checks say of a reading, as the teacher sees it."""
    return None if finding is None else FlagOut(code=finding.code, sure=finding.sure, text=finding.whole)


def reason_out(group: str, reason: Reason, found: Attention) -> VisitReason:
    """A reason to go and see a group, as it is sent."""
    return VisitReason(
        code=reason.code,
        tone=reason.tone,
        text=reason.text,
        cell=found.cells.get((group, reason.cell)),
        relief=relief_out(found.relief.get(group)) if reason.code == "behind" else None,
    )


def relief_out(found: Relief | None) -> ReliefOut | None:
    """What would help who is behind, as it is sent."""
    if found is None:
        return None
    return ReliefOut(cell=found.cell.id, short=found.cell.cell.short, group=found.to.id, name=found.to.name)


def latest(groups: list[GroupBoard]) -> list[JustIn]:
    """The newest entries of the room, newest first."""
    entries = [(r, nth, c, g) for g in groups for c in g.cells for nth, r in enumerate(c.readings, start=1)]
    newest = sorted(entries, key=lambda entry: entry[0].received_at, reverse=True)[:JUST_IN]
    return [
        JustIn(id=r.id, group=g.name, cell=c.short, electrolyte=c.electrolyte, condition=c.condition, nth=nth, reading=r)
        for r, nth, c, g in newest
    ]
