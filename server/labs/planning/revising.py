"""Changing what a draft is about: its cells are planned anew around what is pinned and wished, and it says what moved."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction

from galvanic.planning.design import Plan, Task
from galvanic.planning.plan_changes import Laid, what_moved
from galvanic.words import mark
from server.base.problems import Refusal
from server.labs.models import Lab, PlannedCell
from server.labs.planning.history import forget_earlier
from server.labs.planning.tasks import mark_of, pinned_in, planned, shared_in, stock_of, task_of
from server.labs.services import (
    check_materials,
    designed,
    draft_of,
    fill,
    groups_with_cells,
    replace_cells,
    tidy_names,
)
from server.labs.settings import NewLab
from server.people.codes import pins
from server.people.deeds import keep_deed
from server.people.models import Group, Teacher

CHANGED_ELSEWHERE = Refusal(
    409,
    "changed_elsewhere",
    mark(
        "This lab was changed in another window since this form was opened. What you typed stays here; press again to "
        "keep it."
    ),
)


@dataclass(frozen=True, slots=True)
class Revision:
    """A draft with what a teacher chose put on it, not saved yet: task, plan, names, the groups of before, what moved."""

    lab: Lab
    task: Task
    plan: Plan
    names: list[str]
    groups: list[Group]
    said: tuple[str, ...]


def revision(actor: Teacher, lab: Lab, plan: NewLab) -> Revision:
    """What a draft would become; nothing is kept. Raises Problem for what cannot be planned."""
    names = tidy_names(plan.groups)
    check_materials(plan.electrodes, plan.electrolytes)
    groups, hands = groups_with_cells(lab)
    old = planned(lab, groups, hands, stock_of(actor, lab.electrodes))
    before = Laid(*old, [group.name for group in groups])
    fill(lab, plan)
    pins_of = {g.name.casefold(): pinned for g, pinned in zip(groups, pinned_in(hands).values(), strict=True)}
    pinned = {i: pins_of[name.casefold()] for i, name in enumerate(names) if name.casefold() in pins_of}
    task = task_of(lab, len(names), pinned, stock_of(actor, lab.electrodes), shared_in(hands)).resettled()
    made = designed(task)
    return Revision(lab, task, made, names, groups, what_moved(before, Laid(task, made, names)))


@transaction.atomic
def revise_lab(*, actor: Teacher, lab_id: uuid.UUID, plan: NewLab) -> Revision:
    """Change what a draft is about; groups that keep their name keep their PIN. Raises Problem; then nothing is changed."""
    lab = draft_of(actor, lab_id)
    before = mark_of(lab, list(lab.groups.values_list("name", flat=True)))
    revised = revision(actor, lab, plan)
    if plan.seen not in ("", before) and mark_of(revised.lab, revised.names) != before:  # the same twice is no change
        raise CHANGED_ELSEWHERE()
    revised.lab.save()
    _regroup(revised.lab, revised.groups, revised.names)
    forget_earlier(revised.lab)
    replace_cells(*groups_with_cells(revised.lab), revised.task, revised.plan)
    keep_deed(actor, "changed_lab", revised.lab)
    return revised


def _regroup(lab: Lab, groups: Sequence[Group], names: Sequence[str]) -> None:
    """Give a draft the groups of these names in this order."""
    PlannedCell.objects.filter(group__lab=lab).delete()
    old = {group.name.casefold(): group for group in groups}
    kept_pins = {group.pin for group in groups}
    fresh = iter([pin for pin in pins(len(names) + len(kept_pins)) if pin not in kept_pins])
    Group.objects.filter(lab=lab).exclude(id__in=[old[n.casefold()].id for n in names if n.casefold() in old]).delete()
    for position, name in enumerate(names, start=1):
        group = old.get(name.casefold())
        if group is None:
            Group.objects.create(lab=lab, name=name, pin=next(fresh), position=position)
        elif (group.name, group.position) != (name, position):
            group.name, group.position = name, position
            group.save(update_fields=["name", "position"])
