"""How readings, findings and meter checks are sent."""

from __future__ import annotations

import uuid
from collections.abc import Iterable

from server.bench.checking import Findings, Row
from server.bench.meter_checks import verdict_of
from server.bench.models import MeterCheck, Reading
from server.bench.schemas import CellWithReadings, FindingOut, MeterOut, ReadingOut
from server.labs.models import PlannedCell
from server.labs.outputs import cell_out


def reading_out(reading: Reading, planned: PlannedCell, corrected_by: uuid.UUID | None) -> ReadingOut:
    """A reading as it is sent."""
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


def current_rows(cells: Iterable[PlannedCell]) -> list[Row]:
    """Readings that count of cells whose readings are prefetched, oldest first in each cell."""
    rows = []
    for planned in cells:
        readings = list(planned.readings.all())
        corrected = {r.corrects_id for r in readings}
        rows += [
            Row(
                r.id,
                planned.group_id,
                planned.id,
                planned.cell,
                planned.cell.as_written_v(r.volts_v - r.offset_v, r.red),
                r.resolution_v,
            )
            for r in readings
            if r.id not in corrected
        ]
    return rows


def findings_out(out: CellWithReadings, findings: Findings) -> list[FindingOut]:
    """What is said about the readings of one cell."""
    return [
        FindingOut(reading=reading.id, code=one.code, sure=one.sure, title=one.title, text=one.text, tries=list(one.tries))
        for reading in out.readings
        for one in findings.get(reading.id, ())
    ]


def is_asked(planned: PlannedCell) -> bool:
    """Whether the teacher has asked for a reading of this cell and none has come since; both are prefetched."""
    asked = max((one.asked_at for one in planned.asked.all()), default=None)
    newest = max((one.received_at for one in planned.readings.all()), default=None)
    return asked is not None and (newest is None or newest < asked)


def meter_out(check: MeterCheck) -> MeterOut:
    """A meter check with its verdict as it is sent."""
    found = verdict_of(check)
    return MeterOut(offset_v=check.offset_v, code=found.code, tone=found.tone, text=found.text, do=found.do)  # type: ignore[arg-type]
