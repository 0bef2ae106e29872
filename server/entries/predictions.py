"""Keeping what a group expects of a cell before it measures."""

from __future__ import annotations

from galvanic.bench.readings import parse
from galvanic.errors import UnreadableReading
from galvanic.level import Level
from galvanic.words import say
from server.base.problems import Problem
from server.entries.entry import PredictionIn
from server.entries.models import Prediction, Reading
from server.entries.once import keep_once, open_cell
from server.labs.changes import announce
from server.labs.models import PlannedCell
from server.people.auth import Member

MAX_PREDICTIONS_PER_CELL = 20


def first_of_kind(cell: PlannedCell) -> PlannedCell | None:
    """The first cell of the group's list with the same plates and liquid, at another level; None where this is it."""
    same = {"negative": cell.negative, "electrolyte": cell.electrolyte, "positive": cell.positive}
    before = PlannedCell.objects.filter(group_id=cell.group_id, position__lt=cell.position, **same)
    first: PlannedCell | None = before.exclude(condition=cell.condition).order_by("position").first()
    return first


def _without_number(cell: PlannedCell, entry: PredictionIn) -> bool:
    """Whether a prediction needs no volts: of what another level changes, or of the order of the plates alone."""
    if entry.text.strip():
        return False
    if entry.way:
        return first_of_kind(cell) is not None
    return not Level(cell.group.lab.level).has_equations


def record_prediction(*, actor: Member, entry: PredictionIn) -> Prediction:
    """Keep a prediction; the same id again changes nothing.

    Raises Problem: not_found (not this group's cell), lab_closed, too_late (the cell is measured), wrong_plate,
    unreadable_reading, or enough; then nothing is kept.
    """
    return keep_once(Prediction, actor, entry.id, lambda: _create(actor, entry))[0]


def _create(actor: Member, entry: PredictionIn) -> Prediction:
    cell, arrival = open_cell(actor, entry.cell_id, entry.clock)
    if Reading.objects.filter(cell=cell).exists():
        raise Problem(409, "too_late", say("You have measured this cell already, so it is no prediction any more."))
    if entry.negative not in (cell.negative, cell.positive):
        raise Problem(422, "wrong_plate", say("Choose one of this cell’s two plates."), field="negative")
    try:
        parsed = None if _without_number(cell, entry) else parse(entry.text, entry.unit)
    except UnreadableReading as error:
        raise Problem(422, error.code, str(error), field="text") from error
    if parsed is not None and parsed.volts_v < 0.0:
        message = say("Say which plate is negative instead of a minus sign. Your number stays in the box.")
        raise Problem(422, "no_sign", message, field="text")
    if Prediction.objects.filter(cell=cell).count() >= MAX_PREDICTIONS_PER_CELL:
        raise Problem(
            409,
            "enough",
            say(
                "This cell has {max_predictions_per_cell} predictions, which is the most it can hold.",
                max_predictions_per_cell=MAX_PREDICTIONS_PER_CELL,
            ),
        )
    announce(actor.lab_id, actor.group_id)
    return Prediction.objects.create(
        id=entry.id,
        cell=cell,
        negative=entry.negative,
        text=entry.text.strip(),
        unit=entry.unit if parsed is None else parsed.unit,
        volts_v=None if parsed is None else parsed.volts_v,
        way=entry.way,
        because=" ".join(entry.because.split()),
        **arrival.columns,
    )
