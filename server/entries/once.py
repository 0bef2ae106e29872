"""What a device sends is kept once, however often it is sent: its id is made on the device; and when it is in time."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any, TypeVar

from django.db import IntegrityError, models, transaction
from django.utils import timezone

from galvanic.words import mark, say
from server.base.problems import Problem, Refusal
from server.entries.clock import Clock
from server.labs.models import Lab, PlannedCell
from server.people.auth import Member

Kept = TypeVar("Kept", bound=models.Model)
BELL_S = 10.0  # a request that took this long on bad Wi-Fi still counts as entered when its device says so
CLOSED = Refusal(
    409,
    "lab_closed",
    mark(
        "The lab is closed, so this is not recorded yet. It stays on this device and is sent if your teacher opens it again."
    ),
    passing=True,
)

CELL_MOVED = Refusal(
    404,
    "not_found",
    mark("This cell is not on your list. What you typed stays on this device; show it to your teacher."),
    passing=True,
)


@dataclass(frozen=True, slots=True)
class Arrival:
    """When an entry came, when it was entered (both by the server's clock), and whether the lab had closed in between."""

    clock: Clock
    received_at: datetime
    taken_at: datetime
    after_closing: bool

    @property
    def columns(self) -> dict[str, Any]:
        """The columns every entry has of it."""
        return {
            **self.clock.kept,
            "received_at": self.received_at,
            "taken_at": self.taken_at,
            "after_closing": self.after_closing,
        }


def arrival(lab: Lab, clock: Clock) -> Arrival:
    """How an entry comes to a lab: while it is open, or late, entered before the lab closed and sent after.

    Raises CLOSED for what was entered while the lab was not open.
    """
    now = timezone.now()
    entered = clock.entered(now)
    if lab.state == Lab.State.OPEN:
        return Arrival(clock, now, entered, after_closing=False)
    if lab.closed_at is None or lab.opened_at is None or clock.waited is None:
        raise CLOSED()
    if not lab.opened_at <= entered <= lab.closed_at + timedelta(seconds=BELL_S):
        raise CLOSED()
    return Arrival(clock, now, min(entered, lab.closed_at), after_closing=True)


def keep_once(model: type[Kept], actor: Member, key: uuid.UUID, create: Callable[[], Kept]) -> tuple[Kept, bool]:
    """What is kept under this id, made by `create` if nothing is; and whether it was kept before.

    Raises Problem id_taken if another group's entry has the id, and whatever `create` raises; then nothing is kept.
    """
    try:
        with transaction.atomic():
            kept = _kept(model, actor, key)
            return (kept, True) if kept is not None else (create(), False)
    except IntegrityError:
        kept = _kept(model, actor, key)  # the same entry came twice at once
        if kept is None:
            raise
        return kept, True


def _kept(model: type[Kept], actor: Member, key: uuid.UUID) -> Kept | None:
    of_group = any(field.name == "group" for field in model._meta.fields)
    objects: Any = model._default_manager
    kept: Any = (objects if of_group else objects.select_related("cell")).filter(pk=key).first()
    if kept is not None and (kept if of_group else kept.cell).group_id != actor.group_id:
        raise Problem(409, "id_taken", say("This entry’s number is taken. Type it again."))
    earlier: Kept | None = kept
    return earlier


def open_cell(actor: Member, cell_id: uuid.UUID, clock: Clock) -> tuple[PlannedCell, Arrival]:
    """A cell of the group's, and how an entry comes to it now.

    Raises Problem: cell_moved where it is on another group's list now (or on none), or CLOSED; both can pass.
    """
    cell = PlannedCell.objects.visible_to(actor).select_related("group__lab").filter(id=cell_id).first()
    if cell is None:
        raise CELL_MOVED()
    return cell, arrival(cell.group.lab, clock)
