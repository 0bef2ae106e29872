"""Fetching cells with what groups keep of them, in a constant number of queries."""

from __future__ import annotations

from django.db.models import Prefetch

from server.entries.models import AskedAgain, Reading
from server.labs.models import PlannedCell, PlannedCellQuerySet

BESIDE = ("under_load", "observations", "actuals", "photos__removed", "traces")


def with_their_readings(cells: PlannedCellQuerySet) -> PlannedCellQuerySet:
    """Cells with their readings, why these are set aside, and what was asked of the group, as plain lists."""
    fetched: PlannedCellQuerySet = cells.prefetch_related(
        Prefetch("readings", queryset=Reading.objects.with_aside(), to_attr="kept_readings"),
        Prefetch("asked", to_attr="kept_asked"),
    )
    return fetched


def readings_of(planned: PlannedCell) -> list[Reading]:
    """The readings of a cell that was fetched `with_their_readings`, oldest first."""
    readings: list[Reading] = planned.__dict__["kept_readings"]
    return readings


def asked_of(planned: PlannedCell) -> list[AskedAgain]:
    """What was asked of the group about a cell that was fetched `with_their_readings`."""
    asked: list[AskedAgain] = planned.__dict__["kept_asked"]
    return asked
