"""Changes to labs: one function each, all or nothing."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from django.db import transaction
from django.utils import timezone

from galvanic import catalogue
from galvanic.cells import Cell
from galvanic.design import share_out, slots
from server.labs.models import Lab, PlannedCell
from server.people.codes import join_code, pins
from server.people.models import Group, Teacher
from server.problems import Problem, not_found

MAX_GROUPS = 40
MAX_TITLE = 120
MAX_GROUP_NAME = 40


@dataclass(frozen=True, slots=True)
class NewLab:
    """What a teacher chooses."""

    title: str
    date: date
    minutes: int
    electrodes: Sequence[str]
    electrolytes: Sequence[str]
    groups: Sequence[str]


def tidy_names(names: Sequence[str]) -> list[str]:
    """Group names with stray spaces taken off. Raises Problem for none, too many, too long or twice the same."""
    tidy = [" ".join(name.split()) for name in names if name.strip()]
    if not tidy:
        raise Problem(422, "no_groups", "Name at least one group.", field="groups")
    if len(tidy) > MAX_GROUPS:
        raise Problem(422, "too_many_groups", f"At most {MAX_GROUPS} groups fit in one lab.", field="groups")
    for name in tidy:
        if len(name) > MAX_GROUP_NAME:
            raise Problem(422, "long_name", f"“{name[:20]}…” is longer than {MAX_GROUP_NAME} letters.", field="groups")
    twice = {name for name in tidy if [other.casefold() for other in tidy].count(name.casefold()) > 1}
    if twice:
        message = f"Two groups are called {min(twice)}. Give each its own name."
        raise Problem(422, "name_twice", message, field="groups")
    return tidy


def _chosen(keys: Sequence[str], table: Mapping[str, object], least: int, what: str, field: str) -> list[str]:
    chosen = list(dict.fromkeys(keys))
    unknown = [key for key in chosen if key not in table]
    if unknown:
        raise Problem(422, "unknown_material", f"There is no {what} “{unknown[0][:40]}”.", field=field)
    if len(chosen) < least:
        raise Problem(422, "too_few", f"Choose at least {least} {what}{'s' if least > 1 else ''}.", field=field)
    return chosen


def deal(plan: NewLab) -> list[list[Cell]]:
    """The cells of each group for a plan, in order. Raises Problem for what cannot be planned."""
    names = tidy_names(plan.groups)
    electrodes = _chosen(plan.electrodes, catalogue.electrodes(), 2, "electrode", "electrodes")
    electrolytes = _chosen(plan.electrolytes, catalogue.electrolytes(), 1, "electrolyte", "electrolytes")
    return share_out(electrodes, electrolytes, len(names), slots(plan.minutes))


@transaction.atomic
def create_lab(*, actor: Teacher, plan: NewLab) -> Lab:
    """Make a draft lab with its groups and each group's cells. Raises Problem; then nothing is kept."""
    hands = deal(plan)
    lab = start_lab(actor, plan)
    shared = hands[0][0] if hands and hands[0] else None
    add_groups(lab, tidy_names(plan.groups), hands, shared)
    return lab


def start_lab(actor: Teacher, plan: NewLab) -> Lab:
    """The lab alone, without groups."""
    title = " ".join(plan.title.split())
    if not title or len(title) > MAX_TITLE:
        raise Problem(422, "title", f"Give the lab a title of at most {MAX_TITLE} letters.", field="title")
    return Lab.objects.create(
        owner=actor,
        title=title,
        date=plan.date,
        minutes=plan.minutes,
        electrodes=list(dict.fromkeys(plan.electrodes)),
        electrolytes=list(dict.fromkeys(plan.electrolytes)),
        edition=catalogue.edition(),
    )


def add_groups(lab: Lab, names: Sequence[str], hands: Sequence[Sequence[Cell]], shared: Cell | None) -> list[PlannedCell]:
    """Add groups with their cells, two queries in all; returns the cells group by group, in order."""
    numbers = pins(len(names))
    groups = Group.objects.bulk_create(
        Group(lab=lab, name=name, pin=numbers[i], position=i + 1) for i, name in enumerate(names)
    )
    return PlannedCell.objects.bulk_create(
        PlannedCell(
            group=group,
            position=position,
            negative=cell.negative,
            electrolyte=cell.electrolyte,
            positive=cell.positive,
            shared=cell == shared,
        )
        for group, hand in zip(groups, hands, strict=True)
        for position, cell in enumerate(hand, start=1)
    )


def _owned(actor: Teacher, lab_id: uuid.UUID) -> Lab:
    lab = Lab.objects.visible_to(actor).select_for_update().filter(id=lab_id).first()
    if lab is None:
        raise not_found("lab")
    return lab


@transaction.atomic
def open_lab(*, actor: Teacher, lab_id: uuid.UUID) -> Lab:
    """Let groups in: give the lab a join code. Opening an open lab changes nothing; a closed one opens again."""
    lab = _owned(actor, lab_id)
    if lab.state == Lab.State.OPEN:
        return lab
    code = lab.join_code or join_code()
    while lab.join_code is None and Lab.objects.filter(join_code=code).exists():
        code = join_code()
    lab.join_code = code
    lab.state = Lab.State.OPEN
    lab.opened_at = lab.opened_at or timezone.now()
    lab.closed_at = None
    lab.save(update_fields=["join_code", "state", "opened_at", "closed_at"])
    return lab


@transaction.atomic
def close_lab(*, actor: Teacher, lab_id: uuid.UUID) -> Lab:
    """End recording. Raises Problem for a draft, which has nothing to close."""
    lab = _owned(actor, lab_id)
    if lab.state == Lab.State.DRAFT:
        raise Problem(409, "not_open", "This lab was never opened, so there is nothing to close.")
    if lab.state == Lab.State.OPEN:
        lab.state = Lab.State.CLOSED
        lab.closed_at = timezone.now()
        lab.save(update_fields=["state", "closed_at"])
    return lab
