"""How notebooks are sent: a group's, the class's, and all of a lab's in lines."""

from __future__ import annotations

import uuid
from collections.abc import Collection, Mapping, Sequence
from dataclasses import asdict
from typing import cast

from galvanic.cells import Cell
from galvanic.findings.compare import CellResult, ElectrolyteResult
from galvanic.findings.notebook import PARTS, Book, CellInBook, missing, missing_numbers
from galvanic.findings.working import Line, class_working, own_working
from galvanic.level import Level
from galvanic.statistics.repeats import last_digit_v, summarise
from galvanic.words import say, say_n
from server.claims.outputs import claims_out
from server.claims.schemas import RubricRow
from server.claims.services import claims_of, rubric_of
from server.entries.asked_first import asked_of_hand
from server.entries.checking import Row
from server.entries.hands import CellInHand, hands_of, with_what_is_beside
from server.entries.meter_checks import checks_of, verdict_of
from server.entries.outputs import beside_out, current_rows, latest_prediction
from server.entries.standing import Verdicts, counting, judged, verdicts_on
from server.findings.services import compare_lab, kept_readings, shows_class, verdicts_with_doubts
from server.labs.lookups import signatures
from server.labs.models import Lab, PlannedCell
from server.labs.policy import cautions
from server.notebook.evidence import Evidence
from server.notebook.models import Words
from server.notebook.schemas import (
    BookCell,
    BookHead,
    Cite,
    ClassBookOut,
    ClassCell,
    EvidenceOut,
    GroupEvidence,
    GroupWords,
    LineOut,
    MeterLine,
    NotebookLine,
    NotebookOut,
    NotebooksOut,
    PartKey,
    PartOut,
    ReturnedOut,
    ValueOut,
    VersionOut,
    VersionsOut,
)
from server.notebook.services import PART, Written, written_of
from server.people.auth import Member
from server.people.models import Group, Teacher
from server.power.outputs import kept_pack_out
from server.power.packs import packs_of, packs_of_lab

RECENT = 30
Results = Mapping[Cell, tuple[ElectrolyteResult, CellResult]]


def by_cell(results: Sequence[ElectrolyteResult]) -> Results:
    """Each cell's result with that of its liquid."""
    return {cell.cell: (result, cell) for result in results for cell in result.cells}


def notebook_out(actor: Teacher | Member, lab: Lab, group: Group) -> NotebookOut:
    """A group's notebook, for itself or its teacher; a constant number of queries."""
    teacher = isinstance(actor, Teacher)
    results = by_cell(compare_lab(lab)) if teacher or "compare" in lab.released else {}
    (hand,) = hands_of(lab, [group])
    with_what_is_beside(hand)
    written = written_of([group])[group.id]
    verdicts = verdicts_with_doubts(lab) if teacher or shows_class(lab) else verdicts_on(lab, hand.rows)
    level = Level(lab.level)
    counts, asked = counting(hand.rows, verdicts), asked_of_hand(hand, level)
    cells = [_book_cell(cell, results, verdicts, counts, asked[cell.planned.id].first, level) for cell in hand.cells]
    one_bath = len({(cell.electrolyte, cell.condition) for cell in cells}) < 2
    names = [cell.planned.cell.short if one_bath else cell.planned.cell.notation for cell in hand.cells]
    checks = checks_of(group)
    parts = parts_out(written)
    member = Member(group.id, lab.id, group.name, lab.owner_id)
    own_packs = packs_of(member)
    book = Book(
        words={part.key: part.text for part in parts},
        cites=any(part.cites for part in parts),
        meter_checked=bool(checks),
        cells=[
            CellInBook(name, len(counting(cell.rows, verdicts)), _groups(cell.planned.cell, results))
            for name, cell in zip(names, hand.cells, strict=True)
        ],
    )
    back = written.returned[-1] if written.returned else None
    return NotebookOut(
        **dict(_head(lab, missing(book))),
        group=group.name,
        group_id=group.id,
        may_write=PART in lab.released,
        meter=[
            MeterLine(leads=one.leads_text, dry=one.dry_text, says=verdict_of(one).text, at=one.taken_at or one.received_at)
            for one in checks
        ],
        cells=cells,
        packs=[kept_pack_out(pack) for pack in own_packs],
        claims=claims_out(
            lab,
            claims_of(member, lab),
            own_packs,
            None if teacher or shows_class(lab) else member,
            None if teacher else member,
        ).claims,
        parts=parts,
        handed_in_at=written.handed_in_at,
        written_since=written.written_since,
        returned=None if back is None else ReturnedOut(text=back.text, marks=back.marks, at=back.at),
    )


