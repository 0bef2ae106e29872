"""Fetching cells with what groups keep of them, in a constant number of queries."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django.db import connection
from django.db.models import Prefetch, prefetch_related_objects
from psycopg import sql

from server.entries.models import AskedAgain, Reading
from server.labs.models import PlannedCell, PlannedCellQuerySet

BESIDE = ("under_load", "observations", "questions__answers", "actuals", "photos__removed", "traces")


def with_their_readings(cells: PlannedCellQuerySet) -> PlannedCellQuerySet:
    """Cells with their readings, why these are set aside, and what was asked of the group, as plain lists."""
    fetched: PlannedCellQuerySet = cells.prefetch_related(
        Prefetch("readings", queryset=Reading.objects.with_aside(), to_attr="kept_readings"),
        Prefetch("asked", to_attr="kept_asked"),
    )
    return fetched


def fetch_beside(cells: Sequence[PlannedCell], more: Sequence[str] = ()) -> None:
    """Fetch what is kept beside readings onto cells (and `more`, by the names of their relations).

    Most groups keep few kinds of things: one question finds which there are, and only these are fetched.
    """
    names = {name.partition("__")[0]: name for name in (*more, *BESIDE)}
    models = {name: PlannedCell._meta.get_field(name).related_model for name in names}
    there = _there(cells, models)
    none = {name: model.objects.none() for name, model in models.items() if name not in there}  # type: ignore[union-attr]
    for cell in cells:
        cell.__dict__.setdefault("_prefetched_objects_cache", {}).update(none)
    prefetch_related_objects(list(cells), *(names[name] for name in names if name in there))


def _there(cells: Sequence[PlannedCell], models: Mapping[str, Any]) -> set[str]:
    """Of which of these models, by the names of their relations, the cells have any rows."""
    if not cells:
        return set()
    one = sql.SQL("EXISTS (SELECT 1 FROM {} WHERE cell_id = ANY(%(cells)s))")
    asked = sql.SQL(", ").join(one.format(sql.Identifier(model._meta.db_table)) for model in models.values())
    with connection.cursor() as cursor:
        cursor.execute(sql.SQL("SELECT {}").format(asked), {"cells": [cell.id for cell in cells]})
        row = cursor.fetchone()
    return {name for name, yes in zip(models, row, strict=True) if yes}


def readings_of(planned: PlannedCell) -> list[Reading]:
    """The readings of a cell that was fetched `with_their_readings`, oldest first."""
    readings: list[Reading] = planned.__dict__["kept_readings"]
    return readings


def asked_of(planned: PlannedCell) -> list[AskedAgain]:
    """What was asked of the group about a cell that was fetched `with_their_readings`."""
    asked: list[AskedAgain] = planned.__dict__["kept_asked"]
    return asked
