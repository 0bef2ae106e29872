"""A history that can be checked: entries of a lab and deeds on it, in the order in which they came, chained by digests.

An entry's digest is of its columns as a package writes them; a head is the digest of the head before it and the entry's own
(a hash chain; S. Haber, W. S. Stornetta, “How to time-stamp a digital document”, J. Cryptology 3 (1991) 99). The heads stand
in the lab's package and on the class's notebook: whoever keeps one can have it checked later by `./pipette verify`. What may
lawfully be erased (free words, notes, photographs) is not part of it, nor is who did a deed, since accounts end.
"""

from __future__ import annotations

import csv
import hashlib
import io
import json
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from server.labs.models import Lab
from server.people.models import Deed
from server.records.package.tables import TABLES, Table, as_text
from server.records.removing import REMOVABLE

CHAINED = (
    "meter_checks", "predictions", "readings", "set_aside", "under_load", "questions_answered", "settings_measured",
    "traces", "pack_entries", "run_files", "chain_entries", "claims", "answers", "own_tests", "meant", "handed_in",
    "given_back",
)  # fmt: skip
DEEDS = "deeds"
WHEN = ("received_at", "at", "asked_at")
COLUMNS = ("nth", "table", "id", "at", "digest", "head")
FIRST = "0" * 64
SHOWN = 12  # letters of a head that are printed: 48 bits
MOST_SAID = 10


@dataclass(frozen=True, slots=True)
class Step:
    """One entry or deed: the table, its number, when it came, its digest, and the head of its chain with it."""

    table: str
    id: str
    at: datetime
    digest: str
    head: str


@dataclass(frozen=True, slots=True)
class Head:
    """How many steps a chain has, and its head (`FIRST` without any)."""

    steps: int
    head: str

    @property
    def shown(self) -> str:
        """As it is printed: `214-3f9a12cc04b1`."""
        return f"{self.steps}-{self.head[:SHOWN]}"


@dataclass(frozen=True, slots=True)
class Difference:
    """What differs between a history that was kept and the one there is: steps gone, changed, put in among the old ones;
    `since`: how many came after them."""

    gone: tuple[str, ...]
    changed: tuple[str, ...]
    put_in: tuple[str, ...]
    since: int

    @property
    def whole(self) -> bool:
        """Whether all that was kept is there as it was."""
        return not (self.gone or self.changed or self.put_in)


def entries_of(lab: Lab) -> list[Step]:
    """The chain of a lab's entries. One query a table."""
    groups = list(lab.groups.all())
    found = [
        (_when(row), table.name, str(row.pk), _digest(table.name, _columns(table, row)))
        for table in TABLES
        if table.name in CHAINED
        for row in table.rows(groups)
    ]
    return list(_chained(sorted(found)))


def deeds_of(lab: Lab) -> list[Step]:
    """The chain of what teachers did on a lab."""
    rows = Deed.objects.filter(lab=lab.id).order_by("at", "id")
    return list(
        _chained((row.at, DEEDS, f"{row.id:012d}", _digest(DEEDS, {"what": row.what, "about": row.about})) for row in rows)
    )


def head_of(steps: Sequence[Step]) -> Head:
    """The head of a chain."""
    return Head(len(steps), steps[-1].head if steps else FIRST)


def head_at(steps: Sequence[Step], n: int) -> str | None:
    """The head that a chain had after its first n steps; None where it has not so many."""
    return FIRST if n == 0 else steps[n - 1].head if n <= len(steps) else None


def as_csv(steps: Sequence[Step]) -> bytes:
    """A chain as a table."""
    made = io.StringIO()
    writer = csv.writer(made, lineterminator="\n")
    writer.writerow(COLUMNS)
    for nth, step in enumerate(steps, 1):
        writer.writerow([nth, step.table, step.id, step.at.isoformat(), step.digest, step.head])
    return made.getvalue().encode()


def difference(kept: Sequence[Mapping[str, str]], now: Sequence[Step]) -> Difference:
    """Lay a chain that was kept (rows of `as_csv`) beside the one there is."""
    here = {(step.table, step.id): step for step in now}
    gone, changed = [], []
    for row in kept:
        step = here.get((row["table"], row["id"]))
        if step is None:
            gone.append(_named(row["table"], row["id"], row["at"]))
        elif step.digest != row["digest"] or step.at.isoformat() != row["at"]:
            changed.append(_named(row["table"], row["id"], row["at"]))
    known = {(row["table"], row["id"]) for row in kept}
    last = max((row["at"] for row in kept), default="")
    fresh = [step for step in now if (step.table, step.id) not in known]
    put_in = [_named(step.table, step.id, step.at.isoformat()) for step in fresh if step.at.isoformat() < last]
    return Difference(tuple(gone), tuple(changed), tuple(put_in), len(fresh) - len(put_in))


def broken_at(kept: Sequence[Mapping[str, str]]) -> int | None:
    """The first row of a kept chain whose head does not follow from the one before; None where all do."""
    head = FIRST
    for nth, row in enumerate(kept, 1):
        head = _next(head, row["digest"])
        if row["head"] != head:
            return nth
    return None


def _chained(found: Any) -> Iterator[Step]:
    head = FIRST
    for at, table, key, digest in found:
        head = _next(head, digest)
        yield Step(table, key, at, digest, head)


def _next(head: str, digest: str) -> str:
    return hashlib.sha256(f"{head}{digest}".encode()).hexdigest()


def _when(row: Any) -> datetime:
    at: datetime = next(getattr(row, name) for name in WHEN if hasattr(row, name))
    return at


_ERASABLE = {model: set(columns) for model, columns in REMOVABLE.values()}


def _columns(table: Table, row: Any) -> dict[str, str]:
    """A row's columns as text, without words that may be erased."""
    free = _ERASABLE.get(table.model, set())
    return {field.name: as_text(field, row) for field in table.fields if field.name not in free}


def _digest(table: str, columns: Mapping[str, str]) -> str:
    return hashlib.sha256(json.dumps([table, columns], sort_keys=True, ensure_ascii=False).encode()).hexdigest()


def _named(table: str, key: str, at: str) -> str:
    return f"{table} {key} of {at}"