def _groups(cell: Cell, results: Results) -> int | None:
    """How many groups measured a cell; None where that is covered."""
    return len(results[cell][1].groups) if cell in results else None


def _head(lab: Lab, lacks: Sequence[str]) -> BookHead:
    signed = signatures(lab)
    return BookHead(
        id=lab.id, title=lab.title, date=lab.date, question=lab.question, kept=lab.kept, state=lab.state,
        simulated=lab.simulated, edition=lab.edition, signed_at=signed[0].at if signed else None,
        cautions=cautions(lab, lab.electrodes, lab.electrolytes), missing=list(lacks),
        rubric=[RubricRow.model_validate(row) for row in rubric_of(lab)], released=list(lab.released),
    )  # fmt: skip


def _book_cell(
    cell: CellInHand, results: Results, verdicts: Verdicts, every: Sequence[Row], first: PlannedCell | None, level: Level
) -> BookCell:
    planned, rows = cell.planned, counting(cell.rows, verdicts)
    return BookCell(
        **{**dict(cell.sent), "readings": judged(cell.sent.readings, verdicts)},
        table_v=planned.cell.table_v,
        prediction=latest_prediction(planned, every, first),
        beside=beside_out(planned, rows),
        own=_own(cell, rows, level),
        classes=_class_value(*results[planned.cell], level) if planned.cell in results else None,
    )


def _own(cell: CellInHand, rows: Sequence[Row], level: Level) -> ValueOut | None:
    """A group's own value of a cell, from its readings that count."""
    counts = {row.id for row in rows}
    readings = [one for one in cell.sent.readings if one.id in counts]
    if not readings:
        return None
    resolution_v = last_digit_v(one.resolution_v for one in readings)
    found = summarise([one.signed_v for one in readings], resolution_v)
    signs = [1.0 if one.red == cell.planned.positive else -1.0 for one in readings]
    lines = own_working(
        [sign * one.volts_v for sign, one in zip(signs, readings, strict=True)],
        [sign * one.offset_v for sign, one in zip(signs, readings, strict=True)],
        [one.resolution_v for one in readings],
        level,
    )
    u_v = found.u_v if level.has_equations else None
    return ValueOut(mean_v=found.mean_v, u_v=u_v, low_v=None, high_v=None, groups=1, working=_lines(lines))


def _class_value(result: ElectrolyteResult, cell: CellResult, level: Level) -> ValueOut:
    return ValueOut(
        mean_v=cell.mean_v, u_v=cell.u_v if level.has_equations else None, low_v=cell.low_v,
        high_v=cell.high_v, groups=len(cell.groups),
        working=_lines(class_working(result, cell, level)),
    )  # fmt: skip


def _lines(lines: Sequence[Line]) -> list[LineOut]:
    return [LineOut(**asdict(line)) for line in lines]


def parts_out(written: Written) -> list[PartOut]:
    """The parts of a notebook with their newest versions and the teacher's latest remarks."""
    remarks = written.returned[-1].remarks if written.returned else {}
    out = []
    for part in PARTS:
        versions, newest = written.words.get(part.key, []), written.newest(part.key)
        out.append(
            PartOut(
                key=cast(PartKey, part.key), name=say(part.name), asks=say(part.asks),
                id=None if newest is None else newest.id,
                text="" if newest is None else newest.text,
                cites=[] if newest is None else [Cite.model_validate(cite) for cite in newest.cites],
                at=None if newest is None else newest.taken_at or newest.received_at,
                versions=len(versions), recent=[one.id for one in versions[-RECENT:]],
                parallel=is_parallel(versions), remark=remarks.get(part.key, ""),
            )
        )  # fmt: skip
    return out


def is_parallel(versions: Sequence[Words]) -> bool:
    """Whether the newest version was written over an earlier one than the last: another device wrote in between."""
    if len(versions) < 2:
        return False
    newest, before = versions[-1], versions[-2]
    return newest.follows != before.id and before.text != "" and before.text != newest.text


