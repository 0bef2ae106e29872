"""What many pages ask for after the same change is made once, for each language.

While a lab runs, every reading makes boards and benches fetch anew, mostly the same things. Each is kept in this process
under the count of changes of the lab or group it was made from. `announce` raises the counts in the same transaction as the
change, and a count is read before what is made from it, so nobody sees less than has been committed. Who comes while
something is being made waits for it.
"""

from __future__ import annotations

import threading
import time
import uuid
from collections import OrderedDict
from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Protocol, TypeVar, cast

from django.http import HttpResponse
from pydantic import BaseModel

from galvanic.words import language

MOST = 512
FRESH_S = 2.0
OPEN = "open"

Made = TypeVar("Made")
Some = TypeVar("Some", bound="Changing")


class Changing(Protocol):
    """A group, or anything else whose changes are counted."""

    id: uuid.UUID
    changes: int


class Lab(Changing, Protocol):
    """A lab, as far as what is kept of it needs it."""

    state: str


@dataclass
class Slot:
    """One kept thing, the count it was made under, and the lock that is held while it is made."""

    lock: threading.Lock = field(default_factory=threading.Lock)
    changes: int = -1
    made: Any = None
    made_at: float = 0.0

    def put(self, changes: int, made: Any) -> None:
        """Keep what was made."""
        self.made, self.made_at, self.changes = made, time.monotonic(), changes


_LOCK = threading.Lock()
_SLOTS: OrderedDict[Hashable, Slot] = OrderedDict()


def _slot(key: Hashable) -> Slot:
    """The slot of a key; the longest unused are let go."""
    with _LOCK:
        slot = _SLOTS.setdefault(key, Slot())
        _SLOTS.move_to_end(key)
        while len(_SLOTS) > MOST:
            _SLOTS.popitem(last=False)
        return slot


def as_json(body: bytes) -> HttpResponse:
    """An answer from its JSON."""
    return HttpResponse(body, content_type="application/json; charset=utf-8")


def answer_json(lab: Lab, whose: Hashable, make: Callable[[], BaseModel]) -> bytes:
    """The answer that `make` gives, or the one kept for `whose` (what is asked for, and by whom) since the last change.

    It may depend on the time, so it is kept for two seconds at most, and only while the lab is open.
    """
    if lab.state != OPEN:
        return make().model_dump_json().encode()
    slot = _slot((whose, lab.id, language()))
    with slot.lock:
        if slot.changes < lab.changes or time.monotonic() - slot.made_at >= FRESH_S:
            slot.put(lab.changes, make().model_dump_json().encode())
        return cast(bytes, slot.made)


def made_once(lab: Lab, kind: str, make: Callable[[], Made]) -> Made:
    """What `make` computes from a lab's readings, kept until the lab's next change."""
    slot = _slot((kind, lab.id, language()))
    with slot.lock:
        if slot.changes < lab.changes:
            slot.put(lab.changes, make())
        return cast(Made, slot.made)


def made_of_each(
    lab: Lab, kind: str, groups: Sequence[Some], make: Callable[[Sequence[Some]], Mapping[uuid.UUID, Made]]
) -> list[Made]:
    """What `make` makes of each of a lab's groups, called with those that have changed; kept while the lab is open."""
    if lab.state != OPEN:
        new = make(groups)
        return [new[group.id] for group in groups]
    with _slot((kind, lab.id, language())).lock:
        slots = {group.id: _slot((kind, group.id, language())) for group in groups}
        stale = [group for group in groups if slots[group.id].changes < group.changes]
        made = make(stale) if stale else {}
        for group in stale:
            slots[group.id].put(group.changes, made[group.id])
        return [cast(Made, slot.made) for slot in slots.values()]
