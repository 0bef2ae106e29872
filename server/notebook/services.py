"""Keeping what groups write, that they hand it in, and what the teacher says."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from django.db import models, transaction
from django.utils import timezone

from galvanic.words import mark, say
from server.base.problems import Problem, Refusal
from server.claims.services import rubric_of
from server.entries.models import KeptTrace, Reading, UnderLoad
from server.entries.once import keep_once
from server.findings.models import Claim
from server.labs.changes import announce
from server.labs.lookups import lab_of_group
from server.labs.models import Lab
from server.notebook.models import HandedIn, Returned, Words
from server.notebook.schemas import Cite, HandInIn, ReturnIn, WordsIn
from server.people.auth import Member
from server.people.deeds import keep_deed
from server.people.models import Group, Teacher
from server.people.sharing import to_change
from server.power.models import Pack

MAX_VERSIONS, MAX_HAND_INS = 400, 50
PART = "notebook"
CLOSED = Refusal(
    403,
    "not_released",
    mark(
        "Your teacher has not opened notebooks for writing. What you wrote stays on this device and "
        "is sent once they are open."
    ),
    passing=True,
)
CITED: dict[str, Any] = {"reading": Reading, "load": UnderLoad, "trace": KeptTrace, "pack": Pack, "claim": Claim}


@dataclass
class Written:
    """What there is of one group's notebook: all versions by part, oldest first, hand-ins and returns."""

    words: dict[str, list[Words]] = field(default_factory=lambda: defaultdict(list))
    handed_in: list[HandedIn] = field(default_factory=list)
    returned: list[Returned] = field(default_factory=list)

    def newest(self, part: str) -> Words | None:
        """The version of a part that counts."""
        versions = self.words.get(part)
        return versions[-1] if versions else None

    @property
    def handed_in_at(self) -> datetime | None:
        """When it was handed in last."""
        return self.handed_in[-1].received_at if self.handed_in else None

    @property
    def written_since(self) -> bool:
        """Whether anything was written after it was handed in."""
        at = self.handed_in_at
        return at is not None and any(versions[-1].received_at > at for versions in self.words.values())


def record_words(*, actor: Member, entry: WordsIn) -> Words:
    """Keep a version of a part; the same id again changes nothing.

    Raises Problem: not_released (it passes), cited (something that is not the group's), or enough.
    """

    def create() -> Words:
        _to_write(actor)
        if Words.objects.filter(group_id=actor.group_id, part=entry.part).count() >= MAX_VERSIONS:
            raise Problem(
                409,
                "enough",
                say(
                    "This part has {max_versions} versions, which is the most it can hold. Copy your text.",
                    max_versions=MAX_VERSIONS,
                ),
            )
        cites = list({(cite.kind, cite.id): cite for cite in entry.cites}.values())
        _check_cites(actor, cites)
        announce(actor.lab_id, actor.group_id)
        follows = entry.follows
        if follows and not Words.objects.filter(id=follows, group_id=actor.group_id, part=entry.part).exists():
            follows = None  # another group's is none of its versions
        return Words.objects.create(
            id=entry.id, group_id=actor.group_id, part=entry.part, text=entry.text.strip(), follows=follows,
            cites=[cite.model_dump(mode="json") for cite in cites], **_columns(entry),
        )  # fmt: skip

    return keep_once(Words, actor, entry.id, create)[0]


def hand_in(*, actor: Member, entry: HandInIn) -> HandedIn:
    """Keep that a group hands its notebook in; the same id again changes nothing.

    Raises Problem: not_released, empty (nothing is written), or enough.
    """

    def create() -> HandedIn:
        _to_write(actor)
        if not Words.objects.filter(group_id=actor.group_id).exclude(text="").exists():
            raise Problem(409, "empty", say("Nothing is written yet, so there is nothing to hand in."))
        if HandedIn.objects.filter(group_id=actor.group_id).count() >= MAX_HAND_INS:
            raise Problem(
                409, "enough", say("It was handed in {max_hand_ins} times. Talk to your teacher.", max_hand_ins=MAX_HAND_INS)
            )
        announce(actor.lab_id, actor.group_id)
        return HandedIn.objects.create(id=entry.id, group_id=actor.group_id, **_columns(entry))

    return keep_once(HandedIn, actor, entry.id, create)[0]


@transaction.atomic
def give_back(*, actor: Teacher, group_id: uuid.UUID, data: ReturnIn) -> Returned:
    """Keep what the teacher says to a notebook, and give it back. Raises Problem: not_found, look_only, or marks."""
    group: Group = to_change(Group.objects.select_related("lab"), actor, group_id, "group")
    most = {row["name"]: float(row["most"]) for row in rubric_of(group.lab)}
    for name, points in data.marks.items():
        if name not in most or not 0.0 <= points <= most[name]:
            raise Problem(422, "marks", say("Marks lie between 0 and the most of their row."), field="marks")
    announce(group.lab_id, group.id)
    keep_deed(actor, "gave_back", group.lab, group.name)
    remarks = {part: " ".join(text.split()) for part, text in data.remarks.items() if text.strip()}
    return Returned.objects.create(group=group, teacher=actor, text=data.text.strip(), remarks=remarks, marks=data.marks)


def written_of(groups: Sequence[Group]) -> dict[uuid.UUID, Written]:
    """What each group has written, three queries for all."""
    found = {group.id: Written() for group in groups}
    for words in Words.objects.filter(group__in=groups).order_by("received_at", "id"):
        found[words.group_id].words[words.part].append(words)
    for handed in HandedIn.objects.filter(group__in=groups).order_by("received_at", "id"):
        found[handed.group_id].handed_in.append(handed)
    for back in Returned.objects.filter(group__in=groups).order_by("at", "id"):
        found[back.group_id].returned.append(back)
    return found


def _to_write(actor: Member) -> Lab:
    lab = lab_of_group(actor)
    if PART not in lab.released:
        raise CLOSED()
    return lab


def _columns(entry: WordsIn | HandInIn) -> dict[str, Any]:
    """The columns of an entry that is in time whenever it comes: notebooks are written after the lab has closed."""
    now = timezone.now()
    clock = entry.clock
    return {**clock.kept, "taken_at": clock.entered(now), "received_at": now}


def _check_cites(actor: Member, cites: Sequence[Cite]) -> None:
    """Raises Problem cited for what is not the group's own, or not there (yet)."""
    for kind, model in CITED.items():
        ids = {cite.id for cite in cites if cite.kind == kind}
        rows: models.QuerySet[Any] = model.objects
        if ids and rows.visible_to(actor).filter(id__in=ids).count() != len(ids):  # type: ignore[attr-defined]
            raise Problem(
                409,
                "cited",
                say("A {kind} that you cite is not with the server yet. What you wrote stays here.", kind=say(kind)),
                passing=True,
            )
