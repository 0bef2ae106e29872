"""Tables on their way in: handed over, read beside the request, shown, read anew, kept as a lab when the teacher says."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import asdict, replace
from datetime import date, timedelta
from typing import Any

from django.db import transaction
from django.utils import timezone

from galvanic.bench.headings import heading
from galvanic.bench.loads_table import Loads, look_at_loads
from galvanic.bench.readings_table import Looked, look_at
from galvanic.bench.table_mended import Mending, mended, to_mend
from galvanic.bench.table_preview import preview
from galvanic.bench.table_rows import BadTableText
from galvanic.bench.table_shape import shaped
from galvanic.reference import catalogue
from galvanic.words import mark, say
from server.base.beside import beside
from server.base.problems import Problem, Refusal, RowFault, not_found
from server.labs.services import tidy_title
from server.materials.own import materials_of
from server.people.models import Teacher
from server.records.apart import tables_apart
from server.records.file_text import MAX_BYTES, MAX_ROWS, refused, too_big
from server.records.models import TableIn
from server.records.schemas import LookIn
from server.records.services import keep_readings
from server.records.spreadsheets import Tables
from server.records.table import understood

LOST_AFTER = timedelta(minutes=2)
KEPT_FOR = timedelta(days=1)
MOST_WAITING = 20
LOST = Refusal(
    500, "lost", mark("The server was started anew while it read the file. Nothing was imported. Choose it again.")
)
State = TableIn.State


@transaction.atomic
def hand_over(*, actor: Teacher, name: str, content: bytes) -> TableIn:
    """Take a file and begin to read it. Raises Problem: too_big, or enough (too many at once)."""
    if len(content) > MAX_BYTES:
        raise too_big()
    recent = TableIn.objects.visible_to(actor).filter(since__gt=timezone.now() - LOST_AFTER)
    if recent.count() >= MOST_WAITING:
        raise Problem(
            429, "enough", say("You have brought many files in a short time. Wait a minute, then choose it again.")
        )
    table = TableIn.objects.create(teacher=actor, name=name[:120], content=content)
    beside("table", lambda: _read(table.id))
    return table


@transaction.atomic
def look_again(*, actor: Teacher, table_id: uuid.UUID, told: LookIn) -> TableIn:
    """Read a file anew with what the teacher says of it. Raises Problem not_found."""
    table = _of(actor, table_id)
    table.columns, table.called = told.columns, told.called
    table.mended = told.model_dump(exclude={"columns", "called"})
    return _begin(table, State.READING, _read)


@transaction.atomic
def keep(*, actor: Teacher, table_id: uuid.UUID, title: str, on: date) -> TableIn:
    """Make a lab of a file that was read. Raises Problem: not_found, title, or not_read (it cannot be kept as it is)."""
    table = _of(actor, table_id)
    if table.state != State.READ or not table.found.get("ready"):
        raise Problem(409, "not_read", say("This file is not read yet, or has faults. Nothing was imported."))
    table.title, table.on = tidy_title(title), on
    return _begin(table, State.KEEPING, _keep)


def table_of(actor: Teacher, table_id: uuid.UUID) -> TableIn:
    """A table as far as it is. Raises Problem: not_found, or lost where whoever read it is no more."""
    table = TableIn.objects.visible_to(actor).defer("content").filter(id=table_id).first()
    if table is None:
        raise not_found("file")
    if table.state in (State.READING, State.KEEPING) and table.since < timezone.now() - LOST_AFTER:
        raise LOST()
    return table


def _of(actor: Teacher, table_id: uuid.UUID) -> TableIn:
    table = TableIn.objects.visible_to(actor).select_for_update().filter(id=table_id).first()
    if table is None:
        raise not_found("file")
    return table


def _begin(table: TableIn, state: TableIn.State, work: Any) -> TableIn:
    table.state, table.since = state, timezone.now()
    table.save(update_fields=["columns", "called", "mended", "title", "on", "state", "since"])
    beside("table", lambda: work(table.id))
    return table


def _mending(table: TableIn) -> Mending:
    told = LookIn(**table.mended)
    return Mending(told.heading, {(one.line, one.place): one.text for one in told.cells}, frozenset(told.without))


@contextmanager
def _in_words() -> Iterator[None]:
    """What is wrong with a table as a whole is a refusal with the lines concerned."""
    try:
        yield
    except BadTableText as error:
        raise refused(error.code, str(error), [RowFault(line, message) for line, message in error.rows]) from error


def _tables(table: TableIn) -> Tables:
    with _in_words():
        return tables_apart(bytes(table.content), table.mended.get("sheet", ""))


def _looked(table: TableIn, tables: Tables) -> tuple[Looked, Loads]:
    with _in_words():
        looked = look_at(tables.readings, MAX_ROWS, table.columns, table.called, _mending(table))
        looked = replace(looked, shape=(*tables.says, *looked.shape))
        return looked, look_at_loads(tables.loads, MAX_ROWS, table.called)


def _to_mend(table: TableIn, tables: Tables, amiss: Iterable[int]) -> dict[str, Any]:
    """The sheets, and the lines that are worth a look."""
    lines = to_mend(tables.readings, _mending(table), amiss)
    return {"sheets": tables.sheets, "lines": [asdict(line) for line in lines]}


def _read(table_id: uuid.UUID) -> None:
    table = TableIn.objects.select_related("teacher").get(id=table_id)
    tables: Tables | None = None
    try:
        with materials_of(table.teacher):
            tables = _tables(table)
            looked, loads = _looked(table, tables)
            found = preview(looked, loads)
            keys = {one.name: one.key for one in catalogue.electrodes().values()}
            keys |= {one.name: one.key for one in catalogue.electrolytes().values()}
        unknown = [
            asdict(one) | {"nearest": [{"key": keys[name], "name": name} for name in one.nearest]} for one in found.unknown
        ]
        amiss = [line for line, _ in (*looked.faults, *looked.left_out)]
        mend = _to_mend(table, tables, amiss)
        _done(table, State.READ, asdict(found) | {"ready": found.ready, "unknown": unknown} | mend)
    except Problem as problem:
        rest = {} if tables is None else _columns(table, tables, problem) | _to_mend(table, tables, ())
        _done(table, State.REFUSED, said(problem) | rest)
    except Exception:
        _done(table, State.REFUSED, said(LOST))
        raise


def _columns(table: TableIn, tables: Tables, problem: Problem) -> dict[str, Any]:
    """What each column holds, where that is what is amiss, so that the teacher can say what the others hold."""
    if problem.code != "columns":
        return {}
    mending = _mending(table)
    (_, fields), *rows = shaped(mended(tables.readings, mending), mending.heading > 0).rows[:4]
    read = [heading(text) for text in fields]
    return {
        "columns": [
            {
                "heading": one.text.strip(),
                "means": table.columns.get(one.text.strip(), one.means),
                "unit": one.unit or "",
                "examples": [row[place] for _, row in rows if place < len(row)],
            }
            for place, one in enumerate(read)
        ]
    }


def _keep(table_id: uuid.UUID) -> None:
    table = TableIn.objects.select_related("teacher").get(id=table_id)
    try:
        with materials_of(table.teacher), transaction.atomic():
            looked, loads = _looked(table, _tables(table))
            brought = keep_readings(
                actor=table.teacher,
                table=understood(looked),
                loads=loads.rows,
                title=table.title,
                on=table.on or timezone.now().date(),
            )
            table.lab = brought.lab
            table.save(update_fields=["lab"])
        _done(table, State.KEPT, table.found)
    except Problem as problem:
        _done(table, State.REFUSED, said(problem))
    except Exception:
        _done(table, State.REFUSED, said(LOST))
        raise


def _done(table: TableIn, state: TableIn.State, found: Mapping[str, Any]) -> None:
    table.state, table.found = state, dict(found)
    table.save(update_fields=["state", "found"])


def said(problem: Problem | Refusal) -> dict[str, Any]:
    """A refusal as it is kept until it is asked for."""
    rows = [asdict(row) for row in problem.rows]
    return {"code": problem.code, "message": problem.message, "rows": rows}


def forget_old() -> int:
    """Remove files that were handed over a day ago or more; returns how many."""
    return TableIn.objects.filter(since__lt=timezone.now() - KEPT_FOR).delete()[0]
