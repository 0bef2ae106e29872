"""What a teacher does from the board."""

from __future__ import annotations

import uuid

from django.http import HttpRequest
from ninja import Router

from galvanic.cells import Cell
from server.entries import meter_checks
from server.labs import joining
from server.labs.schemas import CellIO
from server.meters import services as meters
from server.people.auth import TeacherAuth, teacher_of
from server.people.schemas import Done, NewCode, NewPin, ProblemOut
from server.room import cells
from server.room import services as room
from server.room.questions import answer_question
from server.room.schemas import AddressIn, GiveIn, MinutesIn, QuestionAnswerIn, ReasonIn, SwitchIn

router = Router(auth=TeacherAuth())
REFUSED = {404: ProblemOut, 409: ProblemOut, 422: ProblemOut}
DONE = Done(ok=True)


@router.post("/cells/{uuid:cell_id}/ask-again", response={200: Done, **REFUSED}, operation_id="ask_again")
def post_ask_again(request: HttpRequest, cell_id: uuid.UUID) -> Done:
    """Ask a group for a new reading of a cell."""
    meter_checks.ask_again(actor=teacher_of(request), cell_id=cell_id)
    return DONE


@router.post("/cells/{uuid:cell_id}/give", response={200: Done, **REFUSED}, operation_id="give_cell")
def give_cell(request: HttpRequest, cell_id: uuid.UUID, data: GiveIn) -> Done:
    """Give a cell that is not begun to another group."""
    cells.give_cell(actor=teacher_of(request), cell_id=cell_id, group_id=data.group)
    return DONE


@router.post("/groups/{uuid:group_id}/cells", response={200: Done, **REFUSED}, operation_id="add_cell")
def add_cell(request: HttpRequest, group_id: uuid.UUID, data: CellIO) -> Done:
    """Put one more cell on a group's list while the lab runs; twice is once."""
    cells.add_cell(actor=teacher_of(request), group_id=group_id, cell=data.cell)
    return DONE


@router.post("/readings/{uuid:reading_id}/aside", response={200: Done, **REFUSED}, operation_id="set_reading_aside")
def set_reading_aside(request: HttpRequest, reading_id: uuid.UUID, data: ReasonIn) -> Done:
    """Set a reading aside with a reason, or take that back."""
    room.set_reading_aside(actor=teacher_of(request), reading_id=reading_id, reason=data.reason)
    return DONE


@router.post("/groups/{uuid:group_id}/aside", response={200: Done, **REFUSED}, operation_id="set_group_aside")
def set_group_aside(request: HttpRequest, group_id: uuid.UUID, data: ReasonIn) -> Done:
    """Set all of a group's readings aside with a reason, or take that back."""
    room.set_group_aside(actor=teacher_of(request), group_id=group_id, reason=data.reason)
    return DONE


@router.post("/groups/{uuid:group_id}/meter", response={200: Done, **REFUSED}, operation_id="set_meter")
def set_meter(request: HttpRequest, group_id: uuid.UUID, data: AddressIn) -> Done:
    """Say where a group's meter listens."""
    meters.set_address(actor=teacher_of(request), group_id=group_id, text=data.address)
    return DONE


@router.post("/labs/{uuid:lab_id}/pause", response={200: Done, **REFUSED}, operation_id="pause")
def pause(request: HttpRequest, lab_id: uuid.UUID, data: SwitchIn) -> Done:
    """Stop the lab's clock, or let it go on."""
    room.pause(actor=teacher_of(request), lab_id=lab_id, paused=data.on)
    return DONE


@router.post("/labs/{uuid:lab_id}/show-values", response={200: Done, **REFUSED}, operation_id="show_values")
def show_values(request: HttpRequest, lab_id: uuid.UUID, data: SwitchIn) -> Done:
    """Show groups the others' values, or cover them."""
    room.show_values(actor=teacher_of(request), lab_id=lab_id, shown=data.on)
    return DONE


@router.post("/labs/{uuid:lab_id}/minutes", response={200: Done, **REFUSED}, operation_id="add_minutes")
def add_minutes(request: HttpRequest, lab_id: uuid.UUID, data: MinutesIn) -> Done:
    """Make the period longer or shorter."""
    room.add_minutes(actor=teacher_of(request), lab_id=lab_id, minutes=data.minutes)
    return DONE


@router.post(
    "/groups/{uuid:group_id}/new-pin",
    response={200: NewPin, 404: ProblemOut},
    operation_id="new_pin",
)
def new_pin(request: HttpRequest, group_id: uuid.UUID) -> NewPin:
    """Give a group another PIN; devices that joined with the old one are out."""
    return NewPin(pin=room.new_pin(actor=teacher_of(request), group_id=group_id).pin)


@router.post("/labs/{uuid:lab_id}/new-code", response={200: NewCode, **REFUSED}, operation_id="new_code")
def new_code(request: HttpRequest, lab_id: uuid.UUID) -> NewCode:
    """Give an open lab another join code; devices that are in stay in."""
    return NewCode(code=joining.new_code(actor=teacher_of(request), lab_id=lab_id).join_code or "")


@router.post("/questions/{uuid:question_id}/answer", response={200: Done, **REFUSED}, operation_id="answer_question")
def post_answer(request: HttpRequest, question_id: uuid.UUID, data: QuestionAnswerIn) -> Done:
    """Answer a group's question, park it, or give the group a cell to find out with."""
    cell = None if data.cell is None else Cell(**data.cell.model_dump())
    answer_question(actor=teacher_of(request), question_id=question_id, kind=data.kind, text=data.text, cell=cell)
    return DONE
