"""How readings, findings and meter checks are sent."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Iterator, Mapping
from statistics import fmean
from typing import Any, cast

from galvanic.bench import foretold
from galvanic.bench.checks import Finding
from galvanic.bench.class_reference import GroupCell
from galvanic.bench.load_standing import under_load_standing
from galvanic.bench.loading import in_words, remark
from galvanic.bench.logger import Trace, judged, settled_v, thinned
from galvanic.bench.readings import as_shown
from galvanic.bench.repairs import Repair, Unit, repair, to_other_cell
from galvanic.cells import Cell
from galvanic.reference.catalogue import electrodes
from galvanic.reference.variables import variables
from galvanic.words import say
from server.entries.beside import inner_of
from server.entries.beside_schemas import (
    ActualOut,
    AnswerToQuestion,
    Beside,
    ObservationOut,
    PhotoOut,
    PreviewTrace,
    QuestionOut,
    TraceOut,
    UnderLoadOut,
)
from server.entries.checking import Findings, Row
from server.entries.fetched import asked_of, later_of, readings_of
from server.entries.meter_checks import verdict_of
from server.entries.models import (
    Actual,
    KeptTrace,
    MeterCheck,
    Photo,
    PhotoRemoved,
    Prediction,
    Question,
    Reading,
    UnderLoad,
)
from server.entries.schemas import CellWithReadings, FindingOut, MeterOut, OthersOut, PredictionOut, ReadingOut, RepairOut
from server.labs.models import PlannedCell
from server.labs.outputs import cell_out

DRAWN_SAMPLES = 200


SET_ASIDE, UNSPOKEN = "set aside", "sound"


def reading_out(
    reading: Reading, planned: PlannedCell, corrected_by: uuid.UUID | None, standing: str | None = UNSPOKEN
) -> ReadingOut:
    """A reading as it is sent; `standing`: what is said of one that is neither corrected nor set aside, before the class's
    verdicts are put on it (`standing.judged`)."""
    out = reading.aside or (say("corrected by a later entry") if corrected_by is not None else "")
    return ReadingOut(
        id=reading.id,
        text=reading.text,
        unit=reading.unit,
        volts_v=reading.volts_v,
        signed_v=planned.cell.as_written_v(reading.volts_v - reading.offset_v, reading.red),
        resolution_v=reading.resolution_v,
        offset_v=reading.offset_v,
        red=reading.red,
        black=reading.black,
        origin=reading.origin,
        taken_at=reading.taken_at or reading.received_at,
        received_at=reading.received_at,
        corrected_by=corrected_by,
        corrects=reading.corrects_id,
        reason=reading.reason,
        aside=reading.aside,
        after_closing=reading.after_closing,
        standing=SET_ASIDE if out else standing,
        why=out,
    )


def with_readings(cells: Iterable[PlannedCell]) -> list[CellWithReadings]:
    """Cells with prefetched readings as they are sent."""
    shown = []
    for planned in cells:
        readings = readings_of(planned)
        shown.append(
            CellWithReadings(
                **cell_out(planned).model_dump(),
                readings=[reading_out(r, planned, later_of(r)) for r in readings],
            )
        )
    return shown


def row_of(reading: Reading, planned: PlannedCell | None = None) -> Row:
    """A reading as the checks take it; `planned`: its cell, where that is fetched elsewhere."""
    cell = planned or reading.cell
    signed_v = cell.cell.as_written_v(reading.volts_v - reading.offset_v, reading.red)
    return Row(
        reading.id, cell.group_id, cell.id, cell.cell, signed_v, reading.resolution_v, reading.decided
    )  # fmt: skip


def current_rows(cells: Iterable[PlannedCell]) -> list[Row]:
    """Readings that count of cells whose readings are prefetched, oldest first in each cell."""
    rows = []
    for planned in cells:
        readings = readings_of(planned)
        rows += [row_of(r, planned) for r in readings if later_of(r) is None and not r.aside]
    return rows


def findings_out(out: CellWithReadings, findings: Findings, belongs: Mapping[uuid.UUID, PlannedCell]) -> list[FindingOut]:
    """What is said about the readings of one cell; `belongs`: those that would fit another cell of the list, and which."""
    return [
        FindingOut(
            reading=reading.id,
            code=one.code,
            sure=one.sure,
            title=one.title,
            hint=one.hint or one.text,
            text=one.text,
            tries=list(one.tries),
            repairs=[*_repairs(one, out, reading), *_elsewhere(belongs.get(reading.id) if n == 0 else None, out, reading)],
        )
        for reading in out.readings
        for n, one in enumerate(findings.get(reading.id, ()))
    ]


def _repairs(one: Finding, cell: CellWithReadings, reading: ReadingOut) -> Iterator[RepairOut]:
    """What puts a reading right at its own cell."""
    for kind in one.repairs:
        found = repair(kind, reading.text, reading.unit)
        if found is not None:
            red, black = (reading.black, reading.red) if found.turned else (reading.red, reading.black)
            yield _repair_out(found, cell.id, red, black)


def _elsewhere(there: PlannedCell | None, cell: CellWithReadings, reading: ReadingOut) -> Iterator[RepairOut]:
    """The same number at another cell of the list, red and black as they were meant."""
    if there is not None:
        meant = (there.positive, there.negative) if reading.red == cell.positive else (there.negative, there.positive)
        found = to_other_cell(reading.text, cast(Unit, reading.unit), there.position, there.cell.short)
        yield _repair_out(found, there.id, *meant)


def _repair_out(found: Repair, cell: uuid.UUID, red: str, black: str) -> RepairOut:
    return RepairOut(
        kind=found.kind, label=found.label, reason=found.reason, text=found.text, unit=found.unit,
        cell_id=cell, red=red, black=black,
    )  # fmt: skip


def is_asked(planned: PlannedCell) -> bool:
    """Whether the teacher has asked for a reading of this cell and none has come since; both are prefetched."""
    asked = max((one.asked_at for one in asked_of(planned)), default=None)
    newest = max((reading.received_at for reading in readings_of(planned)), default=None)
    return asked is not None and (newest is None or newest < asked)


def prediction_out(kept: Prediction, told: str = "") -> PredictionOut:
    """A prediction as it is sent."""
    return PredictionOut(
        id=kept.id, negative=kept.negative, text=kept.text, unit=kept.unit, volts_v=kept.volts_v, way=kept.way,
        because=kept.because, remark="" if kept.volts_v is None else foretold.remark(kept.volts_v), told=told,
    )  # fmt: skip


def latest_prediction(planned: PlannedCell, rows: Iterable[Row], first: PlannedCell | None = None) -> PredictionOut | None:
    """What a group predicted last of a cell, and what became of it; predictions are prefetched. `rows`: the group's readings
    that count; `first`: the cell of the same kind that a level is held against, the table without one."""
    predictions = list(planned.predictions.all())
    if not predictions:
        return None
    kept, every = predictions[-1], list(rows)
    means = {
        cell.id: fmean(own) if (own := [row.signed_v for row in every if row.cell_id == cell.id]) else None
        for cell in (planned, *([] if first is None else [first]))
    }
    against = planned.cell.table_v if first is None else means[first.id]
    measured = means[planned.id]
    if kept.volts_v is None and not kept.way and measured is not None:
        return prediction_out(kept, _order_told(planned.cell, kept.negative, measured))
    if not kept.way or measured is None or against is None:
        return prediction_out(kept)
    return prediction_out(kept, foretold.told(cast(foretold.Way, kept.way), measured, against))


def _order_told(cell: Cell, said: str, measured_v: float) -> str:
    """What became of a prediction of the negative plate."""
    plates = electrodes()
    other = cell.positive if said == cell.negative else cell.negative
    right = (said == cell.negative) == (measured_v >= 0.0)
    return foretold.order_told(right, plates[said].name, plates[other].name)


def meter_out(check: MeterCheck) -> MeterOut:
    """A meter check with its verdict as it is sent."""
    verdict = verdict_of(check)
    return MeterOut(offset_v=check.offset_v, code=verdict.code, tone=verdict.tone, text=verdict.text, do=verdict.do)


def under_load_out(under: UnderLoad, open_v: float | None, u_open_v: float) -> UnderLoadOut:
    """A measurement under load, with the inner resistance it gives."""
    verdict = under_load_standing(under.cell.cell, under.kind, under.value)
    inner = inner_of(open_v, u_open_v, under) if open_v is not None and verdict.counts else None
    agrees = open_v is not None and open_v * under.value > 0.0  # both below zero: the cell is written the other way round
    odd = "" if verdict.counts and agrees else verdict.why
    return UnderLoadOut(
        id=under.id, kind=under.kind, text=under.text, unit=under.unit, load_ohm=under.load_ohm,
        says="" if inner is None else in_words(inner), remark=odd or remark(under.kind, under.value, open_v),
        standing=verdict.stand.value,
    )  # fmt: skip


def beside_out(planned: PlannedCell, rows: Iterable[Row]) -> Beside:
    """What stands beside the readings of a cell; all of it is prefetched. `rows` are the readings that count."""
    own = [row for row in rows if row.cell_id == planned.id]
    open_v = sum(row.signed_v for row in own) / len(own) if own else None
    u_open_v = max(row.resolution_v for row in own) / 12.0**0.5 if own else 0.0
    return Beside(
        under_load=[under_load_out(one, open_v, u_open_v) for one in planned.under_load.all()],
        observations=[
            ObservationOut(id=observation.id, text=observation.text, received_at=observation.received_at)
            for observation in planned.observations.all()
        ],
        questions=[question_out(question) for question in planned.questions.all()],
        actuals=[actual_out(actual) for actual in planned.actuals.all()],
        photos=[photo_out(photo) for photo in planned.photos.all()],
        traces=[trace_out(trace) for trace in planned.traces.all()],
    )


def question_out(question: Question) -> QuestionOut:
    """A question as it is sent; its answers are prefetched."""
    answers = list(question.answers.all())
    last = answers[-1] if answers else None
    return QuestionOut(
        id=question.id, text=question.text, received_at=question.received_at,
        answer=None if last is None else AnswerToQuestion(kind=cast(Any, last.kind), text=last.text, at=last.at),
    )  # fmt: skip


def actual_out(actual: Actual) -> ActualOut:
    """What a cell was really set to, as it is sent."""
    return ActualOut(id=actual.id, name=variables()[actual.variable].name, text=actual.text)


def photo_out(photo: Photo) -> PhotoOut:
    """A photograph as it is sent."""
    removed: PhotoRemoved | None = getattr(photo, "removed", None)
    return PhotoOut(
        id=photo.id, width=photo.width, height=photo.height, received_at=photo.received_at,
        removed_at=None if removed is None else removed.at,
        removed_by=None if removed is None else "group" if removed.teacher_id is None else "teacher",
    )  # fmt: skip


def trace_out(trace: KeptTrace) -> TraceOut:
    """A trace, thinned for drawing."""
    step = max(1, len(trace.times_s) // DRAWN_SAMPLES)
    return TraceOut(id=trace.id, name=trace.name, times_s=trace.times_s[::step], volts_v=trace.volts_v[::step])


def preview_out(trace: Trace) -> PreviewTrace:
    """What was understood of a file."""
    found, samples = judged(trace), thinned(trace, DRAWN_SAMPLES)
    return PreviewTrace(
        delimiter=say(trace.delimiter),
        decimal=trace.decimal,
        time_column=trace.time_column,
        volts_column=trace.volts_column,
        unit=trace.unit,
        others=list(trace.others),
        rows=len(trace.times_s),
        seconds=trace.times_s[-1],
        skipped=[say("Line {line}: {why}.", line=one.line, why=one.why) for one in trace.skipped[:10]],
        skipped_count=len(trace.skipped),
        steady=None if found is None else found.steady,
        read_text=as_shown(settled_v(trace), min(0.1, max(1e-4, trace.resolution_v))),
        times_s=[t for t, _ in samples],
        volts_v=[v for _, v in samples],
    )


def others_out(planned: PlannedCell, values: Iterable[GroupCell]) -> OthersOut | None:
    """The other groups' values of a cell; None where there are none."""
    volts = [value.volts_v for value in values if value.cell == planned.cell and value.group != str(planned.group_id)]
    if not volts:
        return None
    return OthersOut(groups=len(volts), mean_v=sum(volts) / len(volts), low_v=min(volts), high_v=max(volts))
