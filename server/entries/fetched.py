"""Fetching cells with what groups keep of them, in a constant number of queries."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Sequence
from typing import Any

from django.db import connection, models
from django.db.models import Prefetch, prefetch_related_objects
from django.db.models.expressions import RawSQL
from psycopg import sql

from server.entries.models import AskedAgain, Reading, SetAside
from server.labs.models import PlannedCell

BESIDE = ("under_load", "observations", "questions__answers", "actuals", "photos__removed", "traces")
ASIDES = "asides"
_ASIDE = sql.SQL(
    "EXISTS (SELECT 1 FROM {aside} WHERE group_id = ANY(%(groups)s))"
    " OR EXISTS (SELECT 1 FROM {reading} r JOIN {aside} a ON a.reading_id = r.id WHERE r.cell_id = ANY(%(cells)s))"
).format(aside=sql.Identifier(SetAside._meta.db_table), reading=sql.Identifier(Reading._meta.db_table))


def fetch_readings(cells: Sequence[PlannedCell], there: set[str] | None = None) -> None:
    """Fetch readings onto cells, and where there are any (`there`: what `kinds_there` found), why these are set aside and
    what was asked of the group, as plain lists."""
    there = kinds_there(cells, ["asked", ASIDES]) if there is None else there
    readings = Reading.objects.with_aside() if ASIDES in there else Reading.objects.all()
    readings = readings.annotate(later=models.F("correction__id"))  # which may be another cell's
    prefetch_related_objects(list(cells), Prefetch("readings", queryset=readings, to_attr="kept_readings"))
    if "asked" in there:
        prefetch_related_objects(list(cells), Prefetch("asked", to_attr="kept_asked"))
    for cell in cells:
        cell.__dict__.setdefault("kept_asked", [])


def fetch_beside(cells: Sequence[PlannedCell], more: Sequence[str] = ()) -> None:
    """Fetch what is kept beside readings onto cells (and `more`, by the names of their relations).

    Most groups keep few kinds of things: one question finds which there are, and only these are fetched.
    """
    names = {name.partition("__")[0]: name for name in (*more, *BESIDE)}
    there = kinds_there(cells, list(names))
    none = {name: model.objects.none() for name, model in _models(names).items() if name not in there}
    for cell in cells:
        cell.__dict__.setdefault("_prefetched_objects_cache", {}).update(none)
    prefetch_related_objects(list(cells), *(names[name] for name in names if name in there))


def kinds_there(cells: Sequence[PlannedCell], names: Sequence[str]) -> set[str]:
    """Of which relations the cells have any rows (`ASIDES`: whether any of their readings is set aside); one question."""
    if not cells:
        return set()
    one, tables = sql.SQL("EXISTS (SELECT 1 FROM {} WHERE cell_id = ANY(%(cells)s))"), _models(set(names) - {ASIDES})
    asked = [_ASIDE if name == ASIDES else one.format(sql.Identifier(tables[name]._meta.db_table)) for name in names]
    values = {"cells": [cell.id for cell in cells], "groups": list({cell.group_id for cell in cells})}
    with connection.cursor() as cursor:
        cursor.execute(sql.SQL("SELECT {}").format(sql.SQL(", ").join(asked)), values)
        row = cursor.fetchone()
    return {name for name, yes in zip(names, row, strict=True) if yes}


def with_begun(cells: models.QuerySet[PlannedCell]) -> Any:
    """Cells with `begun`: whether anything hangs at a cell that a group has entered or was asked, whatever kind it is.

    Such a cell belongs to its group. The kinds are those whose models point at a cell, so a new one needs no mention here.
    """
    own, there = PlannedCell._meta, sql.SQL("EXISTS (SELECT 1 FROM {} WHERE {} = {})")
    cell = sql.Identifier(own.db_table, str(own.pk.column))
    tables = [(kind.related_model._meta.db_table, str(kind.field.column)) for kind in own.related_objects]
    hangs = [there.format(sql.Identifier(table), sql.Identifier(table, column), cell) for table, column in tables]
    query = sql.SQL("({})").format(sql.SQL(" OR ").join(hangs)).as_string(None)
    return cells.annotate(begun=RawSQL(query, [], output_field=models.BooleanField()))  # noqa: S611 (names of our own)


def _models(names: Iterable[str]) -> dict[str, Any]:
    """The models behind a cell's relations, by their names."""
    return {name: PlannedCell._meta.get_field(name).related_model for name in names}


def readings_of(planned: PlannedCell) -> list[Reading]:
    """The readings of a cell whose readings are fetched (`fetch_readings`), oldest first."""
    readings: list[Reading] = planned.__dict__["kept_readings"]
    return readings


def later_of(reading: Reading) -> uuid.UUID | None:
    """The entry that replaced a fetched reading; None where it stands."""
    later: uuid.UUID | None = reading.__dict__["later"]
    return later


def asked_of(planned: PlannedCell) -> list[AskedAgain]:
    """What was asked of the group about a cell whose readings are fetched (`fetch_readings`)."""
    asked: list[AskedAgain] = planned.__dict__["kept_asked"]
    return asked
