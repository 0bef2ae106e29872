"""What tests of several applications need: teachers, labs, groups, and clients that act for them."""

from __future__ import annotations

import re
import time
import uuid
from collections.abc import Iterable
from datetime import date, timedelta
from typing import Any

from django.core.management import CommandError
from django.db import connection
from django.test import Client, TransactionTestCase
from django.utils import timezone

from galvanic.bench.readings import parse
from server.entries.entry import ReadingIn
from server.entries.models import Reading
from server.entries.services import record_reading
from server.labs.changes import announce
from server.labs.models import Lab, PlannedCell
from server.labs.opening import open_lab, sign_off
from server.labs.policy import sheet_of
from server.labs.services import create_lab
from server.labs.settings import NewLab
from server.people.auth import Member, remember_group
from server.people.models import Group, GroupSession, Teacher
from server.records.models import Removal
from server.records.retention import KEEP_DAYS_WAIT, WORDS_WAIT

TITLE = "A lab"
FLUSHES = 4


def teacher(name: str = "ada") -> Teacher:
    """A teacher; the password is as the name, twice."""
    return Teacher.objects.create_user(name, password=f"{name}{name}-long-enough")


def lab_of(owner: Teacher, groups: Iterable[str] = ("Tern", "Knot"), opened: bool = True, **changes: Any) -> Lab:
    """A lab of zinc, copper and tin in rhubarb juice."""
    plan = {
        "title": TITLE,
        "date": date(2026, 5, 4),
        "minutes": 45,
        "electrodes": ["zinc", "copper", "tin"],
        "electrolytes": ["rhubarb-juice"],
        "groups": list(groups),
    } | changes
    lab = create_lab(actor=owner, plan=NewLab(**plan))
    return opened_lab(owner, lab) if opened else lab


def opened_lab(owner: Teacher, lab: Lab) -> Lab:
    """Sign a lab's safety sheet off and let groups in."""
    sign_off(actor=owner, lab_id=lab.id, fingerprint=sheet_of(lab).fingerprint)
    return open_lab(actor=owner, lab_id=lab.id)


def group_of(lab: Lab, name: str = "Tern") -> Group:
    """A group of a lab by name."""
    return Group.objects.get(lab=lab, name=name)


def member_of(group: Group) -> Member:
    """Somebody at that group's device."""
    return Member(group.id, group.lab_id, group.name, group.lab.owner_id)


def cell_of(group: Group, position: int = 1) -> PlannedCell:
    """A cell of a group by its place."""
    return PlannedCell.objects.get(group=group, position=position)


def entry(cell: PlannedCell, text: str = "0.94", **changes: Any) -> ReadingIn:
    """An entry with the leads as planned."""
    made = {"id": uuid.uuid4(), "cell_id": cell.id, "red": cell.positive, "black": cell.negative, "text": text, "unit": "V"}
    return ReadingIn(**(made | changes))


def record(cell: PlannedCell, text: str = "0.94", **changes: Any) -> Reading:
    """Record an entry as the cell's own group."""
    return record_reading(actor=member_of(cell.group), entry=entry(cell, text, **changes)).reading


def record_all(readings: Iterable[tuple[PlannedCell, str]]) -> None:
    """Keep many readings of one lab as groups without a meter check would have recorded them, in one go."""
    now, made = timezone.now(), []
    for nth, (cell, text) in enumerate(readings):
        at, parsed = now + timedelta(microseconds=nth), parse(text, "V")
        made.append(
            Reading(
                cell=cell, red=cell.positive, black=cell.negative, text=text, unit=parsed.unit, volts_v=parsed.volts_v,
                resolution_v=parsed.resolution_v, taken_at=at, received_at=at,
            )
        )  # fmt: skip
    Reading.objects.bulk_create(made)
    for group in {reading.cell.group for reading in made}:
        announce(group.lab_id, group.id)


def as_teacher(user: Teacher, **options: Any) -> Client:
    """A browser in which that teacher is signed in."""
    client = Client(**options)
    client.force_login(user, "django.contrib.auth.backends.ModelBackend")
    return client


class _Jar:
    """Just enough of a response to catch the group's cookies."""

    def __init__(self) -> None:
        self.kept: dict[str, str] = {}

    def set_cookie(self, name: str, value: str, **options: object) -> None:
        self.kept[name] = value


def as_group(group: Group, **options: Any) -> Client:
    """A device that has joined as that group."""
    client, jar = Client(**options), _Jar()
    remember_group(jar, GroupSession.objects.create(group=group))  # type: ignore[arg-type]
    for name, value in jar.kept.items():
        client.cookies[name] = value
    return client


def send(client: Client, path: str, body: dict[str, Any] | None = None, verb: str = "post", **headers: Any) -> Any:
    """POST JSON, or PUT it."""
    return getattr(client, verb)(f"/api{path}", body or {}, content_type="application/json", **headers)


def without_times(answer: Any) -> str:
    """The text of an answer without its times, in which any digits can stand."""
    return re.sub(r"\d{4}-\d\d-\d\dT[\d:.]+(Z|[+-]\d\d:\d\d)", "", answer.content.decode())


class KeptReadingsTestCase(TransactionTestCase):
    """A test with real commits; the clean-up may empty the append-only tables."""

    def _fixture_teardown(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute("SET pipette.retention = 'on'")
        for again in range(FLUSHES):
            try:
                super()._fixture_teardown()
                break
            except CommandError:  # a deadlock with what a stream was still making for a page that has just closed
                if again == FLUSHES - 1:
                    raise
                time.sleep(0.5)
        with connection.cursor() as cursor:
            cursor.execute("SET pipette.retention = 'off'")


def after_waiting() -> None:
    """As if what is asked to be erased had been asked for long enough ago."""
    past = timezone.now() - max(KEEP_DAYS_WAIT, WORDS_WAIT) - timedelta(minutes=1)
    Removal.objects.update(asked_at=past)
    Lab.objects.update(keep_days_at=past)
