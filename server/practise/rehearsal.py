"""Playing a lab through the real API, as devices would: join, check the meter, predict, read, go on to the next cell.

The class and its faults come from the core's rehearsal; what it types goes over HTTP. A rehearsal is a copy of the lab,
marked simulated, opened without a signature: no hands and no materials are in it.
"""

from __future__ import annotations

import json
import time
import urllib.error
import urllib.request
import uuid
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from http.cookiejar import CookieJar
from typing import Any

from django.db import transaction
from django.utils import timezone

from galvanic.cells import Cell
from galvanic.planning.schedule import Steps
from galvanic.simulated.rehearsal import READINGS, Entry, simulated_class
from server.base.problems import Problem
from server.labs.changes import announce
from server.labs.models import Lab
from server.labs.planning.tasks import steps_of
from server.labs.services import copy_lab, groups_with_cells
from server.people.models import Teacher


@dataclass(frozen=True, slots=True)
class Joiner:
    """What a device needs to join as a group, and the group's cells by place: id and cell."""

    name: str
    pin: str
    cells: tuple[tuple[uuid.UUID, Cell], ...]


@dataclass(frozen=True, slots=True)
class Rehearsal:
    """An open copy of a lab, ready to be played."""

    lab_id: uuid.UUID
    code: str
    steps: Steps
    groups: tuple[Joiner, ...]


def find_lab(wanted: str) -> Lab:
    """A lab by its id, its join code or its title. Raises Problem not_found, naming the labs there are."""
    labs = Lab.objects.order_by("-date", "-created_at")
    for lab in labs:
        if wanted.casefold() in (str(lab.id), (lab.join_code or "").casefold(), lab.title.casefold()):
            return lab
    names = ", ".join(f"“{lab.title}”" for lab in labs[:6]) or "none yet"
    raise Problem(404, "not_found", f"There is no lab “{wanted}”. Labs: {names}.")


@transaction.atomic
def prepare(*, actor: Teacher, lab: Lab) -> Rehearsal:
    """Copy a lab and open the copy, marked simulated."""
    copy = copy_lab(actor=actor, lab_id=lab.id, title=f"{lab.title[:100]}, rehearsal", on=timezone.localdate())
    copy.simulated, copy.state, copy.opened_at = True, Lab.State.OPEN, timezone.now()
    copy.save(update_fields=["simulated", "state", "opened_at"])
    announce(copy.id)
    groups, hands = groups_with_cells(copy)
    joiners = tuple(
        Joiner(group.name, group.pin, tuple((planned.id, planned.cell) for planned in hand))
        for group, hand in zip(groups, hands, strict=True)
    )
    return Rehearsal(copy.id, copy.join_code or "", steps_of(copy), joiners)


class Device:
    """One group's device: a cookie jar and the API."""

    def __init__(self, url: str, code: str, pin: str) -> None:
        self.url, self.jar = url, CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))
        self.opener.open(f"{url}/join", timeout=20).close()
        self.post("/join", {"code": code, "pin": pin})

    def post(self, path: str, body: dict[str, Any]) -> dict[str, Any]:
        """Send JSON and return the answer; a refusal comes back with its code. Raises URLError if nobody answers."""
        token = next((c.value for c in self.jar if c.name == "csrftoken"), "") or ""
        request = urllib.request.Request(  # noqa: S310  (the address of our own server)
            f"{self.url}/api{path}", json.dumps(body).encode(), {"Content-Type": "application/json", "X-CSRFToken": token}
        )
        try:
            with self.opener.open(request, timeout=20) as answer:
                return dict(json.load(answer))
        except urllib.error.HTTPError as refusal:
            return dict(json.load(refusal))


def timed(entries: Sequence[Entry], steps: Steps, groups: int) -> Iterator[tuple[float, Entry]]:
    """Entries with their minute, in order of time; every group has a pace of its own."""
    most = max((entry.place for entry in entries), default=0) + 1
    times = steps.cell_times(most)
    parts = []
    for entry in entries:
        begin, end = times[entry.place]
        pace = 0.94 + 0.18 * entry.group / max(1, groups - 1)
        within = (entry.nth + 1.5) / (READINGS + 2) * (end - begin)
        parts.append(((begin + within) * pace, entry))
    yield from sorted(parts, key=lambda pair: (pair[0], pair[1].group, pair[1].nth))


def play(
    rehearsal: Rehearsal,
    url: str,
    seed: int,
    speed: float,
    tell: Callable[[str], None],
    sleep: Callable[[float], None] = time.sleep,
) -> tuple[int, int]:
    """Play the class at `speed` (minutes of the lab per minute); returns readings kept and refused."""
    hands = [[cell for _, cell in joiner.cells] for joiner in rehearsal.groups]
    devices = [Device(url, rehearsal.code, joiner.pin) for joiner in rehearsal.groups]
    for device in devices:
        device.post("/bench/meter-checks", {"id": str(uuid.uuid4()), "leads": "0.001", "dry": "1.56"})
    start, kept, refused = time.monotonic(), 0, 0
    for minute, one in timed(list(simulated_class(hands, seed)), rehearsal.steps, len(hands)):
        sleep(max(0.0, start + minute * 60.0 / speed - time.monotonic()))
        cell_id, cell = rehearsal.groups[one.group].cells[one.place]
        leads = {"red": cell.positive, "black": cell.negative}
        body = {"id": str(uuid.uuid4()), "cell_id": str(cell_id), "text": one.typed.text, "unit": one.typed.unit, **leads}
        answer = devices[one.group].post("/bench/readings", body)
        if "volts_v" in answer:
            kept += 1
        else:
            refused += 1
        if one.kind and one.nth == 0:
            tell(f"{minute:5.1f} min  {rehearsal.groups[one.group].name}: {cell.short}, {one.kind.replace('_', ' ')}")
    return kept, refused
