"""A pack over time: from a group's entries to a run that is told."""

from __future__ import annotations

import math
import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from galvanic.bench.load_standing import row_most_a, usual_row
from galvanic.bench.pack_steps import LIT, known_load
from galvanic.cells import Cell
from galvanic.chemistry.anchoring import anchored
from galvanic.chemistry.curves import PackCell
from galvanic.chemistry.demand import load_of
from galvanic.findings.pack_claims import PackData, pack_data
from galvanic.findings.runs import Done, Run, RunPoint, lasted, tell
from galvanic.words import say
from server.base.problems import not_found
from server.labs.outputs import notes_out
from server.people.auth import Member
from server.people.models import Teacher
from server.power.models import Pack, PackEntry, RunFile
from server.power.packs import counting, made_of, standings_of
from server.power.run_schemas import RunDoneOut, RunOut, RunPointOut, StretchOut

RUN = ("run_v", "run_a", "event")
U_ALONE_V = 0.01


def run_out(actor: Teacher | Member, pack_id: uuid.UUID) -> RunOut:
    """A pack's run as it is told, for its group and its teacher. Raises Problem not_found."""
    pack: Pack | None = Pack.objects.visible_to(actor).prefetch_related("entries", "files").filter(id=pack_id).first()
    if pack is None:
        raise not_found("pack")
    typed = typed_of(pack)
    cells, found, last = typed.cells, typed.told(pack.load), lasted(typed.seen)
    return RunOut(
        title=say("No cell yet")
        if not cells
        else say("{notation}, {n} in a row", notation=cells[0].cell.notation, n=len(cells))
        if len(cells) > 1
        else cells[0].cell.notation,
        volts=[RunPointOut(t_s=point.t_s, value=point.value) for point in typed.volts_v],
        current=[RunPointOut(t_s=point.t_s, value=point.value) for point in typed.current_a],
        left_out=typed.left_out,
        events=[RunDoneOut(t_s=done.t_s, what=done.what) for done in typed.events],
        stretches=[
            StretchOut(name=stretch.name, from_s=stretch.from_s, to_s=stretch.to_s, joined=stretch.joined)
            for stretch in found.stretches
        ],
        model=[RunPointOut(t_s=t, value=v) for t, v in found.model],
        notes=notes_out([*found.notes, *([] if last is None else [last])]),
        charge_c=None if found.charge_c is None else found.charge_c.value,
        metal_mg=None if found.metal_g is None else 1e3 * found.metal_g,
    )


@dataclass(frozen=True, slots=True)
class Typed:
    """A run as a group has typed it, seconds from its first entry: V, A, what was done, the cells, whether the load was
    seen to run, and how many numbers do not count."""

    cells: tuple[PackCell, ...]
    volts_v: tuple[RunPoint, ...]
    current_a: tuple[RunPoint, ...]
    events: tuple[Done, ...]
    seen: tuple[tuple[float, bool], ...] = ()
    left_out: int = 0

    def told(self, load: str) -> Run:
        """The run as the core tells it, with the pack's load."""
        key = None if known_load(load) is None else load_of(load)
        return tell(self.cells, key, self.volts_v, self.current_a, self.events)


def typed_of(pack: Pack) -> Typed:
    """The run of a pack whose entries and files are prefetched: what was typed, and the loggers' samples among it."""
    entries = counting(pack.entries.all())
    mine = [entry for entry in entries if entry.kind in RUN]
    files = [(_began(file), file) for file in pack.files.all()]
    stamps = [_at(entry) for entry in mine] or [_at(entry) for entry in entries if entry.kind == "seen"]
    start = min([*stamps, *(began for began, _ in files)], default=None)

    def seconds(at: datetime) -> float:
        return 0.0 if start is None else (at - start).total_seconds()

    row = [Cell(one.negative, one.electrolyte, one.positive) for one in entries if one.kind == PackEntry.Kind.CELL]
    ceiling = {"run_v": usual_row(row).ceiling_v, "run_a": row_most_a(row)} if row else {}
    verdicts = standings_of(list(pack.entries.all()))

    def points(kind: str, column: str) -> tuple[list[RunPoint], int]:
        typed = [entry for entry in mine if entry.kind == kind and entry.value is not None]
        sound = [entry for entry in typed if verdicts[entry.id].counts]
        values = {seconds(_at(entry)): entry.value or 0.0 for entry in sound}
        beyond = len(typed) - len(sound)
        for began, file in files:
            for t, value in zip(file.times_s, getattr(file, column), strict=False):
                if abs(value) <= ceiling.get(kind, math.inf):
                    values[seconds(began) + t] = value
                else:
                    beyond += 1
        return [RunPoint(t, value) for t, value in sorted(values.items())], beyond

    (volts_v, high), (current_a, many) = points("run_v", "volts_v"), points("run_a", "current_a")
    done = (Done(seconds(_at(one)), one.text) for one in mine if one.kind == "event")
    return Typed(
        _cells(entries),
        tuple(volts_v),
        tuple(current_a),
        tuple(sorted(done, key=lambda one: one.t_s)),
        tuple(sorted((seconds(_at(one)), one.text in LIT) for one in entries if one.kind == "seen")),
        high + many,
    )


def data_of_pack(pack: Pack) -> PackData:
    """What a claim about a pack is weighed on; its entries are prefetched."""
    record, _ = made_of(pack, list(pack.entries.all()))
    typed = typed_of(pack)
    run = typed.told(pack.load) if typed.volts_v or typed.current_a else None
    plates = {cell.cell.negative for cell in typed.cells}
    plate = plates.pop() if len(plates) == 1 else None
    return pack_data(record, run, [(point.t_s, point.value) for point in typed.volts_v], plate)


def _at(entry: PackEntry | RunFile) -> datetime:
    return entry.taken_at or entry.received_at


def _began(file: RunFile) -> datetime:
    """When a file's first sample was taken."""
    return _at(file) - timedelta(seconds=file.ended_s + file.times_s[-1])


def _cells(entries: Sequence[PackEntry]) -> tuple[PackCell, ...]:
    """The cells of the row, each held to what the group measured of it alone."""
    plates = {entry.position: entry for entry in entries if entry.kind == "cell"}
    alone = {entry.position: entry.value for entry in entries if entry.kind == "alone"}
    out = []
    for place in sorted(position for position in plates if position is not None):
        one = plates[place]
        cell = PackCell(Cell(one.negative, one.electrolyte, one.positive))
        volts = alone.get(place)
        out.append(anchored(cell, volts, U_ALONE_V) if volts is not None and volts > 0.0 else cell)
    return tuple(out)