def versions_out(versions: Sequence[Words]) -> VersionsOut:
    """All versions of a part, newest first."""
    return VersionsOut(
        versions=[
            VersionOut(id=one.id, text=one.text, cites=[Cite.model_validate(cite) for cite in one.cites],
                       at=one.taken_at or one.received_at)
            for one in reversed(versions)
        ]
    )  # fmt: skip


def class_book_out(actor: Teacher, lab: Lab) -> ClassBookOut:
    """The class's notebook; a constant number of queries."""
    groups = list(lab.groups.all())
    results = compare_lab(lab)
    baths = len(results)
    cells = [
        ClassCell(
            short=cell.cell.short, negative=cell.cell.negative, electrolyte=cell.cell.electrolyte,
            positive=cell.cell.positive, condition=cell.cell.condition, table_v=cell.table_v,
            by=[one.group for one in cell.groups], classes=_class_value(result, cell, Level(lab.level)),
        )
        for result in results
        for cell in result.cells
    ]  # fmt: skip
    every = [
        CellInBook(cell.cell.short if baths < 2 else cell.cell.notation, cell.n, len(cell.groups))
        for result in results
        for cell in result.cells
    ]
    written = written_of(groups)
    signed = signatures(lab)
    lacks = [
        *_not_handed_in(groups, written),
        *missing_numbers([*every, *_not_begun(lab, groups, {c.cell for r in results for c in r.cells}, baths)]),
    ]
    return ClassBookOut(
        **dict(_head(lab, lacks)),
        signed_by=signed[0].teacher.get_username() if signed else "",
        groups=[group.name for group in groups],
        cells=cells,
        packs=[kept_pack_out(pack) for pack in packs_of_lab(actor, lab.id)],
        claims=[claim for claim in claims_out(lab, claims_of(actor, lab)).claims if claim.latest],
        words=[
            GroupWords(group=group.name, parts=parts)
            for group in groups
            if (parts := [part for part in parts_out(written[group.id]) if part.text])
        ],
    )


def _not_handed_in(groups: Sequence[Group], written: Mapping[uuid.UUID, Written]) -> tuple[str, ...]:
    names = [group.name for group in groups if written[group.id].handed_in_at is None]
    if not names:
        return ()
    return (say_n("{names} has not handed in.", "{names} have not handed in.", len(names), names=", ".join(names)),)


def _not_begun(lab: Lab, groups: Sequence[Group], measured: Collection[Cell], baths: int) -> list[CellInBook]:
    """Cells that were planned and that nobody has a reading of."""
    planned: dict[Cell, None] = {}
    for hand in hands_of(lab, groups):
        planned.update(dict.fromkeys(cell.planned.cell for cell in hand.cells))
    return [CellInBook(cell.short if baths < 2 else cell.notation, 0, 0) for cell in planned if cell not in measured]


def notebooks_out(lab: Lab) -> NotebooksOut:
    """How far each group's notebook is."""
    groups = list(lab.groups.all())
    written = written_of(groups)
    return NotebooksOut(
        title=lab.title, date=lab.date, state=lab.state, simulated=lab.simulated, released=list(lab.released),
        rubric=[RubricRow.model_validate(row) for row in rubric_of(lab)],
        notebooks=[_line(group, written[group.id]) for group in groups],
    )  # fmt: skip


def _line(group: Group, written: Written) -> NotebookLine:
    parts = sum(1 for versions in written.words.values() if versions[-1].text)
    at, back = written.handed_in_at, written.returned[-1] if written.returned else None
    waits = at is not None and (back is None or back.at < at)
    return NotebookLine(
        group_id=group.id,
        group=group.name,
        state="handed_in" if waits else "returned" if back is not None else "begun" if parts else "empty",
        parts=parts,
        handed_in_at=at,
        written_since=written.written_since,
        marks={} if back is None else back.marks,
    )


def evidence_out(lab: Lab, found: Evidence) -> EvidenceOut:
    """What stands beside a cell's numbers, as it is sent."""
    verdicts = kept_readings(lab).verdicts
    groups = [
        GroupEvidence(
            group=cell.group.name, cell_id=cell.id, beside=beside_out(cell, counting(current_rows([cell]), verdicts))
        )
        for cell in found.cells
    ]
    kept = [one for one in groups if any(dict(one.beside).values())]
    return EvidenceOut(groups=kept, packs=[kept_pack_out(pack) for pack in found.packs])
