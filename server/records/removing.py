"""Finding what somebody typed in a lab, and asking for it to be removed; how long photographs and notes are kept."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db import transaction
from django.db.models import Model, Q
from django.utils import timezone

from galvanic.words import say
from server.asking.models import ClassAnswer
from server.base.problems import Problem, not_found
from server.entries.models import Observation, Prediction, Question
from server.findings.models import Claim
from server.labs.models import Lab
from server.labs.services import lab_to_change, owned
from server.notebook.models import Words
from server.people.deeds import keep_deed
from server.people.models import Teacher
from server.records.models import Removal

REMOVED = "(removed on request)"
REMOVABLE: dict[str, tuple[type[Model], tuple[str, ...]]] = {
    "note": (Observation, ("text",)), "question": (Question, ("text",)), "words": (Words, ("text",)),
    "claim": (Claim, ("reasoning", "against")), "reason": (Prediction, ("because",)), "answer": (ClassAnswer, ("text",)),
}  # fmt: skip
TO_GROUP = {"note": "cell__group", "question": "cell__group", "words": "group", "claim": "group", "reason": "cell__group"}
TO_LAB = {kind: f"{way}__lab" for kind, way in TO_GROUP.items()} | {"answer": "question__lab"}  # an answer is nobody's
LEAST_WORD, MOST_FOUND, MOST_DAYS = 2, 200, 3650


@dataclass(frozen=True, slots=True)
class FoundWords:
    """Something a group typed: of what kind, whose, when, and whether its removal is asked for already."""

    kind: str
    id: uuid.UUID
    group: str
    text: str
    at: datetime
    asked: bool


def find_words(lab: Lab, words: str) -> list[FoundWords]:
    """What groups of a lab typed that has these words in it, the newest first. Raises Problem short."""
    wanted = " ".join(words.split())
    if len(wanted) < LEAST_WORD:
        raise Problem(422, "short", say("Type at least two letters of what you look for."), field="words")
    asked = set(Removal.objects.filter(lab=lab).values_list("row", flat=True))
    found = []
    for kind, (model, columns) in REMOVABLE.items():
        to_group = TO_GROUP.get(kind)
        holds = Q(*((f"{column}__icontains", wanted) for column in columns), _connector=Q.OR)
        rows: Any = model.objects.filter(holds, **{TO_LAB[kind]: lab})  # type: ignore[attr-defined]
        for row in (rows.select_related(to_group) if to_group else rows)[:MOST_FOUND]:
            found.append(
                FoundWords(
                    kind,
                    row.id,
                    _group_of(row, to_group),
                    " ".join(getattr(row, column) for column in columns),
                    row.received_at,
                    row.id in asked,
                )
            )
    return sorted(found, key=lambda one: one.at, reverse=True)[:MOST_FOUND]


def _group_of(row: Any, to_group: str | None) -> str:
    """The name of the group that typed a row; empty where nobody is named."""
    if to_group is None:
        return ""
    name: str = (row.cell.group if to_group.startswith("cell") else row.group).name
    return name


@transaction.atomic
def ask_removal(*, actor: Teacher, lab_id: uuid.UUID, things: Sequence[tuple[str, uuid.UUID]]) -> int:
    """Have words taken out with the next run of the command that removes what is over; returns how many were not asked for
    before. Raises Problem: not_found."""
    lab = lab_to_change(actor, lab_id)
    for kind, row in things:
        model, _ = REMOVABLE[kind]
        if not model.objects.filter(**{"pk": row, TO_LAB[kind]: lab}).exists():  # type: ignore[attr-defined]
            raise not_found(kind)
    before = Removal.objects.filter(lab=lab).count()
    Removal.objects.bulk_create(
        [Removal(lab=lab, kind=kind, row=row, teacher=actor) for kind, row in things], ignore_conflicts=True
    )
    new = Removal.objects.filter(lab=lab).count() - before
    keep_deed(actor, "asked_removal", lab, f"{new} of them")
    return new


@transaction.atomic
def keep_for(*, actor: Teacher, lab_id: uuid.UUID, days: int | None) -> Lab:
    """Choose how long after closing photographs and notes are kept (None: as long as the lab). Raises Problem: not_found, or
    days."""
    lab = owned(actor, lab_id)
    if days is not None and not 1 <= days <= MOST_DAYS:
        raise Problem(
            422, "days", say("From 1 to {most_days} days, or as long as the lab.", most_days=MOST_DAYS), field="days"
        )
    lab.keep_days = days
    lab.keep_days_at = timezone.now()
    lab.save(update_fields=["keep_days", "keep_days_at"])
    keep_deed(actor, "keep_days", lab, say("as long as the lab") if days is None else f"{days} days")
    return lab
