"""Answers that many pages ask for after the same change are made once.

While a lab runs, every reading makes boards and benches fetch anew, all the same thing. An answer is kept in this process
for two seconds at most, under the lab's count of changes (`announce` raises it in the same transaction as the change), so
nobody sees less than has been committed. Who comes while it is being made waits for it.
"""

from __future__ import annotations

import threading
import time
from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass, field
from typing import TypeVar, cast

from django.http import HttpResponse
from pydantic import BaseModel

from server.labs.models import Lab

MOST = 256
FRESH_S = 2.0


@dataclass
class _Kept:
    """One answer, and the lock that is held while it is made."""

    lock: threading.Lock = field(default_factory=threading.Lock)
    body: bytes = b""
    made_at: float = -FRESH_S


class _Answers:
    def __init__(self) -> None:
        self.lock = threading.Lock()
        self.kept: OrderedDict[Hashable, _Kept] = OrderedDict()

    def slot(self, key: Hashable) -> _Kept:
        with self.lock:
            found = self.kept.setdefault(key, _Kept())
            self.kept.move_to_end(key)
            while len(self.kept) > MOST:
                self.kept.popitem(last=False)
            return found


_ANSWERS = _Answers()


def as_json(body: bytes) -> HttpResponse:
    """An answer from its JSON."""
    return HttpResponse(body, content_type="application/json; charset=utf-8")


def answer(lab: Lab, whose: Hashable, make: Callable[[], BaseModel]) -> HttpResponse:
    """The answer that `make` gives, or the one kept for `whose` (what is asked for, and by whom) since the last change."""
    if lab.state != Lab.State.OPEN:
        return as_json(make().model_dump_json().encode())
    kept = _ANSWERS.slot((whose, lab.id, lab.changes))
    with kept.lock:
        if time.monotonic() - kept.made_at >= FRESH_S:
            kept.body = make().model_dump_json().encode()
            kept.made_at = time.monotonic()
        return as_json(kept.body)


MOST_RESULTS = 48
_RESULTS: OrderedDict[Hashable, object] = OrderedDict()
_RESULTS_LOCK = threading.Lock()
Made = TypeVar("Made")


def made_once(lab: Lab, kind: str, make: Callable[[], Made]) -> Made:
    """What `make` computes from a lab's readings, kept in this process until the lab's next change.

    The count of changes is read with the lab, before what it is computed from, so a kept result is never older than it.
    """
    key = kind, lab.id, lab.changes
    with _RESULTS_LOCK:
        if key in _RESULTS:
            _RESULTS.move_to_end(key)
            return cast(Made, _RESULTS[key])
    made = make()
    with _RESULTS_LOCK:
        _RESULTS[key] = made
        while len(_RESULTS) > MOST_RESULTS:
            _RESULTS.popitem(last=False)
    return made
